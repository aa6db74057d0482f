import type { ComparisonView } from "@chronometra/contract";
import {
  compareStates,
  compileCalendars,
  onceFrozen,
  PlanProblems,
  stateOfBaseline,
  stateOfPlan,
  type Baseline,
  type Calendar,
  type ComparedRow,
  type FrozenLogic,
  type PlanBundle,
  type PlanState,
  type StateRow,
} from "@chronometra/core";

/** A state of a plan: known whole, or as a baseline froze it, with the names of then. */
export type StateSource =
  | { readonly whole: PlanBundle }
  | {
      readonly live: PlanBundle;
      readonly baseline: Baseline;
      readonly frozen: FrozenLogic;
      readonly names: ReadonlyMap<string, string>;
    };

interface Compare {
  readonly is: "compare";
  readonly from: StateSource;
  readonly to: StateSource;
  readonly calendars: readonly Calendar[];
  /** The project's calendar, in whose days is told how far something moves. */
  readonly calendar: string;
}
interface Freeze {
  readonly is: "freeze";
  readonly live: PlanBundle;
  readonly after: PlanBundle;
  readonly frozen: PlanBundle;
}
type Fault = { readonly fault: string };
export type Compared = Pick<ComparisonView, "rows" | "dayMinutes"> & Omit<ReturnType<typeof compareStates>, "rows">;
export type Frozen = ReturnType<typeof onceFrozen>;

const stateOf = (source: StateSource): PlanState =>
  "whole" in source
    ? stateOfPlan(source.whole)
    : stateOfBaseline(source.live, source.baseline, source.frozen, source.names);

const presentState = (row: StateRow | null): ComparisonView["rows"][number]["from"] => {
  if (row === null) return null;
  const { startDate, finishDate, start, finish, durationMinutes, minutes, budgetMinor, deadline, parked } = row;
  return { startDate, finishDate, start, finish, durationMinutes, minutes, budgetMinor, deadline, parked };
};

const presentRow = (row: ComparedRow): ComparisonView["rows"][number] => ({
  id: row.id,
  name: row.name,
  path: row.path,
  milestone: (row.to ?? row.from)!.milestone,
  what: row.what,
  from: presentState(row.from),
  to: presentState(row.to),
  startDays: row.startDays,
  finishDays: row.finishDays,
  logicAdded: [...row.logicAdded],
  logicDropped: [...row.logicDropped],
});

function compared({ from, to, calendars, calendar: id }: Compare): Compared {
  const calendar = compileCalendars(calendars).set.get(id);
  const comparison = compareStates(stateOf(from), stateOf(to), calendar);
  return { ...comparison, dayMinutes: calendar.dayMinutes, rows: comparison.rows.map(presentRow) };
}

/** Compares two states of a plan, or tells what freezing one would make of the figures. */
export default function run(job: Compare | Freeze): Compared | Frozen | Fault {
  try {
    return job.is === "compare" ? compared(job) : onceFrozen(job.live, job.after, job.frozen);
  } catch (error) {
    if (error instanceof PlanProblems) return { fault: error.problems[0]!.message };
    throw error;
  }
}
