import { serve, type Serving } from "../shared/http.ts";
import { MailEntity } from "./mailEntity.ts";

const NEWEST = 200;

export function tellRoutes(serving: Serving): void {
  serve(serving, "GET /api/mail", async ({ database, me }) => {
    const where = me.roles.includes("administrator") ? {} : { accountId: me.id };
    const mails = await database.getRepository(MailEntity).find({ where, order: { sentAt: "DESC" }, take: NEWEST });
    return mails.map(({ id, address, subject, body, sentAt }) => ({ id, to: address, subject, body, sentAt: sentAt.toISOString() }));
  });
}
