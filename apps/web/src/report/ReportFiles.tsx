import { PAPERS, type Paper } from "@chronometra/contract";
import { useRef, useState } from "react";
import { callWithProgress } from "../shared/session/api.ts";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { saveFile } from "../shared/files/saveFile.ts";

const PAPER_WORDS: Readonly<Record<Paper, string>> = { A4: "A4", LETTER: "Letter" };

interface Props {
  readonly of: string;
  /** Of the period, or `open` for the report as it would be issued. */
  readonly number: number | "open";
  readonly edition: string;
}

const bytesOf = (base64: string): Uint8Array => Uint8Array.from(atob(base64), (sign) => sign.charCodeAt(0));

/** The report as files: made by the server, told how far they are, and to be given up meanwhile. */
export function ReportFiles({ of, number, edition }: Props) {
  const [paper, setPaper] = useState<Paper>("A4");
  const [share, setShare] = useState<number | null>(null);
  const [fault, setFault] = useState<unknown>(null);
  const stop = useRef<AbortController | null>(null);
  const make = async (form: "pdf" | "xlsx"): Promise<void> => {
    const abort = new AbortController();
    stop.current = abort;
    setFault(null);
    setShare(0);
    try {
      const { name, type, content } = await callWithProgress(
        "POST /api/status-reports/:of/:number/:edition/:form",
        { params: { of, number: String(number), edition, form }, body: { paper }, signal: abort.signal },
        setShare,
      );
      saveFile(name, bytesOf(content), type);
    } catch (error) {
      if (!abort.signal.aborted) setFault(error);
    } finally {
      setShare(null);
    }
  };
  return (
    <div className="flex flex-wrap items-center gap-2">
      {share === null ? (
        <>
          <button type="button" className="btn btn-sm" onClick={() => void make("pdf")}>
            PDF
          </button>
          <select
            className="select select-sm w-24"
            aria-label="Paper"
            value={paper}
            onChange={(event) => setPaper(event.target.value as Paper)}
          >
            {PAPERS.map((each) => (
              <option key={each} value={each}>
                {PAPER_WORDS[each]}
              </option>
            ))}
          </select>
          <button type="button" className="btn btn-sm" onClick={() => void make("xlsx")}>
            Workbook
          </button>
        </>
      ) : (
        <>
          <progress className="progress w-32" aria-label="Making the file" value={share} max={1} />
          <button type="button" className="btn btn-sm" onClick={() => stop.current?.abort()}>
            Cancel
          </button>
        </>
      )}
      {fault !== null && <Failure error={fault} />}
    </div>
  );
}
