import { parseDuration } from "@chronometra/core";
import type { Cell } from "../sheets/cells.ts";
import { readCell, shownOf } from "../sheets/readCells.ts";

/** How many cells of a column are looked at. */
const LOOKED_AT = 200;
/** So much of a column has to look alike. */
const MOST = 0.7;

const OUTLINE = /^\d+(\.\d+)*\.?$/;
const LENGTH = /^\d+([.,]\d+)?\s*(d|days?|w|weeks?|h|hrs?|hours?)$/i;
const LINKED = /^[\p{L}\p{N}.]+\s*(FS|SS|FF|SF)\s*([+\-−]\s*\d+.*)?$/iu;

const filled = (cells: readonly (Cell | undefined)[]): Exclude<Cell, null>[] =>
  cells.filter((cell): cell is Exclude<Cell, null> => cell !== null && cell !== undefined).slice(0, LOOKED_AT);

const share = <T>(of: readonly T[], test: (each: T) => boolean): number =>
  of.length === 0 ? 0 : of.filter(test).length / of.length;

/** Whether a column counts rows by outline: `1`, `1.1`, `1.1.1`, and not by one after the other. */
export function looksLikeOutline(cells: readonly (Cell | undefined)[]): boolean {
  const texts = filled(cells).map((cell) => shownOf(cell).trim());
  return share(texts, (text) => OUTLINE.test(text)) >= MOST && texts.some((text) => /\d\.\d/.test(text));
}

const isDated = (cell: Exclude<Cell, null>): boolean =>
  typeof cell !== "number" &&
  ["dmy", "mdy", "ymd"].some((order) => "value" in readCell(cell, "date", { order: order as "dmy", numbers: null }));

/**
 * What a column of activities may be by what its cells look like, where its heading tells nothing.
 * @param taken columns that others are taken for
 */
export function columnByCells(cells: readonly (Cell | undefined)[], taken: ReadonlySet<string>): string | null {
  const some = filled(cells);
  if (some.length === 0) return null;
  const texts = some.map((cell) => shownOf(cell).trim());
  const free = (...columns: string[]): string | null => columns.find((column) => !taken.has(column)) ?? null;
  if (share(some, isDated) >= MOST) return free("start", "finish");
  if (
    share(texts, (text) => LENGTH.test(text) && parseDuration(text.replace(/hrs?$/i, "h"), 480, "days") !== null) >=
    MOST
  )
    return free("durationDays");
  if (share(texts, (text) => /^\d+([.,]\d+)?\s*%$/.test(text)) >= MOST) return free("percent");
  if (texts.some((text) => text.split(/[;,]/).some((part) => LINKED.test(part.trim())))) return free("predecessors");
  return looksLikeOutline(cells) ? free("outline") : null;
}
