import { BOX_FATES, dateSchema } from "@chronometra/core";
import { z } from "zod";

const minutes = z.int().describe("hours of people, in minutes");

const boxedWorkSchema = z.object({
  id: z.string(),
  name: z.string(),
  /** The names of the branches above it, the nearest last. */
  path: z.string(),
  /** The branches above it, the nearest last. */
  branches: z.array(z.string()),
  milestone: z.boolean(),
  state: z.enum(["notStarted", "inProgress", "complete"]),
  parked: z.boolean(),
  plannedMinutes: minutes,
  bookedMinutes: minutes,
  leftMinutes: minutes,
  /** Days as shown; `null` without dates. */
  start: z.string().nullable(),
  finish: z.string().nullable(),
  /** Working days by which it spills over the last day of its timebox. */
  spillsDays: z.number(),
  /** Names of those who work on it. */
  people: z.array(z.string()),
  blockedBy: z.string().nullable(),
});
export type BoxedRow = z.infer<typeof boxedWorkSchema>;

const boxSchema = z.object({
  id: z.string(),
  name: z.string(),
  first: dateSchema,
  last: dateSchema,
  branch: z.object({ id: z.string(), name: z.string() }).nullable(),
  /** Activities that are not parked, and how many of them are finished or spill. */
  count: z.int(),
  done: z.int(),
  spills: z.int(),
  plannedMinutes: minutes,
  bookedMinutes: minutes,
  leftMinutes: minutes,
  /** What its people can work in it, and what of that is still to come. */
  capacityMinutes: minutes,
  capacityLeftMinutes: minutes,
  /** Days of work still to come. */
  daysLeft: z.int(),
  /** What was left at the end of each day, from the day before the first. */
  burnt: z.array(z.object({ date: dateSchema, bookedMinutes: minutes, leftMinutes: minutes })),
  works: z.array(boxedWorkSchema),
});
export type Box = z.infer<typeof boxSchema>;

export const boxesSchema = z.object({
  revision: z.int(),
  mayEdit: z.boolean(),
  /** The day that all of it is as of. */
  today: dateSchema,
  /** In the order of their days, each with what stands in it, in its order. */
  boxes: z.array(boxSchema),
  /** What waits for a timebox and is not finished, in its order. */
  waiting: z.array(boxedWorkSchema),
  /** Branches that a series may be for, as they stand in the plan. */
  branches: z.array(z.object({ id: z.string(), name: z.string() })),
});
export type Boxes = z.infer<typeof boxesSchema>;

/** A milestone with what it gathers. */
export const gatheredSchema = z.object({
  revision: z.int(),
  mayEdit: z.boolean(),
  id: z.string(),
  name: z.string(),
  /** Days as shown: forecast, as approved, and as promised. */
  now: z.string().nullable(),
  baseline: z.string().nullable(),
  deadline: z.string().nullable(),
  /** Working days that it lies after the approved day. */
  drift: z.number().nullable(),
  reached: z.boolean(),
  count: z.int(),
  notStarted: z.int(),
  inProgress: z.int(),
  complete: z.int(),
  parked: z.int(),
  blocked: z.int(),
  plannedMinutes: minutes,
  bookedMinutes: minutes,
  leftMinutes: minutes,
  /** Earned value of its parts by their budget; `null` where none was approved. */
  percentComplete: z.number().nullable(),
  works: z.array(boxedWorkSchema.extend({ /** Whether a link leads from it to the milestone. */ linked: z.boolean() })),
  /** By the end of each week, what was finished and booked by then. */
  trend: z.array(z.object({ until: dateSchema, complete: z.int(), bookedMinutes: minutes })),
});
export type GatheredView = z.infer<typeof gatheredSchema>;

export const lookBackSchema = z.object({
  lines: z.array(
    z.object({
      activity: z.string(),
      /** `null` of what has left the plan since. */
      name: z.string().nullable(),
      plannedMinutes: minutes,
      meant: z.boolean(),
      cameOn: dateSchema.nullable(),
      fate: z.enum(BOX_FATES),
      /** Of what was moved on: the timebox to which. */
      to: z.string().nullable(),
    }),
  ),
});
export type BoxLookBack = z.infer<typeof lookBackSchema>;
