import type { SharedRows } from "@chronometra/contract";
import { leaveCalendar, leaveId, type Calendar, type Leave, type Person, type Plan } from "@chronometra/core";

/**
 * Someone with their leave as rows to store: with leave they have a calendar of their own, that rests on the one they work by
 * (without one, on the project's); without leave none is made.
 */
export function personRows(plan: Plan, person: Person, by: string | undefined, leave: Leave): SharedRows["rows"] {
  const id = leaveId(person.id);
  const had = plan.calendars.has(id);
  const { calendar: _was, ...rest } = person;
  if (leave.length === 0 && !had)
    return [{ table: "people", row: { ...rest, ...(by === undefined ? {} : { calendar: by }) } }];
  const base = by ?? plan.project.calendar;
  const bases: Calendar[] = [];
  for (
    let at = plan.calendars.get(base);
    at !== undefined && !bases.includes(at);
    at = at.base === undefined ? undefined : plan.calendars.get(at.base)
  )
    bases.unshift(at);
  return [
    ...bases.map((row) => ({ table: "calendars" as const, row, ifMissing: true })),
    { table: "calendars", row: leaveCalendar(person, base, leave) },
    { table: "people", row: { ...rest, calendar: id } },
  ];
}
