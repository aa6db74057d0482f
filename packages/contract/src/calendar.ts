import { z } from "zod";
import { CALENDAR_KINDS } from "./calendarWords.ts";

const entrySchema = z.object({
  id: z.string(),
  kind: z.enum(CALENDAR_KINDS),
  from: z.string(),
  /** The last day of an absence or a timebox; of all else, `from`. */
  to: z.string(),
  name: z.string(),
  /** How it stands, in words. */
  words: z.string(),
  tone: z.enum(["adverse", "favourable", "undecided", "plain"]),
  /** Reached, kept or passed. */
  done: z.boolean(),
  /** `null` of an absence, which is of a person. */
  project: z.object({ id: z.string(), code: z.string(), name: z.string() }).nullable(),
  /** The milestone, or whose deadline it is; `null` of all else. */
  activity: z.string().nullable(),
  /** The page on which it is told in full; `null` for whoever sees none. */
  link: z.string().nullable(),
  /** Whether it is a milestone that one may slip. */
  mayMove: z.boolean(),
});
export type CalendarEntry = z.infer<typeof entrySchema>;

export const calendarSchema = z.object({
  from: z.string(),
  to: z.string(),
  /** By day, then kind, then name. */
  entries: z.array(entrySchema),
  /** How many there are in all, where there are more than are told. */
  total: z.int(),
});
export type CalendarView = z.infer<typeof calendarSchema>;
