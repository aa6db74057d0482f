import { minorUnits, type MinorUnits } from "../budget/money.ts";
import { mulDivRound } from "../budget/exact.ts";
import { costOfMinutes, rateBook } from "../budget/rates.ts";
import { assignmentsByActivity } from "../network/laid/nodeColumns.ts";
import type { Schedule } from "../network/schedule.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { formatDate } from "../time/instant.ts";
import { timeAhead } from "./cost.ts";
import { addSums, figuresOf, NO_SUMS, type Figures, type Sums } from "./figures.ts";
import type { Performance } from "./performance.ts";

/** By what the figures of a project can be split. */
export type ShareKind = "person" | "role" | "category";

/** The key of what belongs to nobody, or to no category. */
export const NOBODY = "";

/**
 * Parts of an amount in proportion to weights; they add up to the whole. What rounding leaves goes to the parts that lost
 * most by it (largest remainder).
 * @example distribute(100, [1, 1, 1]) is [34, 33, 33]
 */
export function distribute(amount: number, weights: readonly number[]): number[] {
  const whole = weights.reduce((sum, weight) => sum + weight, 0);
  if (whole === 0) return weights.map((_, i) => (i === 0 ? amount : 0));
  const exact = weights.map((weight) => (amount * weight) / whole);
  const parts = weights.map((weight) => mulDivRound(amount, weight, whole));
  const order = parts.map((_, i) => i).sort((a, b) => exact[b]! - parts[b]! - (exact[a]! - parts[a]!));
  let left = amount - parts.reduce((sum, part) => sum + part, 0);
  const step = left < 0 ? -1 : 1;
  const turns = step < 0 ? order.reverse() : order;
  for (let i = 0; left !== 0; i = (i + 1) % turns.length, left -= step) parts[turns[i]!]! += step;
  return parts;
}

const rolesOf = (plan: PlanBundle): Map<string, string> =>
  new Map((plan.people ?? []).map(({ id, role }) => [id, role ?? NOBODY]));

/** Whose an activity's planned cost is, as weights by key. */
function weightsBy(kind: ShareKind, plan: PlanBundle, schedule: Schedule): (i: number) => Map<string, number> {
  const rates = rateBook(plan.people ?? []);
  const roles = rolesOf(plan);
  const assignments = assignmentsByActivity(plan);
  const costs = new Map<string, { category: string; minor: number }[]>();
  for (const { activity, category, plannedMinor } of plan.costs ?? [])
    costs.set(activity, [...(costs.get(activity) ?? []), { category, minor: plannedMinor }]);
  return (i) => {
    const { id } = plan.activities[i]!;
    const on = schedule.rows[i] == null ? plan.project.start : formatDate(schedule.rows[i].startDay);
    const weights = new Map<string, number>();
    const add = (key: string, amount: number): void =>
      void (amount > 0 && weights.set(key, (weights.get(key) ?? 0) + amount));
    for (const { person, plannedMinutes } of assignments.get(id) ?? []) {
      add(
        kind === "person" ? person : kind === "role" ? (roles.get(person) ?? NOBODY) : NOBODY,
        costOfMinutes(plannedMinutes, rates(person, on)),
      );
    }
    for (const { category, minor } of costs.get(id) ?? []) add(kind === "category" ? category : NOBODY, minor);
    return weights;
  };
}

/** Actual cost by key, up to and on a date. */
function actualBy(kind: ShareKind, plan: PlanBundle, until: string): Map<string, MinorUnits> {
  const rates = rateBook(plan.people ?? []);
  const roles = rolesOf(plan);
  const found = new Map<string, MinorUnits>();
  const add = (key: string, amount: number): void => void found.set(key, minorUnits((found.get(key) ?? 0) + amount));
  for (const { person, date, minutes, state } of plan.timeEntries ?? []) {
    if (state === "posted" && date <= until)
      add(
        kind === "person" ? person : kind === "role" ? (roles.get(person) ?? NOBODY) : NOBODY,
        costOfMinutes(minutes, rates(person, date)),
      );
  }
  for (const { date, amountMinor, category } of plan.actualCosts ?? [])
    if (date <= until) add(kind === "category" ? (category ?? NOBODY) : NOBODY, amountMinor);
  return found;
}

/**
 * The project's figures split by person, role or cost category. Budget, planned and earned value of an activity go to those
 * whose planned cost it is, in proportion; actual cost and time booked ahead to whoever booked it, or its category. All add up to the project's.
 * Common practice, no source.
 * @param performance what `measurePerformance` gave for the plan
 */
export function performanceByShare(
  plan: PlanBundle,
  schedule: Schedule,
  performance: Performance,
  kind: ShareKind,
): Map<string, Figures> {
  const weightsOf = weightsBy(kind, plan, schedule);
  const ahead = { rows: timeAhead(plan, performance.asOf), byActivity: new Map<string, number>() };
  for (const { activity, costMinor } of ahead.rows)
    ahead.byActivity.set(activity, (ahead.byActivity.get(activity) ?? 0) + costMinor);
  const roles = rolesOf(plan);
  const sums = new Map<string, Sums>();
  const add = (key: string, more: Partial<Sums>): void =>
    void sums.set(key, addSums(sums.get(key) ?? NO_SUMS, { ...NO_SUMS, ...more }));
  plan.activities.forEach((activity, i) => {
    const figures = performance.activities[i];
    if (figures == null || activity.kind === "summary") return;
    const weights = weightsOf(i);
    const keys = weights.size === 0 ? [NOBODY] : [...weights.keys()];
    const parts = weights.size === 0 ? [1] : [...weights.values()];
    const shared = (amount: number): MinorUnits[] => distribute(amount, parts).map(minorUnits);
    const [bac, pv, ev] = [shared(figures.bac), shared(figures.pv), shared(figures.ev)];
    const toCome = shared(figures.eacBottomUp - figures.ac - (ahead.byActivity.get(activity.id) ?? 0));
    keys.forEach((key, k) => add(key, { bac: bac[k]!, pv: pv[k]!, ev: ev[k]!, eacBottomUp: toCome[k]! }));
  });
  for (const figures of performance.left.values()) add(NOBODY, { bac: figures.bac, pv: figures.pv, ev: figures.ev });
  const parked = schedule.tree.parked;
  for (const { activity, person, costMinor } of ahead.rows)
    if (!parked.has(activity))
      add(kind === "category" ? NOBODY : kind === "person" ? person : (roles.get(person) ?? NOBODY), {
        eacBottomUp: costMinor,
      });
  for (const [key, ac] of actualBy(kind, parked.size === 0 ? plan : withoutParked(plan, parked), performance.asOf))
    add(key, { ac, eacBottomUp: ac });
  return new Map([...sums].map(([key, own]) => [key, figuresOf(own)]));
}

const withoutParked = (plan: PlanBundle, parked: ReadonlySet<string>): PlanBundle => ({
  ...plan,
  timeEntries: (plan.timeEntries ?? []).filter(({ activity }) => !parked.has(activity)),
  actualCosts: (plan.actualCosts ?? []).filter(({ activity }) => !parked.has(activity)),
});

/** The project's figures split by a value that each activity has; branches are left out. All add up to the project's. */
export function performanceByValue(
  plan: PlanBundle,
  performance: Performance,
  valueOf: (activity: string) => string,
): Map<string, Figures> {
  const sums = new Map<string, Sums>();
  const add = (key: string, more: Sums): void => void sums.set(key, addSums(sums.get(key) ?? NO_SUMS, more));
  plan.activities.forEach((activity, i) => {
    const figures = performance.activities[i];
    if (figures != null && activity.kind !== "summary") add(valueOf(activity.id), figures);
  });
  for (const figures of performance.left.values()) add(NOBODY, figures);
  return new Map([...sums].map(([key, own]) => [key, figuresOf(own)]));
}
