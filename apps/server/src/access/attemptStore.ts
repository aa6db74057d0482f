import type { ClientRateLimitInfo, Options, Store } from "express-rate-limit";
import type { DataSource } from "typeorm";

/** Counts attempts from an address in the database, so that a second server beside this one counts on. */
export class AttemptStore implements Store {
  private windowMilliseconds = 0;

  constructor(private readonly database: DataSource) {}

  init({ windowMs }: Options): void {
    this.windowMilliseconds = windowMs;
  }

  async increment(key: string): Promise<ClientRateLimitInfo> {
    const now = Date.now();
    // Set from left to right: the count is renewed by the old end of the window, before that is moved.
    await this.database.query(
      `insert into sign_in_attempt (address, attempts, until) values (?, 1, ?)
       on duplicate key update attempts = if(until < ?, 1, attempts + 1), until = if(until < ?, values(until), until)`,
      [key, now + this.windowMilliseconds, now, now],
    );
    const [row] = (await this.database.query("select attempts, until from sign_in_attempt where address = ?", [key])) as { attempts: number; until: string }[];
    return { totalHits: Number(row?.attempts ?? 1), resetTime: new Date(Number(row?.until ?? now)) };
  }

  async decrement(key: string): Promise<void> {
    await this.database.query("update sign_in_attempt set attempts = attempts - 1 where address = ? and attempts > 0", [key]);
  }

  async resetKey(key: string): Promise<void> {
    await this.database.query("delete from sign_in_attempt where address = ?", [key]);
  }

  /** Removes what has run out. */
  async sweep(): Promise<void> {
    await this.database.query("delete from sign_in_attempt where until < ?", [Date.now()]);
  }
}
