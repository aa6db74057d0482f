import { useCallback, useMemo, useRef, useState, type FocusEvent, type KeyboardEvent } from "react";
import type { Gone } from "../../engine/session/sessionState.ts";
import type { SheetRow } from "../../engine/sheet.ts";
import { acted, atFirst, edgeOf, isCell, type CellOf, type GridAct, type GridState, type Typing } from "./gridState.ts";
import type { SheetColumn } from "../../engine/sheetColumn.ts";
import { MODIFIERS, useHeldKeys, type Key, type Press } from "./useHeldKeys.ts";

/** What is chosen: rows, those of them that are there now in their order, and columns. */
export interface Chosen {
  readonly rows: readonly SheetRow[];
  readonly left: number;
  readonly right: number;
}

interface Options {
  readonly rows: readonly SheetRow[];
  /** The row that stands for one that is folded away or left out of sight; `null` where it is not in the plan. */
  readonly standsFor: (id: string) => string | null;
  /** Rows that others took out. */
  readonly gone: ReadonlyMap<string, Gone>;
  readonly columns: readonly SheetColumn[];
  readonly page: number;
  readonly mayEdit: boolean;
  /** The text of a cell, for going to the end of what is filled. */
  readonly textAt: (row: SheetRow, column: SheetColumn) => string;
  /** Takes what was typed; gives why it cannot be, or nothing, at once or once the plan has been asked. */
  readonly onCommit: (row: SheetRow, column: SheetColumn, text: string) => Promise<string | null> | string | null;
  /** Keys that mean more than moving: gives whether it took one. */
  readonly onCommand: (key: Key, chosen: Chosen) => boolean;
  /** Enter was pressed in the last row. */
  readonly onPastEnd: (row: SheetRow, column: SheetColumn) => void;
  /** Typing was given up in a row that was made for it. */
  readonly onFreshLeft: (id: string) => void;
}

/** How long it takes to press the next key by habit. */
const HABIT_MILLISECONDS = 800;

const plainText = ({ key, ctrlKey, metaKey, altKey }: Key): boolean =>
  key.length === 1 && !ctrlKey && !metaKey && !altKey;

/** What a key that waited makes of a text that is being typed; `null` where it means nothing there. */
function textAfter(key: Key, { text, selected }: Typing): string | null {
  const before = selected ? "" : text;
  if (plainText(key)) return before + key.key;
  if (key.key === "Backspace") return before.slice(0, -1);
  // Whoever goes on in a text does not type it over.
  return key.key === "End" || key.key === "ArrowRight" ? text : null;
}

/** Rows or columns on to where what is filled ends. */
function stepsToEdge(
  { rows, columns, textAt }: Pick<Options, "rows" | "columns" | "textAt">,
  from: { readonly row: number; readonly column: number },
  down: number,
  right: number,
): number {
  const filled = (step: number): boolean => {
    const [row, column] = [rows[from.row + step * down], columns[from.column + step * right]];
    return row !== undefined && column !== undefined && textAt(row, column) !== "";
  };
  const last =
    down > 0
      ? rows.length - 1 - from.row
      : down < 0
        ? from.row
        : right > 0
          ? columns.length - 1 - from.column
          : from.column;
  return edgeOf(filled, last);
}

/** What is held of a grid by the ids of its rows, brought to the rows as they are at each drawing. */
function useGridState(ids: readonly string[], gone: Options["gone"], standsFor: Options["standsFor"]) {
  const [, draw] = useState(0);
  const kept = useRef<{ state: GridState; ids: readonly string[] }>(null);
  kept.current ??= { state: atFirst(ids), ids };
  if (kept.current.ids !== ids)
    kept.current = { state: acted(kept.current.state, { do: "rows", ids, gone, standsFor }), ids };
  const act = useCallback((what: GridAct): void => {
    kept.current = { ...kept.current!, state: acted(kept.current!.state, what) };
    draw((n) => n + 1);
  }, []);
  /** Rows are about to go: the keyboard will stand where the first of them stood. */
  const removing = (first: string): void => {
    const row = ids.indexOf(first);
    if (row >= 0) kept.current = { ...kept.current!, state: { ...kept.current!.state, row } };
  };
  return {
    state: kept.current.state,
    kept: kept as { readonly current: { readonly state: GridState; readonly ids: readonly string[] } },
    act,
    removing,
  };
}

/**
 * Keyboard, choosing and editing of a grid: arrows (with Shift a range, with Ctrl to the end of what is filled), Home and End,
 * Page up and down, typing, Enter, Tab and Escape as in any spreadsheet. Everything is held by the ids of rows, whatever
 * others do to their order; keys that come while a row is on its way wait for it.
 */
export function useGrid({
  rows,
  standsFor,
  gone,
  columns,
  page,
  mayEdit,
  textAt,
  onCommit,
  onCommand,
  onPastEnd,
  onFreshLeft,
}: Options) {
  const ids = useMemo(() => rows.map(({ id }) => id), [rows]);
  const byId = useMemo(() => new Map(rows.map((row) => [row.id, row])), [rows]);
  const { state, kept, act, removing } = useGridState(ids, gone, standsFor);

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

  /** Begins to type in a cell: what was refused there, what is typed, or what stands in it. */
  const begin = (id: string, at: number, typed?: string, fresh = false): void => {
    const row = byId.get(id);
    const one = columns[at];
    if (!mayEdit || row === undefined || one?.edit === undefined || one.closed?.(row) != null) return;
    const cell: CellOf = { id, column: one.id };
    const refused = state.refused.find((entry) => isCell(entry, cell));
    act({
      do: "type",
      ...cell,
      columnAt: at,
      row: ids.indexOf(id),
      text: typed ?? refused?.text ?? one.edit(row),
      selected: typed === undefined,
      fault: typed === undefined ? (refused?.fault ?? null) : null,
      fresh,
    });
  };

  /** Takes what was typed into its own cell, and goes on. */
  const commit = (text: string, step: { row: number; column: number }): void => {
    const { typing } = kept.current!.state;
    const row = typing === null ? undefined : byId.get(typing.id);
    const one = typing === null ? undefined : columns.find(({ id }) => id === typing.column);
    if (typing === null || row === undefined || one === undefined) return;
    const cell: CellOf = { id: typing.id, column: typing.column };
    const answer = onCommit(row, one, text);
    if (typeof answer === "string") {
      act({ do: "text", text });
      return act({ do: "fault", fault: answer });
    }
    act({ do: "mend", cell });
    // Whoever types on need not wait for the plan; where it refuses, the text stays in its cell, marked, until it is mended.
    void answer?.then((fault) => fault !== null && act({ do: "refuse", entry: { ...cell, text, fault } }));
    act({ do: "end" });
    const at = ids.indexOf(typing.id);
    if (step.row > 0 && at === rows.length - 1) onPastEnd(row, one);
    else if (step.row !== 0 || step.column !== 0) go(at + step.row, columns.indexOf(one) + step.column);
  };

  /** The field of a cell is left by the pointer: what is typed is taken, and what cannot be stays in its own cell. */
  const leave = (text: string): void => {
    const { typing } = kept.current!.state;
    if (typing === null) return;
    if (typing.fault === null) commit(text, { row: 0, column: 0 });
    const still = kept.current!.state.typing;
    if (still === null || !isCell(still, typing)) return;
    if (still.fault !== null)
      act({ do: "refuse", entry: { id: typing.id, column: typing.column, text, fault: still.fault } });
    act({ do: "end" });
  };

  /** Gives up what is typed, and what was refused in the same cell. */
  const giveUp = (): void => {
    const { typing } = kept.current!.state;
    if (typing === null) return;
    act({ do: "mend", cell: typing });
    act({ do: "end" });
    if (typing.fresh) onFreshLeft(typing.id);
  };

  /** A key in the field of a cell; gives whether it was more than a sign of the text. */
  const editKey = ({ key, shiftKey }: Key, text: string): boolean => {
    const steps: Record<string, { row: number; column: number }> = {
      Enter: { row: shiftKey ? -1 : 1, column: 0 },
      Tab: { row: 0, column: shiftKey ? -1 : 1 },
    };
    const step = steps[key];
    if (key === "Escape") giveUp();
    else if (step !== undefined) commit(text, step);
    else return false;
    return true;
  };
  const onEditKey = (event: KeyboardEvent<HTMLInputElement>): void => {
    event.stopPropagation();
    if (editKey(event, event.currentTarget.value)) event.preventDefault();
  };

  const edge = (down: number, right: number): number => stepsToEdge({ rows, columns, textAt }, cursor, down, right);

  const deleteMeantUntil = useRef(0);
  /** A key while nothing is edited; gives whether it meant something. */
  const gridKey = (key: Key): boolean => {
    if (MODIFIERS.has(key.key)) return false;
    const meantElsewhere = key.key === "Delete" && Date.now() < deleteMeantUntil.current;
    deleteMeantUntil.current = 0;
    if (meantElsewhere) return true;
    const row = cursor.row < 0 ? state.row : cursor.row;
    const extend = key.shiftKey;
    const jump = key.ctrlKey || key.metaKey;
    const moves: Record<string, () => void> = {
      ArrowDown: () => go(row + (jump ? edge(1, 0) : 1), column, extend),
      ArrowUp: () => go(row - (jump ? edge(-1, 0) : 1), column, extend),
      ArrowRight: () => go(row, column + (jump ? edge(0, 1) : 1), extend),
      ArrowLeft: () => go(row, column - (jump ? edge(0, -1) : 1), extend),
      Home: () => go(jump ? 0 : row, 0, extend),
      End: () => go(jump ? rows.length - 1 : row, columns.length - 1, extend),
      PageDown: () => go(row + page, column, extend),
      PageUp: () => go(row - page, column, extend),
    };
    const move = moves[key.key];
    // Nobody's row: only going to another one means anything.
    if (state.at === null && move === undefined)
      return plainText(key) || key.key === "Enter" || key.key === "F2" || key.key === "Delete";
    if (onCommand(key, chosen)) return true;
    if (key.key === " " && key.shiftKey) act({ do: "choose", ids: state.chosen, whole: true });
    else if (key.key.toLowerCase() === "a" && jump) act({ do: "choose", ids, whole: true });
    else if (key.altKey) return false;
    else if (
      key.key === "Escape" &&
      state.refused.some((entry) => isCell(entry, { id: state.at!, column: columns[column]!.id }))
    )
      act({ do: "mend", cell: { id: state.at!, column: columns[column]!.id } });
    else if (move !== undefined) move();
    else if (key.key === "Enter" || key.key === "F2") begin(state.at!, column);
    else if (plainText(key) && key.key !== " ") begin(state.at!, column, key.key);
    else return false;
    return true;
  };

  /** Gives whether the row that was pressed is there. */
  const pressed = ({ id, column: to, extend, twice }: Press): boolean => {
    const row = kept.current!.ids.indexOf(id);
    if (twice) begin(id, to);
    else if (row >= 0) go(row, to, extend);
    return row >= 0;
  };
  /** A key or press that waited, as if it came now. What was typed after a press on a row that went meanwhile is for no row. */
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
  /** A row that nothing was typed into is gone again: a Delete that follows at once was meant for it, and not for the row before. */
  const forgetDelete = (): void => void (deleteMeantUntil.current = Date.now() + HABIT_MILLISECONDS);

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
