import { DATE_ORDERS } from "@chronometra/contract";
import { readCell, shownOf } from "../sheets/readCells.ts";
import type { Cell } from "../sheets/cells.ts";
import type { ActivityNote, OwnField } from "@chronometra/core";
import type { Beside } from "../../begin/createProject.ts";
import type { Sense } from "./sense.ts";

/** Fields of one's own, what activities have in them, and how they are described; by the id of the activity. */
export type OwnFound = Pick<Beside, "fields" | "ownValues" | "notes">;

const LONGEST = 4000;

type Type = "text" | "number" | "yesNo" | "date";

const isDate = (cell: Cell): boolean => typeof cell === "object" && cell !== null && "date" in cell;

/** What a field may be by all that stands in its column. */
function typeOf(cells: readonly Exclude<Cell, null>[]): Type {
  if (cells.every((cell) => typeof cell === "number")) return "number";
  if (cells.every((cell) => typeof cell === "boolean")) return "yesNo";
  return cells.every(isDate) ? "date" : "text";
}

const valueOf = (cell: Exclude<Cell, null>, type: Type): string | number | boolean => {
  if (type === "number" || type === "yesNo") return cell as number | boolean;
  if (type === "date") {
    const read = readCell(cell, "date", { order: DATE_ORDERS[0], numbers: null });
    return "value" in read ? (read.value as string) : shownOf(cell);
  }
  return shownOf(cell).trim().slice(0, LONGEST);
};

/** Fields of one's own that columns of a sheet become, and the descriptions that its notes do. */
export function ownIn(sense: Sense): OwnFound {
  const columns = new Map<string, Map<number, Exclude<Cell, null>>>();
  const put = (name: string, i: number, cell: Exclude<Cell, null>): void => {
    const known = columns.get(name) ?? new Map<number, Exclude<Cell, null>>();
    columns.set(name, known);
    known.set(i, cell);
  };
  const notes: Record<string, ActivityNote> = {};
  sense.rows.forEach(({ own, fields: { note } }, i) => {
    for (const [heading, cell] of Object.entries(own)) put(heading.slice(0, 200), i, cell);
    const description = typeof note === "string" ? note.trim().slice(0, LONGEST) : "";
    if (description !== "") notes[sense.ids[i]!] = { description };
  });
  const values: Record<string, Record<string, string | number | boolean>> = {};
  const fields = [...columns].map(([name, cells], n): OwnField => {
    const id = `field-${n + 1}`;
    const type = typeOf([...cells.values()]);
    for (const [i, cell] of cells) (values[sense.ids[i]!] ??= {})[id] = valueOf(cell, type);
    return { id, name, type };
  });
  return { fields, ownValues: values, notes };
}
