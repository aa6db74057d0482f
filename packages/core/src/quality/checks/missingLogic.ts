import { offence, share, type Check } from "../ground/check.ts";
import type { Ground, Placed } from "../ground/ground.ts";

/** Marks by position what has a link into it, and what one out of it. */
function linked({ plan, allLinks }: Ground): { into: Uint8Array; outOf: Uint8Array } {
  const into = new Uint8Array(plan.activities.length);
  const outOf = new Uint8Array(plan.activities.length);
  for (const { from, to } of allLinks) outOf[from.at] = into[to.at] = 1;
  return { into, outOf };
}

/** The one of all that comes first by `at`; ties go to one that is not bound, then by id. */
function outermost(all: readonly Placed[], at: (placed: Placed) => number, bound: Uint8Array): Placed | undefined {
  let best: Placed | undefined;
  for (const placed of all) {
    const ahead =
      best === undefined
        ? -1
        : at(placed) - at(best) ||
          bound[placed.at]! - bound[best.at]! ||
          (placed.activity.id < best.activity.id ? -1 : 1);
    if (ahead < 0) best = placed;
  }
  return best;
}

/** The project's first start and its last finish: one activity each. */
export function endsOf(
  ground: Ground,
  { into, outOf } = linked(ground),
): { first: Placed | undefined; last: Placed | undefined } {
  return {
    first: outermost(ground.scheduled, ({ row }) => row.start, into),
    last: outermost(ground.scheduled, ({ row }) => -row.finish, outOf),
  };
}

/** An activity that is not linked on one side or on both. */
export interface LooseEnd {
  readonly placed: Placed;
  /** Nothing is before it. */
  readonly before: boolean;
  /** Nothing is after it. */
  readonly after: boolean;
}

/** What has nothing before it or nothing after it, the project's first start and last finish apart. */
export function looseEnds(ground: Ground): LooseEnd[] {
  const { into, outOf } = linked(ground);
  const { first, last } = endsOf(ground, { into, outOf });
  const ends: LooseEnd[] = [];
  for (const placed of ground.open) {
    const before = into[placed.at] === 0 && placed !== first;
    const after = outOf[placed.at] === 0 && placed !== last;
    if (before || after) ends.push({ placed, before, after });
  }
  return ends;
}

const inWords = ({ before, after }: LooseEnd): string =>
  before && after ? "nothing before or after it" : before ? "nothing before it" : "nothing after it";

/** Check 1 (DCMA 14-point assessment, "Logic"). */
export const missingLogic: Check = {
  number: 1,
  name: "Missing logic",
  counts: "Open activities with nothing before them or nothing after them, the first start and the last finish apart.",
  why: "What nothing leads to, or what leads to nothing, does not move the dates it should move: the forecast is better than it looks.",
  rule: "atMost",
  limit: 0.05,
  mend: "links",
  measure: (ground) =>
    share(
      looseEnds(ground).map((end) => offence(end.placed.at, end, inWords)),
      ground.open.length,
    ),
};
