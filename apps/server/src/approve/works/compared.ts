import type { ComparisonView } from "@chronometra/contract";
import {
  compareStates,
  onceFrozen,
  stateOfBaseline,
  stateOfPlan,
  type Baseline,
  type ComparedRow,
  type FrozenLogic,
  type PlanBundle,
  type PlanState,
  type StateRow,
} from "@chronometra/core";
import type { HeldPlan } from "../../plan/held/heldPlan.ts";

type Comparison = ReturnType<typeof compareStates>;

/** A state of a plan: as it is now, another that is known whole, or as a baseline froze it, with the names of then. */
export type StateSource =
  | "live"
  | { readonly whole: PlanBundle }
  | {
      readonly baseline: Baseline;
      readonly frozen: FrozenLogic;
      readonly names: ReadonlyMap<string, string>;
    };

function stateOf({ whole: { bundle } }: HeldPlan, source: StateSource): PlanState {
  if (source === "live") return stateOfPlan(bundle);
  if ("whole" in source) return stateOfPlan(source.whole);
  return stateOfBaseline(bundle, source.baseline, source.frozen, source.names);
}

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

/** Two states of a plan compared, told in days of the project's calendar. */
export function compared(
  held: HeldPlan,
  { from, to }: { readonly from: StateSource; readonly to: StateSource },
): Pick<ComparisonView, "rows" | "dayMinutes"> & Omit<Comparison, "rows"> {
  const { bundle, computed } = held.whole;
  const calendar = computed.schedule.calendars.get(bundle.project.calendar);
  const comparison = compareStates(stateOf(held, from), stateOf(held, to), calendar);
  return { ...comparison, dayMinutes: calendar.dayMinutes, rows: comparison.rows.map(presentRow) };
}

/**
 * What freezing a state that is known whole would make of the figures.
 * @param after the state, and `frozen` what of it is frozen, where that is another
 */
export function onceFrozenAs(
  { whole: { bundle: live } }: HeldPlan,
  { after, frozen }: { readonly after: PlanBundle; readonly frozen: PlanBundle | null },
): ReturnType<typeof onceFrozen> {
  // A plan kept with a request has its baselines kept beside it.
  const whole = { ...after, baselines: live.baselines ?? [] };
  return onceFrozen(live, whole, frozen ?? whole);
}
