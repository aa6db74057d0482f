import { closeOf, openOf, parseDate } from "@chronometra/core";
import { ArrowLeftToLine, ArrowRightToLine, Printer, Shapes, Waypoints, ZoomIn, ZoomOut } from "lucide-react";
import { Link } from "react-router";
import { ChartKey } from "../chart/ChartKey.tsx";
import type { TimeScale } from "../chart/useTimeScale.ts";
import type { Sheet, SheetRow } from "../engine/sheet.ts";
import { todayHere } from "../../shared/words/today.ts";
import type { ChartLooks } from "./useChartLook.ts";
import { ToolButton } from "../../shared/fields/ToolButton.tsx";

interface Props {
  readonly sheet: Sheet;
  readonly row: SheetRow | null;
  readonly time: TimeScale;
  readonly looks: ChartLooks;
  readonly onJump: (instant: number) => void;
  readonly printAt: string;
}

const ZOOM = 1.6;

/** What the chart compares with, lights up and is coloured by. */
function Look({ sheet, row, looks }: Pick<Props, "sheet" | "row" | "looks">) {
  const chosen = row !== null && row.kind !== "summary" ? row : null;
  return (
    <details className="relative">
      <summary className="btn btn-ghost btn-sm list-none">
        <Waypoints size={14} aria-hidden="true" /> Chart
      </summary>
      <div className="absolute right-0 z-30 mt-1 flex w-72 flex-col gap-2 border rule bg-base-100 p-3 text-sm">
        <label className="flex items-center justify-between gap-2">
          Approved window
          <select
            className="select select-xs w-36"
            value={looks.baseline}
            onChange={(event) => looks.compareWith(event.target.value)}
          >
            {sheet.baselines.length === 0 && <option value="">not approved yet</option>}
            {sheet.baselines.map((number) => (
              <option key={number} value={String(number)}>
                baseline {number}
              </option>
            ))}
            {sheet.baselines.length > 0 && <option value="none">not shown</option>}
          </select>
        </label>
        <label className="flex items-center justify-between gap-2">
          Lit up
          <select
            className="select select-xs w-36"
            value={looks.lit}
            onChange={(event) => looks.light(event.target.value)}
          >
            <option value="">all alike</option>
            <option value="longest">the longest path</option>
            <option value="test">the critical path test</option>
            {looks.litName !== null && <option value={looks.lit}>what leads to {looks.litName}</option>}
            {chosen !== null && chosen.id !== looks.lit && (
              <option value={chosen.id}>what leads to {chosen.name}</option>
            )}
          </select>
        </label>
        <label className="flex items-center justify-between gap-2">
          Coloured by
          <select
            className="select select-xs w-36"
            value={looks.colour}
            onChange={(event) => looks.colourBy(event.target.value)}
          >
            <option value="">nothing</option>
            {sheet.fields.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
        {sheet.fields.length === 0 && <p className="muted">A plan's own fields are made under Resources.</p>}
      </div>
    </details>
  );
}

/** Looks, jumps and scale of the time chart. */
export function ChartTools({ sheet, row, time: { zoom, fit }, looks, onJump, printAt }: Props) {
  const dates = row?.dates ?? null;
  return (
    <div className="ml-auto flex items-center gap-0.5">
      <details className="relative">
        <summary
          className="btn btn-ghost btn-sm btn-square list-none"
          aria-label="Key to the chart"
          title="What is drawn"
        >
          <Shapes size={14} aria-hidden="true" />
        </summary>
        <div className="absolute right-0 z-30 mt-1 w-60 border rule bg-base-100 p-3 text-sm">
          <ChartKey />
        </div>
      </details>
      <Look sheet={sheet} row={row} looks={looks} />
      <button type="button" className="btn btn-ghost btn-sm" onClick={() => onJump(openOf(parseDate(todayHere())!))}>
        To today
      </button>
      {sheet.dataDate !== null && (
        <button
          type="button"
          className="btn btn-ghost btn-sm"
          onClick={() => onJump(closeOf(parseDate(sheet.dataDate!)!))}
        >
          To data date
        </button>
      )}
      <ToolButton
        icon={ArrowLeftToLine}
        name="To its start"
        disabled={dates === null}
        onClick={() => onJump(dates!.start)}
      />
      <ToolButton
        icon={ArrowRightToLine}
        name="To its finish"
        disabled={dates === null}
        onClick={() => onJump(dates!.finish)}
      />
      <ToolButton
        icon={ZoomIn}
        name="Show less time, larger"
        title="Larger (Ctrl and wheel)"
        onClick={() => zoom(ZOOM)}
      />
      <ToolButton
        icon={ZoomOut}
        name="Show more time, smaller"
        title="Smaller (Ctrl and wheel)"
        onClick={() => zoom(1 / ZOOM)}
      />
      <button type="button" className="btn btn-ghost btn-sm" onClick={fit}>
        Fit
      </button>
      <Link
        className="btn btn-ghost btn-sm btn-square"
        aria-label="Print, or save as pictures"
        title="Print, or save as pictures"
        to={printAt}
      >
        <Printer size={14} aria-hidden="true" />
      </Link>
    </div>
  );
}
