import type { ProjectLook } from "@chronometra/contract";
import { useCallback, useMemo } from "react";
import { Link } from "react-router";
import { useProject } from "../project/useProject.ts";
import { DataTable } from "../shared/table/DataTable.tsx";
import { Foldable } from "../shared/page/Foldable.tsx";
import { useAddress } from "../shared/page/useAddress.ts";
import { countWords, dateWords, money } from "../shared/words/words.ts";
import { BehindFigure } from "./BehindFigure.tsx";
import { Curves } from "./Curves.tsx";
import { figureColumns, type FigureRow } from "./figureColumns.tsx";
import { forecastRange } from "./forecastRange.ts";
import { Instruments } from "./Instruments.tsx";
import { SinceLock } from "./SinceLock.tsx";

/** Rows as a tree in reading order, with how deep each stands. */
function inTreeOrder(rows: readonly FigureRow[]): { ordered: FigureRow[]; depth: Map<string, number> } {
  const below = new Map<string | null, FigureRow[]>();
  for (const row of rows) below.set(row.parent, [...(below.get(row.parent) ?? []), row]);
  const ordered: FigureRow[] = [];
  const depth = new Map<string, number>();
  const open = [...(below.get(null) ?? [])].reverse();
  for (let row = open.pop(); row !== undefined; row = open.pop()) {
    depth.set(row.id, row.parent === null ? 0 : (depth.get(row.parent) ?? 0) + 1);
    ordered.push(row);
    open.push(...(below.get(row.id) ?? []).toReversed());
  }
  return { ordered, depth };
}

function NothingMeasured({ look }: { look: ProjectLook }) {
  const { summary } = look;
  return (
    <div className="page">
      <h2 className="text-lg">Nothing to measure yet</h2>
      <p className="muted mt-1 max-w-prose">
        {summary.baseline === null
          ? "Figures compare progress with an approved plan, and this plan has not been approved."
          : "The plan is approved, but its data date is not set: set it once the first period is over."}
      </p>
      <Link className="underline" to={summary.baseline === null ? "approvals" : "plan"}>
        {summary.baseline === null ? "Go to approvals" : "Go to the plan"}
      </Link>
    </div>
  );
}

/** The project's figures: as a whole, over time, and by branch and activity. */
export function FiguresPage() {
  const look = useProject();
  const [params, put] = useAddress();
  const { ordered, depth } = useMemo(() => inTreeOrder(look.rows), [look.rows]);
  const opened = params.get("behind");
  const open = useCallback((id: string | null): void => put({ behind: id }, "push"), [put]);
  const columns = useMemo(
    () =>
      figureColumns(
        { currency: look.summary.currency, minorDigits: look.summary.minorDigits },
        (row) => depth.get(row.id) ?? 0,
        (row) => open(row.id),
      ),
    [look.summary.currency, look.summary.minorDigits, depth, open],
  );
  const { summary } = look;
  const forecast = useMemo(() => forecastRange(summary), [summary]);
  if (summary.figures === null) return <NothingMeasured look={look} />;
  const sort = params.get("sort");
  return (
    <div className="page">
      <p className="muted pb-1 text-sm">
        As of the close of {dateWords(summary.dataDate)}, against baseline {summary.baseline}, in {summary.currency}
        {summary.unbaselined > 0 && (
          <>
            {" "}
            ·{" "}
            <span className="undecided">
              {summary.unbaselined} activities are in no baseline and have no budget here
            </span>
          </>
        )}
        {(summary.dropped?.count ?? 0) > 0 && (
          <>
            {" "}
            ·{" "}
            <span className="undecided">
              {countWords(summary.dropped!.count, "activity was", "activities were")} dropped;{" "}
              {money(summary.dropped!.unearnedMinor, summary.minorDigits)} of their budget stays unearned until a change
              request removes it
            </span>
          </>
        )}
        {summary.unscheduled > 0 && (
          <>
            {" "}
            · <span className="undecided">{summary.unscheduled} have no dates</span>
          </>
        )}
      </p>
      <SinceLock look={look} />
      <Instruments look={look} />
      <Foldable name="Curves" place="figures">
        <Curves curve={look.curve} minorDigits={summary.minorDigits} dataDate={summary.dataDate} forecast={forecast} />
      </Foldable>
      <div className="pt-3">
        <DataTable
          key={sort ?? ""}
          name="Figures by activity"
          rows={ordered}
          columns={columns}
          rowKey={({ id, left }) => `${left ? "left " : ""}${id}`}
          empty="The plan has no activities yet."
          {...(sort === null ? {} : { sort: { id: sort, desc: false } })}
        />
      </div>
      {opened !== null && <BehindFigure project={look.id} activity={opened} onClose={() => open(null)} />}
    </div>
  );
}
