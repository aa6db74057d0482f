import { useMemo, useRef, type FocusEvent, type KeyboardEvent } from "react";
import { useGridState } from "./gridHeld.ts";
import type { Chosen, GridOptions } from "./gridOptions.ts";
import type { CellOf } from "./gridState.ts";
import { useGridKeys } from "./useGridKeys.ts";
import { useHeldKeys, type Key, type Press } from "./useHeldKeys.ts";
import { textAfter, useTyping } from "./useTyping.ts";

/**
 * Keyboard, choosing and editing of a grid: arrows (with Shift a range, with Ctrl to the end of what is filled), Home
 * and End, Page up and down, typing, Enter, Tab and Escape as in any spreadsheet. Everything is held by the ids of
 * rows, whatever others do to their order; keys that come while a row is on its way wait for it.
 */
export function useGrid(options: GridOptions) {
  const { rows, columns, gone, standsFor } = options;
  const ids = useMemo(() => rows.map(({ id }) => id), [rows]);
  const byId = useMemo(() => new Map(rows.map((row) => [row.id, row])), [rows]);
  const held = useGridState(ids, gone, standsFor);
  const { state, kept, act, removing } = held;

  const column = Math.min(state.column, columns.length - 1);
  const from = Math.min(state.from.column, columns.length - 1);
  const cursor = { row: state.at === null ? -1 : ids.indexOf(state.at), column };
  const chosenIds = useMemo(() => new Set(state.chosen), [state.chosen]);
  const chosen: Chosen = useMemo(
    () => ({
      rows: rows.filter(({ id }) => chosenIds.has(id)),
      left: state.whole ? 0 : Math.min(from, column),
      right: state.whole ? columns.length - 1 : Math.max(from, column),
    }),
    [rows, chosenIds, state.whole, from, column, columns.length],
  );

  // Rows out of sight are taken off the page and the focus with them; this remembers that it belongs to the grid.
  const holdsFocus = useRef(false);
  const onFocus = (): void => void (holdsFocus.current = true);
  const onBlur = (event: FocusEvent): void => {
    if (event.relatedTarget !== null && !event.currentTarget.contains(event.relatedTarget)) holdsFocus.current = false;
  };

  const go = (row: number, to: number, extend = false): void =>
    act({ do: "go", ids: kept.current!.ids, row, column: Math.max(0, Math.min(columns.length - 1, to)), extend });
  const goTo = (id: string, to = 0): void => {
    const row = kept.current!.ids.indexOf(id);
    if (row >= 0) go(row, to);
  };

  const { begin, leave, editKey, onEditKey } = useTyping({ ...options, ids, byId, held, go });
  const { gridKey, forgetDelete } = useGridKeys({ ...options, ids, cursor, chosen, held, go, begin });

  /** Gives whether the row that was pressed is there. */
  const pressed = ({ id, column: to, extend, twice }: Press): boolean => {
    const row = kept.current!.ids.indexOf(id);
    if (twice) begin(id, to);
    else if (row >= 0) go(row, to, extend);
    return row >= 0;
  };
  /**
   * A key or press that waited, as if it came now. What was typed after a press on a row that went meanwhile is for no
   * row.
   */
  const replay = (what: Key | Press): boolean => {
    const { typing } = kept.current!.state;
    // What was typed before a press stands in a field that no pointer has left.
    if ("twice" in what && typing !== null) leave(typing.text);
    if ("twice" in what) return pressed(what);
    if (typing === null) gridKey(what);
    else if (!editKey(what, typing.text)) {
      const text = textAfter(what, typing);
      if (text !== null) act({ do: "text", text });
    }
    return true;
  };
  const { hold, whenIdle, onKeyCapture, onPress } = useHeldKeys(replay);
  /** A press on a cell, in its turn among the keys that wait. */
  const press = (it: Press): void => void (onPress(it) || pressed(it));
  const onKey = (event: KeyboardEvent): void => {
    if (gridKey(event)) event.preventDefault();
  };

  return {
    state,
    cursor,
    chosen,
    chosenIds,
    holdsFocus,
    onFocus,
    onBlur,
    go,
    goTo,
    begin,
    press,
    leave,
    onKey,
    onKeyCapture,
    onEditKey,
    hold,
    whenIdle,
    forgetDelete,
    setText: (text: string) => act({ do: "text", text }),
    endTyping: () => act({ do: "end" }),
    mend: (entry: CellOf) => act({ do: "mend", cell: entry }),
    dismissLost: () => act({ do: "dismissLost" }),
    removing,
  };
}
