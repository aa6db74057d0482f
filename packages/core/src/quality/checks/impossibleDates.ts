import { actualFinishAt, actualStartAt } from "../../plan/check/checkActivity.ts";
import { finishDayOf, parseDate, startDayOf, type EpochDay } from "../../time/instant.ts";
import { offence, share, type Check, type MendPlace, type Offence } from "../ground/check.ts";
import type { Placed } from "../ground/ground.ts";
import { dateWords } from "../../words/dateWords.ts";

/** What cannot be about an activity's dates at a data date, in words, and where it stands; `null` where all can. */
function impossible({ activity, row, isOpen }: Placed, dataDay: EpochDay): { words: string; mend: MendPlace } | null {
  const { actualStart, actualFinish, wish } = activity;
  if (actualStart !== undefined && startDayOf(actualStartAt(actualStart)) > dataDay)
    return { words: `begun on ${dateWords(actualStart)}, after the data date`, mend: "began" };
  if (actualFinish !== undefined && finishDayOf(actualFinishAt(actualFinish)) > dataDay)
    return { words: `finished on ${dateWords(actualFinish)}, after the data date`, mend: "ended" };
  if (wish === undefined || parseDate(wish.date)! >= dataDay) return null;
  if (wish.type.startsWith("start") ? row.state === "notStarted" : isOpen)
    return {
      words: `${wish.type.startsWith("start") ? "start" : "finish"} wished for ${dateWords(wish.date)}, before the data date`,
      mend: "wish",
    };
  return null;
}

/** Check 9 (DCMA 14-point assessment, "Invalid dates"). */
export const impossibleDates: Check = {
  number: 9,
  name: "Impossible dates",
  counts:
    "Activities with actual dates after the data date, or that wish for a start or finish before it which has not come about.",
  why: "What has happened cannot lie ahead, and what lies ahead cannot be wished into the past: such dates were not looked at.",
  rule: "atMost",
  limit: 0,
  mend: "ended",
  measure: ({ scheduled, dataDay }) => {
    const offences: Offence[] = [];
    for (const placed of dataDay === null ? [] : scheduled) {
      const fault = impossible(placed, dataDay!);
      if (fault !== null) offences.push(offence(placed.at, fault, ({ words }) => words, fault.mend));
    }
    return share(offences, scheduled.length);
  },
};
