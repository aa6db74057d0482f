import { fitText } from "@chronometra/core";
import EmailReplyParser from "email-reply-parser";
import { htmlToText } from "html-to-text";
import { simpleParser, type ParsedMail } from "mailparser";
import { SMTPServer, type SMTPServerDataStream, type SMTPServerSession } from "smtp-server";
import type { Logger } from "pino";
import type { DataSource } from "typeorm";
import { Failure } from "../shared/failure.ts";
import { ANSWER_ABOVE } from "../tell/mailText.ts";
import type { Post } from "../tell/post.ts";
import { answeredBy, takeAnswer } from "./answers.ts";

const LARGEST_MAIL = 10 * 1024 * 1024;
const MOST_CLIENTS = 50;
const PATIENCE_MILLISECONDS = 60_000;

/** What somebody wrote above what they answer: our own line ends it, else what mail programs put there. */
export function writtenIn(text: string): string {
  const above = text.split(ANSWER_ABOVE)[0]!;
  const written = new EmailReplyParser().read(above).getVisibleText({ aggressive: true });
  const lines = written.trimEnd().split("\n");
  // What is quoted below without a word about it.
  const last = lines.findLastIndex((line) => line.trim() !== "" && !line.startsWith(">"));
  return lines
    .slice(0, last + 1)
    .join("\n")
    .trim();
}

/** A refusal that a mail server understands (RFC 5321, 4.2): from 500 on for good, from 400 on to be tried again. */
const refusal = (code: number, words: string): Error => Object.assign(new Error(words), { responseCode: code });

const asRefusal = (error: unknown, logger: Logger): Error => {
  if (error instanceof Failure && error.code !== "busy" && error.code !== "unavailable")
    return refusal(550, error.message);
  logger.error(error);
  return refusal(451, "It could not be taken now; try again later.");
};

/** Whether nobody wrote it: absence notes and the like (RFC 3834, 5). */
const isAutomatic = ({ headers }: ParsedMail): boolean => {
  const said = headers.get("auto-submitted");
  return (typeof said === "string" && said.toLowerCase() !== "no") || headers.has("x-auto-response-suppress");
};

/** What a mail says: its text, else what its HTML says; the reader makes that of mails without files only. */
const wordsOf = ({ text, html }: ParsedMail): string =>
  text ?? (html ? htmlToText(html, { selectors: [{ selector: "img", format: "skip" }] }) : "");

/** What somebody put to a mail; pictures that its text shows, as of a signature, and signatures are none. */
const filesIn = ({ attachments }: ParsedMail): { name: string; bytes: Buffer }[] =>
  attachments
    .filter(
      ({ related, contentType, size }) => !related && size > 0 && !/^application\/(x-)?(pkcs7|pgp)-/.test(contentType),
    )
    .map(({ filename, content }) => ({ name: fitText((filename ?? "file").slice(-200)), bytes: content }));

interface Way {
  readonly database: DataSource;
  readonly post: Post;
  readonly logger: Logger;
}

async function take({ database, post }: Way, stream: SMTPServerDataStream, session: SMTPServerSession): Promise<void> {
  const mail = await simpleParser(stream, { skipImageLinks: true, skipTextToHtml: true });
  if (stream.sizeExceeded) throw new Failure("invalid", "It is larger than 10 MB.");
  if (isAutomatic(mail)) return;
  const from = mail.from?.value[0]?.address ?? "";
  await takeAnswer(database, post, {
    ...{ key: post.answerKeyOf(session.envelope.rcptTo[0]!.address)!, from, text: fitText(writtenIn(wordsOf(mail))) },
    files: filesIn(mail),
    mailId: mail.messageId?.slice(-255) ?? null,
  });
}

/**
 * Takes answers to messages as a mail server does; the organisation's own hands them on to it. What it takes is stored
 * before it says so, and what it refuses is said why: nothing is lost, and nothing taken twice.
 * @param at `port` or `host:port`
 */
export function takeMail(at: string, way: Way): SMTPServer {
  const { database, post, logger } = way;
  const server = new SMTPServer({
    ...{ size: LARGEST_MAIL, maxClients: MOST_CLIENTS, socketTimeout: PATIENCE_MILLISECONDS },
    ...{ authOptional: true, disabledCommands: ["AUTH", "STARTTLS"], disableReverseLookup: true, logger: false },
    banner: "Chronometra takes answers here",
    onRcptTo({ address }, { envelope }, callback) {
      // Each is stored or refused for itself.
      if (envelope.rcptTo.length > 0) return callback(refusal(452, "One address a message."));
      const key = post.answerKeyOf(address);
      void (key === null ? Promise.resolve(null) : answeredBy(database, key)).then(
        (mail) => callback(mail === null ? refusal(550, "This address answers no message of ours.") : null),
        (error: unknown) => callback(asRefusal(error, logger)),
      );
    },
    onData(stream, session, callback) {
      take(way, stream, session).then(
        () => callback(),
        (error: unknown) => {
          stream.resume();
          callback(asRefusal(error, logger));
        },
      );
    },
  });
  server.on("error", (error) => logger.error(error));
  const [, host = "127.0.0.1", port = at] = /^(.*):(\d+)$/.exec(at) ?? [];
  server.listen(Number(port), host);
  return server;
}
