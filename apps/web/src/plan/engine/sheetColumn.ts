import type { Tone } from "../../shared/words/words.ts";
import type { Typed } from "./planEngine.ts";
import type { Sheet, SheetRow } from "./sheet.ts";

/** What reading a cell may need to know besides its row. */
export interface Reading extends Pick<Sheet, "people" | "calendars" | "minorDigits"> {
  readonly today: string;
}

/** A column of the plan: what stands in its cells, and how what is typed there is read. */
export interface SheetColumn {
  readonly id: string;
  readonly head: string;
  readonly hint?: string;
  readonly width: number;
  readonly numeric?: true;
  readonly hidden?: true;
  readonly text: (row: SheetRow, sheet: Pick<Sheet, "minorDigits">) => string;
  readonly tone?: (row: SheetRow) => Tone;
  /** What stands in the field when editing begins; a column without it is computed. */
  readonly edit?: (row: SheetRow) => string;
  /** Why a row's cell cannot be edited, where it cannot. */
  readonly closed?: (row: SheetRow) => string | null;
  readonly read?: (text: string, row: SheetRow, reading: Reading) => Typed;
  /** Read by the plan itself, which knows the names. */
  readonly asks?: "links" | "people";
  /** What may be typed, offered while typing; `several` where parts are divided by `;`. */
  readonly offers?: (sheet: Pick<Sheet, "rows" | "people" | "calendars">, row: SheetRow) => readonly string[];
  readonly several?: true;
}
