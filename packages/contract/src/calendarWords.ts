/** What stands on the calendar page. */
export const CALENDAR_KINDS = ["milestone", "deadline", "gate", "timebox", "meeting", "leave"] as const;
export type CalendarKind = (typeof CALENDAR_KINDS)[number];

export const CALENDAR_KIND_WORDS: Readonly<Record<CalendarKind, readonly [one: string, many: string]>> = {
  milestone: ["Milestone", "milestones"],
  deadline: ["Deadline", "deadlines"],
  gate: ["Gate", "gates"],
  timebox: ["Timebox", "timeboxes"],
  meeting: ["Meeting", "meetings"],
  leave: ["Absence", "absences"],
};

/** So many days are shown at once at most. */
export const LONGEST_CALENDAR = 70;
