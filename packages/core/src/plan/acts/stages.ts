import type { Change } from "../change.ts";
import type { Plan } from "../plan.ts";
import type { Activity, Credit } from "../schema.ts";

/** A stage as it is to be: what it was called, where it was there before, and the percent that it earns. */
export interface StageEdit {
  readonly was: string | null;
  readonly name: string;
  readonly credit: number;
}

/** What is wrong with stages; `null` where they can be. */
export function stagesFault(stages: readonly StageEdit[]): string | null {
  if (stages.length === 0) return "There is no stage; add one.";
  if (stages.some(({ name }) => name.trim() === "")) return "A stage has no name.";
  const twice = stages.find(({ name }, i) => stages.some((other, j) => j < i && other.name.trim() === name.trim()));
  if (twice !== undefined) return `Two stages are called “${twice.name.trim()}”.`;
  return stages.every(({ credit }) => credit >= 0 && credit <= 100) ? null : "A stage earns 0 to 100%.";
}

/** The stage at which an activity stands once stages are others: the same, else one that earns no more than it did. */
function stageNow({ credit, actualFinish }: Activity, ordered: readonly StageEdit[]): string {
  const first = ordered[0]!;
  if (credit?.rule !== "stages") return (actualFinish === undefined ? first : ordered.at(-1)!).name;
  const kept = ordered.find(({ was }) => was === credit.stage);
  if (kept !== undefined) return kept.name;
  const earned = credit.stages?.find(({ name }) => name === credit.stage)?.credit ?? 0;
  return (ordered.findLast((stage) => stage.credit <= earned) ?? first).name;
}

const sameCredit = (a: Credit | undefined, b: Credit): boolean => JSON.stringify(a) === JSON.stringify(b);

/**
 * The changes that have activities earn by stages, all by the same: those that earned so stay where they stand, under
 * the name that it has now; others begin at the first, or stand at the last where they are finished.
 * @param stages without fault, in any order
 */
export function stageChanges(plan: Plan, ids: readonly string[], stages: readonly StageEdit[]): Change[] {
  const ordered = stages.map((stage) => ({ ...stage, name: stage.name.trim() })).sort((a, b) => a.credit - b.credit);
  return ids.flatMap((id): Change[] => {
    const activity = plan.activities.get(id);
    if (activity === undefined) return [];
    const next: Credit = {
      rule: "stages",
      stages: ordered.map(({ name, credit }) => ({ name, credit })),
      stage: stageNow(activity, ordered),
    };
    return sameCredit(activity.credit, next) ? [] : [{ type: "setCredit", activity: id, credit: next }];
  });
}
