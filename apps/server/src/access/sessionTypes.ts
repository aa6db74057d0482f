import "express-session";

declare module "express-session" {
  interface SessionData {
    accountId?: string;
    /** What every changing call must carry. */
    token?: string;
  }
}
