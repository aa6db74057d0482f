import type { SheetRow } from "../engine/sheet.ts";
import type { useGrid } from "./cells/useGrid.ts";
import { useLatest } from "./panes/useLatest.ts";
import type { LineActions } from "./SheetLine.tsx";

interface Options {
  readonly rows: readonly SheetRow[];
  readonly grid: ReturnType<typeof useGrid>;
  readonly onFold: LineActions["fold"];
  readonly onGrip: LineActions["grip"];
}

/** What can be done on a line: always the same functions, so that no line is drawn anew for them. */
export const useLineActions = ({ rows, grid, onFold, onGrip }: Options): LineActions =>
  useLatest({
    focus: (row: number, column: number, extend: boolean) =>
      grid.press({ id: rows[row]!.id, column, extend, twice: false }),
    begin: (row: number, column: number) => grid.press({ id: rows[row]!.id, column, extend: false, twice: true }),
    fold: onFold,
    text: grid.setText,
    leave: grid.leave,
    editKey: grid.onEditKey,
    grip: onGrip,
  });
