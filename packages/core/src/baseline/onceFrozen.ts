import { computePlan } from "../analyse.ts";
import type { Figures } from "../performance/figures.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { closeOf, finishDayOf, formatDate, parseDate, parseInstant } from "../time/instant.ts";
import { freezePlan } from "./freeze.ts";

type Measured = Pick<Figures, "bac" | "pv" | "ev" | "sv" | "spi">;

/** What freezing a plan would make of its figures, at once; money in minor units. */
export interface OnceFrozen {
  /** By the baseline in force; `null` where there is none. */
  readonly before: Measured | null;
  readonly after: Measured;
  /** Work not finished that the new baseline would have finished by the data date, and what its planned value gains; the most first. */
  readonly past: readonly {
    readonly id: string;
    readonly name: string;
    readonly finish: string;
    readonly pvMinor: number;
  }[];
}

const measured = ({ bac, pv, ev, sv, spi }: Figures): Measured => ({ bac, pv, ev, sv, spi });

/**
 * Performance of a plan on its data date by the baseline in force, and by one that is frozen now.
 * @param before the live plan, whose newest baseline is in force
 * @param after the live plan as it would be then
 * @param approved the plan that would be frozen, where it is another
 * @returns `null` where the plan has no data date: there is nothing to measure
 * @throws {PlanProblems} where either cannot be computed
 */
export function onceFrozen(before: PlanBundle, after: PlanBundle, approved = after): OnceFrozen | null {
  const { dataDate } = after.project;
  if (dataDate === undefined) return null;
  const frozen = freezePlan(approved);
  const number = 1 + Math.max(0, ...(after.baselines ?? []).map((baseline) => baseline.number));
  const [was, will] = [
    computePlan(before),
    computePlan({
      ...after,
      baselines: [...(after.baselines ?? []), { number, approvedOn: dataDate, approvedBy: "", reason: "", ...frozen }],
    }),
  ];
  if (will.performance === null) return null;
  const earlier = new Map(before.activities.map(({ id }, i) => [id, was.performance?.activities[i]?.pv ?? 0]));
  const rows = new Map(frozen.activities.map((row) => [row.id, row]));
  const close = closeOf(parseDate(dataDate)!);
  const past = after.activities.flatMap(({ id, name }, i) => {
    const row = rows.get(id);
    const pvMinor = (will.performance!.activities[i]?.pv ?? 0) - (earlier.get(id) ?? 0);
    if (
      row === undefined ||
      pvMinor <= 0 ||
      will.schedule.rows[i]?.state === "complete" ||
      parseInstant(row.finish)! > close
    )
      return [];
    return [{ id, name, finish: formatDate(finishDayOf(parseInstant(row.finish)!)), pvMinor }];
  });
  return {
    before: was.performance === null ? null : measured(was.performance.project),
    after: measured(will.performance.project),
    past: past.sort((a, b) => b.pvMinor - a.pvMinor),
  };
}
