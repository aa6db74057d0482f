import type { OwnField } from "@chronometra/core";
import { ownValueText } from "../engine/ownColumn.ts";
import type { SheetRow } from "../engine/sheet.ts";

/** Hues that are neither those of late and early nor of what is undecided, dark and light by turns so that greys differ too. */
const HUES = ["#3f6fa8", "#9a7fb8", "#5b5f73", "#7fb0c9", "#6b4c7d", "#b7b1a2", "#2f4f6f", "#a88f6a"];
const OTHER = "#8a8f98";
const MOST = HUES.length;

/** What bands are coloured by: the values there are, each with its hue, and the rest together. */
export interface Colouring {
  readonly field: OwnField;
  readonly legend: readonly { readonly value: string; readonly colour: string }[];
  readonly of: (row: SheetRow) => { readonly value: string; readonly colour: string } | null;
}

/** Colours rows by a field of one's own; choices in their own order, other values by how often they come. */
export function colouringBy(field: OwnField, rows: readonly SheetRow[]): Colouring {
  const counts = new Map<string, number>((field.choices ?? []).map((choice) => [choice, 0]));
  for (const row of rows) {
    const text = ownValueText(field, row.values[field.id]);
    if (text !== "") counts.set(text, (counts.get(text) ?? 0) + 1);
  }
  const values =
    field.type === "choice" ? [...counts.keys()] : [...counts].sort((a, b) => b[1] - a[1]).map(([value]) => value);
  const legend = values.slice(0, MOST).map((value, i) => ({ value, colour: HUES[i]! }));
  if (values.length > MOST) legend.push({ value: "other", colour: OTHER });
  const known = new Map(legend.map((entry) => [entry.value, entry.colour]));
  return {
    field,
    legend,
    of: (row) => {
      const value = ownValueText(field, row.values[field.id]);
      return value === "" ? null : { value, colour: known.get(value) ?? OTHER };
    },
  };
}
