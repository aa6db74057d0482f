import type { DataSource, EntityManager } from "typeorm";
import { Failure } from "./failure.ts";

/** What the application needs of its user; more would let it empty, alter or drop what was frozen. */
const NEEDED = new Set(["SELECT", "INSERT", "UPDATE", "DELETE", "USAGE"]);

/** Rights that the user of an open database has beyond those that the application needs. */
export async function rightsBeyond(database: DataSource): Promise<string[]> {
  const rows = (await database.query(
    `select privilege_type as it from information_schema.user_privileges where grantee = concat("'", replace(current_user(), '@', "'@'"), "'")
     union select privilege_type from information_schema.schema_privileges where grantee = concat("'", replace(current_user(), '@', "'@'"), "'") and table_schema = database()`,
  )) as { it: string }[];
  return rows
    .map(({ it }) => it)
    .filter((right) => !NEEDED.has(right))
    .sort();
}

const TRIES = 6;

/**
 * What a transaction may be run again for: deadlock, "record has changed since last read" (what a cluster, or a snapshot that
 * is out of date, says instead of one), and a node of a cluster that is not ready.
 */
export const RETRYABLE = new Set([1213, 1020, 1047]);

const LOCK_WAIT_TIMEOUT = 1205;
const NO_WAIT = 4068;

const DUPLICATE = 1062;

const errnoOf = (error: unknown): number | undefined => (error as { errno?: number }).errno;

/** Whether someone else held a row for longer than this statement waits. */
export const isLockWait = (error: unknown): boolean =>
  errnoOf(error) === LOCK_WAIT_TIMEOUT || errnoOf(error) === NO_WAIT;

/**
 * Runs work in one transaction, again where the database asks for it. Each statement sees what is committed when it begins:
 * a snapshot taken by the first would be older than a row that is locked later.
 * @throws {Failure} `busy` where the database still asks for it after several tries with growing pauses
 */
export async function inTransaction<T>(database: DataSource, work: (manager: EntityManager) => Promise<T>): Promise<T> {
  for (let attempt = 1; ; attempt++) {
    try {
      return await database.transaction("READ COMMITTED", work);
    } catch (error) {
      if (isLockWait(error)) throw new Failure("busy");
      if (!RETRYABLE.has(errnoOf(error) ?? 0)) throw error;
      if (attempt === TRIES) throw new Failure("busy");
      await new Promise((resolve) => setTimeout(resolve, 10 * 2 ** attempt * (0.5 + Math.random())));
    }
  }
}

/** Reads as of one moment: every statement sees what was committed when the first began. */
export const asOfOneMoment = <T>(database: DataSource, read: (manager: EntityManager) => Promise<T>): Promise<T> =>
  database.transaction("REPEATABLE READ", read);

/**
 * Stores what nothing else may be called alike.
 * @param taken what is thrown where somebody stored such a thing at the same moment
 */
export async function orTaken<T>(storing: Promise<T>, taken: () => Failure): Promise<T> {
  try {
    return await storing;
  } catch (error) {
    throw errnoOf(error) === DUPLICATE ? taken() : error;
  }
}
