import type { MessagePort } from "node:worker_threads";
import type { Paper, ReportContent } from "@chronometra/contract";
import { move } from "piscina";
import { reportBook } from "./reportBook.ts";
import { reportPdf } from "./reportPdf.ts";

export interface PaperJob {
  readonly form: "pdf" | "xlsx";
  readonly content: ReportContent;
  readonly paper: Paper;
  /** How it was issued, in words; or that it is not. */
  readonly issued: string;
  /** Told the share that is done, by hundredths. */
  readonly port: MessagePort;
}

/** Puts a report on paper or into a workbook, away from the thread that answers calls. */
export default async function run({ form, content, paper, issued, port }: PaperJob): Promise<Uint8Array> {
  let told = 0;
  const onShare = (share: number): void => {
    const hundredths = Math.floor(share * 100);
    if (hundredths > told) port.postMessage((told = hundredths) / 100);
  };
  const bytes = form === "pdf" ? await reportPdf(content, paper, issued, onShare) : await reportBook(content, issued);
  return move(Uint8Array.from(bytes)) as unknown as Uint8Array;
}
