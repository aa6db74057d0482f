import type { Me } from "@chronometra/contract";
import "express-session";

declare module "express-session" {
  interface SessionData {
    accountId?: string;
    /** What every changing call must carry. */
    token?: string;
    /** Until when the database keeps the session, in milliseconds since 1970; not stored in it. */
    keptUntil?: number;
    /** Whoever is signed in, as fetched along with the session; not stored in it. */
    me?: Me | null;
  }
}
