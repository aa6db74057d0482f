import { planTree, type Activity, type Credit, type Plan } from "@chronometra/core";

type Stages = NonNullable<Credit["stages"]>;

export interface Track {
  readonly key: string;
  /** The stages that its rows share; `null` for those that earn by steps. */
  readonly stages: Stages | null;
  readonly rows: readonly { readonly activity: Activity; readonly credit: Credit; readonly path: string }[];
}

/** Activities that earn by stages, those of the same stages together, and those that earn by steps. */
export function tracksOf(plan: Plan): Track[] {
  const activities = [...plan.activities.values()];
  const { parked } = planTree(activities);
  const tracks = new Map<string, { key: string; stages: Stages | null; rows: Track["rows"][number][] }>();
  for (const activity of activities) {
    const { credit } = activity;
    if (credit === undefined || parked.has(activity.id) || (credit.rule !== "stages" && credit.rule !== "steps"))
      continue;
    const stages = credit.rule === "stages" ? [...(credit.stages ?? [])].sort((a, b) => a.credit - b.credit) : null;
    const key = stages === null ? "steps" : JSON.stringify(stages);
    const track = tracks.get(key) ?? { key, stages, rows: [] };
    track.rows.push({
      activity,
      credit,
      path: activity.parent === undefined ? "" : (plan.activities.get(activity.parent)?.name ?? ""),
    });
    tracks.set(key, track);
  }
  return [...tracks.values()].sort((a, b) => Number(a.stages === null) - Number(b.stages === null));
}

export const withStage = (credit: Credit, stage: string): Credit => ({ ...credit, stage });

/** A step ticked off on a day, or open again. */
export const withStep = (credit: Credit, at: number, doneOn: string | null): Credit => ({
  ...credit,
  steps: (credit.steps ?? []).map((step, i) => {
    if (i !== at) return step;
    const { doneOn: _was, ...rest } = step;
    return doneOn === null ? rest : { ...rest, doneOn };
  }),
});

/** The percent that steps done have by their weight. */
export function stepsPercent({ steps = [] }: Credit): number {
  const whole = steps.reduce((sum, { weight }) => sum + weight, 0);
  return whole === 0
    ? 0
    : (100 * steps.reduce((sum, { weight, doneOn }) => (doneOn === undefined ? sum : sum + weight), 0)) / whole;
}
