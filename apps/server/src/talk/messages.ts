import { randomUUID } from "node:crypto";
import type { BodyOf, Me, Talk, TalkFile, TalkMessage, TalkPlace } from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";
import { accountNames, everyAccount } from "../access/accounts.ts";
import { mayEdit, maySee } from "../project/reach.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import type { Telling } from "../tell/post.ts";
import { letTakePart, noteRead, placeOf, rowOf } from "./following.ts";
import { callable, namedIn, type Callable } from "./named.ts";
import { findSpoken, type Spoken } from "./spoken.ts";
import { TalkMessageEntity } from "./talkEntities.ts";
import { filesOf, giveFiles } from "./talkFiles.ts";
import { tellOfTalk } from "./tellOfTalk.ts";

type Reader = DataSource | EntityManager;

/** So many of the newest are shown at first. */
const NEWEST = 200;

/** Those who see what is talked about, as they are called there. */
async function whoSee(manager: Reader, { isSeenBy }: Spoken): Promise<Callable[]> {
  return callable((await everyAccount(manager)).filter(isSeenBy));
}

/** Whether someone may remove a message, or bring back a removed one: whoever answers for the project any, others what they wrote and removed. */
const mayRemove = (
  me: Me,
  { accountId, removedBy }: Pick<TalkMessageEntity, "accountId" | "removedBy">,
  { project }: Spoken,
): boolean =>
  (project !== null && mayEdit(me, project)) || (accountId === me.id && (removedBy === null || removedBy === me.id));

const presentMessage = (
  { id, accountId, at, text, byMail, named, was, removedBy }: TalkMessageEntity,
  me: Me,
  about: { readonly names: ReadonlyMap<string, string>; isRemovable: boolean; files: readonly TalkFile[] },
): TalkMessage => ({
  ...{ mayRemove: about.isRemovable, files: removedBy === null ? [...about.files] : [] },
  ...{ id, by: about.names.get(accountId) ?? "", own: accountId === me.id, at: at.toISOString(), byMail },
  ...{ text: removedBy === null ? text : "", named: named.map(({ as }) => as) },
  was: removedBy === null ? (JSON.parse(was) as TalkMessage["was"]) : [],
  removedBy: removedBy === null ? null : (about.names.get(removedBy) ?? ""),
});

/** What was said about something, and who may be named there. */
export async function viewTalk(manager: Reader, me: Me, place: TalkPlace, isWhole = false): Promise<Talk> {
  const spoken = await findSpoken(manager, me, place);
  const repository = manager.getRepository(TalkMessageEntity);
  const [messages, count, names, people] = await Promise.all([
    repository.find({
      where: rowOf(place),
      order: { at: "DESC", id: "ASC" },
      ...(isWhole ? {} : { take: NEWEST }),
    }),
    repository.countBy(rowOf(place)),
    accountNames(manager),
    whoSee(manager, spoken),
  ]);
  const files = await filesOf(
    manager,
    messages.map(({ id }) => id),
  );
  const looksIn = spoken.project === null || place.about === "matter" || maySee(me, spoken.project);
  return {
    ...{ place, name: spoken.name, link: looksIn ? spoken.link : null, mayWrite: !spoken.isClosed },
    messages: messages.reverse().map((message) =>
      presentMessage(message, me, {
        ...{ names, isRemovable: mayRemove(me, message, spoken), files: files.get(message.id) ?? [] },
      }),
    ),
    earlier: count - messages.length,
    people: people.map(({ as }) => as),
  };
}

/** Something to be said, as it was written or as it came by mail. */
interface Said {
  readonly place: TalkPlace;
  readonly text: string;
  /** The files that go with it, which its writer sent before. */
  readonly files?: readonly string[] | undefined;
  /** The id of the mail that it came by. */
  readonly mailId?: string | null;
  readonly byMail?: boolean;
  readonly at?: Date;
}

function assertOpen({ isClosed, name }: Spoken): void {
  if (isClosed) throw new Failure("invalid", `${name} is of a closed project, of which nothing more is said.`);
}

/** Says something, within a transaction, and tells whom it concerns. */
export async function say(
  manager: EntityManager,
  me: Me,
  post: Telling,
  { place, text, files = [], mailId = null, byMail = false, at = new Date() }: Said,
): Promise<void> {
  const spoken = await findSpoken(manager, me, place);
  assertOpen(spoken);
  const named = namedIn(text, await whoSee(manager, spoken));
  const id = randomUUID();
  await giveFiles(manager, me, { place, messageId: id, ids: files });
  await manager.getRepository(TalkMessageEntity).insert({
    ...{ id, ...rowOf(place), accountId: me.id, at, text, named, was: "[]", removedBy: null },
    ...{ mailId, byMail },
  });
  const sent = (await filesOf(manager, [id])).get(id)!.map(({ file }) => `File: ${file}`);
  const told = [text, sent.join("\n")].filter((part) => part !== "").join("\n\n");
  await tellOfTalk(manager, post, me, spoken, { text: told, named }, at);
  await noteRead(manager, me, place);
  await letTakePart(manager, place, [me.id, ...named.map(({ id }) => id)]);
}

/** Says something that is written here. */
export async function write(
  database: DataSource,
  me: Me,
  post: Telling,
  said: BodyOf<"POST /api/talk">,
): Promise<Talk> {
  await inTransaction(database, (manager) => say(manager, me, post, said));
  return viewTalk(database, me, said.place);
}

/** Changes, removes or brings back what was said; what it said before is kept. */
export async function change(
  database: DataSource,
  me: Me,
  post: Telling,
  id: string,
  { text, removed }: BodyOf<"PUT /api/talk/:message">,
): Promise<Talk> {
  const place = await inTransaction(database, async (manager) => {
    const repository = manager.getRepository(TalkMessageEntity);
    const message = orNotFound(
      await repository.findOne({ where: { id }, lock: { mode: "pessimistic_write" } }),
      "message of that address",
    );
    const spoken = await findSpoken(manager, me, placeOf(message));
    assertOpen(spoken);
    const isOwn = message.accountId === me.id;
    if ((text !== undefined && !isOwn) || (removed !== undefined && !mayRemove(me, message, spoken)))
      throw new Failure("notAllowed", "Only whoever wrote it may change it; the project's manager may remove it.");
    if (removed !== undefined) message.removedBy = removed ? (message.removedBy ?? me.id) : null;
    if (text !== undefined) await rewrite(manager, me, post, { message, spoken, text });
    await repository.save(message);
    return placeOf(message);
  });
  return viewTalk(database, me, place);
}

/** Gives a message another text; whoever is named in it newly is told. */
async function rewrite(
  manager: EntityManager,
  me: Me,
  post: Telling,
  {
    message,
    spoken,
    text: { was, value },
  }: { message: TalkMessageEntity; spoken: Spoken; text: { was: string; value: string } },
): Promise<void> {
  if (message.text !== was)
    throw new Failure("conflict", "It was changed meanwhile, in another window; look at it as it is now.");
  if (value === was) return;
  const before = new Set(message.named.map(({ id }) => id));
  const at = new Date();
  const earlier = JSON.parse(message.was) as TalkMessage["was"];
  message.was = JSON.stringify([{ text: was, until: at.toISOString() }, ...earlier]);
  message.text = value;
  message.named = namedIn(value, await whoSee(manager, spoken));
  const named = message.named.filter(({ id }) => !before.has(id));
  await tellOfTalk(manager, post, me, spoken, { text: value, named, onlyNamed: true }, at);
  await letTakePart(
    manager,
    spoken.place,
    named.map(({ id }) => id),
  );
}
