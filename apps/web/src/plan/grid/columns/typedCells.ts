import { CallNames, couldBe, linkNames, parseDuration, wishText, workNames, type Change } from "@chronometra/core";
import { NOT_A_DATE, readDate } from "../../../shared/words/words.ts";
import { lengthFault } from "../../../shared/words/lengthFault.ts";
import type { Typed } from "../../engine/planEngine.ts";
import type { Named, SheetRow } from "../../engine/sheet.ts";
import type { Reading } from "../../engine/sheetColumn.ts";
import { readWish } from "../../engine/wishWords.ts";

/** Lets a cell be typed into where its row is of these kinds. */
export const only =
  (kinds: readonly SheetRow["kind"][], words: string) =>
  (row: SheetRow): string | null =>
    row.parked ? "It is parked: wake it first." : kinds.includes(row.kind) ? null : words;

const unchanged: Typed = { changes: [] };

/** A length, as it is typed: `3 d`, `2w`, `4h`. */
export function readLength(text: string, row: SheetRow): Typed {
  if (text.trim() === "") return { changes: [{ type: "setDuration", activity: row.id, minutes: null }] };
  const minutes = parseDuration(text, row.dayMinutes, "days");
  if (minutes === null) return { fault: lengthFault(text, "Write a duration as 3d, 2.5d, 4h, 2w or 2d4h.") };
  if (minutes === 0) return { fault: "Work takes time; make it a milestone instead." };
  return minutes === row.durationMinutes
    ? unchanged
    : { changes: [{ type: "setDuration", activity: row.id, minutes }] };
}

/** What is done, in percent. */
export function readPercent(text: string, row: SheetRow): Typed {
  if (text.trim() === "")
    return row.percent === null
      ? unchanged
      : { changes: [{ type: "reportProgress", activity: row.id, percent: null }] };
  const percent = Number(text.replace("%", "").replace(",", ".").trim());
  if (!Number.isFinite(percent) || percent < 0 || percent > 100) return { fault: "Percent lies between 0 and 100." };
  return percent === row.percent ? unchanged : { changes: [{ type: "reportProgress", activity: row.id, percent }] };
}

/** What is left to do, as a length. */
export function readLeft(text: string, row: SheetRow): Typed {
  if (text.trim() === "")
    return row.remainingMinutes === null
      ? unchanged
      : { changes: [{ type: "reportProgress", activity: row.id, remainingMinutes: null }] };
  const minutes = parseDuration(text, row.dayMinutes, "days");
  if (minutes === null) return { fault: lengthFault(text, "Write what remains as 3d, 2.5d, 4h or 2d4h.") };
  return minutes === row.remainingMinutes
    ? unchanged
    : { changes: [{ type: "reportProgress", activity: row.id, remainingMinutes: minutes }] };
}

/** A name; empty, it is refused. */
export function readName(text: string, row: SheetRow): Typed {
  const name = text.trim();
  if (name === "") return { fault: "An activity needs a name." };
  return name === row.name ? unchanged : { changes: [{ type: "setName", activity: row.id, name }] };
}

/** The change that a date makes of a row. */
export type DateChange = (row: SheetRow, date: string | null) => Change;

/** A day, as it is typed, or nothing. */
export const readDay =
  (current: (row: SheetRow) => string | null, change: DateChange) =>
  (text: string, row: SheetRow, { today }: Reading): Typed => {
    const date = text.trim() === "" ? null : readDate(text, today.slice(0, 4));
    if (date === null && text.trim() !== "") return { fault: NOT_A_DATE };
    return date === current(row) ? unchanged : { changes: [change(row, date)] };
  };

/** The one that a text names, whole or by a beginning that only one has. */
function findNamed(
  text: string,
  among: readonly Named[],
  what: string,
): { readonly id: string } | { readonly fault: string } {
  const found = new CallNames(among).find(text);
  if ("id" in found) return found;
  return { fault: found.among.length === 0 ? `There is no ${what} “${text.trim()}”.` : couldBe(text, found.among) };
}

/** Kept while rows stay the same, since they are asked for at each sign that is typed. */
const callsOf = new WeakMap<readonly SheetRow[], CallNames>();

/** What may be typed as a predecessor of an activity. */
export function linkOffers(rows: readonly SheetRow[], activity: string): string[] {
  const known = callsOf.get(rows);
  const names = known ?? linkNames(rows);
  if (known === undefined) callsOf.set(rows, names);
  return rows.flatMap(({ id, kind }) => (kind === "summary" || id === activity ? [] : [names.of(id)]));
}

/** Who may be typed as working on it. */
export function workOffers(people: readonly Named[]): string[] {
  const names = workNames(people);
  return people.map(({ id }) => names.of(id));
}

/** The id of what is named, among people, calendars or others that the plan has. */
export const readNamed =
  (field: "owner" | "calendar", what: string, among: (reading: Reading) => readonly Named[]) =>
  (text: string, row: SheetRow, reading: Reading): Typed => {
    const found = text.trim() === "" ? { id: null } : findNamed(text, among(reading), what);
    if ("fault" in found) return found;
    return found.id === row[field]
      ? unchanged
      : { changes: [{ type: "setWorking", activity: row.id, [field]: found.id } as Change] };
  };

/** A date wish: its kind and its day. */
export function readWishCell(text: string, row: SheetRow, { today }: Reading): Typed {
  if (text.trim() === wishText(row.wish)) return unchanged;
  const wish = readWish(text, today.slice(0, 4));
  return wish !== null && "fault" in wish ? wish : { changes: [{ type: "setWish", activity: row.id, wish }] };
}

/** What decides when work is done: its length or its people's hours. */
export function readDriven(text: string, row: SheetRow): Typed {
  const plain = text.trim().toLowerCase();
  const found =
    plain === ""
      ? "length"
      : ((Object.keys(DRIVEN) as (keyof typeof DRIVEN)[]).find((key) => DRIVEN[key].startsWith(plain)) ??
        (plain.includes("drift") ? "lengthDrifting" : undefined));
  if (found === undefined)
    return { fault: "Its dates follow its “duration”, its “duration, may drift”, or the “hours” of its people." };
  if (found === row.drivenBy) return unchanged;
  return {
    changes: [
      {
        type: "setWorking",
        activity: row.id,
        driver: found === "hours" ? "effort" : null,
        windowPolicy: found === "lengthDrifting" ? "drift" : null,
      },
    ],
  };
}

/** What decides when work is done, in words. */
export const DRIVEN = { length: "duration", lengthDrifting: "duration, may drift", hours: "hours" } as const;
