import type { ComparisonView } from "@chronometra/contract";
import { countWords, dateWords, driftWords, money } from "../shared/words.ts";

export type ComparedRow = ComparisonView["rows"][number];

export const WHAT_WORDS: Readonly<Record<ComparedRow["what"], string>> = { added: "added", dropped: "dropped", parked: "parked", woken: "woken", changed: "changed" };

/** In which ways a row that stands in both states differs. */
export function differsIn({ what, from, to, startDays, finishDays, logicAdded, logicDropped }: ComparedRow): Set<"dates" | "length" | "budget" | "logic" | "deadline"> {
  const ways = new Set<"dates" | "length" | "budget" | "logic" | "deadline">();
  if (what !== "changed" || from === null || to === null) return ways;
  if ((startDays ?? 0) !== 0 || (finishDays ?? 0) !== 0 || from.startDate !== to.startDate || from.finishDate !== to.finishDate) ways.add("dates");
  if (from.durationMinutes !== to.durationMinutes) ways.add("length");
  if (from.budgetMinor !== to.budgetMinor || from.minutes !== to.minutes) ways.add("budget");
  if (logicAdded.length + logicDropped.length > 0) ways.add("logic");
  if (from.deadline !== to.deadline) ways.add("deadline");
  return ways;
}

/** Whether a row is shown under a filter: how it became what it is, or a way in which it differs. */
export const isShown = (row: ComparedRow, filter: string): boolean => filter === "" || row.what === filter || (filter === "later" ? (row.finishDays ?? 0) > 0 : filter === "earlier" ? (row.finishDays ?? 0) < 0 : (differsIn(row) as Set<string>).has(filter));

const later = (days: number): string => driftWords(days).replace("late", "later").replace("early", "earlier");

/** The comparison in sentences: finish, cost, hours, and what became of the activities. */
export function summaryWords({ finish, budgetMinor, minutes, rows, alike, currency, minorDigits }: ComparisonView): string[] {
  const sentences: string[] = [];
  if (finish.from === null || finish.to === null) sentences.push("One of the two has no dates.");
  else sentences.push(finish.days === 0 || finish.from === finish.to ? `The finish stays at ${dateWords(finish.to)}.` : `The finish moves from ${dateWords(finish.from)} to ${dateWords(finish.to)}, ${later(finish.days!)}.`);
  const more = budgetMinor.to - budgetMinor.from;
  sentences.push(more === 0 ? `The budget stays at ${money(budgetMinor.to, minorDigits)} ${currency}.` : `The budget goes from ${money(budgetMinor.from, minorDigits)} to ${money(budgetMinor.to, minorDigits)} ${currency}, ${money(Math.abs(more), minorDigits)} ${more > 0 ? "more" : "less"}.`);
  const hours = Math.round((minutes.to - minutes.from) / 60);
  if (hours !== 0) sentences.push(`The work is ${Math.abs(hours).toLocaleString()} hours ${hours > 0 ? "more" : "less"}.`);
  const counts = (["added", "dropped", "parked", "woken", "changed"] as const).flatMap((what) => {
    const count = rows.filter((row) => row.what === what).length;
    return count === 0 ? [] : [`${count} ${WHAT_WORDS[what]}`];
  });
  sentences.push(counts.length === 0 ? "No activity differs." : `Of the activities ${counts.join(", ")}; ${countWords(alike, "one stands", "stand").replace(/^1 one/, "one")} alike in both.`);
  return sentences;
}
