import type { BegunEffect, OutlineRow } from "@chronometra/contract";
import { assignmentsByActivity, formatDate, plannedBudget, schedulePlan, toBundle, type Plan } from "@chronometra/core";

/** The rows of a plan as they stand below each other, with how deep. */
function inTreeOrder(plan: Plan): { id: string; depth: number }[] {
  const below = new Map<string | undefined, string[]>();
  for (const { id, parent } of plan.activities.values()) {
    const rows = below.get(parent);
    if (rows === undefined) below.set(parent, [id]);
    else rows.push(id);
  }
  const order: { id: string; depth: number }[] = [];
  const open = (below.get(undefined) ?? []).map((id) => ({ id, depth: 0 })).reverse();
  for (let at = open.pop(); at !== undefined; at = open.pop()) {
    order.push(at);
    const { id, depth } = at;
    open.push(...(below.get(id) ?? []).map((each) => ({ id: each, depth: depth + 1 })).reverse());
  }
  return order;
}

const sum = (numbers: Iterable<number>): number => [...numbers].reduce((all, each) => all + each, 0);

/**
 * A plan as it is looked at before it is begun with.
 * @throws {PlanProblems} where it cannot be scheduled
 */
export function outlineOf(plan: Plan): Omit<BegunEffect, "repeats"> {
  const bundle = toBundle(plan);
  const schedule = schedulePlan(bundle);
  const { indexOf, parked } = schedule.tree;
  const staff = assignmentsByActivity(bundle);
  const budget = plannedBudget(bundle, schedule);
  const tops = bundle.activities.flatMap(({ parent }, i) => (parent === undefined ? [i] : []));
  const counted = bundle.activities.filter(({ id }) => !parked.has(id));
  const rows = inTreeOrder(plan).map(({ id, depth }): OutlineRow => {
    const activity = plan.activities.get(id)!;
    const row = schedule.rows[indexOf.get(id)!];
    return {
      id,
      name: activity.name,
      depth,
      kind: activity.kind ?? "work",
      start: row == null ? null : formatDate(row.startDay),
      finish: row == null ? null : formatDate(row.finishDay),
      durationMinutes: activity.kind === "summary" ? null : (activity.durationMinutes ?? null),
      dayMinutes: schedule.calendars.get(activity.calendar ?? plan.project.calendar).dayMinutes,
      critical: row?.critical ?? false,
      parked: parked.has(id),
      who: (staff.get(id) ?? []).map(({ person }) => plan.people.get(person)?.name ?? ""),
    };
  });
  const finish = rows.reduce<string | null>(
    (last, row) => (row.finish !== null && !row.parked && (last === null || row.finish > last) ? row.finish : last),
    null,
  );
  return {
    start: plan.project.start,
    finish,
    currency: plan.project.currency,
    minorDigits: plan.project.minorDigits ?? 2,
    activities: counted.filter(({ kind }) => kind !== "milestone" && kind !== "summary").length,
    milestones: counted.filter(({ kind }) => kind === "milestone").length,
    links: plan.links.size,
    workMinutes: sum(tops.map((i) => budget.minutes[i]!)),
    costMinor: sum(tops.map((i) => budget.minor[i]!)),
    roles: [...plan.placeholders.keys()].map((id) => ({ id, name: plan.people.get(id)?.name ?? id })),
    people: [...plan.people.values()].flatMap(({ id, name }) => (plan.placeholders.has(id) ? [] : [name])),
    rows,
  };
}
