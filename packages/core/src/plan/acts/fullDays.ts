import type { Problem } from "../problem.ts";
import type { PlanBundle } from "../schema.ts";

const MINUTES_OF_A_DAY = 1440;

/**
 * Time that no day has: more than 24 hours of a person on a date. A plan can be computed with it, but no timesheet can
 * hold it.
 */
export function overfullDays({ timeEntries = [] }: PlanBundle): Problem[] {
  const days = new Map<string, number>();
  const found: Problem[] = [];
  for (const { activity, person, date, minutes, state } of timeEntries) {
    if (state === "returned") continue;
    const key = `${person}\0${date}`;
    const before = days.get(key) ?? 0;
    days.set(key, before + minutes);
    if (before <= MINUTES_OF_A_DAY && before + minutes > MINUTES_OF_A_DAY)
      found.push({
        table: "timeEntries",
        row: `${activity} / ${person}`,
        field: "minutes",
        message: `${person} has more than 24 hours booked on ${date}`,
      });
  }
  return found;
}
