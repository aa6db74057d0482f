import { z } from "zod";
import { MAIL_WAYS, NOTICE_KINDS } from "./noticeWords.ts";

/** A message in the mailbox that ships with the application. */
export const mailSchema = z.object({
  id: z.string(),
  to: z.string(),
  subject: z.string(),
  body: z.string(),
  sentAt: z.string(),
  state: z.enum(["kept", "waiting", "sending", "sent", "failed"]),
  tries: z.int(),
  why: z.string().nullable(),
  /** The page that it is about, from the installation's address on. */
  link: z.string().nullable(),
  /** Whether one may answer it: what is written goes to where it was said. */
  answers: z.boolean(),
});
export type Mail = z.infer<typeof mailSchema>;

/** What became of messages: how many were written, and who could not be reached, with why. */
export const postedSchema = z.object({ sent: z.int(), failed: z.array(z.object({ to: z.string(), why: z.string() })) });

/** Something that someone was told, in their inbox. */
export const noticeSchema = z.object({
  id: z.string(),
  kind: z.enum(NOTICE_KINDS),
  subject: z.string(),
  body: z.string(),
  at: z.string(),
  /** Whose doing it was; `null` where it followed from dates. */
  from: z.string().nullable(),
  link: z.string().nullable(),
  /** What is done on that page: "Decide", "Open". */
  act: z.string(),
  /** Whether it still asks for something: nobody has done it, and it was not put aside. */
  waits: z.boolean(),
  seen: z.boolean(),
  /** When what it asked for was done, by whomever. */
  settledAt: z.string().nullable(),
});
export type Notice = z.infer<typeof noticeSchema>;

export const inboxSchema = z.object({
  /** The newest first, of the last year. */
  notices: z.array(noticeSchema),
  /** How many are neither seen nor done. */
  open: z.int(),
});
export type Inbox = z.infer<typeof inboxSchema>;

/** Which notices were seen, or put aside where they ask for something; or are not any more. */
export const seenSchema = z.object({ ids: z.array(z.string()).min(1).max(1000), seen: z.boolean() });

const hourSchema = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, "write a time of day as 07:30");

/** How someone wants to be told by mail, in the time zone of their days. */
export const tellingSchema = z.object({
  ways: z.record(z.enum(NOTICE_KINDS), z.enum(MAIL_WAYS)),
  /** Between these no mail is sent; it leaves afterwards. May reach over midnight. */
  quiet: z.object({ from: hourSchema, until: hourSchema }).nullable(),
  /** When the day's mail leaves. */
  at: hourSchema,
  /** On which day the week's leaves, Monday 1 to Sunday 7. */
  weekday: z.int().min(1).max(7),
});
export type Telling = z.infer<typeof tellingSchema>;
