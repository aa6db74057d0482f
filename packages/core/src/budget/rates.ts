import type { Person } from "../plan/schema.ts";
import { mulDivRound } from "./exact.ts";
import { minorUnits, type MinorUnits } from "./money.ts";

/** Gives the rate in force, in minor units an hour, of a person on a date `YYYY-MM-DD`. */
export type RateBook = (person: string, date: string) => MinorUnits;

/**
 * The rates of all people. The first rate also serves before its date; a person without rates costs nothing.
 * ISO dates compare as text, so no date is read here.
 */
export function rateBook(people: readonly Person[]): RateBook {
  const byPerson = new Map(people.map((person) => [person.id, person.rates ?? []]));
  return (person, date) => {
    const rates = byPerson.get(person) ?? [];
    let inForce: number = rates[0]?.perHourMinor ?? 0;
    for (const rate of rates) {
      if (rate.from > date) break;
      inForce = rate.perHourMinor;
    }
    return minorUnits(inForce);
  };
}

/** What minutes cost at a rate an hour: round(minutes x rate / 60). */
export const costOfMinutes = (minutes: number, perHourMinor: MinorUnits): MinorUnits =>
  minorUnits(mulDivRound(minutes, perHourMinor, 60));
