import { useRef } from "react";
import { edgeOf, isCell } from "./gridState.ts";
import type { Held } from "./gridHeld.ts";
import type { Chosen, GridOptions } from "./gridOptions.ts";
import { plainText } from "./useTyping.ts";
import { MODIFIERS, type Key } from "./useHeldKeys.ts";

/** How long it takes to press the next key by habit. */
const HABIT_MILLISECONDS = 800;

/** Rows or columns on to where what is filled ends. */
function stepsToEdge(
  { rows, columns, textAt }: Pick<GridOptions, "rows" | "columns" | "textAt">,
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

type Options = Pick<GridOptions, "rows" | "columns" | "page" | "textAt" | "onCommand"> & {
  readonly ids: readonly string[];
  readonly cursor: { readonly row: number; readonly column: number };
  readonly chosen: Chosen;
  readonly held: Held;
  readonly go: (row: number, column: number, extend?: boolean) => void;
  readonly begin: (id: string, column: number, typed?: string) => void;
};

/** Where a key leads from where the keyboard stands; `undefined` where it leads nowhere. */
function moveOf(key: Key, row: number, { rows, columns, page, textAt, cursor, go }: Options): (() => void) | undefined {
  const { column } = cursor;
  const extend = key.shiftKey;
  const jump = key.ctrlKey || key.metaKey;
  const edge = (down: number, right: number): number => stepsToEdge({ rows, columns, textAt }, cursor, down, right);
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
  return moves[key.key];
}

/** What a key does that leads nowhere else; gives whether it meant something. */
function actOf(key: Key, { ids, columns, cursor, held: { state, act }, begin }: Options): boolean {
  const at = { id: state.at!, column: columns[cursor.column]!.id };
  if (key.key === " " && key.shiftKey) act({ do: "choose", ids: state.chosen, whole: true });
  else if (key.key.toLowerCase() === "a" && (key.ctrlKey || key.metaKey)) act({ do: "choose", ids, whole: true });
  else if (key.altKey) return false;
  else if (key.key === "Escape" && state.refused.some((entry) => isCell(entry, at))) act({ do: "mend", cell: at });
  else if (key.key === "Enter" || key.key === "F2") begin(state.at!, cursor.column);
  else if (plainText(key) && key.key !== " ") begin(state.at!, cursor.column, key.key);
  else return false;
  return true;
}

/** Keys while nothing is typed. */
export function useGridKeys(options: Options) {
  const { cursor, chosen, held, onCommand } = options;
  const { state } = held;
  const deleteMeantUntil = useRef(0);
  /** Gives whether the key meant something. */
  const gridKey = (key: Key): boolean => {
    if (MODIFIERS.has(key.key)) return false;
    const meantElsewhere = key.key === "Delete" && Date.now() < deleteMeantUntil.current;
    deleteMeantUntil.current = 0;
    if (meantElsewhere) return true;
    const move = moveOf(key, cursor.row < 0 ? state.row : cursor.row, options);
    // Nobody's row: only going to another one means anything.
    if (state.at === null && move === undefined)
      return plainText(key) || key.key === "Enter" || key.key === "F2" || key.key === "Delete";
    if (onCommand(key, chosen)) return true;
    if (move === undefined) return actOf(key, options);
    if (key.altKey) return false;
    move();
    return true;
  };
  /**
   * A row that nothing was typed into is gone again: a Delete that follows at once was meant for it, and not for the
   * row before.
   */
  const forgetDelete = (): void => void (deleteMeantUntil.current = Date.now() + HABIT_MILLISECONDS);
  return { gridKey, forgetDelete };
}
