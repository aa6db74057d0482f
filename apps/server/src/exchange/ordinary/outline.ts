import type { ReadRow } from "../match/readTables.ts";
import { nameInAnyOrder } from "@chronometra/core";

const segments = (text: string): string[] =>
  text
    .trim()
    .replace(/\.$/, "")
    .split(/[.\-/]/);

/**
 * Outline numbers as they were meant: a spreadsheet that takes them for numbers shows `1.10` as `1.1`; where that
 * follows `1.9`, ten was meant.
 */
export function outlineNumbers(texts: readonly (string | undefined)[]): (string | undefined)[] {
  const last = new Map<string, number>();
  const taken = new Set<string>();
  return texts.map((text) => {
    if (text === undefined) return undefined;
    const parts = segments(text);
    const branch = parts.slice(0, -1).join(".");
    const next = (last.get(branch) ?? 0) + 1;
    let own = parts.at(-1)!;
    const whole = `${branch === "" ? "" : `${branch}.`}${own}`;
    if (taken.has(whole) && new RegExp(`^${own}0+$`).test(String(next))) own = String(next);
    const meant = `${branch === "" ? "" : `${branch}.`}${own}`;
    if (/^\d+$/.test(own)) last.set(branch, Number(own));
    taken.add(meant);
    return meant;
  });
}

/** The nearest row above that stands less deep, by position; -1 where there is none. */
export function parentsByDepth(depths: readonly number[]): number[] {
  const open: { depth: number; at: number }[] = [];
  return depths.map((depth, at) => {
    while (open.length > 0 && open[open.length - 1]!.depth >= depth) open.pop();
    const parent = open[open.length - 1]?.at ?? -1;
    open.push({ depth, at });
    return parent;
  });
}

/** The row whose outline number each lies below, by position; one without a number lies where the one before it does. */
export function parentsByOutline(numbers: readonly (string | undefined)[]): number[] {
  const at = new Map<string, number>();
  numbers.forEach((number, i) => number !== undefined && !at.has(number) && at.set(number, i));
  let before = -1;
  return numbers.map((number, i) => {
    if (number === undefined) return before;
    const parts = number.split(".");
    before = -1;
    for (let length = parts.length - 1; length > 0; length--) {
      const found = at.get(parts.slice(0, length).join("."));
      if (found !== undefined && found !== i) {
        before = found;
        break;
      }
    }
    return before;
  });
}

/** How rows say what they lie below, the surest first. */
export type Structure = "parent" | "outline" | "level" | "branch" | "indent" | "grouping" | "none";

/** By what rows of a sheet say what they lie below. */
export function structureOf(rows: readonly ReadRow[]): Structure {
  const has = (column: string): boolean => rows.some(({ fields }) => fields[column] !== undefined);
  if (has("parent")) return "parent";
  if (has("outline")) return "outline";
  if (has("level")) return "level";
  if (has("branch")) return "branch";
  if (rows.some(({ indent }) => indent > 0)) return "indent";
  return rows.some(({ level }) => level > 0) ? "grouping" : "none";
}

/** Which branch each row names, as positions in the list of branches in their order. */
export function branchesNamed(rows: readonly ReadRow[]): { names: string[]; of: (number | null)[] } {
  const at = new Map<string, number>();
  const names: string[] = [];
  const of = rows.map(({ fields }) => {
    const name = fields["branch"] as string | undefined;
    if (name === undefined) return null;
    const key = nameInAnyOrder(name) === "" ? name : name.trim().toLowerCase();
    if (!at.has(key)) {
      at.set(key, names.length);
      names.push(name);
    }
    return at.get(key)!;
  });
  return { names, of };
}
