import type { BodyOf, SlipChoiceView } from "@chronometra/contract";
import {
  effectOf,
  formatDate,
  parseDate,
  slipChoice,
  slipDays,
  slipMilestone,
  type Change,
  type Effect,
  type NotPushed,
  type Plan,
} from "@chronometra/core";
import type { HeldPlan } from "../plan/held/heldPlan.ts";
import { Failure, orNotFound } from "../shared/failure.ts";

/** What can go along when a milestone slips, people by name. */
export function choiceOf(
  { plan, whole: { bundle, computed } }: HeldPlan,
  milestone: string,
  to: string | null = null,
): Omit<SlipChoiceView, "mayEdit"> {
  const activity = orNotFound(plan.activities.get(milestone), "milestone of that name in the plan");
  const { schedule } = computed;
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
    wanted: to === null ? null : { date: to, days: slipDays(bundle, activity, row.finishDay, parseDate(to)!) },
    before: present(before),
    after: present(after),
  };
}

/** The changes of a slip. Throws a Failure where nothing would slip. */
export function slipped(
  { plan, whole: { bundle } }: HeldPlan,
  milestone: string,
  { days, along, deadlines, reason }: BodyOf<"POST /api/projects/:project/slip/:milestone">,
): { changes: Change[]; left: NotPushed[] } {
  const unknown = along.find((id) => !plan.activities.has(id));
  if (unknown !== undefined)
    throw new Failure("conflict", "Something that was to go along is no longer in the plan; load the page again.");
  const { changes, left } = slipMilestone(bundle, { milestone, days, along, deadlines, reason });
  if (changes.length === 0)
    throw new Failure("invalid", `Nothing would slip: ${left.map(({ name, why }) => `${name} is ${why}`).join("; ")}.`);
  return { changes, left };
}

/** Someone, and what moves of theirs. */
export interface Moved {
  readonly person: string;
  readonly name: string;
  readonly moves: Effect["activities"][number][];
}

/** Those who work on something that moves or own it; roles without a person are nobody. */
export function whoIsMoved(before: HeldPlan, after: HeldPlan): Moved[] {
  const { plan } = after;
  const effect = effectOf(before.whole.bundle, after.whole.bundle);
  const people = peopleOn(plan);
  const found = new Map<string, Moved>();
  for (const move of [...effect.activities, ...effect.milestones]) {
    const owner = plan.activities.get(move.id)?.owner;
    for (const person of new Set([...(people.get(move.id) ?? []), ...(owner === undefined ? [] : [owner])])) {
      if (plan.placeholders.has(person)) continue;
      const own = found.get(person) ?? { person, name: plan.people.get(person)?.name ?? person, moves: [] };
      own.moves.push(move);
      found.set(person, own);
    }
  }
  return [...found.values()];
}

function peopleOn(plan: Plan): Map<string, Set<string>> {
  const people = new Map<string, Set<string>>();
  for (const { activity, person } of plan.assignments.values())
    people.set(activity, (people.get(activity) ?? new Set()).add(person));
  return people;
}
