import type { ReportContent } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { Fragment } from "react";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { comparedReports } from "./comparedReports.ts";
import { issuedReportQuery } from "./queries.ts";

function Lines({ before, after }: { before: ReportContent; after: ReportContent }) {
  const lines = comparedReports(before, after);
  const groups = [...new Set(lines.map(({ group }) => group))];
  return (
    <table className="ledger panel-table max-w-5xl" aria-label="Two reports compared">
      <thead>
        <tr>
          <th>{after.title}</th>
          <th>Period {before.period}</th>
          <th>Period {after.period}</th>
        </tr>
      </thead>
      <tbody>
        {groups.map((group) => (
          <Fragment key={group}>
            <tr>
              <th colSpan={3} scope="rowgroup" className="pt-3 text-left">
                {group}
              </th>
            </tr>
            {lines
              .filter((line) => line.group === group)
              .map(({ name, was, now }) => (
                <tr key={name}>
                  <td className="align-top">{name}</td>
                  <td className="max-w-96 align-top">{was === "" ? <span className="muted">–</span> : was}</td>
                  <td className={`max-w-96 align-top ${was === now ? "muted" : ""}`}>
                    {was === now ? "the same" : now === "" ? "–" : now}
                  </td>
                </tr>
              ))}
          </Fragment>
        ))}
      </tbody>
    </table>
  );
}

/** A report beside an earlier one, line by line. */
export function Compared({ of, number, now }: { of: string; number: number; now: ReportContent }) {
  const before = useQuery(issuedReportQuery(of, number, "newest"));
  return <Loaded query={before}>{({ content }) => <Lines before={content} after={now} />}</Loaded>;
}
