import { Info, Redo2, Search, Undo2 } from "lucide-react";
import type { RefObject } from "react";
import { DateField } from "../shared/fields/DateField.tsx";
import { ChartTools } from "./look/ChartTools.tsx";
import type { TimeScale } from "./chart/useTimeScale.ts";
import type { PlanSession } from "./engine/session/planSession.ts";
import type { SessionState } from "./engine/session/sessionState.ts";
import type { Sheet } from "./engine/sheet.ts";
import { PlanColumnChoice } from "./grid/tools/PlanColumnChoice.tsx";
import type { Active } from "./grid/PlanSheet.tsx";
import { RowTools } from "./grid/tools/RowTools.tsx";
import type { PlanColumns } from "./grid/columns/usePlanColumns.ts";
import { WaysTool } from "./grid/tools/WaysTool.tsx";
import type { ShownRows } from "./shownRows.ts";
import { TryOut } from "./TryOut.tsx";
import type { About } from "./useAbout.ts";
import type { ChartLooks } from "./look/useChartLook.ts";
import { useWord } from "../project/useWord.ts";
import { ToolButton } from "../shared/fields/ToolButton.tsx";

/** How many rows there are; where some are parked, which of them are shown. */
function RowCount({ count, parked }: { count: number; parked: ShownRows["parked"] }) {
  const word = useWord()("parked");
  if (parked === null) return <span className="muted ml-1 text-sm">{count} rows</span>;
  return (
    <select
      className="select select-xs ml-1 w-28"
      aria-label="Parked rows"
      value={parked.show}
      onChange={(event) => parked.choose(event.target.value)}
    >
      <option value="">{count} rows</option>
      <option value="without">without {word}</option>
      <option value="only">only {word}</option>
    </select>
  );
}

const DataDate = ({ sheet, session }: { sheet: Sheet; session: PlanSession }) => (
  <span className="ml-2 flex items-center gap-1 text-sm">
    Data date{" "}
    <DateField
      label="Data date"
      small
      value={sheet.dataDate ?? ""}
      onDate={(date) => date !== sheet.dataDate && void session.change([{ type: "setDataDate", date }])}
    />
  </span>
);

interface Props {
  readonly sheet: Sheet;
  readonly state: SessionState;
  readonly session: PlanSession;
  readonly mayEdit: boolean;
  /** The project, where it is its live plan. */
  readonly tryOutOf: string | null;
  readonly chosen: Active | null;
  readonly current: RefObject<Active | null>;
  readonly shown: ShownRows;
  readonly columns: PlanColumns;
  readonly finding: boolean;
  readonly onFind: (finding: boolean) => void;
  readonly about: About;
  readonly time: TimeScale;
  readonly looks: ChartLooks;
  readonly onJump: (instant: number) => void;
  readonly printAt: string;
}

/** What can be done with a plan and with its chosen rows. */
export function PlanToolbar({
  sheet,
  state,
  session,
  mayEdit,
  tryOutOf,
  chosen,
  current,
  shown,
  about,
  ...rest
}: Props) {
  const active = chosen?.row ?? null;
  const isFolded = shown.folded.size > 0;
  return (
    <div role="toolbar" aria-label="Plan" className="flex flex-wrap items-center gap-0.5 px-4 py-0.5">
      <ToolButton
        icon={Undo2}
        name="Undo"
        title="Undo (Ctrl+Z)"
        disabled={state.undoable === 0}
        onClick={() => void session.undo()}
      />
      <ToolButton
        icon={Redo2}
        name="Redo"
        title="Redo (Ctrl+Y)"
        disabled={state.redoable === 0}
        onClick={() => void session.redo()}
      />
      {mayEdit && chosen !== null && <RowTools current={current} parked={active?.parked === true} session={session} />}
      <button type="button" className="btn btn-ghost btn-sm" onClick={isFolded ? shown.unfold : shown.foldAll}>
        {isFolded ? "Unfold all" : "Fold all"}
      </button>
      <ToolButton
        icon={Search}
        name="Find and replace"
        title="Find and replace (Ctrl+F)"
        pressed={rest.finding}
        onClick={() => rest.onFind(!rest.finding)}
      />
      <ToolButton
        icon={Info}
        name="About"
        title="All about the selected row (Alt+Enter)"
        pressed={about.tab !== null}
        onClick={() => about.toggle("why", false)}
      />
      <PlanColumnChoice columns={rest.columns} />
      {mayEdit && chosen !== null && <WaysTool current={current} sheet={sheet} session={session} row={active} />}
      {mayEdit && tryOutOf !== null && <TryOut project={tryOutOf} />}
      <RowCount count={sheet.rows.length} parked={shown.parked} />
      {mayEdit && <DataDate sheet={sheet} session={session} />}
      <ChartTools
        sheet={sheet}
        row={active}
        time={rest.time}
        looks={rest.looks}
        onJump={rest.onJump}
        printAt={rest.printAt}
      />
    </div>
  );
}
