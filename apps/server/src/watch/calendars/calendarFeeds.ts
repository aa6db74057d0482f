import { createHash, randomBytes } from "node:crypto";
import type { CalendarFeed, Me, Role } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { findAccount } from "../../access/accounts.ts";
import { ACCESS, refusalWords } from "../../access/accessTable.ts";
import { Failure } from "../../shared/failure.ts";
import { ask } from "../asked/ask.ts";
import { calendarText, type CalendarDay } from "./calendarText.ts";
import { workDays } from "./workDays.ts";
import { deadlineDays } from "./deadlineDays.ts";
import { calendarDays, withCalendarFields } from "../exportForms.ts";
import { watchlist } from "../watchlists.ts";
import { CalendarEntryEntity, CalendarFeedEntity } from "../watchEntities.ts";
import { seenDays } from "./seenDays.ts";
import { sentDays } from "./sentDays.ts";

export const DEADLINES = "deadlines";
/** One's own work, for whoever is a person of some plan. */
const WORK = "work";

/** What the calendar page shows, and of that one's own alone: each sees there what is theirs to see. */
const PAGES: Readonly<Record<string, { readonly name: string; readonly own: boolean }>> = {
  calendar: { name: "Calendar", own: false },
  "own-calendar": { name: "My calendar", own: true },
};

const SHOWN_AT_MOST = 2000;

const hashOf = (secret: string): string => createHash("sha256").update(secret).digest("hex");

/** Whether someone has an address for a subject; the secret in it cannot be read again. */
export async function feedOf(database: DataSource, me: Me, subject: string): Promise<CalendarFeed> {
  const feed = await database.getRepository(CalendarFeedEntity).findOneBy({ accountId: me.id, subject });
  return { madeAt: feed?.madeAt.toISOString() ?? null, path: null };
}

/** Refuses an address of what someone may not see: their own work is theirs, all else is for those who look. */
async function assertMayHave(database: DataSource, me: Me, subject: string): Promise<void> {
  if (subject === WORK) {
    if (me.person === null) throw new Failure("invalid", "You are nobody in any plan; there is no work to show.");
    return;
  }
  if (PAGES[subject] !== undefined) return;
  const lookers = ACCESS["POST /api/watch"] as readonly Role[];
  if (!me.roles.some((role) => lookers.includes(role))) throw new Failure("notAllowed", refusalWords(lookers));
  if (subject !== DEADLINES) await watchlist(database, me, subject);
}

/** Makes an address for a subject; the one before no longer answers. */
export async function makeFeed(database: DataSource, me: Me, subject: string): Promise<CalendarFeed> {
  await assertMayHave(database, me, subject);
  const secret = randomBytes(24).toString("base64url");
  const madeAt = new Date();
  await endFeed(database, me, subject);
  await database.getRepository(CalendarFeedEntity).insert({ hash: hashOf(secret), accountId: me.id, subject, madeAt });
  return { madeAt: madeAt.toISOString(), path: `/api/feeds/calendar/${secret}` };
}

/** Ends an address, and forgets what was sent there. */
export async function endFeed(database: DataSource, me: Me, subject: string): Promise<void> {
  const feeds = database.getRepository(CalendarFeedEntity);
  for (const { hash } of await feeds.findBy({ accountId: me.id, subject })) {
    await feeds.delete({ hash });
    await database.getRepository(CalendarEntryEntity).delete({ feedHash: hash });
  }
}

interface Shown {
  readonly name: string;
  readonly days: readonly CalendarDay[];
}

/** What a subject shows: as much as someone may see today. */
async function shownOf(database: DataSource, me: Me, subject: string): Promise<Shown> {
  await assertMayHave(database, me, subject);
  if (subject === WORK) return { name: "My work", days: await workDays(database, me) };
  if (subject === DEADLINES) return { name: "Deadlines", days: await deadlineDays(database, me) };
  const page = PAGES[subject];
  if (page !== undefined) return { name: page.name, days: await seenDays(database, me, page.own) };
  const { name, question } = await watchlist(database, me, subject);
  const asked = withCalendarFields(question);
  return { name, days: calendarDays(asked, await ask(database, me, asked, SHOWN_AT_MOST)) };
}

/**
 * What a secret address shows, as iCalendar; `null` where nothing is there any more: it has ended, or its owner may no
 * longer look.
 * @param origin where the app is
 */
export async function feedText(database: DataSource, secret: string, origin: string): Promise<string | null> {
  const feed = await database.getRepository(CalendarFeedEntity).findOneBy({ hash: hashOf(secret) });
  const me = feed === null ? null : await findAccount(database, feed.accountId);
  if (feed === null || me === null) return null;
  try {
    const { name, days } = await shownOf(database, me, feed.subject);
    return calendarText(name, await sentDays(database, feed.hash, days, new Date()), origin);
  } catch (error) {
    if (error instanceof Failure && ["notFound", "notAllowed", "invalid"].includes(error.code)) return null;
    throw error;
  }
}
