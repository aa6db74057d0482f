import type { ComparisonView } from "@chronometra/contract";
import { formatTime, openOf, parseDate } from "@chronometra/core";
import {
  countWords,
  dateWords,
  driftTone,
  fromToWords,
  money,
  movedWords,
  numberWords,
} from "../../shared/words/words.ts";

export type ComparedRow = ComparisonView["rows"][number];

export const WHAT_WORDS: Readonly<Record<ComparedRow["what"], string>> = {
  added: "added",
  dropped: "dropped",
  parked: "parked",
  woken: "woken",
  changed: "changed",
};

/** In which ways a row that stands in both states differs. */
export function differsIn({
  what,
  from,
  to,
  startDays,
  finishDays,
  logicAdded,
  logicDropped,
}: ComparedRow): Set<"dates" | "duration" | "budget" | "logic" | "deadline"> {
  const ways = new Set<"dates" | "duration" | "budget" | "logic" | "deadline">();
  if (what !== "changed" || from === null || to === null) return ways;
  if (
    (startDays ?? 0) !== 0 ||
    (finishDays ?? 0) !== 0 ||
    from.startDate !== to.startDate ||
    from.finishDate !== to.finishDate
  )
    ways.add("dates");
  if (from.durationMinutes !== to.durationMinutes) ways.add("duration");
  if (from.budgetMinor !== to.budgetMinor || from.minutes !== to.minutes) ways.add("budget");
  if (logicAdded.length + logicDropped.length > 0) ways.add("logic");
  if (from.deadline !== to.deadline) ways.add("deadline");
  return ways;
}

/** Whether a row is shown under a filter: how it became what it is, or a way in which it differs. */
export const isShown = (row: ComparedRow, filter: string): boolean =>
  filter === "" ||
  row.what === filter ||
  (filter === "later"
    ? (row.finishDays ?? 0) > 0
    : filter === "earlier"
      ? (row.finishDays ?? 0) < 0
      : (differsIn(row) as Set<string>).has(filter));

const later = (days: number): string => movedWords(days);

/** A row's two finishes: one date where they are the same, with the times of day where it moved within it. */
export function finishWords({ from, to, finishDays }: ComparedRow): string {
  const [was, will] = [from?.finishDate ?? null, to?.finishDate ?? null];
  if (was !== will) return `${dateWords(was)} → ${dateWords(will)}`;
  if (was === null || (finishDays ?? 0) === 0) return dateWords(was);
  const clock = (at: number | null): string => formatTime(at! - openOf(parseDate(was)!));
  return fromToWords({ from: was, to: will, clock: { from: clock(from!.finish), to: clock(to!.finish) } });
}

/** What the difference of two budgets is made of, each with its amount in minor units; together they are all of it. */
export function budgetParts(rows: readonly ComparedRow[]): { words: string; minor: number; count: number }[] {
  const budgetOf = (state: ComparedRow["from"]): number => (state === null || state.parked ? 0 : state.budgetMinor);
  const partOf = ({ what, from, to }: ComparedRow): string => {
    if (what === "added" || what === "woken") return `${WHAT_WORDS[what]} work`;
    if (what === "dropped") return "work that has left the plan";
    if (what === "parked") return "parked work, which counts in no BAC";
    return from!.minutes === to!.minutes
      ? "work whose hours are the same, by other rates or costs"
      : "other hours and costs";
  };
  const parts = new Map<string, { words: string; minor: number; count: number }>();
  for (const row of rows) {
    const minor = budgetOf(row.to) - budgetOf(row.from);
    if (minor === 0) continue;
    const words = partOf(row);
    const part = parts.get(words) ?? { words, minor: 0, count: 0 };
    parts.set(words, { words, minor: part.minor + minor, count: part.count + 1 });
  }
  return [...parts.values()];
}

/** The comparison in sentences: finish, cost, hours, and what became of the activities. */
export function summaryWords({
  finish,
  budgetMinor,
  minutes,
  rows,
  alike,
  currency,
  minorDigits,
}: ComparisonView): string[] {
  const sentences: string[] = [];
  if (finish.from === null || finish.to === null) sentences.push("One of the two has no dates.");
  else
    sentences.push(
      finish.from === finish.to
        ? driftTone(finish.days) === "plain"
          ? `The finish stays at ${dateWords(finish.to)}.`
          : `The finish moves within ${dateWords(finish.to)}, ${later(finish.days!)}.`
        : `The finish moves from ${dateWords(finish.from)} to ${dateWords(finish.to)}, ${later(finish.days!)}.`,
    );
  const more = budgetMinor.to - budgetMinor.from;
  const parts = budgetParts(rows).map(
    ({ words, minor, count }) =>
      `${money(Math.abs(minor), minorDigits)} ${minor > 0 ? "more" : "less"} by ${words} (${countWords(count, "activity", "activities")})`,
  );
  sentences.push(
    more === 0
      ? `The planned cost stays at ${money(budgetMinor.to, minorDigits)} ${currency}.`
      : `The planned cost goes from ${money(budgetMinor.from, minorDigits)} to ${money(budgetMinor.to, minorDigits)} ${currency}, ${money(Math.abs(more), minorDigits)} ${more > 0 ? "more" : "less"}.`,
  );
  if (parts.length > 0) sentences.push(`${more === 0 ? "In it" : "Of that"} ${parts.join(", ")}.`);
  const hours = Math.round((minutes.to - minutes.from) / 60);
  if (hours !== 0) sentences.push(`The work is ${numberWords(Math.abs(hours))} hours ${hours > 0 ? "more" : "less"}.`);
  const counts = (["added", "dropped", "parked", "woken", "changed"] as const).flatMap((what) => {
    const count = rows.filter((row) => row.what === what).length;
    return count === 0 ? [] : [`${count} ${WHAT_WORDS[what]}`];
  });
  sentences.push(
    counts.length === 0
      ? "No activity differs."
      : `Of the activities ${counts.join(", ")}; ${countWords(alike, "one stands", "stand").replace(/^1 one/, "one")} alike in both.`,
  );
  return sentences;
}
