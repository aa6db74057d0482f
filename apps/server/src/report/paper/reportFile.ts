import { MessageChannel } from "node:worker_threads";
import { PAPERS, type IssuedLine, type Paper, type ReportContent } from "@chronometra/contract";
import { dateWords } from "@chronometra/core";
import { dayOf, installationZone } from "../../shared/clock.ts";
import { Failure } from "../../shared/failure.ts";
import { inWriter } from "../../shared/workers.ts";
import type { PaperJob } from "./paperWorker.ts";

const TYPES: Readonly<Record<PaperJob["form"], string>> = {
  pdf: "application/pdf",
  xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
};

const isForm = (form: string): form is PaperJob["form"] => Object.hasOwn(TYPES, form);
const isPaper = (paper: string): paper is Paper => (PAPERS as readonly string[]).includes(paper);

interface Asked {
  readonly form: string;
  readonly paper: string;
  readonly signal: AbortSignal;
  /** Told the share that is done, 0 to 1. */
  readonly onShare?: (share: number) => void;
}

const SHOWN_OF_DIGEST = 12;

/** What stands on paper of how a report was issued, by the installation's days; of one that is not, that it is not. */
function issuedWords(line: IssuedLine | null): string {
  if (line === null) return "draft, not issued";
  const { edition, by, at, digest, holds, reopened } = line;
  const day = dateWords(dayOf({ timeZone: installationZone() }, new Date(at)));
  const withdrawn = holds ? "" : reopened === null ? "; replaced by a later edition" : `; withdrawn: ${reopened}`;
  const check = digest === "" ? "" : `; digest ${digest.slice(0, SHOWN_OF_DIGEST)}`;
  return `edition ${edition}, issued by ${by}, ${day}${check}${withdrawn}`;
}

/**
 * A report as a file. Throws a Failure where it is asked for in another form or on another paper than there are.
 * @param line how it was issued; `null` for one that is not
 */
export async function reportFile(
  content: ReportContent,
  line: IssuedLine | null,
  { form, paper, signal, onShare = () => undefined }: Asked,
): Promise<{ bytes: Buffer; type: string; name: string }> {
  if (!isForm(form)) throw new Failure("notFound", "A report is given as pdf or xlsx.");
  const on = paper.toUpperCase();
  if (!isPaper(on))
    throw new Failure("invalid", `"${paper}" is no paper that reports are printed on; take A4 or letter.`);
  const { port1, port2 } = new MessageChannel();
  port1.on("message", onShare);
  const job: PaperJob = { form, content, paper: on, issued: issuedWords(line), port: port2 };
  const making = inWriter("report/paper/paperWorker", job, { signal, transferList: [port2] });
  const bytes = await making.finally(() => port1.close());
  const under = content.of === "project" ? content.under.split(" · ")[0]! : content.title;
  const name = `${under.replace(/[^\w.-]+/g, "-")}-report-${content.period}${line === null ? "-draft" : ""}.${form}`;
  return { bytes, type: TYPES[form], name };
}
