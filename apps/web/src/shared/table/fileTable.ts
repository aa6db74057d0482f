import type { Cell, FileTable } from "../files/tableText.ts";
import type { Column } from "./column.ts";

/** Digits that a measured number keeps: more would only show how a computer counts. */
const DIGITS = 12;

const UNITS = { minutes: "h", share: "%", days: "d" } as const;

/** A cell as a spreadsheet wants it: whole units of a currency, hours, percent, words where the screen has words. */
function cellOf<T>(column: Column<T>, row: T): Cell {
  if (column.says !== undefined) return column.says(row);
  const value = column.value(row);
  if (typeof value !== "number") return value;
  const scaled =
    column.money !== undefined
      ? value / 10 ** column.money(row).minorDigits
      : column.is === "minutes"
        ? value / 60
        : column.is === "share"
          ? value * 100
          : value;
  return Number(scaled.toPrecision(DIGITS));
}

/**
 * The columns that say something as a table of a file: headings with their unit, cells as {@link Column} describes
 * them, and the currency of a row at the end where amounts are among them.
 */
export function fileTable<T>(all: readonly Column<T>[], rows: readonly T[]): FileTable {
  const columns = all.filter(({ tool }) => tool !== true);
  const money = columns.find((column) => column.money !== undefined)?.money;
  const heads = columns.map(({ head, is }) => (is === undefined ? head : `${head} (${UNITS[is]})`));
  return {
    heads: [...heads, ...(money === undefined ? [] : ["Currency"])],
    data: rows.map((row) => [
      ...columns.map((column) => cellOf(column, row)),
      ...(money === undefined ? [] : [money(row).currency]),
    ]),
  };
}
