import type { BodyOf, SlipEffect } from "@chronometra/contract";
import type { Change, NotPushed, Plan } from "@chronometra/core";
import { In, type DataSource, type EntityManager } from "typeorm";
import { AccountEntity } from "../access/accountEntity.ts";
import { storeChanges } from "../plan/changeService.ts";
import { overPlans, type PlanOf } from "../plan/held/overPlan.ts";
import { effectOn } from "../plan/prepare.ts";
import type { Writing } from "../plan/writeProjects.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import type { Message, Post } from "../tell/post.ts";
import type { DATES_WORKS } from "./datesWorks.ts";
import { datesTold } from "../tell/moved/differences.ts";

const overPlan = overPlans<typeof DATES_WORKS>();

type Wanted = BodyOf<"POST /api/projects/:project/slip/:milestone">;

const accountsOf = async (
  database: DataSource | EntityManager,
  people: readonly string[],
): Promise<Map<string, AccountEntity>> =>
  new Map(
    people.length === 0
      ? []
      : (await database.getRepository(AccountEntity).findBy({ personId: In([...people]) })).map((account) => [
          account.personId!,
          account,
        ]),
  );

/**
 * The changes that slip a milestone and what was to go along, and what cannot. Throws a Failure where it cannot slip.
 */
async function slipOf(of: PlanOf, milestone: string, wanted: Wanted) {
  await overPlan("choice", of, { milestone, to: null });
  return overPlan("slip", of, { milestone, wanted });
}

/** What slipping would move, and whom it concerns; stores nothing. */
export async function effectOfSlip(
  database: DataSource,
  of: PlanOf,
  milestone: string,
  wanted: Wanted,
): Promise<SlipEffect> {
  const { changes, left } = await slipOf(of, milestone, wanted);
  const [effect, moved] = await Promise.all([effectOn(of, changes), overPlan("moved", of, changes)]);
  const accounts = await accountsOf(
    database,
    moved.map(({ person }) => person),
  );
  return {
    effect,
    left,
    concerned: moved
      .map(({ person, name, moves }) => ({ name, count: moves.length, canBeReached: accounts.has(person) }))
      .sort((a, b) => a.name.localeCompare(b.name)),
  };
}

/** The changes of a slip, as they are worked out before its project is locked, with all that is told of them. */
export async function slipAhead(of: PlanOf, milestone: string, wanted: Wanted): Promise<readonly Change[]> {
  const { changes } = await slipOf(of, milestone, wanted);
  if (wanted.tell) await overPlan("moved", of, changes);
  return changes;
}

/** Slips a milestone with all that goes along, and tells those concerned, one message each whatever moved. */
export async function storeSlip(
  writing: Writing,
  project: ProjectEntity,
  post: Post,
  milestone: string,
  wanted: Wanted,
): Promise<{ revision: number; left: NotPushed[]; told: string[] }> {
  const before = await writing.plan(project);
  const of = { id: project.id, plan: before };
  const { changes, left } = await slipOf(of, milestone, wanted);
  const moved = wanted.tell ? await overPlan("moved", of, changes) : [];
  const { plan, result } = await storeChanges(writing, project, {
    changes,
    label: `Slipped ${before.activities.get(milestone)!.name} by ${wanted.days} d: ${wanted.reason}`.slice(0, 200),
  });
  const told = await tell(writing, post, project, plan, milestone, wanted, moved);
  return { revision: result.revision, left, told };
}

async function tell(
  { manager, me }: Writing,
  post: Post,
  project: ProjectEntity,
  plan: Plan,
  milestone: string,
  wanted: Wanted,
  moved: Awaited<ReturnType<typeof overPlan<"moved">>>,
): Promise<string[]> {
  const accounts = await accountsOf(
    manager,
    moved.map(({ person }) => person),
  );
  const messages = moved.flatMap(({ person, moves }): Message[] => {
    const to = accounts.get(person);
    if (to === undefined) return [];
    const lines = moves.map(({ name, from, to: until }) => `${name}: ${from ?? "no date"} -> ${until ?? "no date"}`);
    return [
      {
        to,
        subject: `${plan.project.name}: ${plan.activities.get(milestone)!.name} slips by ${wanted.days} d`,
        kind: "moved",
        body: `${wanted.reason}\n\nOf yours this moves:\n${lines.join("\n")}`,
        link: "/desk",
        from: me,
      },
    ];
  });
  await post.put(manager, messages);
  const ids = moved.flatMap(({ moves }) => moves.map(({ id }) => id));
  await datesTold(manager, project.id, [...new Set(ids)]);
  return moved.flatMap(({ person }) => accounts.get(person)?.name ?? []).sort();
}
