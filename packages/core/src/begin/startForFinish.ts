import { earlyFinish } from "../network/schedule.ts";
import { compileCalendars } from "../plan/compileCalendars.ts";
import { toBundle, type Plan } from "../plan/plan.ts";
import { epochDay, finishDayOf, formatDate, parseDate, type EpochDay } from "../time/instant.ts";
import { movedTo } from "./movedTo.ts";

/** So many days after the start that was found it is looked whether a later one does as well. */
const LOOK_ON_DAYS = 14;

/** The last day on which a plan may begin to finish in time; or the day on which it can finish at the earliest. */
export type StartFound = { readonly start: string } | { readonly earliestFinish: string };

/**
 * Goes back from a finish: the latest start with which the whole plan is finished by then.
 * @param plan one that nothing has happened in
 * @param finish the last day of the project, `YYYY-MM-DD`
 * @param notBefore the day before which it cannot begin
 * @throws {PlanProblems} where the plan cannot be scheduled
 */
export function startForFinish(plan: Plan, finish: string, notBefore: string): StartFound {
  const calendars = compileCalendars([...plan.calendars.values()]).set;
  const last = parseDate(finish)!;
  const finishOf = (start: EpochDay): EpochDay => {
    const done = earlyFinish(toBundle(movedTo(plan, formatDate(start))), null, calendars);
    return done === null ? start : finishDayOf(done);
  };
  const first = parseDate(notBefore)!;
  const earliest = finishOf(first);
  if (earliest > last) return { earliestFinish: formatDate(earliest) };
  // From `low` on it is done in time, from `high` on it is not.
  let low = first as number;
  let high = last + 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (finishOf(epochDay(middle)) <= last) low = middle;
    else high = middle;
  }
  // Leave and days off may make a later start finish sooner by a little.
  for (let day = low + LOOK_ON_DAYS; day > low; day--)
    if (day <= last && finishOf(epochDay(day)) <= last) return { start: formatDate(epochDay(day)) };
  return { start: formatDate(epochDay(low)) };
}
