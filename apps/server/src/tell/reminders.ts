import { dateWords } from "@chronometra/core";
import { type DataSource } from "typeorm";
import { settleNotices } from "./notices.ts";

const ANY = "Your time of";
const REMINDER = `${ANY} the week of`;

/** The subject of a reminder of someone's time of a week; by it is told who was reminded. */
export const reminderOf = (monday: string): string => `${REMINDER} ${dateWords(monday)}`;

/** The subject of a reminder of all that someone owes of a reporting period. */
export const periodReminderOf = (number: number): string => `${ANY} period ${number}`;

/** What subjects of reminders of a week or a period begin with, as a pattern of the database. */
export const ANY_REMINDER = `${ANY} %`;

const PERIOD_ASKED = "time";

/** What a reminder of a period asks of someone, done once they owe nothing any more. */
export const periodAsked = (person: string): string => `${PERIOD_ASKED} ${person}`;

/** Settles reminders of a period of those who owe nothing any more. */
export async function settleReminders(database: DataSource, owing: ReadonlySet<string>, at: Date): Promise<void> {
  const open = (await database.query(
    "select distinct about from notice where about like concat(?, ' %') and settled_at is null",
    [PERIOD_ASKED],
  )) as { about: string }[];
  for (const { about } of open)
    if (!owing.has(about.slice(PERIOD_ASKED.length + 1))) await settleNotices(database.manager, about, at);
}

/** What a reminder of a week asks of someone, done once they have sent it. */
export const weekAsked = (person: string, monday: string): string => `week ${person} ${monday}`;
