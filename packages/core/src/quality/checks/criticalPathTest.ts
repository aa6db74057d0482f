import { copyOf } from "../../time/columns.ts";
import { forwardAgain } from "../../network/forwardAgain.ts";
import { copiedDates, NodeOutsideHorizon } from "../../network/forwardPass.ts";
import { FIXED, type Network } from "../../network/laid/network.ts";
import type { PlanBundle } from "../../plan/schema.ts";
import { type LocalMinute, workMinutes } from "../../time/instant.ts";
import { offences, uncounted, type Check } from "../ground/check.ts";
import { inDays, type Ground, type Placed } from "../ground/ground.ts";

/** Days by which the tested activity is made longer (DCMA 14-point assessment). */
export const ADDED_DAYS = 600;
/** Days by which the finish may move less or more. */
export const TOLERANCE_DAYS = 5;

/** The test run for real: what was made longer, and how far the project's finish moved, in minutes of its calendar. */
export interface PathTest {
  readonly tested: Placed;
  readonly addedMinutes: number;
  readonly movedMinutes: number;
  /** The project's finish after it. */
  readonly finish: LocalMinute;
}

/** The earliest-starting open work on the longest path; ties by id. */
function toTest({ open }: Ground): Placed | null {
  let best: Placed | null = null;
  for (const placed of open) {
    if (!placed.isWork || !placed.row.longestPath) continue;
    if (
      best === null ||
      placed.row.start < best.row.start ||
      (placed.row.start === best.row.start && placed.activity.id < best.activity.id)
    )
      best = placed;
  }
  return best;
}

/** The network with one node that lasts longer than it does; its people then no longer decide its finish. */
function stretched({ network, early }: Ground["schedule"], node: number, minutes: number): Network {
  const duration = copyOf(network.duration);
  const finishBy = network.finishBy.slice();
  duration[node] = workMinutes(early.finishIndex[node]! - early.restartIndex[node]! + minutes);
  finishBy[node] = FIXED;
  return { ...network, duration, finishBy };
}

/** Runs it; `null` where there is no open work on the longest path, or dates would run outside the horizon. */
export function runPathTest(ground: Ground): PathTest | null {
  const { schedule } = ground;
  const tested = toTest(ground);
  if (tested === null) return null;
  const addedMinutes = ADDED_DAYS * tested.calendar.dayMinutes;
  try {
    const node = schedule.network.nodeOf[tested.at]!;
    const then = copiedDates(schedule.early);
    forwardAgain(stretched(schedule, node, addedMinutes), then, [node]);
    const { latestFinish } = then;
    return {
      tested,
      addedMinutes,
      movedMinutes: tested.calendar.indexAt(latestFinish) - tested.calendar.indexAt(schedule.finish!),
      finish: latestFinish,
    };
  } catch (error) {
    if (error instanceof NodeOutsideHorizon) return null;
    throw error;
  }
}

/** The plan with the tested activity made longer, to see where everything would lie. */
export function lengthened(ground: Ground, { tested, addedMinutes }: PathTest): PlanBundle {
  const { network, early } = ground.schedule;
  const node = network.nodeOf[tested.at]!;
  const minutes = early.finishIndex[node]! - early.restartIndex[node]! + addedMinutes;
  return {
    ...ground.plan,
    activities: ground.plan.activities.map((activity, at) => {
      if (at !== tested.at) return activity;
      const { driver: _driver, windowPolicy: _policy, ...rest } = activity;
      return tested.row.state === "inProgress"
        ? { ...rest, remainingMinutes: minutes }
        : { ...rest, durationMinutes: minutes };
    }),
  };
}

/** Check 12 (DCMA 14-point assessment, "Critical path test"). */
export const criticalPathTest: Check = {
  number: 12,
  name: "Critical path test",
  counts: `Makes the first open work on the longest path ${ADDED_DAYS} days longer and looks whether the finish moves as far.`,
  why: "If the finish does not follow, something else than logic holds it, and the forecast cannot be believed.",
  rule: "holds",
  limit: TOLERANCE_DAYS,
  mend: "links",
  measure: (ground) => {
    const test = runPathTest(ground);
    if (test === null) return uncounted(null);
    const value = `${inDays(test.addedMinutes, test.tested)} longer, finish ${inDays(test.movedMinutes, test.tested)} later`;
    return {
      ...uncounted(null),
      holds: Math.abs(test.movedMinutes - test.addedMinutes) <= TOLERANCE_DAYS * test.tested.calendar.dayMinutes,
      tell: () => offences([test.tested], () => value),
    };
  },
};
