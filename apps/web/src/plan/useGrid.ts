import { useCallback, useRef, useState, type FocusEvent, type KeyboardEvent } from "react";

/** The cell the keyboard stands on, and what is typed into it while it is edited. */
export interface Cursor {
  readonly row: number;
  readonly column: number;
}

export interface Editing {
  readonly text: string;
  /** Why what was typed cannot be; it stays as it was typed. */
  readonly fault: string | null;
}

interface Options {
  readonly rows: number;
  readonly columns: number;
  readonly page: number;
  /** The text with which a cell begins to be edited; `null` where it cannot be. */
  readonly textAt: (cursor: Cursor) => string | null;
  /** Takes what was typed; gives why it cannot be, or nothing. */
  readonly onCommit: (cursor: Cursor, text: string) => Promise<string | null>;
  readonly onFold: (row: number, open: boolean) => void;
}

const clamp = (value: number, last: number): number => Math.max(0, Math.min(last, value));

/** Keyboard and editing of a grid: arrows, Home and End, Page up and down, typing, Enter, Tab and Escape as in any spreadsheet. */
export function useGrid({ rows, columns, page, textAt, onCommit, onFold }: Options) {
  const [cursor, setCursor] = useState<Cursor>({ row: 0, column: 0 });
  const [editing, setEditing] = useState<Editing | null>(null);
  // Rows out of sight are taken off the page and the focus with them; this remembers that it belongs to the grid.
  const holdsFocus = useRef(false);
  const onFocus = (): void => void (holdsFocus.current = true);
  const onBlur = (event: FocusEvent): void => {
    if (event.relatedTarget !== null && !event.currentTarget.contains(event.relatedTarget)) holdsFocus.current = false;
  };

  const go = useCallback((row: number, column: number) => setCursor({ row: clamp(row, rows - 1), column: clamp(column, columns - 1) }), [rows, columns]);

  const begin = useCallback(
    (at: Cursor, typed?: string) => {
      const text = textAt(at);
      if (text === null) return;
      setCursor(at);
      setEditing({ text: typed ?? text, fault: null });
    },
    [textAt],
  );

  const commit = async (text: string, step: Cursor): Promise<void> => {
    const fault = await onCommit(cursor, text);
    if (fault !== null) return setEditing({ text, fault });
    setEditing(null);
    go(cursor.row + step.row, cursor.column + step.column);
  };

  const onEditKey = (event: KeyboardEvent<HTMLInputElement>): void => {
    const text = event.currentTarget.value;
    const steps: Record<string, Cursor> = { Enter: { row: event.shiftKey ? -1 : 1, column: 0 }, Tab: { row: 0, column: event.shiftKey ? -1 : 1 } };
    const step = steps[event.key];
    event.stopPropagation();
    if (event.key === "Escape") setEditing(null);
    else if (step !== undefined) void commit(text, step);
    else return;
    event.preventDefault();
  };

  const onKey = (event: KeyboardEvent): void => {
    const { row, column } = cursor;
    const moves: Record<string, () => void> = {
      ArrowDown: () => go(row + 1, column),
      ArrowUp: () => go(row - 1, column),
      ArrowRight: () => (event.altKey ? onFold(row, true) : go(row, column + 1)),
      ArrowLeft: () => (event.altKey ? onFold(row, false) : go(row, column - 1)),
      Home: () => go(event.ctrlKey ? 0 : row, 0),
      End: () => go(event.ctrlKey ? rows - 1 : row, columns - 1),
      PageDown: () => go(row + page, column),
      PageUp: () => go(row - page, column),
      Enter: () => begin(cursor),
      F2: () => begin(cursor),
      Delete: () => begin(cursor, ""),
    };
    const move = moves[event.key];
    if (move !== undefined) move();
    else if (event.key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey && event.key !== " ") begin(cursor, event.key);
    else return;
    event.preventDefault();
  };

  return { cursor, editing, holdsFocus, onFocus, onBlur, go, begin, commit, onKey, onEditKey, setText: (text: string) => setEditing({ text, fault: null }), cancel: () => setEditing(null) };
}
