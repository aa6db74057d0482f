import type { BodyOf, Me, SlipChoiceView, SlipEffect } from "@chronometra/contract";
import {
  effectOf,
  formatDate,
  schedulePlan,
  slipChoice,
  slipMilestone,
  toBundle,
  type Effect,
  type NotPushed,
  type Plan,
} from "@chronometra/core";
import { In, type DataSource, type EntityManager } from "typeorm";
import { AccountEntity } from "../access/accountEntity.ts";
import { applyChecked, storeChanges } from "../plan/changeService.ts";
import { presentEffect } from "../plan/presentEffect.ts";
import type { Writing } from "../plan/writeProjects.ts";
import { mayEdit } from "../project/projectAccess.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import type { Message, Post } from "../tell/post.ts";

type Wanted = BodyOf<"POST /api/projects/:project/slip/:milestone">;

/** What can go along when a milestone slips, people by name. */
export function choiceOf(plan: Plan, me: Me, project: ProjectEntity, milestone: string): SlipChoiceView {
  const bundle = toBundle(plan);
  const activity = orNotFound(plan.activities.get(milestone), "milestone of that name in the plan");
  const schedule = schedulePlan(bundle);
  const row = schedule.rows[schedule.tree.indexOf.get(milestone)!];
  if (activity.kind !== "milestone" || row == null)
    throw new Failure("invalid", `"${activity.name}" is no milestone with a date.`);
  if (row.state === "complete") throw new Failure("invalid", `"${activity.name}" is reached; it cannot slip any more.`);
  const named = (people: readonly string[]): string[] => people.map((id) => plan.people.get(id)?.name ?? id);
  const { before, after } = slipChoice(bundle, milestone);
  const present = (rows: typeof before): SlipChoiceView["before"] =>
    rows.map((each) => ({ ...each, people: named(each.people) }));
  return {
    name: activity.name,
    date: formatDate(row.finishDay),
    deadline: activity.deadline ?? null,
    mayEdit: mayEdit(me, project),
    before: present(before),
    after: present(after),
  };
}

/** What moves, by person: those who work on it and who own it. */
function movesByPerson(plan: Plan, effect: Effect): Map<string, Effect["activities"][number][]> {
  const people = new Map<string, Set<string>>();
  for (const { activity, person } of plan.assignments.values())
    people.set(activity, (people.get(activity) ?? new Set()).add(person));
  const found = new Map<string, Effect["activities"][number][]>();
  for (const move of [...effect.activities, ...effect.milestones]) {
    const owner = plan.activities.get(move.id)?.owner;
    for (const person of new Set([...(people.get(move.id) ?? []), ...(owner === undefined ? [] : [owner])]))
      if (!plan.placeholders.has(person)) found.set(person, [...(found.get(person) ?? []), move]);
  }
  return found;
}

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

function slipped(
  plan: Plan,
  milestone: string,
  { days, along, deadlines, reason }: Wanted,
): { after: Plan; changes: ReturnType<typeof slipMilestone>["changes"]; left: NotPushed[] } {
  const unknown = along.find((id) => !plan.activities.has(id));
  if (unknown !== undefined)
    throw new Failure("conflict", "Something that was to go along is no longer in the plan; load the page again.");
  const { changes, left } = slipMilestone(toBundle(plan), { milestone, days, along, deadlines, reason });
  if (changes.length === 0)
    throw new Failure("invalid", `Nothing would slip: ${left.map(({ name, why }) => `${name} is ${why}`).join("; ")}.`);
  return { after: applyChecked(plan, changes).plan, changes, left };
}

/** What slipping would move, and whom it concerns; stores nothing. */
export async function effectOfSlip(
  database: DataSource,
  plan: Plan,
  milestone: string,
  wanted: Wanted,
): Promise<SlipEffect> {
  const { after, left } = slipped(plan, milestone, wanted);
  const moves = movesByPerson(after, effectOf(toBundle(plan), toBundle(after)));
  const accounts = await accountsOf(database, [...moves.keys()]);
  return {
    effect: presentEffect(plan, after),
    left,
    concerned: [...moves]
      .map(([person, own]) => ({
        name: after.people.get(person)?.name ?? person,
        count: own.length,
        canBeReached: accounts.has(person),
      }))
      .sort((a, b) => a.name.localeCompare(b.name)),
  };
}

/** Slips a milestone with all that goes along, and tells those concerned, one message each whatever moved. */
export async function storeSlip(
  writing: Writing,
  project: ProjectEntity,
  post: Post,
  milestone: string,
  wanted: Wanted,
): Promise<{ revision: number; left: NotPushed[]; told: string[] }> {
  const { manager, me } = writing;
  const before = await writing.plan(project);
  choiceOf(before, me, project, milestone);
  const { changes, left } = slipped(before, milestone, wanted);
  const { plan, result } = await storeChanges(writing, project, {
    changes,
    label: `Slipped ${before.activities.get(milestone)!.name} by ${wanted.days} d: ${wanted.reason}`.slice(0, 200),
  });
  const moves = movesByPerson(plan, effectOf(toBundle(before), toBundle(plan)));
  const accounts = wanted.tell ? await accountsOf(manager, [...moves.keys()]) : new Map<string, AccountEntity>();
  const messages = [...accounts].map(([person, to]): Message => {
    const lines = moves
      .get(person)!
      .map(({ name, from, to: until }) => `${name}: ${from ?? "no date"} -> ${until ?? "no date"}`);
    return {
      to,
      subject: `${plan.project.name}: ${plan.activities.get(milestone)!.name} slips by ${wanted.days} d`,
      body: `${to.name},\n\n${wanted.reason}\n\nOf yours this moves:\n${lines.join("\n")}\n\n${me.name}`,
      link: "/desk",
      from: me,
    };
  });
  await post.put(manager, messages);
  return { revision: result.revision, left, told: messages.map(({ to }) => to.name).sort() };
}
