import { actualFinishAt, actualStartAt } from "../../plan/check/checkActivity.ts";
import { finishDayOf, parseDate, startDayOf, type EpochDay } from "../../time/instant.ts";
import { offence, offending, share, type Check, type MendPlace } from "../ground/check.ts";
import { NONE } from "../../network/laid/network.ts";
import type { Ground, Placed } from "../ground/ground.ts";
import { dateWords } from "../../words/dateWords.ts";

interface Fault {
  readonly at: number;
  readonly words: string;
  readonly mend: MendPlace;
}

/** What cannot be about an activity's dates at a data date, in words, and where it stands; `null` where all can. */
function impossible({ activity, row, isOpen }: Placed, dataDay: EpochDay): Omit<Fault, "at"> | null {
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

/** What has begun or ended after the data date or has a date wish: the columns tell sooner than the activities. */
function doubtful({ scheduled, close, schedule: { network } }: Ground): Placed[] {
  const { actualStart, actualFinish, startNotBefore, startNotAfter, finishNotBefore, finishNotAfter } = network;
  return scheduled.filter(({ at }) => {
    const node = network.nodeOf[at]!;
    return (
      actualStart[node]! >= close! ||
      actualFinish[node]! > close! ||
      startNotBefore[node] !== NONE ||
      startNotAfter[node] !== NONE ||
      finishNotBefore[node] !== NONE ||
      finishNotAfter[node] !== NONE
    );
  });
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
  measure: (ground) => {
    const { scheduled, dataDay } = ground;
    const faults: Fault[] = [];
    for (const placed of dataDay === null ? [] : doubtful(ground)) {
      const fault = impossible(placed, dataDay!);
      if (fault !== null) faults.push({ at: placed.at, ...fault });
    }
    return share(
      offending(faults, (fault) => offence(fault.at, fault, ({ words }) => words, fault.mend)),
      scheduled.length,
    );
  },
};
