import { serve, type Serving } from "../access/serve.ts";
import { Failure } from "../shared/failure.ts";
import { MailEntity } from "./mailEntity.ts";

const NEWEST = 200;

export function tellRoutes(serving: Serving): void {
  serve(serving, "GET /api/mail", async ({ database, me }) => {
    const where = me.roles.includes("administrator") ? {} : { accountId: me.id };
    const mails = await database.getRepository(MailEntity).find({ where, order: { sentAt: "DESC" }, take: NEWEST });
    return mails.map(({ id, accountId, address, subject, body, sentAt, state, tries, why, link, answerKey }) => ({
      answers: answerKey !== null && accountId === me.id,
      id,
      to: address,
      subject,
      body,
      sentAt: sentAt.toISOString(),
      state,
      tries,
      why,
      link,
    }));
  });

  serve(serving, "POST /api/mail/:mail/again", async ({ database, params }) => {
    const { affected } = await database
      .getRepository(MailEntity)
      .update({ id: params["mail"]!, state: "failed" }, { state: "waiting", tries: 0, nextAt: "0" });
    if (affected === 0) throw new Failure("conflict", "This message has left, or waits to, already.");
    return { ok: true as const };
  });
}
