import { dateWords } from "@chronometra/core";

const ANY = "Your time of";
const REMINDER = `${ANY} the week of`;

/** The subject of a reminder of someone's time of a week; by it is told who was reminded. */
export const reminderOf = (monday: string): string => `${REMINDER} ${dateWords(monday)}`;

/** The subject of a reminder of all that someone owes of a reporting period. */
export const periodReminderOf = (number: number): string => `${ANY} period ${number}`;

/** What subjects of reminders of a week or a period begin with, as a pattern of the database. */
export const ANY_REMINDER = `${ANY} %`;

/** What a reminder of a week asks of someone, done once they have sent it. */
export const weekAsked = (person: string, monday: string): string => `week ${person} ${monday}`;
