import type { ImportView } from "@chronometra/contract";
import {
  countWords,
  dateWords,
  formatDate,
  openOf,
  parseDate,
  startDayOf,
  type PlanBundle,
  type schedulePlan,
} from "@chronometra/core";
import type { Loose } from "../match/readTables.ts";
import type { Lasting } from "./lasting.ts";
import { calendarFor } from "./lengths.ts";

const SHOWN = 50;
const REASON = "start date of the imported file, which its links do not give";

/** An activity whose start in the file is not the one that its links and lengths give. */
export interface Disagreement {
  readonly id: string;
  readonly name: string;
  readonly place: string;
  readonly given: string;
  readonly byLinks: string;
}

/** Activities after others that start on another day than the file says; a day off is as good as the next that is worked. */
export function disagreements(
  bundle: PlanBundle,
  { rows }: ReturnType<typeof schedulePlan>,
  given: Lasting["given"],
): Disagreement[] {
  const calendarOf = calendarFor(bundle.calendars as unknown as Loose[]);
  return bundle.activities.flatMap((activity, i) => {
    const said = given.get(activity.id);
    const row = rows[i];
    if (said === undefined || !said.hasPredecessors || row == null) return [];
    const calendar = calendarOf(activity.calendar ?? bundle.project.calendar);
    const day = parseDate(said.start);
    if (day === null || calendar === null) return [];
    const worked = startDayOf(calendar.startAt(calendar.indexAt(openOf(day))));
    return worked === row.startDay
      ? []
      : [
          {
            id: activity.id,
            name: activity.name,
            place: said.place,
            given: said.start,
            byLinks: formatDate(row.startDay),
          },
        ];
  });
}

/** The question which of them holds. */
export const datesQuestion = (found: readonly Disagreement[]): ImportView["datesQuestion"] =>
  found.length === 0
    ? null
    : {
        count: found.length,
        samples: found.slice(0, SHOWN).map(({ place, name, given, byLinks }) => ({ place, name, given, byLinks })),
      };

/**
 * A plan in which the dates of the file hold, each as a date wish that says so. What is to start earlier than its links
 * allow is wished on its day: the plan shows then by how much it is late.
 */
export function withDates(bundle: PlanBundle, found: readonly Disagreement[]): PlanBundle {
  const byId = new Map(found.map((each) => [each.id, each]));
  return {
    ...bundle,
    activities: bundle.activities.map((activity) => {
      const wanted = byId.get(activity.id);
      if (wanted === undefined) return activity;
      const type = wanted.given > wanted.byLinks ? "startNotBefore" : "startOn";
      return { ...activity, wish: { type, date: wanted.given, reason: REASON } };
    }),
  };
}

/** What is said of dates that hold, or do not. */
export const datesWords = (found: readonly Disagreement[], hold: boolean): string =>
  hold
    ? `${countWords(found.length, "activity starts", "activities start")} on the date of the file by a date wish: ${namesOf(found)}.`
    : `${countWords(found.length, "activity starts by its", "activities start by their")} links and durations, and not on the date of the file: ${namesOf(found)}.`;

const NAMED = 5;
const namesOf = (found: readonly Disagreement[]): string =>
  `${found
    .slice(0, NAMED)
    .map(({ name, given }) => `“${name}” ${dateWords(given)}`)
    .join(", ")}${found.length > NAMED ? ` and ${found.length - NAMED} more` : ""}`;
