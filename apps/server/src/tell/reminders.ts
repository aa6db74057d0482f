const REMINDER = "Your time of the week of";

/** The subject of a reminder of someone's time of a week; by it is told who was reminded. */
export const reminderOf = (monday: string): string => `${REMINDER} ${monday}`;

/** What subjects of reminders begin with, as a pattern of the database. */
export const ANY_REMINDER = `${REMINDER}%`;
