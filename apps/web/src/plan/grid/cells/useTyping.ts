import type { KeyboardEvent } from "react";
import type { SheetRow } from "../../engine/sheet.ts";
import type { GridOptions } from "./gridOptions.ts";
import { isCell, type CellOf, type Typing } from "./gridState.ts";
import type { Held } from "./gridHeld.ts";
import type { Key } from "./useHeldKeys.ts";

/** Whether a key is a sign of a text. */
export const plainText = ({ key, ctrlKey, metaKey, altKey }: Key): boolean =>
  key.length === 1 && !ctrlKey && !metaKey && !altKey;

/** What a key that waited makes of a text that is being typed; `null` where it means nothing there. */
export function textAfter(key: Key, { text, selected }: Typing): string | null {
  const before = selected ? "" : text;
  if (plainText(key)) return before + key.key;
  if (key.key === "Backspace") return before.slice(0, -1);
  // Whoever goes on in a text does not type it over.
  return key.key === "End" || key.key === "ArrowRight" ? text : null;
}

type Options = Pick<GridOptions, "rows" | "columns" | "mayEdit" | "onCommit" | "onPastEnd" | "onFreshLeft"> & {
  readonly ids: readonly string[];
  readonly byId: ReadonlyMap<string, SheetRow>;
  readonly held: Held;
  readonly go: (row: number, column: number) => void;
};

/** Typing into a cell: begun, taken, refused, given up. Whatever others do to the rows, a text stays with its own. */
export function useTyping({ rows, columns, mayEdit, onCommit, onPastEnd, onFreshLeft, ids, byId, held, go }: Options) {
  const { state, kept, act } = held;

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
    // Whoever types on need not wait for the plan; where it refuses, the text stays in its cell, marked, until it is
    // mended.
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

  return { begin, leave, editKey, onEditKey };
}
