import { createHash } from "node:crypto";
import { In, type DataSource } from "typeorm";
import { inTransaction } from "../../shared/database.ts";
import { CalendarEntryEntity } from "../watchEntities.ts";
import type { CalendarDay, SentDay } from "./calendarText.ts";

const digestOf = ({ title, words, path }: CalendarDay): string =>
  createHash("sha256")
    .update(JSON.stringify([title, words, path]))
    .digest("hex");
const datesOf = ({ from, to }: CalendarDay): string => `${from} ${to}`;

const ROWS_AT_ONCE = 500;
/** So long it is known what was sent of something that is not there any more: it may come back. */
const KEPT_MILLISECONDS = 400 * 24 * 3_600_000;

/** What an entry is sent as, from what it was sent as before; `null` where nothing of it changed. */
function changed(
  day: CalendarDay,
  was: CalendarEntryEntity | undefined,
  now: Date,
  hash: string,
): CalendarEntryEntity | null {
  const [dates, digest] = [datesOf(day), digestOf(day)];
  if (was?.dates === dates && was.digest === digest) return null;
  // It has moved only where its days are others (RFC 5545, 3.8.7.4: SEQUENCE counts revisions that matter).
  const sequence = was === undefined ? 0 : was.dates === dates ? was.sequence : was.sequence + 1;
  return { feedHash: hash, entryId: day.id, dates, digest, sequence, changedAt: now };
}

/**
 * What a calendar program is sent at an address: each entry with how often its days have changed there and when it
 * changed last, so that the program takes over what moved, and nothing where nothing did.
 * @param hash of the secret in the address
 */
export async function sentDays(
  database: DataSource,
  hash: string,
  days: readonly CalendarDay[],
  now: Date,
): Promise<SentDay[]> {
  const known = new Map(
    (await database.getRepository(CalendarEntryEntity).findBy({ feedHash: hash })).map((entry) => [
      entry.entryId,
      entry,
    ]),
  );
  const news = new Map<string, CalendarEntryEntity>();
  for (const day of days) {
    const entry = changed(day, known.get(day.id), now, hash);
    if (entry !== null) news.set(day.id, entry);
  }
  const shown = new Set(days.map(({ id }) => id));
  const long = new Date(now.getTime() - KEPT_MILLISECONDS);
  const gone = [...known.values()].filter(({ entryId, changedAt }) => !shown.has(entryId) && changedAt < long);
  await keep(database, [...news.values()], gone);
  return days.map((day) => {
    const { sequence, changedAt } = news.get(day.id) ?? known.get(day.id)!;
    return { ...day, sequence, changedAt };
  });
}

/** Keeps what was sent, and forgets what has been gone for long; most fetches find nothing to write. */
async function keep(
  database: DataSource,
  news: readonly CalendarEntryEntity[],
  gone: readonly CalendarEntryEntity[],
): Promise<void> {
  if (news.length + gone.length === 0) return;
  await inTransaction(database, async (manager) => {
    const entries = manager.getRepository(CalendarEntryEntity);
    for (let from = 0; from < news.length; from += ROWS_AT_ONCE)
      await entries.upsert(news.slice(from, from + ROWS_AT_ONCE), ["feedHash", "entryId"]);
    for (let from = 0; from < gone.length; from += ROWS_AT_ONCE)
      await entries.delete({
        feedHash: gone[from]!.feedHash,
        entryId: In(gone.slice(from, from + ROWS_AT_ONCE).map(({ entryId }) => entryId)),
      });
  });
}
