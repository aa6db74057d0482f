import type { Blocked } from "@chronometra/contract";
import {
  blockedWays,
  formatDate,
  PlanProblems,
  schedulePlan,
  toBundle,
  type AlongBlock,
  type BlockedWays,
  type Plan,
} from "@chronometra/core";

type BlockedLine = Blocked["blocks"][number];
type Along = BlockedLine["upstream"][number];
export type Line = Omit<BlockedLine, "mayEdit">;

/** A project with something blocked in it, or one that something waits for. */
interface Known {
  readonly id: string;
  readonly name: string;
  readonly plan: Plan;
}

const along = ({ id, name }: Known, rows: readonly AlongBlock[]): Along[] =>
  rows.map((row) => ({ project: id, projectName: name, ...row }));

/** An activity itself, as a station along the way. */
function station(known: Known, id: string, movesDays: number): Along[] {
  const i = [...known.plan.activities.keys()].indexOf(id);
  const row = i < 0 ? null : (schedulePlan(toBundle(known.plan)).rows[i] ?? null);
  if (row === null || row.state === "complete") return [];
  return [
    {
      project: known.id,
      projectName: known.name,
      id,
      name: known.plan.activities.get(id)!.name,
      start: formatDate(row.startDay),
      finish: formatDate(row.finishDay),
      driftDays: null,
      blockedBy: known.plan.blocks.get(id)?.by ?? null,
      movesDays,
    },
  ];
}

const MOST_PLANS_APART = 6;

/** What comes before a block all the way, on from the activity of another project that it waits for. */
function causes(
  plans: ReadonlyMap<string, Known>,
  known: Known,
  activity: string,
  ways: BlockedWays,
  depth = 0,
): Along[] {
  const own = along(known, ways.upstream);
  const on = known.plan.blocks.get(activity)?.on;
  const other = on === undefined ? undefined : plans.get(on.project);
  if (other === undefined || depth >= MOST_PLANS_APART || !other.plan.activities.has(on!.activity)) return own;
  return [
    ...own,
    ...station(other, on!.activity, 0),
    ...causes(plans, other, on!.activity, blockedWays(other.plan, on!.activity, 0), depth + 1),
  ];
}

/** What comes after a block all the way, and whatever waits elsewhere for it or for any of that. */
function victims(
  plans: ReadonlyMap<string, Known>,
  known: Known,
  activity: string,
  ways: BlockedWays,
  days: number,
  depth = 0,
): { along: Along[]; deadlines: Line["deadlines"] } {
  const result: { along: Along[]; deadlines: Line["deadlines"] } = {
    along: along(known, ways.downstream),
    deadlines: ways.deadlines.map(({ id, name, now, then }) => ({
      id,
      name,
      deadline: now.deadline,
      nowState: now.state,
      nowMarginDays: now.marginDays,
      thenState: then.state,
      thenMarginDays: then.marginDays,
    })),
  };
  if (depth >= MOST_PLANS_APART) return result;
  const moves = new Map([[activity, days], ...ways.downstream.map(({ id, movesDays }) => [id, movesDays] as const)]);
  for (const other of plans.values()) {
    for (const [waiting, { on }] of other.plan.blocks) {
      if (on?.project !== known.id || !moves.has(on.activity)) continue;
      const moved = Math.ceil(moves.get(on.activity)!);
      const further = victims(plans, other, waiting, blockedWays(other.plan, waiting, moved), moved, depth + 1);
      result.along.push(...station(other, waiting, moved), ...further.along);
      result.deadlines.push(...further.deadlines);
    }
  }
  return result;
}

/**
 * Everything that is blocked in some plans, with its causes, and its victims if it stays so for some working days more.
 */
export default function run({
  days,
  plans: list,
}: {
  readonly days: number;
  readonly plans: readonly Known[];
}): Line[] {
  const plans = new Map(list.map((known) => [known.id, known]));
  const blocks: Line[] = [];
  for (const known of plans.values()) {
    const { plan } = known;
    for (const [activity, block] of plan.blocks) {
      const other = block.on === undefined ? undefined : plans.get(block.on.project);
      const head = {
        project: known.id,
        projectName: known.name,
        activity,
        name: plan.activities.get(activity)!.name,
        by: block.by,
        since: block.since,
        saidBy: block.saidBy,
        on:
          other === undefined
            ? null
            : {
                ...block.on!,
                projectName: other.name,
                name: other.plan.activities.get(block.on!.activity)?.name ?? block.on!.activity,
              },
      };
      try {
        const ways = blockedWays(plan, activity, days);
        const felt = victims(plans, known, activity, ways, days);
        blocks.push({
          ...head,
          finish: station(known, activity, days)[0]?.finish ?? "",
          upstream: causes(plans, known, activity, ways),
          downstream: felt.along,
          deadlines: felt.deadlines,
          finishDays: ways.finishDays,
          fault: null,
        });
      } catch (error) {
        if (!(error instanceof PlanProblems)) throw error;
        blocks.push({
          ...head,
          finish: "",
          upstream: [],
          downstream: [],
          deadlines: [],
          finishDays: 0,
          fault: error.problems[0]!.message,
        });
      }
    }
  }
  return blocks;
}
