import type { DriftLedgerView } from "@chronometra/contract";
import { driftWords } from "../shared/words.ts";

type Cause = DriftLedgerView["causes"][number];

export const GROUP_WORDS: Readonly<Record<Cause["group"], string>> = { progress: "progress and late starts", work: "length and work left", logic: "logic", calendars: "calendars and leave", wishes: "dates wished", scope: "added, taken out or parked" };

/** What a cause did, as a sentence: "Pour takes longer: 2 d later". */
export function causeWords({ group, kind, name, days }: Cause): string {
  const moved = driftWords(days).replace("late", "later").replace("early", "earlier");
  if (kind === "project") return `${name.charAt(0).toUpperCase()}${name.slice(1)}: ${moved}`;
  const what: Record<Cause["group"], string> = {
    progress: "progress of",
    work: days > 0 ? "more to do in" : "less to do in",
    logic: "other logic before",
    calendars: kind === "person" ? "leave or calendar of" : kind === "calendar" ? "the calendar" : "another calendar for",
    wishes: "another date wish for",
    scope: "added, taken out or parked:",
  };
  const words = `${what[group]} ${name}`;
  return `${words.charAt(0).toUpperCase()}${words.slice(1)}: ${moved}`;
}

export interface Bar {
  readonly cause: Cause;
  /** Where the date stood before and after this cause, in days from where it began. */
  readonly from: number;
  readonly to: number;
}

/** The causes as a bridge: each begins where the one before it ends. */
export function bridgeOf(causes: readonly Cause[]): { readonly bars: readonly Bar[]; readonly least: number; readonly most: number } {
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
