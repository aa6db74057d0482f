import type { ProjectLook } from "@chronometra/contract";
import {
  civilOf,
  closeOf,
  costOfMinutes,
  type EpochDay,
  epochDay,
  type Figures,
  formatDate,
  parseDate,
  type PlanBundle,
  plannedRows,
  rateBook,
  totalPlannedValueAt,
  minorUnits,
  NO_MONEY,
  type MinorUnits,
} from "@chronometra/core";
import type { ComputedPlan } from "../plan/held/computedPlan.ts";

/** Figures of every branch and activity, in the plan's order, and of what has left the plan. */
export function figureRows({ bundle, computed }: ComputedPlan): ProjectLook["rows"] {
  const { performance, schedule } = computed;
  const rows = bundle.activities.flatMap((activity, i): ProjectLook["rows"] => {
    if (schedule.tree.parked.has(activity.id)) return [];
    const { id, name, parent = null, kind = "work" } = activity;
    return [{ id, name, parent, kind, left: false, figures: performance?.activities[i] ?? null }];
  });
  for (const [id, figures] of performance?.left ?? [])
    rows.push({ id, name: id, parent: null, kind: "work", left: true, figures });
  return rows;
}

/** The figures that a period was issued with. */
export interface IssuedPoint {
  readonly dataDate: string;
  readonly figures: Figures | null;
}

/** The last day of each month that a span of days touches. */
function monthEnds(from: EpochDay, to: EpochDay): EpochDay[] {
  const ends: EpochDay[] = [];
  for (let day = from; day <= to + 31; day = epochDay(day + 1)) {
    if (civilOf(epochDay(day + 1)).day !== 1) continue;
    ends.push(day);
    if (day >= to) break;
  }
  return ends;
}

/** Actual cost from the first day to the close of a date, for many dates. */
function spentBy(bundle: PlanBundle): (date: string) => MinorUnits {
  const rates = rateBook(bundle.people ?? []);
  const daily = new Map<string, number>();
  const add = (date: string, amount: number): void => void daily.set(date, (daily.get(date) ?? 0) + amount);
  for (const entry of bundle.timeEntries ?? [])
    if (entry.state === "posted") add(entry.date, costOfMinutes(entry.minutes, rates(entry.person, entry.date)));
  for (const cost of bundle.actualCosts ?? []) add(cost.date, cost.amountMinor);
  const days = [...daily].sort(([a], [b]) => (a < b ? -1 : 1));
  return (date) => minorUnits(days.reduce((sum, [day, amount]) => (day <= date ? sum + amount : sum), 0));
}

/**
 * Planned value over the whole baseline, earned value and actual cost as issued each period and, where none is locked
 * there, as they stand now. What a period was issued with is told of its data date; it is not made up from today's
 * plan.
 */
export function curveOf(
  { bundle, computed }: ComputedPlan,
  issued: readonly IssuedPoint[],
  lockedTo: string | null,
): ProjectLook["curve"] {
  if (computed.baseline === null) return [];
  const rows = plannedRows(bundle, computed.baseline.content, computed.schedule.tree.parked);
  if (rows.length === 0) return [];
  const starts = rows.map(({ row }) => row.start.slice(0, 10)).sort();
  const finishes = rows.map(({ row }) => row.finish.slice(0, 10)).sort();
  const first = parseDate(starts[0]!)!;
  const last = parseDate(finishes.at(-1)!)!;
  const dataDate = bundle.project.dataDate;
  const earned = new Map(issued.map(({ dataDate: date, figures }) => [date, figures]));
  if (dataDate !== undefined && !(earned.has(dataDate) && lockedTo !== null && dataDate <= lockedTo))
    earned.set(dataDate, computed.performance?.project ?? null);
  const spent = spentBy(bundle);
  const origin = formatDate(epochDay(first - 1));
  const dates = [...new Set([...monthEnds(first, last).map(formatDate), ...earned.keys()])].sort();
  const points = dates.map((date) => ({
    date,
    pv: totalPlannedValueAt(rows, closeOf(parseDate(date)!)),
    ev: earned.get(date)?.ev ?? null,
    ac: earned.get(date)?.ac ?? (dataDate !== undefined && date <= dataDate ? spent(date) : null),
  }));
  return [{ date: origin, pv: NO_MONEY, ev: NO_MONEY, ac: NO_MONEY }, ...points.filter(({ date }) => date > origin)];
}
