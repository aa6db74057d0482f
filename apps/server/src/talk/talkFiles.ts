import { randomUUID } from "node:crypto";
import type { Me, TalkFile, TalkPlace } from "@chronometra/contract";
import { In, IsNull, type DataSource, type EntityManager } from "typeorm";
import { DocumentVersionEntity } from "../documents/documentEntities.ts";
import type { Content } from "../documents/fileParts.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { placeOf, rowOf } from "./following.ts";
import { findSpoken } from "./spoken.ts";
import { TalkFileEntity, TalkMessageEntity } from "./talkEntities.ts";

type Reader = DataSource | EntityManager;

/** After how long files are taken away that were sent and never said anything with. */
const FORSAKEN_MILLISECONDS = 6 * 3_600_000;

/** Refuses whoever may not say anything there, before anything is sent. */
export async function assertMaySend(database: DataSource, me: Me, place: TalkPlace): Promise<void> {
  const { isClosed, name } = await findSpoken(database, me, place);
  if (isClosed) throw new Failure("invalid", `${name} is of a closed project, of which nothing more is said.`);
}

/** Makes a file that came one that waits for the message it goes with. */
export async function addTalkFile(
  manager: EntityManager,
  me: Me,
  place: TalkPlace,
  { id: contentId, name: file, type, size, digest }: Content,
): Promise<TalkFile> {
  const [id, at] = [randomUUID(), new Date()];
  await manager.getRepository(TalkFileEntity).insert({ id, messageId: null, ...rowOf(place), accountId: me.id, at });
  await manager
    .getRepository(DocumentVersionEntity)
    .insert({ documentId: id, number: 1, file, type, size, digest, contentId, accountId: me.id, at });
  return { id, file, type, size };
}

/**
 * Gives a message the files that its writer sent before it, in the order in which they are named.
 * @throws {Failure} where one is not there, another's, of another place, or went with another message
 */
export async function giveFiles(
  manager: EntityManager,
  me: Me,
  { place, messageId, ids }: { place: TalkPlace; messageId: string; ids: readonly string[] },
): Promise<void> {
  if (ids.length === 0) return;
  const { affected } = await manager
    .getRepository(TalkFileEntity)
    .createQueryBuilder()
    .update({ messageId })
    .where({ id: In([...ids]), accountId: me.id, ...rowOf(place) })
    .andWhere("message_id is null")
    .execute();
  if (affected !== new Set(ids).size)
    throw new Failure(
      "invalid",
      "A file that was to go with it is not there any more; add it again and send once more.",
    );
}

/** The files of messages, by message, the first that came first. */
export async function filesOf(
  manager: Reader,
  messageIds: readonly string[],
): Promise<ReadonlyMap<string, readonly TalkFile[]>> {
  const of = new Map<string, TalkFile[]>(messageIds.map((id) => [id, []]));
  const rows = (await manager.query(
    `select f.message_id as messageId, f.id, v.file, v.type, v.size from talk_file f
      join document_version v on v.document_id = f.id where f.message_id in (?) order by f.at, f.id`,
    [[...messageIds, ""]],
  )) as (TalkFile & { messageId: string })[];
  for (const { messageId, ...file } of rows) of.get(messageId)?.push(file);
  return of;
}

/** A file of a talk that someone sees; of a removed message it is not there any more. */
export async function findTalkFile(database: DataSource, me: Me, id: string): Promise<DocumentVersionEntity> {
  const gone = "file of that address";
  const file = orNotFound(await database.getRepository(TalkFileEntity).findOneBy({ id }), gone);
  await findSpoken(database, me, placeOf(file));
  const said =
    file.messageId === null
      ? file.accountId === me.id
      : await database.getRepository(TalkMessageEntity).existsBy({ id: file.messageId, removedBy: IsNull() });
  const version = await database.getRepository(DocumentVersionEntity).findOneBy({ documentId: id, number: 1 });
  return orNotFound(said ? version : null, gone);
}

/** Takes files away that were sent and went with no message. */
export async function sweepTalkFiles(database: DataSource): Promise<void> {
  await database.query(
    `delete f, v from talk_file f join document_version v on v.document_id = f.id
      where f.message_id is null and f.at < ?`,
    [new Date(Date.now() - FORSAKEN_MILLISECONDS)],
  );
}
