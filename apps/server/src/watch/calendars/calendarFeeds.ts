import { createHash, randomBytes } from "node:crypto";
import type { CalendarFeed, Me, Role } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { findAccount } from "../../access/accounts.ts";
import { ACCESS, refusalWords } from "../../access/accessTable.ts";
import { Failure, orNotFound } from "../../shared/failure.ts";
import { ask } from "../asked/ask.ts";
import { calendarText, type CalendarDay } from "./calendarText.ts";
import { workDays } from "./workDays.ts";
import { deadlineDays } from "./deadlineDays.ts";
import { calendarDays, withCalendarFields } from "../exportForms.ts";
import { watchlist } from "../watchlists.ts";
import { CalendarFeedEntity } from "../watchEntities.ts";

export const DEADLINES = "deadlines";
/** One's own work, for whoever is a person of some plan. */
const WORK = "work";

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
  const lookers = ACCESS["POST /api/watch"] as readonly Role[];
  if (!me.roles.some((role) => lookers.includes(role))) throw new Failure("notAllowed", refusalWords(lookers));
  if (subject !== DEADLINES) await watchlist(database, me, subject);
}

/** Makes an address for a subject; the one before no longer answers. */
export async function makeFeed(database: DataSource, me: Me, subject: string): Promise<CalendarFeed> {
  await assertMayHave(database, me, subject);
  const secret = randomBytes(24).toString("base64url");
  const madeAt = new Date();
  await database.getRepository(CalendarFeedEntity).delete({ accountId: me.id, subject });
  await database.getRepository(CalendarFeedEntity).insert({ hash: hashOf(secret), accountId: me.id, subject, madeAt });
  return { madeAt: madeAt.toISOString(), path: `/api/feeds/calendar/${secret}` };
}

export async function endFeed(database: DataSource, me: Me, subject: string): Promise<void> {
  await database.getRepository(CalendarFeedEntity).delete({ accountId: me.id, subject });
}

/** What a secret address shows: as much as its owner may see today. */
export async function feedText(database: DataSource, secret: string): Promise<string> {
  const feed = orNotFound(
    await database.getRepository(CalendarFeedEntity).findOneBy({ hash: hashOf(secret) }),
    "calendar at that address; its owner may have made a new one",
  );
  const me = await findAccount(database, feed.accountId);
  if (me === null) throw new Failure("notAllowed");
  await assertMayHave(database, me, feed.subject);
  if (feed.subject === WORK) return calendarText("My work", await workDays(database, me));
  if (feed.subject === DEADLINES) return calendarText("Deadlines", await deadlineDays(database, me));
  const { name, question } = await watchlist(database, me, feed.subject);
  const asked = withCalendarFields(question);
  const days: CalendarDay[] = calendarDays(asked, await ask(database, me, asked, SHOWN_AT_MOST));
  return calendarText(name, days);
}
