import type { IssuedReport } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { useAddress } from "../shared/page/useAddress.ts";
import { momentWords } from "../shared/words/words.ts";
import { Compared } from "./Compared.tsx";
import { standsWords } from "./IssuedList.tsx";
import { issuedReportQuery, reportsOf } from "./queries.ts";
import { ReportDocuments } from "./ReportDocuments.tsx";
import { ReportFiles } from "./ReportFiles.tsx";
import { ReportPaper } from "./ReportPaper.tsx";

function Step({ base, to, words }: { base: string; to: number | null; words: string }) {
  return to === null ? (
    <span className="muted text-sm">{words}</span>
  ) : (
    <Link className="text-sm underline" to={`${base}/${to}`}>
      {words} {to}
    </Link>
  );
}

function Issued({ of, report }: { of: string; report: IssuedReport }) {
  const [params, put] = useAddress();
  const { line, content, before, after, numbers, editions, whole } = report;
  const base = reportsOf(content.of, of);
  const other = Number(params.get("with") ?? "0");
  return (
    <div className="page">
      <nav aria-label="Reports" className="flex flex-wrap items-center gap-3">
        <Step base={base} to={before} words={before === null ? "First report" : "← Period"} />
        <Step base={base} to={after} words={after === null ? "Newest report" : "→ Period"} />
        <Link className="text-sm underline" to={`${base}?view=issued`}>
          All reports
        </Link>
        {numbers.length > 1 && (
          <label className="flex items-center gap-1 text-sm">
            Compare with
            <select
              className="select select-sm w-36"
              value={params.get("with") ?? ""}
              onChange={(event) => put({ with: event.target.value })}
            >
              <option value="">nothing</option>
              {numbers
                .filter((each) => each !== line.number)
                .map((each) => (
                  <option key={each} value={each}>
                    period {each}
                  </option>
                ))}
            </select>
          </label>
        )}
        <ReportFiles of={of} number={line.number} edition={String(line.edition)} />
        {content.of === "project" && <ReportDocuments project={of} number={line.number} />}
      </nav>
      <p className="muted mt-1 text-sm">
        Edition {line.edition}, issued by {line.by}, {momentWords(line.at)};{" "}
        <span className={line.holds ? "favourable" : "undecided"}>{standsWords(line)}</span>.{" "}
        {line.digest !== "" && (
          <>
            Digest <span title={line.digest}>{line.digest.slice(0, 12)}</span>{" "}
            {whole ? "✓ as issued" : <span className="adverse">▾ its text is not the one that was issued</span>}
          </>
        )}
        {editions.length > 1 && (
          <>
            {" · editions: "}
            {editions.toReversed().map(({ edition }) => (
              <button
                key={edition}
                type="button"
                className="btn btn-xs mx-0.5"
                aria-pressed={edition === line.edition}
                onClick={() => put({ edition: String(edition) })}
              >
                {edition}
              </button>
            ))}
          </>
        )}
      </p>
      <div className="mt-3">
        {other === 0 ? (
          <ReportPaper content={content} isLive={false} />
        ) : (
          <Compared of={of} number={other} now={content} />
        )}
      </div>
    </div>
  );
}

/** A report that was issued, word for word. */
export function IssuedPage() {
  const { project, group, number } = useParams();
  const [params] = useAddress();
  const of = (project ?? group)!;
  const report = useQuery(issuedReportQuery(of, Number(number), params.get("edition") ?? "newest"));
  return <Loaded query={report}>{(data) => <Issued of={of} report={data} />}</Loaded>;
}
