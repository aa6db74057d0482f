import type { DateOrder } from "@chronometra/contract";
import { parseDate, parseInstant, parseTime } from "@chronometra/core";
import type { CellKind } from "./columns.ts";
import type { Cell } from "./readFiles.ts";
import { asBrought } from "./toSheets.ts";

/** What a cell says, or why it says nothing that can be used. */
export type Reading = { readonly value: unknown } | { readonly fault: string };

const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];

const iso = (year: number, month: number, day: number): string => {
  const full = year < 100 ? (year < 90 ? 2000 : 1900) + year : year;
  return `${full}-${String(month).padStart(2, "0")}-${String(day).padStart(2, "0")}`;
};

const valid = (text: string): string | null => (parseDate(text) === null ? null : text);

/** Three groups of digits, in the order in which they stand. */
const digitGroups = (text: string): [string, string, string] | null => {
  const match = /^(\d{1,4})[./\-\s]+(\d{1,2})[./\-\s]+(\d{1,4})$/.exec(text);
  return match === null ? null : [match[1]!, match[2]!, match[3]!];
};

/** The date that a text means if its parts stand in an order; null where it means none. */
export function dateInOrder(text: string, order: DateOrder): string | null {
  const groups = digitGroups(text.trim());
  if (groups === null) return null;
  const [a, b, c] = groups.map(Number) as [number, number, number];
  if (groups[0].length > 2) return order === "ymd" ? valid(iso(a, b, c)) : null;
  if (order === "ymd") return groups[2].length > 2 ? null : valid(iso(a, b, c));
  return order === "dmy" ? valid(iso(c, b, a)) : valid(iso(c, a, b));
}

/** A date with its month in letters or in ISO order: there is only one way to read it. */
function plainDate(text: string): string | null {
  if (/^\d{4}-\d{2}-\d{2}$/.test(text)) return valid(text);
  const lettered = /^(\d{1,2})[.\s-]*([A-Za-z]{3,9})\.?[,\s-]*(\d{2,4})$/.exec(text) ?? null;
  if (lettered !== null) return fromLetters(lettered[3]!, lettered[2]!, lettered[1]!);
  const american = /^([A-Za-z]{3,9})\.?\s+(\d{1,2}),?\s+(\d{4})$/.exec(text);
  return american === null ? null : fromLetters(american[3]!, american[1]!, american[2]!);
}

function fromLetters(year: string, month: string, day: string): string | null {
  const index = MONTHS.indexOf(month.slice(0, 3).toLowerCase());
  return index < 0 ? null : valid(iso(Number(year), index + 1, Number(day)));
}

/** Whether the order of its parts decides what date a text means. */
export const dependsOnOrder = (text: string): boolean => plainDate(text.trim()) === null && digitGroups(text.trim()) !== null;

function readDate(cell: Cell, order: DateOrder | undefined): Reading {
  if (typeof cell === "object" && cell !== null && "date" in cell) return { value: cell.date.slice(0, 10) };
  if (typeof cell !== "string") return { fault: "is not a date" };
  const text = cell.trim();
  const date = plainDate(text) ?? (order === undefined ? null : dateInOrder(text, order));
  if (date !== null) return { value: date };
  return { fault: order === undefined && digitGroups(text) !== null ? `"${text}" can be read in more than one order; say which` : `"${text}" is no date between 1990 and 2099` };
}

function readInstant(cell: Cell, order: DateOrder | undefined): Reading {
  const text = typeof cell === "object" && cell !== null && "date" in cell ? cell.date : typeof cell === "string" ? cell.trim() : "";
  if (parseInstant(text) !== null) return { value: text };
  const split = /^(.+?)[T\s]+(\d{1,2}:\d{2})(?::\d{2})?$/.exec(text);
  const date = readDate(split === null ? cell : split[1]!, order);
  if ("fault" in date) return date;
  return { value: split === null ? date.value : `${String(date.value)}T${split[2]!.padStart(5, "0")}` };
}

/** A number as people write it, thousands separated or not, with a point or a comma. */
export function readNumber(cell: Cell): number | null {
  if (typeof cell === "number") return cell;
  if (typeof cell !== "string") return null;
  const text = cell.trim().replace(/[\s\u00a0\u202f']/g, "").replace(/%$/, "");
  if (/^[+-]?\d{1,3}([.,]\d{3})+$/.test(text)) return Number(text.replace(/[.,]/g, ""));
  const last = Math.max(text.lastIndexOf("."), text.lastIndexOf(","));
  const plain = last < 0 ? text : `${text.slice(0, last).replace(/[.,]/g, "")}.${text.slice(last + 1)}`;
  return /^[+-]?\d*\.?\d+(e[+-]?\d+)?$/i.test(plain) ? Number(plain) : null;
}

const YES = new Set(["yes", "true", "x", "1", "y"]);
const NO = new Set(["no", "false", "0", "n", "-"]);

function readBool(cell: Cell): Reading {
  if (typeof cell === "boolean") return { value: cell };
  const text = String(cell).trim().toLowerCase();
  if (YES.has(text)) return { value: true };
  return NO.has(text) ? { value: false } : { fault: `"${text}" is neither yes nor no` };
}

function readShifts(cell: Cell): Reading {
  const text = String(cell).trim();
  if (text === "none" || text === "-") return { value: [] };
  const shifts = text.split(/[,;]\s*/).map((part) => part.split(/\s*[-–]\s*/).map((time) => time.trim().padStart(5, "0")));
  const good = shifts.every((shift) => shift.length === 2 && shift.every((time) => parseTime(time) !== null));
  return good ? { value: shifts } : { fault: `"${text}" is no list of shifts such as 08:00-12:00, 13:00-17:00` };
}

/** Reads one cell that is not empty as what its column holds. */
export function readCell(cell: Exclude<Cell, null>, kind: CellKind, order: DateOrder | undefined): Reading {
  if (typeof cell === "object" && "fault" in cell) return cell;
  switch (kind) {
    case "id":
    case "text": {
      const text = typeof cell === "object" ? cell.date : asBrought(String(cell)).replace(/^\s+|\s+$/g, "");
      return kind === "id" && text.length > 64 ? { fault: "is longer than 64 characters" } : { value: text };
    }
    case "number":
    case "int": {
      const value = readNumber(cell as Cell);
      if (value === null) return { fault: `"${typeof cell === "object" ? cell.date : String(cell)}" is no number` };
      return kind === "int" && !Number.isInteger(value) ? { fault: `${value} is not a whole number` } : { value };
    }
    case "date":
      return readDate(cell, order);
    case "instant":
    case "dateOrInstant":
      return readInstant(cell, order);
    case "bool":
      return readBool(cell);
    case "shifts":
      return readShifts(cell);
  }
}
