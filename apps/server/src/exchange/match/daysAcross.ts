import { columnLetters, type Cell, type SourceSheet } from "../sheets/cells.ts";
import { readCell, shownOf } from "../sheets/readCells.ts";
import { daysIn } from "./dayHeads.ts";
import { isTotal } from "./tidy.ts";

const ROWS_TRIED = 25;

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

/** Where the days stand that are the head of a sheet. */
function headIn(source: SourceSheet): { readonly headAt: number; readonly days: ReadonlyMap<number, Cell> } | null {
  for (let headAt = 0; headAt < Math.min(source.rows.length, ROWS_TRIED); headAt++) {
    const days = daysIn(source, headAt);
    if (days !== null) return { headAt, days };
  }
  return null;
}

/**
 * A sheet of hours with days across, as a list: a row for each cell that is filled, with its day. Sums at the end of
 * rows and below are left out.
 * @returns the list, each of its cells known by where it stands; `null` where the sheet has no days across
 */
export function daysAsList(source: SourceSheet): SourceSheet | null {
  const found = headIn(source);
  if (found === null) return null;
  const { headAt, days } = found;
  const head = source.rows[headAt]!;
  const first = Math.min(...days.keys());
  const below = source.rows.slice(headAt + 1);
  if (![...days.keys()].every((c) => areHours(below.map((row) => row[c])))) return null;
  const labels = head.flatMap((cell, c) => (typeof cell === "string" && c < first ? [c] : []));
  const rows: Cell[][] = [[...labels.map((c) => head[c]!), "Date", "Hours"]];
  const refs: string[][] = [[]];
  source.rows.forEach((row, i) => {
    const texts = labels.map((c) => (row[c] == null ? "" : shownOf(row[c]).trim()));
    if (i <= headAt || texts.some(isTotal) || texts.every((text) => text === "")) return;
    for (const [c, day] of days) {
      const cell = row[c] ?? null;
      if (cell === null || cell === 0) continue;
      rows.push([...labels.map((label) => row[label] ?? null), day, cell]);
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
