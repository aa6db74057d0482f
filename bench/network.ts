import type { PlanBundle } from "@chronometra/core";
import { backwardPass } from "../packages/core/src/network/backwardPass.ts";
import { buildNetwork } from "../packages/core/src/network/laid/buildNetwork.ts";
import { forwardPass } from "../packages/core/src/network/forwardPass.ts";
import { schedulePlan } from "../packages/core/src/network/schedule.ts";
import { longestPath } from "../packages/core/src/network/longestPath.ts";
import { FS, type Network } from "../packages/core/src/network/laid/network.ts";
import { planTree } from "../packages/core/src/plan/planTree.ts";
import { compileCalendars } from "../packages/core/src/plan/compileCalendars.ts";
import { leastOf, limitLine, ratioLine, type Line } from "./measure.ts";
import { largePlan } from "./plans.ts";

const networkOf = (plan: PlanBundle): Network =>
  buildNetwork(plan, planTree(plan.activities), compileCalendars(plan.calendars).set);

/** Early, late, float and the longest path. */
function passes(network: Network): void {
  const early = forwardPass(network);
  backwardPass(network, early);
  longestPath(network, early);
}

/** The yardstick: the longest path through the same arrays and nothing else, no calendar, no float, no dates. */
function bareSweep(network: Network): number {
  const finish = new Float64Array(network.count);
  const { inStart, duration } = network;
  const { other, lag, type } = network.inLinks;
  let longest = 0;
  for (let node = 0; node < network.count; node++) {
    let start = 0;
    for (let link = inStart[node]!; link < inStart[node + 1]!; link++) {
      const from = other[link]!;
      const bound = finish[from]! + lag[link]! - (type[link] === FS ? 0 : duration[from]!);
      if (bound > start) start = bound;
    }
    finish[node] = start + duration[node]!;
    if (finish[node]! > longest) longest = finish[node]!;
  }
  return longest;
}

export async function networkLines(): Promise<Line[]> {
  const network = networkOf(largePlan({ activities: 100_000, linksEach: 2, calendars: 5 }));
  const sweep = await leastOf(60, () => bareSweep(network));
  const all = await leastOf(60, () => passes(network));
  const small = networkOf(largePlan({ activities: 10_000, linksEach: 2, calendars: 5 }));
  const large = networkOf(largePlan({ activities: 1_000_000, linksEach: 2, calendars: 5 }));
  const each = async (each: Network, runs: number): Promise<number> =>
    (await leastOf(runs, () => passes(each))) / each.count;
  const [smallEach, largeEach] = [await each(small, 200), await each(large, 6)];
  return [
    ratioLine(
      "Dates, float and longest path, 100 000 activities, 200 000 links, 5 calendars",
      all,
      "a bare longest-path sweep over the same arrays",
      sweep,
      4,
    ),
    {
      what: "The same, growth from 10 000 to 1 000 000 activities",
      measured: `${(largeEach * 1e6).toFixed(0)} ns an activity`,
      yardstick: `${(smallEach * 1e6).toFixed(0)} ns at 10 000`,
      value: largeEach / smallEach,
      limit: 1.3,
    },
  ];
}

const CHANGED_ACTIVITIES = 100_000;
/** What a change may take, and each activity that it moves. */
const CHANGE_MILLISECONDS = 5;
const MOVED_MILLISECONDS = 0.002;

/** Dates after the length of one activity changed, for one that moves few others and one that moves thousands. */
export function changedDatesLines(): Line[] {
  const plan = largePlan({ activities: CHANGED_ACTIVITIES, linksEach: 2, calendars: 5 });
  const dated = { plan, schedule: schedulePlan(plan) };
  return [CHANGED_ACTIVITIES - 700, CHANGED_ACTIVITIES - 20_000, CHANGED_ACTIVITIES / 2].map((at) => {
    const times: number[] = [];
    let moved = 0;
    for (let i = 0; i < 25; i++) {
      const activities = plan.activities.slice();
      activities[at] = { ...activities[at]!, durationMinutes: activities[at]!.durationMinutes! + 60 + i };
      const after = { ...plan, activities };
      const from = performance.now();
      const { rows } = schedulePlan(after, dated);
      times.push(performance.now() - from);
      moved = rows.reduce((count, row, place) => count + (row === dated.schedule.rows[place] ? 0 : 1), 0);
    }
    return limitLine(
      `Dates after one of ${CHANGED_ACTIVITIES} activities changed that moves ${moved}`,
      times.sort((a, b) => a - b)[12]!,
      CHANGE_MILLISECONDS + MOVED_MILLISECONDS * moved,
    );
  });
}
