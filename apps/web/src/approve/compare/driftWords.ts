import type { DriftLedgerView } from "@chronometra/contract";
import { dateWords, dayWords, movedWords } from "../../shared/words/words.ts";

type Cause = DriftLedgerView["causes"][number];

export const GROUP_WORDS: Readonly<Record<Cause["group"], string>> = {
  progress: "what came instead",
  work: "duration and remaining work",
  logic: "logic",
  calendars: "calendars and leave",
  wishes: "dates wished",
  scope: "added, removed or parked",
  settings: "the project's settings",
};

const DAY_FRACTION = 0.05;

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

const moved = (count: number): string => movedWords(count);

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

/** What a cause would have moved by itself, where that is not what it moved. */
export const aloneWords = ({ days: count, alone }: Pick<Cause, "days" | "alone">): string | null =>
  alone === null || Math.abs(alone - count) < DAY_FRACTION
    ? null
    : Math.abs(alone) < DAY_FRACTION
      ? "by itself nothing"
      : `by itself ${moved(alone)}`;

export interface Bar {
  readonly cause: Cause;
  /** Where the date stood before and after this cause, in days from where it began. */
  readonly from: number;
  readonly to: number;
}

/** The causes as a bridge: each begins where the one before it ends. */
export function bridgeOf(causes: readonly Cause[]): {
  readonly bars: readonly Bar[];
  readonly least: number;
  readonly most: number;
} {
  let at = 0;
  let [least, most] = [0, 0];
  const bars = causes.map((cause): Bar => {
    const from = at;
    at += cause.days;
    least = Math.min(least, at);
    most = Math.max(most, at);
    return { cause, from, to: at };
  });
  return { bars, least, most };
}
