import type { IssuedLine, ReportDraft } from "@chronometra/contract";
import { Link } from "react-router";
import { dateWords, momentWords } from "../shared/words/words.ts";
import { reportsOf } from "./queries.ts";

/** What a report is by now: the one that holds, replaced by another edition, or of a period that was opened again. */
export const standsWords = ({ holds, reopened }: Pick<IssuedLine, "holds" | "reopened">): string =>
  holds ? "holds" : reopened === null ? "replaced" : `withdrawn: ${reopened}`;

/** Reports that were issued, newest first. */
export function IssuedList({ draft: { reports, of, id } }: { draft: Pick<ReportDraft, "reports" | "of" | "id"> }) {
  if (reports.length === 0)
    return <p className="muted">No report is issued yet. What is issued stays here, word for word.</p>;
  return (
    <table className="ledger panel-table" aria-label="Issued reports">
      <thead>
        <tr>
          <th className="num">Period</th>
          <th className="num">Edition</th>
          <th>Data date</th>
          <th>Issued</th>
          <th>By</th>
          <th>Stands</th>
          <th>Digest</th>
        </tr>
      </thead>
      <tbody>
        {reports.map((line) => (
          <tr key={`${line.number}-${line.edition}`}>
            <td className="num figure">
              <Link className="link-quiet" to={`${reportsOf(of, id)}/${line.number}?edition=${line.edition}`}>
                {line.number}
              </Link>
            </td>
            <td className="num">{line.edition}</td>
            <td className="whitespace-nowrap">{dateWords(line.dataDate)}</td>
            <td className="whitespace-nowrap">{momentWords(line.at)}</td>
            <td>{line.by}</td>
            <td className={line.holds ? "favourable" : "muted"}>{standsWords(line)}</td>
            <td className="muted text-sm" title={line.digest}>
              {line.digest.slice(0, 12)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
