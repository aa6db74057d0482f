import { formatDuration, type LinkedTo, type Reason } from "@chronometra/core";
import { dateWords } from "../../shared/words/words.ts";

const ELAPSED_DAY = 1440;

/** ", + 2 d, in the Yard week" or ", + 48 h by the clock"; nothing without a lag. */
function lagWords({ lagMinutes, elapsed, calendar, dayMinutes }: LinkedTo): string {
  if (lagMinutes === 0) return "";
  const length = `${lagMinutes < 0 ? "−" : "+"} ${formatDuration(Math.abs(lagMinutes), elapsed ? ELAPSED_DAY : dayMinutes)}`;
  return `, ${length}${elapsed ? " by the clock" : `, in the calendar ${calendar}`}`;
}

/** What a link into an activity asks of it: "after Dig, which finishes 6 Mar 2026, + 2 d, in the calendar Standard". */
export function linkWords(link: LinkedTo): string {
  const on = dateWords(link.on);
  const says = {
    FS: `after ${link.name}, which finishes ${on}`,
    SS: `not before ${link.name} starts, ${on}`,
    FF: `to finish no earlier than ${link.name}, ${on}`,
    SF: `to finish no earlier than ${link.name} starts, ${on}`,
  }[link.type];
  return `${says}${lagWords(link)}`;
}

/** What a link out of an activity does to the one it leads to. */
export function holdWords(link: LinkedTo): string {
  const does = {
    FS: "starts after it",
    SS: "starts no earlier than it does",
    FF: "finishes no earlier than it does",
    SF: "finishes no earlier than it starts",
  }[link.type];
  return `${link.name} ${does}${lagWords(link)}`;
}

const WISH_WORDS = {
  startNotBefore: "wished not to start before",
  startOn: "wished to start on",
  finishNotBefore: "wished not to finish before",
  finishOn: "wished to finish on",
  startNotAfter: "wished not to start after",
  finishNotAfter: "wished not to finish after",
} as const;

/** One reason in words. */
export function reasonWords(reason: Reason): string {
  switch (reason.kind) {
    case "projectStart":
      return `the project starts ${dateWords(reason.date)}`;
    case "dataDate":
      return `what remains lies after the data date, ${dateWords(reason.date)}`;
    case "nothingLeft":
      return `nothing of it remains and it was not reported finished: it counts as finishing by the data date, ${dateWords(reason.date)}`;
    case "wish":
      return `${WISH_WORDS[reason.type]} ${dateWords(reason.date)}${reason.reason === null ? "" : `: “${reason.reason}”`}`;
    case "actual":
      return `it happened on ${dateWords(reason.date)}`;
    case "link":
      return linkWords(reason);
    default:
      return reason satisfies never;
  }
}
