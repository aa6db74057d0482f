import { dateSchema } from "@chronometra/core";
import { z } from "zod";
import { LONGEST_MESSAGE, MOST_TALK_FILES, TALK_PLACES } from "./talkWords.ts";

export const talkPlaceSchema = z.object({
  about: z.enum(TALK_PLACES),
  project: z.string().max(36),
  aboutId: z.string().max(120),
});

/** A file that goes with a message. */
export const talkFileSchema = z.object({
  id: z.string(),
  /** What it was called where it came from. */
  file: z.string(),
  /** What its content is found to be, as a media type. */
  type: z.string(),
  size: z.int().describe("bytes"),
});
export type TalkFile = z.infer<typeof talkFileSchema>;

const messageSchema = z.object({
  id: z.string(),
  by: z.string(),
  /** Whether one wrote it oneself, and may change it. */
  own: z.boolean(),
  at: z.string(),
  /** Empty once it is removed. */
  text: z.string(),
  byMail: z.boolean(),
  /** Who is named in it, as they are named there. */
  named: z.array(z.string()),
  files: z.array(talkFileSchema),
  /** What it said before, the newest first; whoever changes what they wrote leaves that behind. */
  was: z.array(z.object({ text: z.string(), until: z.string() })),
  /** Whether one may remove it or, once it is removed, bring it back. */
  mayRemove: z.boolean(),
  /** Who removed it; `null` while it stands. */
  removedBy: z.string().nullable(),
});
export type TalkMessage = z.infer<typeof messageSchema>;

export const talkSchema = z.object({
  place: talkPlaceSchema,
  /** What it is called, its project's code before it. */
  name: z.string(),
  /** The page on which it stands; `null` for whoever does not see that. */
  link: z.string().nullable(),
  mayWrite: z.boolean(),
  /** The oldest first. */
  messages: z.array(messageSchema),
  /** How many there are before the first of these. */
  earlier: z.int().describe("messages"),
  /** Those who see it, by the names under which they are called with `@`. */
  people: z.array(z.string()),
});
export type Talk = z.infer<typeof talkSchema>;

const wordsSchema = z.string().trim().min(1, "say something").max(LONGEST_MESSAGE);

export const newMessageSchema = z
  .strictObject({
    place: talkPlaceSchema,
    /** May be empty where files say it. */
    text: z.string().trim().max(LONGEST_MESSAGE),
    /** Files that were sent before, to go with it. */
    files: z.array(z.string().max(36)).max(MOST_TALK_FILES).optional(),
  })
  .refine(({ text, files = [] }) => text !== "" || files.length > 0, { error: "say something", path: ["text"] });

export const changedMessageSchema = z.strictObject({
  /** What it says now, with what it said when that was typed. */
  text: z.object({ was: z.string(), value: wordsSchema }).optional(),
  /** Whether it is removed; it can be brought back. */
  removed: z.boolean().optional(),
});

/** What was said about something, in short. */
const threadSchema = z.object({
  place: talkPlaceSchema,
  name: z.string(),
  count: z.int().describe("messages"),
  /** How many of them were told to one and are not read yet. */
  unread: z.int(),
  /** The newest message. */
  last: z.object({ by: z.string(), at: z.string(), text: z.string() }),
});
export type TalkThread = z.infer<typeof threadSchema>;

export const threadsSchema = z.object({
  /** The newest first. */
  threads: z.array(threadSchema),
  /** Whether there are more than are told. */
  more: z.boolean(),
});
export type TalkThreads = z.infer<typeof threadsSchema>;

/** How much was said in a project, thing by thing. */
export const talkCountsSchema = z.array(
  z.object({
    about: z.enum(TALK_PLACES),
    aboutId: z.string(),
    count: z.int().describe("messages"),
    /** How many of them were told to one and are not read yet. */
    unread: z.int(),
  }),
);

const followedSchema = z.object({
  place: talkPlaceSchema,
  name: z.string(),
  /** The page on which it stands. */
  link: z.string(),
  follows: z.boolean(),
  /** Kept at hand. */
  pinned: z.boolean(),
});
export type Followed = z.infer<typeof followedSchema>;
export const followedListSchema = z.array(followedSchema);

export const followSchema = z.strictObject({
  place: talkPlaceSchema,
  follows: z.boolean().optional(),
  pinned: z.boolean().optional(),
});

const announcementSchema = z.object({
  id: z.string(),
  /** The project that it is for, or the group; the other is `null`. */
  project: z.string().nullable(),
  group: z.string().nullable(),
  /** What that is called in short. */
  of: z.string(),
  text: z.string(),
  by: z.string(),
  at: z.string(),
  /** The last day on which it is shown. */
  until: z.string(),
  /** Whether one may end it before. */
  mayEnd: z.boolean(),
});
export type Announcement = z.infer<typeof announcementSchema>;
export const announcementsSchema = z.array(announcementSchema);

export const announceSchema = z.strictObject({
  project: z.string().max(36).nullable(),
  group: z.string().max(36).nullable(),
  text: z.string().trim().min(1, "say what is to be known").max(1000),
  until: dateSchema,
});
export const endAnnouncementSchema = z.strictObject({ ended: z.boolean() });

export const mailAnswerSchema = z.strictObject({ text: wordsSchema });
