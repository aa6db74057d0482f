import { countWords } from "../../shared/words/words.ts";
import type { SheetRow } from "../engine/sheet.ts";
import type { RefusedText } from "./cells/gridState.ts";
import type { SheetColumn } from "../engine/sheetColumn.ts";

interface Props {
  readonly refused: readonly RefusedText[];
  readonly rows: readonly SheetRow[];
  readonly columns: readonly SheetColumn[];
  readonly onGo: (entry: RefusedText) => void;
  readonly onGiveUp: (entry: RefusedText) => void;
}

/** What the plan refused of what was typed, with why and the way to its cell; it was not stored. */
export function RefusedBar({ refused, rows, columns, onGo, onGiveUp }: Props) {
  const entry = refused.at(-1);
  if (entry === undefined) return null;
  const where = `${columns.find(({ id }) => id === entry.column)?.head ?? entry.column} of “${rows.find(({ id }) => id === entry.id)?.name ?? entry.id}”`;
  return (
    <p role="alert" className="flex flex-wrap items-center gap-x-2 border-t rule bg-base-200 px-4 py-0.5">
      <span className="adverse">
        Not stored: “{entry.text}” in {where}. {entry.fault}
      </span>
      <button type="button" className="btn btn-xs" onClick={() => onGo(entry)}>
        Go to it
      </button>
      <button type="button" className="btn btn-xs" onClick={() => onGiveUp(entry)}>
        Give it up
      </button>
      {refused.length > 1 && (
        <span className="muted">and {countWords(refused.length - 1, "entry", "entries")} more</span>
      )}
    </p>
  );
}
