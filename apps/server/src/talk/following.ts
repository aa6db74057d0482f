import type { Me, TalkPlace } from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";
import { FollowingEntity } from "./talkEntities.ts";

/** A place as rows name it. */
export const rowOf = ({ about, project, aboutId }: TalkPlace) => ({ about, projectId: project, aboutId });

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
  await manager.query("insert ignore into following (account_id, about, project_id, about_id, ended) values ?", [
    accounts.map((account) => [account, about, project, aboutId, false]),
  ]);
}
