import { IsNull, type DataSource } from "typeorm";
import { AccountEntity } from "../access/accountEntity.ts";
import { inTransaction } from "../shared/database.ts";
import { NoticeEntity } from "./noticeEntities.ts";
import { settleNotices } from "./notices.ts";
import type { Telling } from "./post.ts";
import { eachAlone } from "../shared/eachAlone.ts";

/** Something that may stand open for people. */
interface Standing {
  /** By what it is known, before the account. */
  readonly name: string;
  readonly subject: string;
  readonly link: string;
  readonly act: string;
}

const MOST_LINES = 40;

/** Lines one below the other, the first of many, the others counted. */
export const listed = (lines: readonly string[]): string =>
  [...lines.slice(0, MOST_LINES), ...(lines.length > MOST_LINES ? [`and ${lines.length - MOST_LINES} more`] : [])].join(
    "\n",
  );

/**
 * Tells people once what stands open for them, until nothing of it does; how much it is stands beside it, as of now.
 * @param waits what stands open, in lines, by account
 */
export async function tellStanding(
  database: DataSource,
  post: Telling,
  { name, subject, link, act }: Standing,
  waits: ReadonlyMap<string, readonly string[]>,
  at: Date,
): Promise<void> {
  const told = await database.query(
    "select distinct about from notice where about like concat(?, ' %') and settled_at is null",
    [name],
  );
  for (const { about } of told as { about: string }[])
    if (!waits.has(about.slice(name.length + 1))) await settleNotices(database.manager, about, at);
  await eachAlone(waits, ([id, lines]) =>
    inTransaction(database, async (manager) => {
      // Of two servers the second finds it told.
      await manager.query("select id from account where id = ? for update", [id]);
      const of = { about: `${name} ${id}`, settledAt: IsNull() };
      const body = listed(lines);
      const notices = manager.getRepository(NoticeEntity);
      const waiting = await notices.findOneBy(of);
      if (waiting !== null) {
        if (waiting.body !== body) await notices.update(of, { body });
        return;
      }
      const to = await manager.getRepository(AccountEntity).findOneBy({ id });
      if (to !== null) await post.put(manager, [{ to, kind: "asked", about: of.about, subject, body, link, act }], at);
    }),
  );
}
