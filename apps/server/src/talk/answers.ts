import { Readable } from "node:stream";
import { LONGEST_MESSAGE, MOST_TALK_FILES, TALK_PLACES, type TalkAbout, type TalkPlace } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { AccountEntity } from "../access/accountEntity.ts";
import { findAccount } from "../access/accounts.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";
import { MailEntity } from "../tell/mailEntity.ts";
import type { Post } from "../tell/post.ts";
import { say } from "./messages.ts";
import { TalkMessageEntity } from "./talkEntities.ts";
import { storeContent, type Content } from "../documents/fileParts.ts";
import { addTalkFile } from "./talkFiles.ts";

/** An answer to a message, as it came. */
export interface Answer {
  /** What its address bears. */
  readonly key: string;
  /** The address that it came from. */
  readonly from: string;
  readonly text: string;
  /** What came with it. */
  readonly files?: readonly { readonly name: string; readonly bytes: Buffer }[];
  /** The id of the mail; the same mail is taken once, however often it is delivered. */
  readonly mailId: string | null;
}

function placeIn(thread: string): TalkPlace {
  const [, about, project = "", aboutId = ""] = thread.split(" ");
  if (!(TALK_PLACES as readonly string[]).includes(about ?? "")) throw new Error(`“${thread}” is no place of talk`);
  return { about: about as TalkAbout, project, aboutId };
}

/**
 * Stores the files of an answer; what is not taken is told in the talk itself. Of an answer that is refused after all
 * they are swept away, as of anyone who sends and says nothing.
 */
async function storeFiles(
  database: DataSource,
  files: NonNullable<Answer["files"]>,
): Promise<{ stored: Content[]; refused: string[] }> {
  const stored: Content[] = [];
  const refused = files
    .slice(MOST_TALK_FILES)
    .map(({ name }) => `[“${name}” was not taken: ${MOST_TALK_FILES} files go with a message.]`);
  for (const { name, bytes } of files.slice(0, MOST_TALK_FILES))
    try {
      stored.push(await storeContent(database, name, Readable.from([bytes])));
    } catch (error) {
      if (!(error instanceof Failure)) throw error;
      refused.push(`[“${name}” was not taken: ${error.message}]`);
    }
  return { stored, refused };
}

/** The message that an address answers; `null` where it answers none. */
export const answeredBy = (database: DataSource, key: string): Promise<MailEntity | null> =>
  database.getRepository(MailEntity).findOneBy({ answerKey: key });

/**
 * Says what somebody answered by mail, in the name of whoever received the message that it answers, with their rights of now.
 * @throws {Failure} where it answers nothing, comes from another address than the message went to, or says nothing
 */
export async function takeAnswer(
  database: DataSource,
  post: Post,
  { key, from, text, files = [], mailId }: Answer,
): Promise<void> {
  const mail = await answeredBy(database, key);
  const account =
    mail?.accountId == null ? null : await database.getRepository(AccountEntity).findOneBy({ id: mail.accountId });
  if (mail?.thread == null || account === null)
    throw new Failure("notFound", "This address answers no message of ours.");
  if (from.toLowerCase() !== post.addressOf(account).toLowerCase())
    throw new Failure("notAllowed", `Answer from ${post.addressOf(account)}, to which the message went.`);
  const written = text.trim();
  const came = await storeFiles(database, files);
  const said = [written, ...came.refused].filter((part) => part !== "").join("\n\n");
  if (said === "" && came.stored.length === 0)
    throw new Failure("invalid", "The answer says nothing above what it answers.");
  if (said.length > LONGEST_MESSAGE)
    throw new Failure(
      "invalid",
      `The answer has over ${LONGEST_MESSAGE} characters; say it shorter, or in a document.`,
    );
  const me = (await findAccount(database, account.id))!;
  await inTransaction(database, async (manager) => {
    // One after the other, so that of the same mail delivered twice at once the second is found to be there.
    await manager.query("select id from mail where id = ? for update", [mail.id]);
    if (mailId !== null && (await manager.getRepository(TalkMessageEntity).existsBy({ mailId }))) return;
    const place = placeIn(mail.thread!);
    const sent: string[] = [];
    for (const content of came.stored) sent.push((await addTalkFile(manager, me, place, content)).id);
    await say(manager, me, post, {
      ...{ place, text: said, files: sent },
      ...{ mailId, byMail: true },
    });
  });
}
