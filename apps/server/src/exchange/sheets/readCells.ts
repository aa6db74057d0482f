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

/** The beginnings of the names of the months. */
export const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];

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

const KIND_WORDS: readonly (readonly [kind: string, words: RegExp])[] = [
  ["milestone", /^(milestone|ms|m|yes|y|x|true|◆|event)$/i],
  ["summary", /^(summary|phase|branch|group|heading|section|s)$/i],
  ["levelOfEffort", /^(levelofeffort|level of effort|loe|hammock)$/i],
  ["work", /^(work|task|activity|t|a|no|n|false|-|normal)$/i],
];

/** What kind of row it is, in the format's word or in common ones. */
function readKind(cell: Cell): Reading {
  const text = shownOf(cell as Exclude<Cell, null>).trim();
  const found = KIND_WORDS.find(([, words]) => words.test(text));
  return found === undefined
    ? { fault: `"${text}" is no kind of activity; write work, milestone, summary or levelOfEffort` }
    : { value: found[0] };
}

const STATE_WORDS: readonly (readonly [state: string, words: RegExp])[] = [
  ["complete", /^(done|complete|completed|finished|closed|ended|100 ?%)$/i],
  ["inProgress", /^(in progress|started|ongoing|under way|underway|running|active|begun|wip)$/i],
  ["notStarted", /^(not started|to do|todo|open|planned|new|pending|waiting|-)$/i],
  ["parked", /^(parked|on hold|hold|paused|deferred|postponed)$/i],
];

/** In which state a row is, in common words. */
function readState(cell: Cell): Reading {
  const text = shownOf(cell as Exclude<Cell, null>).trim();
  const found = STATE_WORDS.find(([, words]) => words.test(text));
  return found === undefined
    ? { fault: `"${text}" is no state; write not started, in progress, done or parked` }
    : { value: found[0] };
}

/** How far something is, 0 to 100: `50%`, `50`; `0.5` where the column counts in shares. */
function readPercent(cell: Exclude<Cell, null>, how: HowRead): Reading {
  if (typeof cell === "object") return { fault: `"${shownOf(cell)}" is no percentage` };
  const read = readNumber(cell, how.numbers);
  if ("fault" in read) return read;
  const value = read.value as number;
  // Beside `50` nobody means half a percent by `0.5`, but in what is written here.
  const isShare = how.shares === true || (how.exact !== true && value > 0 && value < 1);
  return isShare && !(typeof cell === "string" && cell.includes("%")) ? { value: Math.round(value * 1e8) / 1e6 } : read;
}

const CURRENCY_SIGNS = /^[\p{Sc}\s]+|[\p{Sc}\s]+$|^[A-Z]{3}\s+|\s+[A-Z]{3}$/gu;

/** An amount as it is written, with or without its currency. */
function readMoney(cell: Exclude<Cell, null>, how: HowRead): Reading {
  if (typeof cell === "object") return { fault: `"${shownOf(cell)}" is no amount` };
  return readNumber(typeof cell === "string" ? cell.trim().replace(CURRENCY_SIGNS, "") : cell, how.numbers);
}

/** A length as it was written: days of whatever calendar it counts in, and minutes besides. */
export interface WrittenLength {
  readonly days: number;
  readonly minutes: number;
}

/**
 * A length in days where no unit is written, in whatever unit stands there else: `3`, `2w`, `1.5 days`, `4h`, `1d 4h`.
 */
function readLength(cell: Exclude<Cell, null>, numbers: NumberStyle | "mixed" | null): Reading {
  const text = typeof cell === "string" ? cell.replace(/(\d\s*)(?:hrs?|hours?)\b/gi, "$1h") : cell;
  const read = readTime(text, "days", numbers);
  if ("fault" in read) return read;
  const days = read.value as number;
  if (typeof text === "number") return { value: { days, minutes: 0 } satisfies WrittenLength };
  if (typeof text === "string" && !/[a-z:]/i.test(text)) return { value: { days, minutes: 0 } };
  if (typeof text !== "string") return { value: { days: 0, minutes: days * STANDARD_DAY_MINUTES } };
  // Of a longer day the part that is written in days grows, and the part in hours does not.
  const [short, long] = [1, 2].map((times) => parseDuration(text, times * STANDARD_DAY_MINUTES, "days"));
  if (short == null || long == null) return { value: { days, minutes: 0 } };
  const own = (long - short) / STANDARD_DAY_MINUTES;
  return { value: { days: own, minutes: short - own * STANDARD_DAY_MINUTES } };
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
  /** Whether a column of percentages counts in shares of 1. */
  readonly shares?: boolean;
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
    case "length":
      return readLength(cell, how.numbers);
    case "percent":
      return readPercent(cell, how);
    case "money":
      return readMoney(cell, how);
    case "activityKind":
      return readKind(cell);
    case "activityState":
      return readState(cell);
    case "bool":
      return readBool(cell);
    case "shifts":
      return readShifts(cell);
  }
}
