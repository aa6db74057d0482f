import type { ImportAnswers, SheetView } from "@chronometra/contract";
import { refIn, type Cell, type SourceSheet } from "../sheets/cells.ts";
import { shownOf } from "../sheets/readCells.ts";

type SheetAnswers = NonNullable<ImportAnswers["sheets"]>[string];

const textOf = (cell: Cell | undefined): string => (cell === null || cell === undefined ? "" : shownOf(cell).trim());

/** A text that someone wrote in place of a cell, as a file would bring it. */
const rewritten = (text: string): Cell => (text.trim() === "" ? null : text.trim());

/**
 * A sheet as whoever brought it mended it: cells that say something else now, singly or all alike of a column.
 * @param headingAt the heading of each column
 */
export function mended(
  source: SourceSheet,
  headingRow: number,
  headingAt: readonly string[],
  answers: SheetAnswers | undefined,
): SourceSheet {
  const { alike = {}, cells = {} } = answers ?? {};
  if (Object.keys(alike).length === 0 && Object.keys(cells).length === 0) return source;
  const rows = source.rows.map((row, i) => {
    if (i <= headingRow) return row;
    const wide = Math.max(row.length, headingAt.length);
    return Array.from({ length: wide }, (_, c): Cell => {
      const single = cells[refIn(source, c, i + 1)];
      if (single !== undefined) return rewritten(single);
      const cell = row[c] ?? null;
      const meant = alike[headingAt[c] ?? ""]?.[textOf(cell)];
      return meant === undefined || cell === null ? cell : rewritten(meant);
    });
  });
  return { ...source, rows };
}

const TOTAL =
  /^(grand |sub-?)?totals?\s*[:.]?(\s+(of|for|costs?|hours|days|duration|length|budget|project|plan|work)\b.*)?$|^(sum|overall|Σ)\s*[:.]?$/i;

/** Whether a text is what stands at a sum. */
export const isTotal = (text: string): boolean => TOTAL.test(text);

/** Why a row below the headings is no activity; `null` where it is one. */
function whyNone(
  row: readonly Cell[],
  headings: readonly string[],
  { nameAt, idAt }: { readonly nameAt: number; readonly idAt: number },
): string | null {
  const texts = row.map(textOf);
  const filled = texts.filter((text) => text !== "");
  if (filled.length === 0) return "blank";
  const same = texts.filter((text, c) => text !== "" && text === headings[c]).length;
  if (same >= 2 && same >= filled.length - 1) return "the headings again";
  // What has an id is meant, whatever it is called.
  if (idAt >= 0 && (texts[idAt] ?? "") !== "" && !isTotal(texts[idAt]!)) return null;
  const first = filled[0]!;
  const name = nameAt < 0 ? "" : (texts[nameAt] ?? "");
  if (isTotal(name) || (name === "" && isTotal(first))) return "a total";
  return nameAt >= 0 && name === "" ? "it names nothing" : null;
}

/**
 * Rows of a sheet of activities that are none: blank ones, headings again, totals, rows without a name. Each can be
 * turned by whoever looks at it; blank ones are not told.
 * @returns the lines to be passed over (1 the first), and what is told of them
 */
export function leftOutOf(
  source: SourceSheet,
  headingRow: number,
  columns: readonly (string | null)[],
  turned: readonly number[],
): { lines: ReadonlySet<number>; told: SheetView["leftOut"] } {
  const headings = (source.rows[headingRow] ?? []).map(textOf);
  const at = { nameAt: columns.indexOf("name"), idAt: columns.indexOf("id") };
  const asked = new Set(turned);
  const lines = new Set<number>();
  const told: SheetView["leftOut"] = [];
  source.rows.forEach((row, i) => {
    if (i <= headingRow) return;
    const line = i + 1;
    const why = whyNone(row, headings, at);
    if (why === null && !asked.has(line)) return;
    const taken = why !== null && why !== "blank" && asked.has(line);
    if (!taken) lines.add(line);
    if (why !== "blank")
      told.push({
        line,
        text: row
          .map(textOf)
          .filter((text) => text !== "")
          .join(" · ")
          .slice(0, 120),
        why: why ?? "left out by you",
        taken,
      });
  });
  return { lines, told };
}
