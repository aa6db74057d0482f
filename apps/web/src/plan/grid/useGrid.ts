import { useCallback, useRef, useState, type FocusEvent, type KeyboardEvent } from "react";
import type { Block } from "./blocks.ts";

/** The cell the keyboard stands on. */
export interface Cursor {
  readonly row: number;
  readonly column: number;
}

/** What is typed into the cell while it is edited. */
export interface Editing {
  readonly text: string;
  /** Why what was typed cannot be; it stays as it was typed. */
  readonly fault: string | null;
  /** Whether the text was there before, to be typed over. */
  readonly selected: boolean;
}

interface Options {
  readonly rows: number;
  readonly columns: number;
  readonly page: number;
  /** The text with which a cell begins to be edited; `null` where it cannot be. */
  readonly textAt: (cursor: Cursor) => string | null;
  /** Takes what was typed; gives why it cannot be, or nothing, at once or once the plan has been asked. */
  readonly onCommit: (cursor: Cursor, text: string) => Promise<string | null> | string | null;
  /** Keys that mean more than moving: gives whether it took one. */
  readonly onCommand: (event: KeyboardEvent, block: Block) => boolean;
  /** Enter was pressed in the last row. */
  readonly onPastEnd: (cursor: Cursor) => void;
}

const clamp = (value: number, last: number): number => Math.max(0, Math.min(last, value));

const blockOf = (a: Cursor, b: Cursor): Block => ({ top: Math.min(a.row, b.row), bottom: Math.max(a.row, b.row), left: Math.min(a.column, b.column), right: Math.max(a.column, b.column) });

/** Keyboard, choosing and editing of a grid: arrows (with Shift a range), Home and End, Page up and down, typing, Enter, Tab and Escape as in any spreadsheet. */
export function useGrid({ rows, columns, page, textAt, onCommit, onCommand, onPastEnd }: Options) {
  const [cursorKept, setCursor] = useState<Cursor>({ row: 0, column: 0 });
  const [anchorKept, setAnchor] = useState<Cursor>({ row: 0, column: 0 });
  // Rows and columns may have gone since.
  const inside = ({ row, column }: Cursor): Cursor => ({ row: clamp(row, rows - 1), column: clamp(column, columns - 1) });
  const cursor = inside(cursorKept);
  const anchor = inside(anchorKept);
  /** Whether whole rows are chosen, all columns of them. */
  const [whole, setWhole] = useState(false);
  const [editing, setEditing] = useState<Editing | null>(null);
  // Rows out of sight are taken off the page and the focus with them; this remembers that it belongs to the grid.
  const holdsFocus = useRef(false);
  const onFocus = (): void => void (holdsFocus.current = true);
  const onBlur = (event: FocusEvent): void => {
    if (event.relatedTarget !== null && !event.currentTarget.contains(event.relatedTarget)) holdsFocus.current = false;
  };

  const go = useCallback(
    (row: number, column: number, extend = false) => {
      const next = { row: clamp(row, rows - 1), column: clamp(column, columns - 1) };
      setCursor(next);
      if (!extend) {
        setAnchor(next);
        setWhole(false);
      }
    },
    [rows, columns],
  );

  const begin = useCallback(
    (at: Cursor, typed?: string) => {
      const text = textAt(at);
      if (text === null) return;
      setCursor(at);
      setAnchor(at);
      setWhole(false);
      setEditing({ text: typed ?? text, fault: null, selected: typed === undefined });
    },
    [textAt],
  );

  /** Stands in a cell with what was typed into it, and why it cannot be. */
  const stayIn = (at: Cursor, text: string, fault: string): void => {
    setCursor(at);
    setAnchor(at);
    setEditing({ text, fault, selected: false });
  };

  const enter = (at: Cursor, text: string, step: Cursor): void => {
    const answer = onCommit(at, text);
    if (typeof answer === "string") return stayIn(at, text, answer);
    // Whoever types on need not wait for the plan; where it refuses, the cell is gone back to with what was typed.
    void answer?.then((fault) => fault !== null && stayIn(at, text, fault));
    setEditing(null);
    if (step.row > 0 && at.row === rows - 1) onPastEnd(at);
    else go(at.row + step.row, at.column + step.column);
  };
  const commit = (text: string, step: Cursor): void => enter(cursor, text, step);

  const onEditKey = (event: KeyboardEvent<HTMLInputElement>): void => {
    const text = event.currentTarget.value;
    const steps: Record<string, Cursor> = { Enter: { row: event.shiftKey ? -1 : 1, column: 0 }, Tab: { row: 0, column: event.shiftKey ? -1 : 1 } };
    const step = steps[event.key];
    event.stopPropagation();
    if (event.key === "Escape") setEditing(null);
    else if (step !== undefined) commit(text, step);
    else return;
    event.preventDefault();
  };

  const block = whole ? { ...blockOf(anchor, cursor), left: 0, right: columns - 1 } : blockOf(anchor, cursor);
  const onKey = (event: KeyboardEvent): void => {
    const { row, column } = cursor;
    const extend = event.shiftKey;
    if (onCommand(event, block)) return event.preventDefault();
    if (event.key === " " && event.shiftKey) {
      setWhole(true);
      return event.preventDefault();
    }
    if (event.altKey) return;
    const moves: Record<string, () => void> = {
      ArrowDown: () => go(row + 1, column, extend),
      ArrowUp: () => go(row - 1, column, extend),
      ArrowRight: () => go(row, column + 1, extend),
      ArrowLeft: () => go(row, column - 1, extend),
      Home: () => go(event.ctrlKey ? 0 : row, 0, extend),
      End: () => go(event.ctrlKey ? rows - 1 : row, columns - 1, extend),
      PageDown: () => go(row + page, column, extend),
      PageUp: () => go(row - page, column, extend),
      Enter: () => begin(cursor),
      F2: () => begin(cursor),
    };
    const move = moves[event.key];
    if (move !== undefined) move();
    else if (event.key.length === 1 && !event.ctrlKey && !event.metaKey && event.key !== " ") begin(cursor, event.key);
    else return;
    event.preventDefault();
  };

  return { cursor, block, whole, editing, holdsFocus, onFocus, onBlur, go, begin, commit, enter, onKey, onEditKey, setText: (text: string) => setEditing({ text, fault: null, selected: false }) };
}
