import { chancesOf, prepare, type Chances, type SimulatedBlock, type Uncertain } from "@chronometra/core";

/** What a simulation came to, without names. */
export interface Drawn extends Pick<Chances, "runs" | "finish" | "cost" | "both"> {
  readonly dayMinutes: number;
  readonly finishes: Chances["finishes"][number][];
  readonly costs: Chances["costs"][number][];
  readonly sample: Chances["sample"][number][];
  readonly deadlines: Chances["deadlines"];
  readonly activities: Chances["activities"];
  /** Work that is not finished, of which chances can be said. */
  readonly open: readonly string[];
}

/** Puts the blocks of a simulation together, away from the thread that answers calls. */
export default function run({
  uncertain,
  blocks,
}: {
  readonly uncertain: Uncertain;
  readonly blocks: readonly SimulatedBlock[];
}): Drawn {
  const prepared = prepare(uncertain);
  const { rows } = prepared.schedule;
  const { runs, finish, cost, both, finishes, costs, sample, deadlines, activities } = chancesOf(prepared, blocks);
  return {
    runs,
    finish,
    cost,
    both,
    dayMinutes: prepared.calendar.dayMinutes,
    finishes: [...finishes],
    costs: [...costs],
    sample: [...sample],
    deadlines,
    activities,
    open: uncertain.plan.activities.flatMap(({ id, kind = "work" }, i) =>
      kind === "work" && (rows[i]?.state ?? "complete") !== "complete" ? [id] : [],
    ),
  };
}
