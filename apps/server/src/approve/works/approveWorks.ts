import type { EffectView, WhatIfView } from "@chronometra/contract";
import { approvedAlone, freezePlan, plannedBudget, type Change, type Plan, type PlanBundle } from "@chronometra/core";
import type { ComputedPlan } from "../../plan/held/computedPlan.ts";
import { effectBetween } from "../../plan/held/effectBetween.ts";
import type { HeldPlan } from "../../plan/held/heldPlan.ts";
import { asRead } from "./asRead.ts";
import { compared, onceFrozenAs } from "./compared.ts";

const minutesByPerson = (plan: Plan): Map<string, number> => {
  const minutes = new Map<string, number>();
  for (const { activity, person, plannedMinutes } of plan.assignments.values())
    if (plan.activities.get(activity)?.parked !== true)
      minutes.set(person, (minutes.get(person) ?? 0) + plannedMinutes);
  return minutes;
};

/** Planned hours by person where they differ between two plans. */
function loadBetween(before: Plan, after: Plan): WhatIfView["load"] {
  const [was, will] = [minutesByPerson(before), minutesByPerson(after)];
  return [...new Set([...was.keys(), ...will.keys()])].flatMap((id) => {
    const [beforeMinutes, afterMinutes] = [was.get(id) ?? 0, will.get(id) ?? 0];
    return beforeMinutes === afterMinutes
      ? []
      : [{ person: after.people.get(id)?.name ?? before.people.get(id)?.name ?? id, beforeMinutes, afterMinutes }];
  });
}

/** The planned cost of all that counts in a plan, in minor units. */
function budgetOf({ bundle, computed: { schedule } }: ComputedPlan): number {
  const { minor } = plannedBudget(bundle, schedule);
  return bundle.activities.reduce(
    (sum, { id, kind }, i) => (kind === "summary" || schedule.tree.parked.has(id) ? sum : sum + minor[i]!),
    0,
  );
}

/** What a what-if comes to on a plan. Throws PlanProblems where it does not fit it. */
function whatIf(
  live: HeldPlan,
  changes: readonly Change[],
): { effect: EffectView; load: WhatIfView["load"]; budget: NonNullable<WhatIfView["budget"]> } {
  const after = live.after(changes);
  return {
    effect: effectBetween(live, after),
    load: loadBetween(live.plan, after.plan),
    budget: { beforeMinor: budgetOf(live.whole), afterMinor: budgetOf(after.whole) },
  };
}

/** What a plan would be frozen as. */
function frozen({ whole }: HeldPlan) {
  const { activities, calendars } = freezePlan(whole.bundle);
  return { activities: [...activities], calendars: [...calendars] };
}

/** The plan behind a baseline with changes, as it would be approved beside what is live; or why it cannot be. */
const alone = (live: HeldPlan, { kept, changes }: { kept: PlanBundle; changes: readonly Change[] }) =>
  approvedAlone(kept, live.plan, changes);

/** What is worked out over a plan when something is tried beside it, or it is compared with what it was. */
export const APPROVE_WORKS = { asRead, compared, onceFrozenAs, whatIf, frozen, alone };
