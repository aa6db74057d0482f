import { WEEKDAYS } from "../time/weekdays.ts";
import { remembered } from "./derived/remembered.ts";
import type { Calendar } from "./schema.ts";
import type { Problem } from "./problem.ts";
import { HORIZON_DAYS, parseDate, parseTime, workMinutes } from "../time/instant.ts";
import { WorkCalendar, type Shift } from "../time/workCalendar.ts";

/** Calendars by id, each made when first asked for. */
export interface CalendarSet {
  /** The calendar of that id. Throws where there is none: ids are checked before. */
  get(id: string): WorkCalendar;
  has(id: string): boolean;
}

type ShiftText = readonly (readonly [string, string])[];

/** Shifts as minutes, or what is wrong with them. */
export function readShifts(shifts: ShiftText): Shift[] | string {
  const read: Shift[] = [];
  let last = 0;
  for (const [fromText, toText] of shifts) {
    const from = parseTime(fromText)!;
    const to = parseTime(toText)!;
    if (to <= from) return `the shift ${fromText}-${toText} does not end after it begins`;
    if (from < last)
      return `the shift ${fromText}-${toText} begins before the one above it ends; list shifts in order, without overlap`;
    read.push([from, to]);
    last = to;
  }
  return read;
}

interface Resolved {
  /** Monday to Sunday. */
  readonly week: readonly Shift[][];
  readonly exceptions: readonly { from: number; to: number; shifts: Shift[] }[];
}

function ownWeek(calendar: Calendar): Shift[][] {
  return WEEKDAYS.map((day) => readShifts(calendar.week?.[day] ?? []) as Shift[]);
}

function ownExceptions(calendar: Calendar): Resolved["exceptions"] {
  return (calendar.exceptions ?? []).map((exception) => ({
    from: parseDate(exception.from)!,
    to: parseDate(exception.to)!,
    shifts: readShifts(exception.shifts) as Shift[],
  }));
}

/** What a single calendar gets wrong by itself: shifts, date ranges, a missing week. */
function calendarProblems(calendar: Calendar): { field: string; message: string }[] {
  const found: { field: string; message: string }[] = [];
  const name = `calendar "${calendar.name}"`;
  if (calendar.week === undefined && calendar.base === undefined) {
    found.push({ field: "week", message: `${name} has neither a week nor a base calendar; give it one` });
  }
  for (const day of WEEKDAYS) {
    const read = readShifts(calendar.week?.[day] ?? []);
    if (typeof read === "string") found.push({ field: `week.${day}`, message: `${name}: ${read}` });
  }
  (calendar.exceptions ?? []).forEach((exception, i) => {
    const read = readShifts(exception.shifts);
    if (typeof read === "string") found.push({ field: `exceptions[${i}].shifts`, message: `${name}: ${read}` });
    if (exception.to < exception.from) {
      found.push({
        field: `exceptions[${i}].to`,
        message: `${name}: the exception ends on ${exception.to}, before it begins on ${exception.from}`,
      });
    }
  });
  return found;
}

/** The chain from a calendar to its last base, nearest first; a message where it is broken or runs in a loop. */
function baseChain(calendar: Calendar, find: (id: string) => Calendar | undefined): Calendar[] | string {
  const chain = [calendar];
  const seen = new Set([calendar]);
  for (let at = calendar; at.base !== undefined;) {
    const base = find(at.base);
    if (base === undefined) return `calendar "${at.name}" is based on "${at.base}", which does not exist`;
    if (seen.has(base))
      return `the calendars ${chain.map((c) => `"${c.name}"`).join(", ")} are based on each other in a loop`;
    seen.add(base);
    chain.push((at = base));
  }
  return chain;
}

function resolve(chain: readonly Calendar[]): Resolved {
  const weekOwner = chain.find((calendar) => calendar.week !== undefined)!;
  return { week: ownWeek(weekOwner), exceptions: [...chain].reverse().flatMap(ownExceptions) };
}

function build(resolved: Resolved, dayMinutes: number): WorkCalendar {
  // Days alike share one pattern: a calendar of a thousand holidays has a handful.
  const patterns: Shift[][] = [];
  const known = new Map<string, number>();
  const patternFor = (shifts: Shift[]): number => {
    const key = shifts.join(";");
    const found = known.get(key) ?? patterns.push(shifts) - 1;
    known.set(key, found);
    return found;
  };
  const week = resolved.week.map(patternFor);
  const patternOf = new Uint16Array(HORIZON_DAYS);
  for (let day = 0; day < HORIZON_DAYS; day++) patternOf[day] = week[day % 7]!;
  for (const exception of resolved.exceptions)
    patternOf.fill(patternFor(exception.shifts), exception.from, exception.to + 1);
  return new WorkCalendar(patterns, patternOf, workMinutes(dayMinutes));
}

/** Whether anything is worked, told without laying out the horizon where the week settles it. */
function worksEver(resolved: Resolved): boolean {
  const all = [...resolved.week, ...resolved.exceptions.map((exception) => exception.shifts)];
  if (all.every((shifts) => shifts.length === 0)) return false;
  const closedDays = resolved.exceptions.reduce((sum, exception) => sum + exception.to - exception.from + 1, 0);
  const weekWorks = resolved.week.some((shifts) => shifts.length > 0);
  return (weekWorks && closedDays < HORIZON_DAYS - 7) || build(resolved, 1).total > 0;
}

/**
 * Calendars made ready before, by the calendar itself. A plan is a value: a calendar that was not changed is the same
 * object in the next plan, and laying out a century of days again for each change costs more than all the rest of it.
 */
const made = new WeakMap<Calendar, { readonly chain: readonly Calendar[]; readonly compiled: WorkCalendar }>();

/**
 * Calendars by what they say, as long as any plan uses them: most projects have the same, and a century of days is a
 * megabyte.
 */
const alike = new Map<string, WeakRef<WorkCalendar>>();
const forgotten = new FinalizationRegistry<string>((text) => {
  if (alike.get(text)?.deref() === undefined) alike.delete(text);
});

function compiledAlike(resolved: Resolved, dayMinutes: number): WorkCalendar {
  const text = JSON.stringify([dayMinutes, resolved]);
  const known = alike.get(text)?.deref();
  if (known !== undefined) return known;
  const compiled = build(resolved, dayMinutes);
  alike.set(text, new WeakRef(compiled));
  forgotten.register(compiled, text);
  return compiled;
}

function compiledOf(chain: readonly Calendar[]): WorkCalendar {
  const calendar = chain[0]!;
  const known = made.get(calendar);
  if (known !== undefined && known.chain.length === chain.length && known.chain.every((each, i) => each === chain[i]))
    return known.compiled;
  const compiled = compiledAlike(resolve(chain), calendar.dayMinutes ?? 480);
  made.set(calendar, { chain, compiled });
  return compiled;
}

/** Calendars ready to compute with, and every problem found in them. */
interface CompiledCalendars {
  readonly set: CalendarSet;
  readonly problems: readonly Problem[];
}

const NO_CALENDARS: readonly Calendar[] = [];

/**
 * Checks calendars and makes them ready to compute with (calculations.md section 1).
 * @param calendars those to check and offer
 * @param fallback where bases and ids that are not among `calendars` are sought next
 * @returns the set, and every problem found, named by calendar and field; with problems the set must not be used
 */
export const compileCalendars = (
  calendars: readonly Calendar[] = NO_CALENDARS,
  fallback: readonly Calendar[] = NO_CALENDARS,
): CompiledCalendars => compiledWith(calendars)(fallback);

const compiledWith = remembered((calendars: readonly Calendar[]) =>
  remembered((fallback: readonly Calendar[]) => compileAnew(calendars, fallback)),
);

function compileAnew(calendars: readonly Calendar[], fallback: readonly Calendar[]): CompiledCalendars {
  const byId = new Map<string, Calendar>();
  for (const calendar of fallback) byId.set(calendar.id, calendar);
  for (const calendar of calendars) byId.set(calendar.id, calendar);
  const problems: Problem[] = [];
  for (const calendar of calendars) {
    const own = calendarProblems(calendar);
    const chain = baseChain(calendar, (id) => byId.get(id));
    if (typeof chain === "string") own.push({ field: "base", message: chain });
    else if (chain.every((c) => calendarProblems(c).length === 0) && !worksEver(resolve(chain))) {
      own.push({
        field: "",
        message: `calendar "${calendar.name}" never works between 1990 and 2099; give it a shift`,
      });
    }
    for (const problem of own) problems.push({ table: "calendars", row: calendar.id, ...problem });
  }
  const ready = new Map<string, WorkCalendar>();
  const set: CalendarSet = {
    has: (id) => byId.has(id),
    get(id) {
      const known = ready.get(id);
      if (known !== undefined) return known;
      const calendar = byId.get(id);
      if (calendar === undefined) throw new Error(`unknown calendar ${id}`);
      const chain = baseChain(calendar, (base) => byId.get(base));
      if (typeof chain === "string") throw new Error(chain);
      const compiled = compiledOf(chain);
      ready.set(id, compiled);
      return compiled;
    },
  };
  return { set, problems };
}
