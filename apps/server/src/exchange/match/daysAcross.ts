import { parseDate } from "@chronometra/core";
import { columnLetters, type Cell, type SourceSheet } from "../sheets/cells.ts";
import { readCell, shownOf } from "../sheets/readCells.ts";
import { isTotal } from "./tidy.ts";

/** So many days beside each other in one row are the head of a sheet of hours. */
const LEAST_DAYS = 3;
const ROWS_TRIED = 25;

/** The day that a heading says, where it says one beyond doubt. */
function dayOf(cell: Cell | undefined): Cell {
  if (cell === null || cell === undefined || typeof cell === "number" || typeof cell === "boolean") return null;
  if (typeof cell === "object") return "date" in cell ? cell : null;
  const bare = cell.trim().replace(/^(mon|tue|wed|thu|fri|sat|sun)\w*[,.]?\s+/i, "");
  return "value" in readCell(bare, "date", { order: "dmy", numbers: null }) ? bare : null;
}

/** More days apart than this, and they are no days beside each other. */
const MOST_APART = 7;

/** Whether cells are days one after the other. */
function areDays(cells: readonly Cell[]): boolean {
  const days = cells.map((cell) => {
    const read = readCell(cell as Exclude<Cell, null>, "date", { order: "dmy", numbers: null });
    return "value" in read ? parseDate(read.value as string) : null;
  });
  return days.every((day, i) => {
    const before = days[i - 1];
    return day !== null && (i === 0 || (before != null && day > before && day - before <= MOST_APART));
  });
}

/** Whether what stands below could be hours. */
const areHours = (cells: readonly (Cell | undefined)[]): boolean =>
  cells.every(
    (cell) =>
      cell === null ||
      cell === undefined ||
      typeof cell === "number" ||
      (typeof cell === "object" && "minutes" in cell) ||
      (typeof cell === "string" && "value" in readCell(cell, "hours", { numbers: "point" })),
  );

/**
 * A sheet of hours with days across, as a list: a row for each cell that is filled, with its day. Sums at the end of
 * rows and below are left out.
 * @returns the list, each of its cells known by where it stands; `null` where the sheet has no days across
 */
export function daysAsList(source: SourceSheet): SourceSheet | null {
  const headAt = source.rows
    .slice(0, ROWS_TRIED)
    .findIndex((row) => row.filter((cell) => dayOf(cell) !== null).length >= LEAST_DAYS);
  if (headAt < 0) return null;
  const head = source.rows[headAt]!;
  const days = head.flatMap((cell, c) => (dayOf(cell) === null ? [] : [c]));
  const below = source.rows.slice(headAt + 1);
  if (!areDays(days.map((c) => dayOf(head[c]))) || !days.every((c) => areHours(below.map((row) => row[c]))))
    return null;
  const labels = head.flatMap((cell, c) =>
    typeof cell === "string" && dayOf(cell) === null && c < days[0]! ? [c] : [],
  );
  const rows: Cell[][] = [[...labels.map((c) => head[c]!), "Date", "Hours"]];
  const refs: string[][] = [[]];
  source.rows.forEach((row, i) => {
    const texts = labels.map((c) => (row[c] == null ? "" : shownOf(row[c]).trim()));
    if (i <= headAt || texts.some(isTotal) || texts.every((text) => text === "")) return;
    for (const c of days) {
      const cell = row[c] ?? null;
      if (cell === null || cell === 0) continue;
      rows.push([...labels.map((label) => row[label] ?? null), dayOf(head[c]), cell]);
      const at = (column: number, line: number): string => `${columnLetters(column)}${line}`;
      refs.push([...labels.map((label) => at(label, i + 1)), at(c, headAt + 1), at(c, i + 1)]);
    }
  });
  return {
    name: source.name,
    rows,
    indents: rows.map(() => 0),
    refOf: (column, line) => refs[line - 1]?.[column] ?? `${columnLetters(column)}${line}`,
  };
}
