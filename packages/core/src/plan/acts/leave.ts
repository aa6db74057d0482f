import type { Change } from "../change.ts";
import type { Plan } from "../plan.ts";
import type { Calendar, Person } from "../schema.ts";

export type Leave = NonNullable<Calendar["exceptions"]>;

/** The calendar that holds someone's leave: their own, resting on the one they work by. */
export const leaveId = (person: string): string => `leave-${person}`.slice(0, 64);

/** Someone's leave: the exceptions of a calendar of their own; none where they have none. */
export function leaveOf(plan: Plan, person: Person): Leave {
  return person.calendar === leaveId(person.id) ? (plan.calendars.get(person.calendar)?.exceptions ?? []) : [];
}

/**
 * The calendar that someone works by, leave apart: the one their own rests on, or the one they name; `undefined` for
 * the project's.
 */
export function worksBy(plan: Plan, person: Person): string | undefined {
  return person.calendar === leaveId(person.id) ? plan.calendars.get(person.calendar)?.base : person.calendar;
}

/** A person's calendar of leave, as it would be with that leave. */
export const leaveCalendar = (person: Person, base: string, leave: Leave): Calendar => ({
  id: leaveId(person.id),
  name: `${person.name}’s days`,
  base,
  ...(leave.length === 0 ? {} : { exceptions: [...leave].sort((a, b) => (a.from < b.from ? -1 : 1)) }),
});

/**
 * The changes that give someone of a plan leave, first and last day; none where they have it already or are not in the
 * plan.
 */
export function addLeave(
  plan: Plan,
  personId: string,
  { from, to, note }: { readonly from: string; readonly to: string; readonly note: string },
): Change[] {
  const person = plan.people.get(personId);
  if (person === undefined) return [];
  const had = leaveOf(plan, person);
  if (had.some((each) => each.shifts.length === 0 && each.from <= from && each.to >= to)) return [];
  const own = leaveCalendar(person, worksBy(plan, person) ?? plan.project.calendar, [
    ...had,
    { from, to, shifts: [], ...(note === "" ? {} : { label: note }) },
  ]);
  const key = own.id;
  const calendar: Change = plan.calendars.has(key)
    ? { type: "editRow", table: "calendars", key, set: { base: own.base, exceptions: own.exceptions } }
    : { type: "addRow", table: "calendars", key, row: own };
  return [
    calendar,
    ...(person.calendar === key
      ? []
      : [{ type: "editRow", table: "people", key: personId, set: { calendar: key } } as const]),
  ];
}
