import { dateSchema, noteSchema } from "@chronometra/core";
import { z } from "zod";
import { minutesSchema } from "./units.ts";
import { reportSchema, weekSheetSchema } from "./collect.ts";

export const deskActivitySchema = z.object({
  project: z.string(),
  projectName: z.string(),
  activity: z.string(),
  name: z.string(),
  path: z.string(),
  start: z.string(),
  finish: z.string(),
  state: z.enum(["notStarted", "inProgress", "complete"]),
  percent: z.number().nullable(),
  plannedMinutes: minutesSchema,
  remainingMinutes: minutesSchema,
  postedMinutes: minutesSchema,
  waitingMinutes: minutesSchema,
  /** The timebox in which it stands, and its last day. */
  box: z.object({ name: z.string(), last: z.string() }).nullable(),
  /** The stages by which it earns, and the one it stands in; `null` of what earns otherwise. */
  stages: z
    .object({ all: z.array(z.object({ name: z.string(), credit: z.number() })), at: z.string().nullable() })
    .nullable(),
  waitsFor: z.array(z.string()),
  blocked: z.object({ by: z.string(), since: z.string(), saidBy: z.string() }).nullable(),
  /** What its plan says of it besides; `null` where nothing. */
  note: noteSchema.nullable(),
  /** What its project calls its priority; `null` where it has none. */
  priorityWord: z.string().nullable(),
  /** How many files and links there are on it. */
  documents: z.int(),
});
export type DeskActivity = z.infer<typeof deskActivitySchema>;

/** Something that changed in one's own work since one last looked. */
export const deskNewsSchema = z.object({
  project: z.string(),
  projectName: z.string(),
  activity: z.string(),
  name: z.string(),
  what: z.discriminatedUnion("kind", [
    z.object({ kind: z.literal("new") }),
    z.object({ kind: z.literal("gone") }),
    z.object({ kind: z.literal("free") }),
    z.object({ kind: z.literal("start"), from: z.string(), to: z.string() }),
    z.object({ kind: z.literal("finish"), from: z.string(), to: z.string() }),
    z.object({ kind: z.literal("hours"), from: z.int(), to: z.int() }),
  ]),
});
export type DeskNews = z.infer<typeof deskNewsSchema>;

export const clockSchema = z.object({
  project: z.string(),
  activity: z.string(),
  name: z.string(),
  startedAt: z.string(),
});
export const startClockSchema = z.strictObject({ project: z.string(), activity: z.string() });
/** Minutes of 0 drop what was measured. */
export const stopClockSchema = z.strictObject({
  minutes: minutesSchema.min(0).max(1440, "a day has 24 hours; shorten what a forgotten clock has measured"),
  note: z.string().max(1000),
});

export const deskSchema = z.object({
  person: z.string().nullable(),
  today: z.string(),
  activities: z.array(deskActivitySchema),
  /** What was sent: all that waits, and what is of the last five weeks or was sent in them; of the newest day first. */
  reports: z.array(reportSchema),
  /** Minutes booked by day, waiting and posted, of the last thirteen months. */
  booked: z.record(z.string(), z.int()),
  /** When one last said that one had seen what changed; `null` for never. */
  seenAt: z.string().nullable(),
  news: z.array(deskNewsSchema),
  clock: clockSchema.nullable(),
  /** Days of the last two weeks that one works and has booked nothing on. */
  forgotten: z.array(z.string()),
  /** Meetings of the last two weeks that are not booked yet, their hours filled in. */
  meetings: z.array(
    z.object({
      project: z.string(),
      projectName: z.string(),
      activity: z.string(),
      name: z.string(),
      date: z.string(),
      minutes: minutesSchema,
    }),
  ),
  leave: z.array(z.object({ from: z.string(), to: z.string(), label: z.string(), waiting: z.boolean() })),
  /** The five weeks from Monday on: working time by one's calendar, leave taken off. */
  calendar: z.array(z.object({ date: z.string(), expectedMinutes: minutesSchema })),
});
export type Desk = z.infer<typeof deskSchema>;

/** A person's week, Monday to Sunday: what is booked on each activity and day, and what would be expected. */
export const weekViewSchema = z.object({
  /** Its Monday. */
  from: z.string(),
  today: z.string(),
  /** Whether the week was sent as whole, and what was said to it; `null` while it was not. */
  sheet: weekSheetSchema.nullable(),
  days: z.array(
    z.object({
      date: z.string(),
      /** Working time by the person's calendar, leave taken off. */ expectedMinutes: minutesSchema,
    }),
  ),
  rows: z.array(
    z.object({
      project: z.string(),
      projectName: z.string(),
      activity: z.string(),
      name: z.string(),
      /** Whether time can be booked on it: finished or parked work only shows what was. */
      open: z.boolean(),
      /** One a day. */
      cells: z.array(z.object({ posted: z.int(), waiting: z.int(), returned: z.int(), notes: z.array(z.string()) })),
    }),
  ),
});
export type WeekView = z.infer<typeof weekViewSchema>;

/** What a person has worked on an activity and a day in all, posted time included; 0 takes back what still waits. */
export const weekCellSchema = z.strictObject({
  project: z.string(),
  activity: z.string(),
  date: dateSchema,
  minutes: minutesSchema.min(0).max(1440, "a day has 24 hours"),
  note: z.string().max(1000).optional(),
});
export const writeWeekSchema = z.strictObject({ cells: z.array(weekCellSchema).min(1).max(500) });
export type WeekCell = z.infer<typeof weekCellSchema>;
