import { dateWords } from "../words/dateWords.ts";
import { dayWords } from "../words/numberWords.ts";
import type { DriftLedger } from "./driftLedger.ts";

type Cause = DriftLedger["causes"][number];

/** Where causes of a drift come from. */
export const GROUP_WORDS: Readonly<Record<Cause["group"], string>> = {
  progress: "what came instead",
  work: "duration and remaining work",
  logic: "logic",
  calendars: "calendars and leave",
  wishes: "dates wished",
  scope: "added, removed or parked",
  settings: "the project's settings",
};

/** What was expected of an activity by the data date and what came: "was to finish 12 Nov; 8 d left". */
export function progressWords(expected: NonNullable<Cause["expected"]>, came: NonNullable<Cause["came"]>): string {
  const now =
    came.what === "finished"
      ? `finished ${dateWords(came.finish)}`
      : came.what === "notBegun"
        ? "not begun"
        : `${dayWords(came.leftDays)} remaining`;
  switch (expected.what) {
    case "finished":
      return `was to finish ${dateWords(expected.finish)}; ${now}`;
    case "underWay":
      if (came.what === "finished") return `was to finish ${dateWords(expected.finish)}; ${now}`;
      return came.what === "notBegun"
        ? `was to begin ${dateWords(expected.start)}; not begun`
        : `was to have ${dayWords(expected.leftDays)} remaining; ${now}`;
    case "notBegun":
      return `was to begin ${dateWords(expected.start)}; ${came.what === "underWay" ? `begun ${dateWords(came.start)}, ${now}` : now}`;
  }
}

/** What a cause was: "Pour: was to finish 12 Nov; 8 d left". */
export function causeWords({
  group,
  kind,
  name,
  days: count,
  expected,
  came,
  reason,
}: Omit<Cause, "id" | "alone">): string {
  const capital = (words: string): string => `${words.charAt(0).toUpperCase()}${words.slice(1)}`;
  if (kind === "project") return capital(name);
  if (expected !== null && came !== null) return `${name}: ${progressWords(expected, came)}`;
  const what: Record<Cause["group"], string> = {
    progress: "progress of",
    work: count > 0 ? "more to do in" : count < 0 ? "less to do in" : "other work in",
    logic: "other logic before",
    calendars:
      kind === "person" ? "leave or calendar of" : kind === "calendar" ? "the calendar" : "another calendar for",
    wishes: "another date wish for",
    scope: "added, removed or parked:",
    settings: "another setting of",
  };
  return `${capital(`${what[group]} ${name}`)}${reason === null || reason === "" ? "" : `: ${reason}`}`;
}
