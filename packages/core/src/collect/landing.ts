import { costOfMinutes, type RateBook } from "../budget/rates.ts";
import type { Change } from "../plan/change.ts";
import { dateWords } from "../words/dateWords.ts";
import { dayAfter } from "../time/instant.ts";

/**
 * Where what belongs to a day lands: on that day, or on the day after a locked period, and then says which day it is for.
 * @param closedTo the last locked day
 */
export function landing(date: string, said: string, closedTo: string | null): { date: string; said: string } {
  if (closedTo === null || date > closedTo) return { date, said };
  return {
    date: dayAfter(closedTo),
    said: [`for ${dateWords(date)}`, said].filter((words) => words !== "").join(": "),
  };
}

/** What someone worked on a day. */
export interface Worked {
  readonly activity: string;
  readonly person: string;
  readonly date: string;
  readonly minutes: number;
}

/**
 * Time is costed at the rate of the day worked (calculations.md section 4). Where it lands on a later day with another rate,
 * the difference is a cost of its own beside it; `null` where there is none.
 * @param named what the person is called
 */
export function rateDifference(
  { activity, person, date, minutes }: Worked,
  landed: string,
  rates: RateBook,
  named: string,
  key: string,
): Change | null {
  const amountMinor = costOfMinutes(minutes, rates(person, date)) - costOfMinutes(minutes, rates(person, landed));
  if (amountMinor === 0) return null;
  const reference = `${named}: the rate of ${dateWords(date)}`;
  return { type: "postCost", key, cost: { activity, date: landed, amountMinor, reference } };
}
