import { Store, type SessionData } from "express-session";
import { LessThan, type DataSource } from "typeorm";
import { SessionEntity } from "./accountEntity.ts";

type Done = (error?: unknown) => void;

/** How long a session lasts without use. */
export const SESSION_MILLISECONDS = 12 * 60 * 60 * 1000;

/** How exact that is. */
const TOUCH_MILLISECONDS = 5 * 60 * 1000;

/** Sessions in the database, so that a second server beside this one knows them too. */
export class SessionStore extends Store {
  constructor(private readonly database: DataSource) {
    super();
  }

  private get sessions() {
    return this.database.getRepository(SessionEntity);
  }

  override get(sid: string, callback: (error: unknown, session?: SessionData | null) => void): void {
    this.sessions.findOneBy({ sid }).then(
      (row) => callback(null, row === null || Number(row.expiresAt) < Date.now() ? null : { ...(JSON.parse(row.data) as SessionData), keptUntil: Number(row.expiresAt) }),
      (error: unknown) => callback(error),
    );
  }

  override set(sid: string, session: SessionData, callback: Done = () => undefined): void {
    const { keptUntil: _kept, ...data } = session;
    const row = { sid, expiresAt: String(Date.now() + SESSION_MILLISECONDS), data: JSON.stringify(data) };
    this.sessions.upsert(row, ["sid"]).then(() => callback(), callback);
  }

  override destroy(sid: string, callback: Done = () => undefined): void {
    this.sessions.delete({ sid }).then(() => callback(), callback);
  }

  override touch(sid: string, session: SessionData, callback: Done = () => undefined): void {
    // A session is kept alive to within some minutes; a write for every call would cost more than most calls do.
    const kept = session.keptUntil ?? 0;
    if (kept - Date.now() > SESSION_MILLISECONDS - TOUCH_MILLISECONDS) return callback();
    this.sessions.update({ sid }, { expiresAt: String(Date.now() + SESSION_MILLISECONDS) }).then(() => callback(), callback);
  }

  /** Removes what has run out. */
  async sweep(): Promise<void> {
    await this.sessions.delete({ expiresAt: LessThan(String(Date.now())) });
  }
}
