import type { ActivityNote, Assignment, Computed, CostLine, Credit, Plan } from "@chronometra/core";
import { costOfMinutes, formatDate, rateBook } from "@chronometra/core";

/** Who works on an activity, what else it costs, and how its progress is credited; rows with their keys. */
export interface ActivityWork {
  readonly assignments: readonly {
    readonly key: string;
    readonly row: Assignment;
    readonly name: string;
    readonly placeholder: boolean;
    /** Minor units, at the rate in force on the start. */ readonly costMinor: number;
  }[];
  readonly costs: readonly { readonly key: string; readonly row: CostLine }[];
  readonly credit: Credit | null;
  readonly note: ActivityNote;
  readonly currency: string;
  readonly minorDigits: number;
}

/** Gathers what hangs on an activity; `null` where it is not in the plan. */
export function activityWork(value: Plan, id: string, computed: Computed): ActivityWork | null {
  const activity = value.activities.get(id);
  if (activity === undefined) return null;
  const dates = computed.schedule.rows[computed.schedule.tree.indexOf.get(id)!];
  const start = dates == null ? value.project.start : formatDate(dates.startDay);
  const own = [...value.assignments].filter(([, row]) => row.activity === id);
  const rates = rateBook([...value.people.values()]);
  return {
    assignments: own.map(([key, row]) => ({
      key,
      row,
      name: value.people.get(row.person)?.name ?? row.person,
      placeholder: value.placeholders.has(row.person),
      costMinor: costOfMinutes(row.plannedMinutes, rates(row.person, start)),
    })),
    costs: [...value.costs].flatMap(([key, row]) => (row.activity === id ? [{ key, row }] : [])),
    credit: activity.credit ?? null,
    note: value.notes.get(id) ?? {},
    currency: value.project.currency,
    minorDigits: value.project.minorDigits ?? 2,
  };
}
