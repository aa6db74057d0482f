import type { Inbox, Me, Telling } from "@chronometra/contract";
import { In, type DataSource } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { serve, type Serving } from "../access/serve.ts";
import { seenSql } from "../project/reach.ts";
import { NoticeEntity, TellingEntity } from "./noticeEntities.ts";
import { tellingOf } from "./notices.ts";
import { worksInSql } from "../project/worksIn.ts";

const NEWEST = 500;
const YEAR_MILLISECONDS = 366 * 24 * 3_600_000;
/** Notices of someone, but for those of projects that they do not look into any more. */
function ofMe(me: Me): { sql: string; values: unknown[] } {
  const { sql, values } = seenSql(me, "p");
  return {
    sql: `from notice n left join project p on p.id = n.project_id where n.account_id = ?
      and (n.project_id is null or ${sql} or (n.kind = 'talk' and ${worksInSql("n.project_id")}))`,
    values: [me.id, ...values, me.person ?? ""],
  };
}
const OPEN = "n.seen_at is null and n.settled_at is null";

/** What grows without end: what was told over a year ago is not read any more. */
export const sweepNotices = (database: DataSource, now = Date.now()): Promise<unknown> =>
  database.query("delete from notice where at < ?", [new Date(now - YEAR_MILLISECONDS)]);

export function inboxRoutes(serving: Serving): void {
  const openOf = async (database: DataSource, me: Me): Promise<number> => {
    const { sql, values } = ofMe(me);
    const [row] = (await database.query(`select count(*) as open ${sql} and ${OPEN}`, values)) as [{ open: string }];
    return Number(row.open);
  };

  serve(serving, "GET /api/inbox", async ({ database, me }): Promise<Inbox> => {
    const { sql, values } = ofMe(me);
    const ids = (await database.query(`select n.id ${sql} order by n.at desc, n.id limit ${NEWEST}`, values)) as {
      id: string;
    }[];
    const [rows, names] = await Promise.all([
      database
        .getRepository(NoticeEntity)
        .find({ where: { id: In(ids.map(({ id }) => id)) }, order: { at: "DESC", id: "ASC" } }),
      accountNames(database),
    ]);
    return {
      open: await openOf(database, me),
      notices: rows.map(({ id, kind, subject, body, at, fromId, link, act, seenAt, settledAt }) => ({
        ...{ id, kind, subject, body, at: at.toISOString(), link, act },
        from: fromId === null ? null : (names.get(fromId) ?? null),
        waits: kind === "asked" && settledAt === null && seenAt === null,
        seen: seenAt !== null,
        settledAt: settledAt?.toISOString() ?? null,
      })),
    };
  });

  serve(serving, "GET /api/inbox/count", async ({ database, me }) => ({ open: await openOf(database, me) }));

  serve(serving, "PUT /api/inbox/seen", async ({ database, me, body: { ids, seen } }) => {
    await database
      .getRepository(NoticeEntity)
      .update({ accountId: me.id, id: In(ids) }, { seenAt: seen ? new Date() : null });
    return { ok: true as const };
  });

  const tellingNow = async (database: DataSource, id: string): Promise<Telling> =>
    (await tellingOf(database.manager, [id]))(id);

  serve(serving, "GET /api/telling", ({ database, me }) => tellingNow(database, me.id));

  serve(serving, "PUT /api/telling", async ({ database, me, body }) => {
    await database.getRepository(TellingEntity).upsert({ accountId: me.id, content: body }, ["accountId"]);
    return tellingNow(database, me.id);
  });
}
