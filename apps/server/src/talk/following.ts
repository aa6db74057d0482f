import { talkAddress, type BodyOf, type Followed, type Me, type TalkPlace } from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";
import { FollowingEntity } from "./talkEntities.ts";
import { maySee } from "../project/reach.ts";
import { inTransaction } from "../shared/database.ts";
import { findSpoken, spokenAt } from "./spoken.ts";

/** A place as rows name it. */
export const rowOf = ({ about, project, aboutId }: TalkPlace) => ({ about, projectId: project, aboutId });

/** The place that a row names. */
export const placeOf = ({ about, projectId, aboutId }: ReturnType<typeof rowOf>): TalkPlace => ({
  about,
  project: projectId,
  aboutId,
});

/** A place as what is told of it names it. */
export const talkAbout = ({ about, project, aboutId }: TalkPlace): string => `talk ${about} ${project} ${aboutId}`;

/** Notes that what someone was told of talk at a place is read. */
export const noteRead = (manager: DataSource | EntityManager, me: Me, place: TalkPlace): Promise<unknown> =>
  manager.query(
    "update notice set seen_at = ?, mail_at = null where account_id = ? and about = ? and seen_at is null",
    [new Date(), me.id, talkAbout(place)],
  );

/** Who takes part at a place, by account. */
export async function takingPart(manager: DataSource | EntityManager, place: TalkPlace): Promise<string[]> {
  const rows = await manager.getRepository(FollowingEntity).findBy({ ...rowOf(place), ended: false });
  return rows.map(({ accountId }) => accountId);
}

/** Lets accounts take part at a place from now on, but for those who do not want to any more. */
export async function letTakePart(
  manager: EntityManager,
  place: TalkPlace,
  accounts: readonly string[],
): Promise<void> {
  if (accounts.length === 0) return;
  const { about, project, aboutId } = place;
  await manager.query(
    "insert into following (account_id, about, project_id, about_id, follows, ended, pinned) values ? on duplicate key update account_id = account_id",
    [accounts.map((account) => [account, about, project, aboutId, false, false, false])],
  );
}

const MOST_FOLLOWED = 1000;

/** What someone follows or keeps at hand, as far as they see it, by name. */
export async function listFollowed(database: DataSource, me: Me): Promise<Followed[]> {
  const rows = await database.query(
    `select about, project_id as project, about_id as aboutId, follows = 1 and ended = 0 as follows, pinned from following
      where account_id = ? and (follows = 1 and ended = 0 or pinned = 1) limit ${MOST_FOLLOWED}`,
    [me.id],
  );
  const followed: Followed[] = [];
  for (const { follows, pinned, ...place } of rows as (TalkPlace & { follows: string; pinned: number })[]) {
    const spoken = await spokenAt(database, place);
    if (spoken === null || !spoken.isSeenBy(me)) continue;
    const link = spoken.project === null || maySee(me, spoken.project) ? spoken.link : talkAddress(place);
    followed.push({ ...{ place, link, name: spoken.name }, follows: Number(follows) === 1, pinned: pinned === 1 });
  }
  return followed.toSorted((a, b) => a.name.localeCompare(b.name, "en"));
}

/** Follows something or not, keeps it at hand or not. */
export async function follow(
  database: DataSource,
  me: Me,
  { place, follows, pinned }: BodyOf<"PUT /api/following">,
): Promise<void> {
  await findSpoken(database, me, place);
  await inTransaction(database, async (manager) => {
    await letTakePart(manager, place, [me.id]);
    await manager.getRepository(FollowingEntity).update(
      { accountId: me.id, ...rowOf(place) },
      {
        ...(follows === undefined ? {} : { follows, ended: !follows }),
        ...(pinned === undefined ? {} : { pinned }),
      },
    );
  });
}
