import { DATE_ORDERS, type DateOrder, type NumberStyle } from "@chronometra/contract";
import { parseDate, parseDuration, parseInstant, parseTime } from "@chronometra/core";
import type { CellKind } from "./columns.ts";
import type { Cell } from "./cells.ts";
import { readNumber } from "./numbers.ts";
import { asBrought } from "./toSheets.ts";

/** A day of work where no calendar says otherwise. */
export const STANDARD_DAY_MINUTES = 480;

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
  // Parted by points, the day stands first wherever that is written, and the year in full last.
  if (groups[2].length > 2 && /^\s*\d+\.\s*\d+\./.test(text)) return order === "dmy" ? valid(iso(c, b, a)) : null;
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
export const dependsOnOrder = (text: string): boolean =>
  plainDate(text.trim()) === null && digitGroups(text.trim()) !== null;

/** A date that is written in one order only, whatever the order of its parts: `24.11.2026`. */
export const soleOrder = (text: string): DateOrder | null => {
  const able = DATE_ORDERS.filter((order) => dateInOrder(text, order) !== null);
  return able.length === 1 ? able[0]! : null;
};

function readDate(cell: Cell, order: DateOrder | undefined): Reading {
  if (typeof cell === "object" && cell !== null && "date" in cell) return { value: cell.date.slice(0, 10) };
  if (typeof cell !== "string") return { fault: "is not a date" };
  const text = cell.trim();
  const sole = soleOrder(text);
  const date =
    plainDate(text) ??
    (sole !== null ? dateInOrder(text, sole) : order === undefined ? null : dateInOrder(text, order));
  if (date !== null) return { value: date };
  return {
    fault:
      order === undefined && digitGroups(text) !== null
        ? `"${text}" can be read in more than one order; say which`
        : `"${text}" is no date between 1990 and 2099`,
  };
}

function readInstant(cell: Cell, order: DateOrder | undefined): Reading {
  const text =
    typeof cell === "object" && cell !== null && "date" in cell
      ? cell.date
      : typeof cell === "string"
        ? cell.trim()
        : "";
  if (parseInstant(text) !== null) return { value: text };
  const split = /^(.+?)[T\s]+(\d{1,2}:\d{2})(?::\d{2})?$/.exec(text);
  const date = readDate(split === null ? cell : split[1]!, order);
  if ("fault" in date) return date;
  return { value: split === null ? date.value : `${String(date.value)}T${split[2]!.padStart(5, "0")}` };
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
  const shifts = text
    .split(/[,;]\s*/)
    .map((part) => part.split(/\s*[-–]\s*/).map((time) => time.trim().padStart(5, "0")));
  const good = shifts.every((shift) => shift.length === 2 && shift.every((time) => parseTime(time) !== null));
  return good ? { value: shifts } : { fault: `"${text}" is no list of shifts such as 08:00-12:00, 13:00-17:00` };
}

const MINUTES_IN = { minutes: 1, hours: 60, days: STANDARD_DAY_MINUTES } as const;

/**
 * Working time in what a column counts in: a number, `8:30`, `2 d`, `4h`, or a cell that a spreadsheet keeps as a time.
 */
export function readTime(
  cell: Exclude<Cell, null>,
  unit: keyof typeof MINUTES_IN,
  numbers: NumberStyle | "mixed" | null,
): Reading {
  const from = (minutes: number): Reading => ({ value: minutes / MINUTES_IN[unit] });
  if (typeof cell === "object")
    return "minutes" in cell ? from(cell.minutes) : { fault: `"${shownOf(cell)}" is no duration` };
  if (typeof cell === "string" && /[a-z:]/i.test(cell) && !/e[+-]?\d+$/i.test(cell.trim())) {
    const minutes = parseDuration(cell, STANDARD_DAY_MINUTES, "hours");
    return minutes === null ? { fault: `"${cell.trim()}" is no duration; write 8:30, 8.5 h or 2 d` } : from(minutes);
  }
  const read = readNumber(cell as Cell, numbers, unit === "minutes");
  return unit === "minutes" && "value" in read && !Number.isInteger(read.value)
    ? { fault: `${read.value} is not a whole number of minutes` }
    : read;
}

/** A cell as whoever brought it sees it. */
export const shownOf = (cell: Exclude<Cell, null>): string =>
  typeof cell !== "object" ? String(cell) : "date" in cell ? cell.date : "shown" in cell ? cell.shown : cell.fault;

/** How the cells of a column are to be read. */
export interface HowRead {
  readonly order?: DateOrder | undefined;
  readonly numbers: NumberStyle | "mixed" | null;
  /** Whether spaces at the ends of texts are meant. */
  readonly exact?: boolean;
}

/** Reads one cell that is not empty as what its column holds. */
export function readCell(cell: Exclude<Cell, null>, kind: CellKind, how: HowRead): Reading {
  const { order } = how;
  if (typeof cell === "object" && "fault" in cell) return cell;
  switch (kind) {
    case "id":
    case "text": {
      const brought = typeof cell === "object" ? shownOf(cell) : asBrought(String(cell));
      const text = how.exact === true && kind === "text" ? brought : brought.replace(/^\s+|\s+$/g, "");
      return kind === "id" && text.length > 64 ? { fault: "is longer than 64 characters" } : { value: text };
    }
    case "number":
    case "int": {
      if (typeof cell === "object") return { fault: `"${shownOf(cell)}" is no number` };
      const read = readNumber(cell, how.numbers, kind === "int");
      return kind === "int" && "value" in read && !Number.isInteger(read.value)
        ? { fault: `${read.value} is not a whole number` }
        : read;
    }
    case "minutes":
    case "hours":
    case "days":
      return readTime(cell, kind, how.numbers);
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
