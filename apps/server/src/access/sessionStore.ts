import type { Account, Me, Role } from "@chronometra/contract";
import type { Request } from "express";
import { Store, type SessionData } from "express-session";
import { LessThan, type DataSource } from "typeorm";
import { installationZone } from "../shared/clock.ts";
import { SessionEntity } from "./accountEntity.ts";
import { withinOf } from "./accounts.ts";

type Done = (error?: unknown) => void;

/** How long a session lasts without use. */
export const SESSION_MILLISECONDS = 12 * 60 * 60 * 1000;

/** How exact that is. */
const TOUCH_MILLISECONDS = 5 * 60 * 1000;

/** Who is signed in by the session of a call as it stands now, which may have begun long ago; `null` for nobody. */
export const whoNow = ({ sessionStore, sessionID }: Request): Promise<Me | null> =>
  new Promise((resolve, reject) =>
    sessionStore.get(sessionID, (error: unknown, session) =>
      error ? reject(error as Error) : resolve(session?.me ?? null),
    ),
  );

/** Sessions in the database, so that a second server beside this one knows them too. */
export class SessionStore extends Store {
  constructor(private readonly database: DataSource) {
    super();
  }

  private get sessions() {
    return this.database.getRepository(SessionEntity);
  }

  override get(sid: string, callback: (error: unknown, session?: SessionData | null) => void): void {
    this.fetch(sid).then(
      (session) => callback(null, session),
      (error: unknown) => callback(error),
    );
  }

  /** The session and whoever is signed in by it, in one question: every call asks it. */
  private async fetch(sid: string): Promise<SessionData | null> {
    const [row] = (await this.database.query(
      "select s.data, s.expires_at as expiresAt, a.id, a.login, a.name, a.roles, a.only_in as onlyIn, a.person_id as person, a.time_zone as timeZone from session s left join account a on a.id = json_value(s.data, '$.accountId') where s.sid = ?",
      [sid],
    )) as ({ data: string; expiresAt: string } & (
      | { id: null }
      | {
          id: string;
          login: string;
          name: string;
          roles: string;
          onlyIn: string | null;
          person: string | null;
          timeZone: string | null;
        }
    ))[];
    if (row === undefined || Number(row.expiresAt) < Date.now()) return null;
    const { data, expiresAt, ...account } = row;
    const session = { ...(JSON.parse(data) as SessionData), keptUntil: Number(expiresAt) };
    if (account.id === null) return { ...session, me: null };
    const { onlyIn, roles, timeZone, ...me } = account;
    const only = onlyIn === null ? null : (JSON.parse(onlyIn) as Account["only"]);
    return {
      ...session,
      me: {
        ...me,
        roles: JSON.parse(roles) as Role[],
        ...(await withinOf(this.database, only)),
        timeZone: timeZone ?? installationZone(),
      },
    };
  }

  override set(sid: string, session: SessionData, callback: Done = () => undefined): void {
    const { keptUntil: _kept, me: _me, ...data } = session;
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
    this.sessions
      .update({ sid }, { expiresAt: String(Date.now() + SESSION_MILLISECONDS) })
      .then(() => callback(), callback);
  }

  /** Removes what has run out. */
  async sweep(): Promise<void> {
    await this.sessions.delete({ expiresAt: LessThan(String(Date.now())) });
  }
}
