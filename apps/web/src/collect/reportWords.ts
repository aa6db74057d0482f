import type { QueuedReport, Report } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { dateWords } from "../shared/words/words.ts";

/** What a report says: "3.5 h, at “Painted”, 60% done, 12 h remaining", "away until 5 Mar 2026". */
export function reportWords({
  minutes,
  percent,
  remainingMinutes,
  stage,
  leaveUntil,
}: Pick<Report, "minutes" | "percent" | "remainingMinutes" | "stage" | "leaveUntil">): string {
  if (leaveUntil !== null) return `away until ${dateWords(leaveUntil)}`;
  const time = minutes === null ? "" : minutes < 0 ? `${formatHours(-minutes)} taken back` : formatHours(minutes);
  const parts = [
    time,
    stage === null ? "" : `at “${stage}”`,
    percent === null ? "" : `${percent}% done`,
    remainingMinutes === null ? "" : `${formatHours(remainingMinutes)} remaining`,
  ];
  return parts.filter((part) => part !== "").join(", ");
}

type Remark = QueuedReport["remarks"][number];
const OLDER = { percent: "another percent", remaining: "what remains", stage: "another stage" } as const;

/** A remark on a report in words. */
export function remarkWords(remark: Remark): string {
  switch (remark.kind) {
    case "parked":
      return "parked work takes no time; wake it first, or return this";
    case "gone":
      return "its activity is not in the plan any more";
    case "finished":
      return `finished on ${dateWords(remark.on)}; later work moves that finish`;
    case "unbaselined":
      return `not in baseline ${remark.baseline}: it costs and earns nothing against the approved plan`;
    case "outOfSequence":
      return `comes after “${remark.after}”, which is not done`;
    case "percentFell":
      return `went back from ${remark.from}%`;
    case "leftRose":
      return `remaining hours rise from ${formatHours(remark.fromMinutes)}`;
    case "notAssigned":
      return "not assigned to this activity any more";
    case "late":
      return `late: closed up to ${dateWords(remark.closedTo)}, so it lands on the day after`;
    case "adjusts":
      return remark.backMinutes > 0
        ? `takes hours back that were accepted: ${formatHours(remark.backMinutes)} remain to be done again`
        : "takes hours back that were accepted; what remains stays as it is";
    case "reopens":
      return remark.leftMinutes > 0
        ? `takes finished work up again: ${formatHours(remark.leftMinutes)} remain for its people`
        : "takes finished work up again; no hours remain for its people";
    case "stageFell":
      return `went back from “${remark.from}”`;
    case "stageGone":
      return `there is no stage “${remark.stage}” any more; where it stands stays as it is`;
    case "older":
      return `${OLDER[remark.what]} was accepted of a later day, and stands`;
    default:
      return remark satisfies never;
  }
}
