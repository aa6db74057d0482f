import type { SheetRow } from "../engine/sheet.ts";
import type { SheetColumn } from "../engine/sheetColumn.ts";
import { LostTextBar } from "./LostTextBar.tsx";
import { RefusedBar } from "./RefusedBar.tsx";
import type { useGrid } from "./cells/useGrid.ts";
import type { Pane } from "./panes/usePane.ts";

interface Props {
  readonly grid: ReturnType<typeof useGrid>;
  /** All rows, folded ones too. */
  readonly rows: readonly SheetRow[];
  readonly columns: readonly SheetColumn[];
  readonly pane: Pane;
}

/**
 * What stands below the table: texts that could not be taken, and the scroll of its own side. Above it they would push
 * the rows from under a pointer that is pressed.
 */
export function SheetBars({ grid, rows, columns, pane }: Props) {
  const { state, cursor, holdsFocus } = grid;
  const onLostDone = (): void => {
    grid.dismissLost();
    holdsFocus.current = true;
    grid.go(state.row, cursor.column);
  };
  return (
    <>
      <LostTextBar lost={state.lost} gone={state.gone} onDone={onLostDone} />
      <RefusedBar
        refused={state.refused}
        rows={rows}
        columns={columns}
        onGiveUp={grid.mend}
        onGo={(entry) => {
          holdsFocus.current = true;
          grid.begin(
            entry.id,
            columns.findIndex(({ id }) => id === entry.column),
          );
        }}
      />
      <div
        ref={pane.strip}
        data-strip=""
        onScroll={pane.onStrip}
        tabIndex={-1}
        aria-hidden="true"
        className={`shrink-0 overflow-x-auto overflow-y-hidden ${pane.full > pane.width ? "border-t rule" : "h-0"}`}
        style={{ width: pane.width }}
      >
        <div style={{ width: pane.full, height: 1 }} />
      </div>
    </>
  );
}
