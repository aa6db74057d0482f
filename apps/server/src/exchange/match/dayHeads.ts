import { parseDate, weekdayOf } from "@chronometra/core";
import type { Cell, SourceSheet } from "../sheets/cells.ts";
import { MONTHS, readCell } from "../sheets/readCells.ts";

/** So many days beside each other in one row are the head of a sheet of hours. */
const LEAST_DAYS = 3;
/** So many where a heading is no more than a number: few could be anything. */
const LEAST_NUMBERS = 5;
/** More days apart than this, and they are no days beside each other. */
const MOST_APART = 7;

const WEEKDAYS = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"];
const WEEKDAY = new RegExp(`^(${WEEKDAYS.join("|")})\\w*[,.]?\\s+`, "i");
const MONTH =
  "(jan(?:uary)?|feb(?:ruary)?|mar(?:ch)?|apr(?:il)?|may|june?|july?|aug(?:ust)?|sept?(?:ember)?|oct(?:ober)?|nov(?:ember)?|dec(?:ember)?)\\.?";
const monthOf = (name: string): number => MONTHS.indexOf(name.slice(0, 3).toLowerCase()) + 1;

/** What is written above days says of them: which year, and which month, where it says one alone. */
interface Above {
  readonly year: number | null;
  readonly month: number | null;
}

const onlyOne = (found: readonly number[]): number | null => (new Set(found).size === 1 ? found[0]! : null);

function aboveOf({ name, rows }: SourceSheet, row: number): Above {
  const texts = [name, ...rows.slice(0, row).flat()].flatMap((cell) =>
    typeof cell === "string" ? [cell] : typeof cell === "number" ? [String(cell)] : [],
  );
  const months = texts.flatMap((text) => [...text.matchAll(new RegExp(`\\b${MONTH}(?![a-z])`, "gi"))]);
  return {
    year: onlyOne(texts.flatMap((text) => [...text.matchAll(/\b(?:19|20)\d\d\b/g)].map(([year]) => Number(year)))),
    month: onlyOne(months.map(([, month]) => monthOf(month!))),
  };
}

/** A day of a month as a heading says it, and the weekday that it says. */
interface Said {
  readonly day: number;
  readonly month: number;
  readonly weekday: number | null;
}

/** A way in which a heading says a day without its year. */
type Way = (bare: string, above: Above) => readonly [day: string, month: number] | null;

const WITHOUT_YEAR: readonly Way[] = [
  (bare) => {
    const [, day, month] = new RegExp(`^(\\d{1,2})[. -]*${MONTH}$`, "i").exec(bare) ?? [];
    return day === undefined ? null : [day, monthOf(month!)];
  },
  (bare) => {
    const [, month, day] = new RegExp(`^${MONTH}[ -]*(\\d{1,2})$`, "i").exec(bare) ?? [];
    return day === undefined ? null : [day, monthOf(month!)];
  },
  (bare) => {
    const [, day, month] = /^(\d{1,2})[./-](\d{1,2})\.?$/.exec(bare) ?? [];
    return day === undefined ? null : [day, Number(month)];
  },
  (bare) => {
    const [, month, day] = /^(\d{1,2})\/(\d{1,2})$/.exec(bare) ?? [];
    return day === undefined ? null : [day, Number(month)];
  },
];
/** The day alone, below its month. */
const DAY_ALONE: Way = (bare, { month }) =>
  month !== null && /^\d{1,2}\.?$/.test(bare) ? [bare.replace(".", ""), month] : null;

function saidIn(cell: Cell | undefined, way: Way, above: Above): Said | null {
  if (typeof cell !== "string" && typeof cell !== "number") return null;
  const text = String(cell).trim();
  const [, weekday] = WEEKDAY.exec(text) ?? [];
  const found = way(text.replace(WEEKDAY, ""), above);
  if (found === null) return null;
  const said = weekday === undefined ? null : WEEKDAYS.indexOf(weekday.toLowerCase());
  return { day: Number(found[0]), month: found[1], weekday: said };
}

const two = (number: number): string => String(number).padStart(2, "0");

/** Days said one way, from a year on that is said above; one that goes back is of the next year. */
function datedIn(row: readonly Cell[], way: Way, above: Above): Map<number, Cell> {
  const found = new Map<number, Cell>();
  let [year, before] = [above.year!, ""];
  for (const [c, cell] of row.entries()) {
    const said = saidIn(cell, way, above);
    if (said === null) continue;
    const rest = `${two(said.month)}-${two(said.day)}`;
    if (before !== "" && `${year}-${rest}` <= before) year += 1;
    const date = `${year}-${rest}`;
    const day = parseDate(date);
    // A weekday that is another one shows that the days are meant otherwise.
    if (day === null || (said.weekday !== null && weekdayOf(day) !== said.weekday)) return new Map();
    found.set(c, { date });
    before = date;
  }
  return found;
}

const dateIn = (cell: Cell): string | null => {
  const read = readCell(cell as Exclude<Cell, null>, "date", { order: "dmy", numbers: null });
  return "value" in read ? (read.value as string) : null;
};

/** The day that a heading says with its year, beyond doubt. */
function dayOf(cell: Cell | undefined): Cell {
  if (cell === null || cell === undefined || typeof cell === "number" || typeof cell === "boolean") return null;
  if (typeof cell === "object") return "date" in cell ? cell : null;
  const bare = cell.trim().replace(WEEKDAY, "");
  return dateIn(bare) === null ? null : bare;
}

/** Whether there are enough days, one after the other. */
function areDays(cells: readonly Cell[], least = LEAST_DAYS): boolean {
  const days = cells.map((cell) => parseDate(dateIn(cell) ?? ""));
  return (
    days.length >= least &&
    days.every((day, i) => {
      const before = days[i - 1];
      return day !== null && (i === 0 || (before != null && day > before && day - before <= MOST_APART));
    })
  );
}

/**
 * The days that stand beside each other in a row of a sheet, by column: with their years, or without, where what stands
 * above them or the name of the sheet says one year. Day and month are read in the order in which they follow each other.
 * @returns nothing where there are no such days
 */
export function daysIn(source: SourceSheet, row: number): ReadonlyMap<number, Cell> | null {
  const cells = source.rows[row]!;
  const whole = new Map(cells.flatMap((cell, c) => (dayOf(cell) === null ? [] : [[c, dayOf(cell)] as const])));
  if (areDays([...whole.values()])) return whole;
  const above = aboveOf(source, row);
  if (above.year === null) return null;
  for (const way of WITHOUT_YEAR) {
    const days = datedIn(cells, way, above);
    if (areDays([...days.values()])) return days;
  }
  const days = datedIn(cells, DAY_ALONE, above);
  return areDays([...days.values()], LEAST_NUMBERS) ? days : null;
}
