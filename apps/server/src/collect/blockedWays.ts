import type { Blocked, Me } from "@chronometra/contract";
import {
  blockedWays,
  PlanProblems,
  schedulePlan,
  formatDate,
  toBundle,
  type AlongBlock,
  type BlockedWays,
  type Plan,
} from "@chronometra/core";
import { In, type DataSource } from "typeorm";
import { loadPlan } from "../plan/planStore.ts";
import { mayEdit } from "../project/projectAccess.ts";
import { ProjectEntity } from "../project/projectEntity.ts";
import { Failure } from "../shared/failure.ts";

type Line = Blocked["blocks"][number];
type Along = Line["upstream"][number];

interface Known {
  readonly project: ProjectEntity;
  readonly plan: Plan;
}

const MOST_DAYS = 250;

/** Plans with something blocked in them, and those that they wait for. */
async function plansWithBlocks(database: DataSource): Promise<Map<string, Known>> {
  const rows = (await database.query("select distinct project_id as id from plan_row where table_name = 'blocks'")) as {
    id: string;
  }[];
  const known = new Map<string, Known>();
  const add = async (ids: readonly string[]): Promise<void> => {
    const missing = ids.filter((id) => !known.has(id));
    if (missing.length === 0) return;
    for (const project of await database.getRepository(ProjectEntity).findBy({ id: In(missing) }))
      known.set(project.id, { project, plan: await loadPlan(database.manager, project) });
  };
  await add(rows.map(({ id }) => id));
  await add(
    [...known.values()].flatMap(({ plan }) =>
      [...plan.blocks.values()].flatMap(({ on }) => (on === undefined ? [] : [on.project])),
    ),
  );
  return known;
}

const along = ({ project }: Known, rows: readonly AlongBlock[]): Along[] =>
  rows.map((row) => ({ project: project.id, projectName: project.head.name, ...row }));

/** An activity itself, as a station along the way. */
function station(known: Known, id: string, movesDays: number): Along[] {
  const i = [...known.plan.activities.keys()].indexOf(id);
  const row = i < 0 ? null : (schedulePlan(toBundle(known.plan)).rows[i] ?? null);
  if (row === null || row.state === "complete") return [];
  return [
    {
      project: known.project.id,
      projectName: known.project.head.name,
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
      if (on?.project !== known.project.id || !moves.has(on.activity)) continue;
      const moved = Math.ceil(moves.get(on.activity)!);
      const further = victims(plans, other, waiting, blockedWays(other.plan, waiting, moved), moved, depth + 1);
      result.along.push(...station(other, waiting, moved), ...further.along);
      result.deadlines.push(...further.deadlines);
    }
  }
  return result;
}

/** Everything that is marked as blocked, with its causes and its victims if it stays so for some working days more. */
export async function blockedEverywhere(database: DataSource, me: Me, daysText: string): Promise<Blocked> {
  const days = Number(daysText);
  if (!Number.isInteger(days) || days < 1 || days > MOST_DAYS)
    throw new Failure("invalid", `Say for how many working days, 1 to ${MOST_DAYS}.`);
  const plans = await plansWithBlocks(database);
  const blocks: Line[] = [];
  for (const known of plans.values()) {
    const { project, plan } = known;
    for (const [activity, block] of plan.blocks) {
      const other = block.on === undefined ? undefined : plans.get(block.on.project);
      const head = {
        project: project.id,
        projectName: project.head.name,
        activity,
        name: plan.activities.get(activity)!.name,
        by: block.by,
        since: block.since,
        saidBy: block.saidBy,
        mayEdit: mayEdit(me, project),
        on:
          other === undefined
            ? null
            : {
                ...block.on!,
                projectName: other.project.head.name,
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
  return {
    days,
    blocks: blocks.sort((a, b) => b.deadlines.length - a.deadlines.length || (a.since < b.since ? -1 : 1)),
  };
}
