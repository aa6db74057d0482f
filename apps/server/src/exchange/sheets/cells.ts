/**
 * A cell as it was brought: text, number, yes or no, a date (ISO, with time where it has one), an error, or nothing.
 */
export type Cell = string | number | boolean | null | { readonly date: string } | TimeCell | { readonly fault: string };

/** A time of day, or a length of time, as a spreadsheet keeps it: minutes, and what the person sees. */
export interface TimeCell {
  readonly minutes: number;
  readonly shown: string;
}

export interface SourceSheet {
  readonly name: string;
  readonly rows: readonly Cell[][];
  /** How far the first texts of each row are indented at most, where the file says. */
  readonly indents: readonly number[];
  /** How deep each row is grouped below others, where the file says. */
  readonly levels?: readonly number[];
  /** Where a cell stands in the file (`C5`), of a sheet that was put in other rows: column from 0, line from 1. */
  readonly refOf?: (column: number, line: number) => string;
}

/** Where a cell of a sheet stands in the file, as a spreadsheet shows it: `C5`. */
export const refIn = ({ refOf }: Pick<SourceSheet, "refOf">, column: number, line: number): string =>
  refOf?.(column, line) ?? `${columnLetters(column)}${line}`;

/** Of so many texts at the beginning of a row the indentation is looked at: before a name there may be a number. */
export const INDENTED_TEXTS = 3;

/** Thrown where a file cannot be read at all; the message is for whoever brought it. */
export class Unreadable extends Error {}

/** What a plan's tables hold at most. */
export const MAX_ROWS = 300_000;
export const MAX_COLUMNS = 400;
export const MAX_CELLS = 10_000_000;

export const leadingSpaces = (text: string): number => text.length - text.trimStart().length;

/** A number formatted as a percentage is meant as it is shown. */
export const asShown = (value: Cell, format: string | undefined): Cell =>
  typeof value === "number" && format?.includes("%") === true ? Math.round(value * 1e8) / 1e6 : value;

export function asTime(minutes: number): TimeCell {
  const size = Math.abs(minutes);
  return {
    minutes,
    shown: `${minutes < 0 ? "-" : ""}${String(Math.floor(size / 60)).padStart(2, "0")}:${String(size % 60).padStart(2, "0")}`,
  };
}

/** A column's letters as a spreadsheet shows them, 0 for A. */
export function columnLetters(index: number): string {
  let letters = "";
  for (let at = index; at >= 0; at = Math.floor(at / 26) - 1) letters = String.fromCharCode(65 + (at % 26)) + letters;
  return letters;
}
