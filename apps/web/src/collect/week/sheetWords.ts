import type { PeopleWeek } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { momentWords } from "../../shared/words/words.ts";

type Line = PeopleWeek["people"][number];

/** Whether someone who was to work has neither sent the week nor booked anything in it. */
export const isMissing = ({ sheet, expectedMinutes, plannedMinutes, postedMinutes, waitingMinutes }: Line): boolean =>
  expectedMinutes > 0 &&
  plannedMinutes > 0 &&
  (sheet === null || sheet.state === "returned") &&
  (postedMinutes + waitingMinutes === 0 || sheet?.state === "returned");

/** How someone's week stands, in words. */
export function sheetWords(line: Line): string {
  const { sheet, expectedMinutes, postedMinutes, waitingMinutes } = line;
  if (sheet?.state === "approved") return `approved by ${sheet.decidedBy}`;
  if (sheet?.state === "returned") return `returned: “${sheet.word ?? ""}”`;
  if (sheet?.state === "sent")
    return sheet.changedAt === null
      ? "sent, waits to be approved"
      : `sent, changed since on ${momentWords(sheet.changedAt)}`;
  if (postedMinutes + waitingMinutes > 0) return "booked, not sent";
  return isMissing(line) ? "missing" : expectedMinutes === 0 ? "away" : "nothing planned";
}

/** Booked against planned: "2 h over", "3.5 h under", "as planned". */
export function overUnderWords({
  plannedMinutes,
  postedMinutes,
  waitingMinutes,
}: Pick<Line, "plannedMinutes" | "postedMinutes" | "waitingMinutes">): string {
  const over = postedMinutes + waitingMinutes - plannedMinutes;
  return over === 0 ? "as planned" : `${formatHours(Math.abs(over))} ${over > 0 ? "over" : "under"}`;
}
