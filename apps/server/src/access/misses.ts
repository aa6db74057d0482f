import type { DataSource } from "typeorm";
import { inTransaction } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";

/** What is counted, and from how many misses on how long one waits after the last. */
interface Limit {
  readonly free: number;
  readonly longestSeconds: number;
}

/** An account from one address: whoever guesses there waits ever longer, and nobody else does. */
const FROM_ADDRESS: Limit = { free: 5, longestSeconds: 15 * 60 };
/** An account from anywhere: many addresses are slowed together, and its owner is not shut out by them. */
const FROM_ANYWHERE: Limit = { free: 50, longestSeconds: 5 };

const FORGOTTEN_MILLISECONDS = 24 * 60 * 60_000;

/** Seconds to wait after some misses. */
export const waitAfter = (misses: number, { free, longestSeconds }: Limit = FROM_ADDRESS): number =>
  misses < free ? 0 : Math.min(2 ** (misses - free), longestSeconds);

/**
 * Lets someone try a password, and counts the try as a miss before it is looked at, so that many at once do not pass together.
 * @returns what a try that succeeds calls, so that it counts as none
 * @throws {Failure} `tooMany` while there is still to wait
 */
export async function admitTry(
  database: DataSource,
  login: string,
  address: string,
  now = Date.now(),
): Promise<() => Promise<void>> {
  const account = login.trim().toLowerCase().slice(0, 120);
  const counted: [who: string, limit: Limit][] = [
    [`${account} ${address}`.slice(0, 200), FROM_ADDRESS],
    [account, FROM_ANYWHERE],
  ];
  await inTransaction(database, async (manager) => {
    for (const [who, limit] of counted) {
      await manager.query("insert ignore into sign_in_miss (who, misses, last_at) values (?, 0, ?)", [who, now]);
      const [row] = (await manager.query(
        "select misses, last_at as lastAt from sign_in_miss where who = ? for update",
        [who],
      )) as [{ misses: number; lastAt: string }];
      const misses = now - Number(row.lastAt) > FORGOTTEN_MILLISECONDS ? 0 : row.misses;
      const wait = waitAfter(misses, limit);
      const seconds = Math.ceil((Number(row.lastAt) + wait * 1000 - now) / 1000);
      if (wait > 0 && seconds > 0)
        throw new Failure("tooMany", `Too many passwords that were not right; wait ${seconds} s and try again.`, {
          retryAfterSeconds: seconds,
        });
      await manager.query("update sign_in_miss set misses = ?, last_at = greatest(last_at, ?) where who = ?", [
        misses + 1,
        now,
        who,
      ]);
    }
  });
  return async () =>
    void (await database.query("delete from sign_in_miss where who in (?)", [counted.map(([who]) => who)]));
}

/** Removes misses that are forgotten. */
export const sweepMisses = async (database: DataSource): Promise<void> =>
  void (await database.query("delete from sign_in_miss where last_at < ?", [Date.now() - FORGOTTEN_MILLISECONDS]));
