import { offence, offending, share, type Check } from "../ground/check.ts";
import { openThat, type Ground, type Placed } from "../ground/ground.ts";

/**
 * The node that comes first by an instant; ties go to one that has no link on that side, then by id.
 * @param starts where the links of a node on that side begin
 */
function outermost(
  { plan, schedule: { network } }: Ground,
  at: (node: number) => number,
  starts: Int32Array,
): number | undefined {
  let first = Infinity;
  for (let node = 0; node < network.count; node++) first = Math.min(first, at(node));
  const idOf = (node: number): string => plan.activities[network.activityOf[node]!]!.id;
  let best: number | undefined;
  let bestBound = true;
  for (let node = 0; node < network.count; node++) {
    if (at(node) !== first) continue;
    const isBound = starts[node + 1]! > starts[node]!;
    if (best !== undefined && (isBound === bestBound ? idOf(node) > idOf(best) : isBound)) continue;
    [best, bestBound] = [node, isBound];
  }
  return best;
}

/** The project's first start and its last finish: one node each. */
function endNodes(ground: Ground): { first: number | undefined; last: number | undefined } {
  const { early, network } = ground.schedule;
  return {
    first: outermost(ground, (node) => early.startAt[node]!, network.inStart),
    last: outermost(ground, (node) => -early.finishAt[node]!, network.outStart),
  };
}

/** The project's first start and its last finish: one activity each. */
export function endsOf(ground: Ground): { first: Placed | undefined; last: Placed | undefined } {
  const { first, last } = endNodes(ground);
  const placed = (node: number | undefined): Placed | undefined =>
    node === undefined ? undefined : ground.placedAt[ground.schedule.network.activityOf[node]!]!;
  return { first: placed(first), last: placed(last) };
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
  const { nodeOf, inStart, outStart } = ground.schedule.network;
  const { first, last } = endNodes(ground);
  const isBefore = (node: number): boolean => inStart[node + 1] === inStart[node] && node !== first;
  const isAfter = (node: number): boolean => outStart[node + 1] === outStart[node] && node !== last;
  const { found } = openThat(ground, (node) => isBefore(node) || isAfter(node));
  return found.map((placed) => {
    const node = nodeOf[placed.at]!;
    return { placed, before: isBefore(node), after: isAfter(node) };
  });
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
      offending(looseEnds(ground), (end) => offence(end.placed.at, end, inWords)),
      ground.open.length,
    ),
};
