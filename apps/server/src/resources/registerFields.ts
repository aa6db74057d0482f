import { dateWords } from "@chronometra/core";
import type { NotedField } from "../shared/noted/noteHouse.ts";
import type { Row } from "./registerRows.ts";

const LABELS: Readonly<Record<string, string>> = {
  name: "name",
  role: "role",
  calendar: "calendar",
  base: "builds on",
  week: "working week",
  exceptions: "days off and other days",
  members: "members",
  rates: "rates",
  place: "public holidays of",
};

const DAYS = { mon: "Mon", tue: "Tue", wed: "Wed", thu: "Thu", fri: "Fri", sat: "Sat", sun: "Sun" } as const;
type Shifts = readonly (readonly [string, string])[];

const shiftWords = (shifts: Shifts): string =>
  shifts.length === 0 ? "off" : shifts.map(([from, to]) => `${from}–${to}`).join(" ");

const weekWords = (week: Partial<Record<keyof typeof DAYS, Shifts>>): string =>
  Object.entries(DAYS)
    .flatMap(([day, name]) => {
      const shifts = week[day as keyof typeof DAYS];
      return shifts === undefined ? [] : [`${name} ${shiftWords(shifts)}`];
    })
    .join(", ");

const exceptionWords = (all: readonly { from: string; to: string; shifts: Shifts }[]): string =>
  all
    .map(({ from, to, shifts }) => {
      const days = from === to ? dateWords(from) : `${dateWords(from)} to ${dateWords(to)}`;
      return `${days} ${shiftWords(shifts)}`;
    })
    .join(", ");

/** Amounts are for those alone who may know them: it is told since when there are rates, and that one is another. */
const rateWords = (rates: readonly { from: string }[]): string =>
  rates.map(({ from }) => `since ${dateWords(from)}`).join(", ");

function wordsOf(key: string, value: unknown): string {
  if (value === null || value === undefined) return "";
  if (key === "week") return weekWords(value as never);
  if (key === "exceptions") return exceptionWords(value as never);
  if (key === "rates") return rateWords(value as never);
  if (Array.isArray(value)) return value.map(String).join(", ");
  return typeof value === "object" ? "" : String(value);
}

/** A row of the register as it is noted. */
export const registerFields = (row: Row): NotedField[] =>
  Object.entries(row).flatMap(([key, value]) =>
    key === "id" ? [] : [{ field: LABELS[key] ?? "other details", words: wordsOf(key, value), value }],
  );
