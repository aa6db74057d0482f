import type { Person } from "../plan/schema.ts";
import { mulDivRound } from "./exact.ts";

/** Gives the rate in force, in minor units an hour, of a person on a date `YYYY-MM-DD`. */
export type RateBook = (person: string, date: string) => number;

/**
 * The rates of all people. The first rate also serves before its date; a person without rates costs nothing.
 * ISO dates compare as text, so no date is read here.
 */
export function rateBook(people: readonly Person[]): RateBook {
  const byPerson = new Map(people.map((person) => [person.id, person.rates ?? []]));
  return (person, date) => {
    const rates = byPerson.get(person) ?? [];
    let inForce = rates[0]?.perHourMinor ?? 0;
    for (const rate of rates) {
      if (rate.from > date) break;
      inForce = rate.perHourMinor;
    }
    return inForce;
  };
}

/** What minutes cost at a rate an hour: round(minutes x rate / 60). */
export const costOfMinutes = (minutes: number, perHourMinor: number): number => mulDivRound(minutes, perHourMinor, 60);
