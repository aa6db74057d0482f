import type { NumberStyle } from "@chronometra/contract";
import { NUMBER_STYLES } from "@chronometra/contract";
import type { Cell } from "./cells.ts";

const SIGNS: Readonly<Record<NumberStyle, { readonly decimal: string; readonly thousands: string }>> = {
  point: { decimal: "\\.", thousands: "," },
  comma: { decimal: ",", thousands: "\\." },
};

/** Thousands parted by threes, none of them before a leading zero; a fraction; an exponent. */
const SHAPES: Readonly<Record<NumberStyle, RegExp>> = Object.fromEntries(
  NUMBER_STYLES.map((style) => [
    style,
    new RegExp(
      `^[+-]?(?:[1-9]\\d{0,2}(?:${SIGNS[style].thousands}\\d{3})+|\\d+)?(?:${SIGNS[style].decimal}\\d+)?(?:e[+-]?\\d+)?$`,
      "i",
    ),
  ]),
) as never;

/** A sign before the number, as it is; behind it, or brackets around it, as ledgers write what is taken back. */
const signed = (text: string): string => text.replace(/^\((.+)\)$/, "-$1").replace(/^([^-].*)-$/, "-$1");

/** Without what parts thousands to everybody, and without a sign of percent or a unit of money behind it. */
const bare = (text: string): string =>
  signed(
    text
      .trim()
      .replace(/[\s\u00a0\u202f'’]/g, "")
      .replace(/\u2212/g, "-")
      .replace(/%$/, ""),
  );

/** The number that a text says if it is written with a point or a comma; `null` where it says none. */
export function numberIn(text: string, style: NumberStyle): number | null {
  const plain = bare(text);
  if (plain === "" || !/\d/.test(plain) || !SHAPES[style].test(plain)) return null;
  const { decimal, thousands } = SIGNS[style];
  return Number(plain.replace(new RegExp(thousands, "g"), "").replace(new RegExp(decimal), "."));
}

/** The ways in which a text can be read, where they differ: `1.234` in two, `0.125`, `1 234` and `1.234,5` in one. */
export function stylesOf(text: string, whole: boolean): readonly NumberStyle[] {
  const able = NUMBER_STYLES.filter((style) => {
    const value = numberIn(text, style);
    return value !== null && (!whole || Number.isInteger(value));
  });
  return able.length === 2 && numberIn(text, "point") === numberIn(text, "comma") ? [] : able;
}

/** How a column writes numbers, by those of its cells that leave no doubt. */
export interface ColumnStyle {
  /** `mixed` where some are written one way and some the other; `null` where none says anything. */
  readonly style: NumberStyle | "mixed" | null;
  /** The first that can be read both ways. */
  readonly doubtful: string | null;
}

/** @param whole whether the column holds whole numbers, which have no decimals to be told from thousands */
export function styleOfColumn(cells: Iterable<Cell | undefined>, whole: boolean): ColumnStyle {
  const found = new Set<NumberStyle>();
  let doubtful: string | null = null;
  for (const cell of cells) {
    if (typeof cell !== "string") continue;
    const able = stylesOf(cell, whole);
    if (able.length === 1) found.add(able[0]!);
    else if (able.length === 2) doubtful ??= cell.trim();
  }
  return { style: found.size === 2 ? "mixed" : ([...found][0] ?? null), doubtful };
}

/** A number as people write it, or why it cannot be told. */
export function readNumber(
  cell: Cell,
  style: NumberStyle | "mixed" | null,
  whole = false,
): { readonly value: number } | { readonly fault: string } {
  if (typeof cell === "number") return { value: cell };
  if (typeof cell !== "string") return { fault: "is no number" };
  const able = stylesOf(cell, whole);
  const read =
    able.length === 1 ? able[0]! : style !== null && style !== "mixed" ? style : able.length === 0 ? "point" : null;
  if (read === null)
    return {
      fault: `"${cell.trim()}" can be read as ${numberIn(cell, "point")} or as ${numberIn(cell, "comma")}; ${style === "mixed" ? "its column has numbers written both ways" : "say which sign parts decimals"}`,
    };
  const value = numberIn(cell, read);
  return value === null ? { fault: `"${cell.trim()}" is no number` } : { value };
}
