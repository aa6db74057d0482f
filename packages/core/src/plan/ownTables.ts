import { z } from "zod";
import { dateSchema, idSchema } from "./schema.ts";

/**
 * What a plan keeps besides the bundle: fields of one's own, teams, cost categories, people who stand for a role,
 * which links were made when something was parked, what is blocked or was promised, how exactly lengths are known and what may
 * happen, meetings, ways of which one is live, timeboxes, and what
 * milestones gather. None but a timebox bears on dates or money, and that by the bound it
 * gives to the work in it (`boxed.ts`); the open format leaves all of it out.
 */
const name = z.string().trim().min(1, "needs a name").max(200);

/** What a field of one’s own may hold. */
export const OWN_FIELD_TYPES = ["text", "number", "date", "choice", "yesNo"] as const;

export const ownFieldSchema = z.strictObject({
  id: idSchema,
  name,
  type: z.enum(OWN_FIELD_TYPES),
  /** What may be chosen, in the order in which it is offered. */
  choices: z.array(z.string().min(1).max(200)).max(100).optional(),
});

export const ownValueSchema = z.union([z.string().min(1).max(4000), z.number(), z.boolean()]);

/** An activity's values by the id of their field. */
export const ownValuesSchema = z.record(idSchema, ownValueSchema);

export const teamSchema = z.strictObject({ id: idSchema, name, members: z.array(idSchema).max(1000) });

export const categorySchema = z.strictObject({ id: idSchema, name });

/** A person in the plan who stands for a role until someone is named. */
export const placeholderSchema = z.strictObject({ person: idSchema });

/** A link that carries logic across what is parked: which parked rows it stands in for. */
export const carriedSchema = z.strictObject({ by: z.array(idSchema).min(1).max(1000) });

/** That an activity cannot go on, and by what or whom. Keyed by the activity. */
export const blockSchema = z.strictObject({
  /** In words, such as "crane not on site". */
  by: z.string().trim().min(1, "say by what or whom").max(500),
  since: dateSchema,
  /** Whoever said so. */
  saidBy: z.string().max(200),
  /** The activity that is waited for, of this project or another one. */
  on: z.strictObject({ project: z.string().max(36), activity: idSchema }).optional(),
});

/** A meeting whose hours are ready to be booked by those who go: once, or each week on that day. */
export const meetingSchema = z
  .strictObject({
    id: idSchema,
    name,
    activity: idSchema,
    date: dateSchema,
    /** The last day of a meeting that is held each week. */ weeklyUntil: dateSchema.optional(),
    minutes: z.int().min(1).max(1440),
    people: z.array(idSchema).min(1, "a meeting needs people").max(200),
  })
  .refine(
    ({ date, weeklyUntil }) => weeklyUntil === undefined || weeklyUntil >= date,
    "the last day of a weekly meeting lies before the first",
  );

/** What follows if an activity's deadline is not kept, and to whom it was promised. Keyed by the activity. */
export const promiseSchema = z.strictObject({
  consequence: z.string().trim().min(1, "say what follows if it is not kept").max(500),
  to: z.string().trim().min(1).max(200).optional(),
});

const percentOfLeft = z.number().gt(0, "a percent above 0").max(1000);
const rising = ({ low, likely, high }: { low: number; likely: number; high: number }): boolean =>
  low <= likely && likely <= high;
const RISING = "the least comes before the likeliest, and that before the most";

/** How much an activity matters among others, the most first. */
export const PRIORITIES = ["high", "middle", "low"] as const;

/** What there is to know of an activity besides its dates, work and cost. Keyed by the activity. */
export const noteSchema = z.strictObject({
  description: z.string().trim().min(1).max(8000).optional(),
  priority: z.enum(PRIORITIES).optional(),
  /** What to think of, in order. */
  checks: z
    .array(
      z.strictObject({
        id: idSchema,
        text: z.string().trim().min(1, "say what is to be thought of").max(300),
        done: z.literal(true).optional(),
      }),
    )
    .max(100, "a list of 100 is long enough; make activities of its parts")
    .optional(),
});

/** How exactly an activity's length is known: three points in percent of what is left of it. Keyed by the activity. */
export const rangeSchema = z
  .strictObject({ low: percentOfLeft, likely: percentOfLeft, high: percentOfLeft })
  .refine(rising, RISING);

const threePoints = z
  .strictObject({ low: z.number().min(0), likely: z.number().min(0), high: z.number().min(0) })
  .refine(rising, RISING);

/** Something that may happen, how likely, and what it would add: working minutes to activities, minor units to the cost. */
export const riskSchema = z.strictObject({
  id: idSchema,
  name,
  probability: z.number().min(0, "a chance between 0 and 1").max(1, "a chance between 0 and 1"),
  effects: z.array(z.strictObject({ activity: idSchema, minutes: threePoints })).max(200),
  costMinor: threePoints.optional(),
  /** That it cannot come about any more: it has, or its time is over. It is in no simulation and in no sum then. */
  over: z.enum(["struck", "past"]).optional(),
});

/** Ways to do one step, of which one is live and the others are parked. */
export const alternatesSchema = z.strictObject({
  id: idSchema,
  name,
  members: z.array(idSchema).min(2, "alternates are two or more").max(20),
});

/** A stretch of days in which work of the project, or of one branch of it, is to be done. */
export const timeboxSchema = z.strictObject({
  id: idSchema,
  name,
  first: dateSchema,
  last: dateSchema,
  /** The branch whose work it is for; all of the project where it names none. */
  branch: idSchema.optional(),
});

/** Where an activity stands among short work: in a timebox, or waiting for one. Keyed by the activity. */
export const boxedSchema = z.strictObject({
  /** The timebox; it waits where there is none, or one that is gone. */
  box: idSchema.optional(),
  /** Its place among those that stand there, the least first. */
  rank: z.number(),
});

/** By which milestone an activity is gathered: a count of what is behind it, and no link. Keyed by the activity. */
export const gatheredSchema = z.strictObject({ milestone: idSchema });

export type Gathered = z.infer<typeof gatheredSchema>;
export type Timebox = z.infer<typeof timeboxSchema>;
export type Boxed = z.infer<typeof boxedSchema>;
export type Block = z.infer<typeof blockSchema>;
export type Meeting = z.infer<typeof meetingSchema>;
export type Alternates = z.infer<typeof alternatesSchema>;
export type Promised = z.infer<typeof promiseSchema>;
export type ActivityRange = z.infer<typeof rangeSchema>;
export type ActivityNote = z.infer<typeof noteSchema>;
export type Risk = z.infer<typeof riskSchema>;
/** The risks that may still come about. */
export const openRisks = (risks: ReadonlyMap<string, Risk>): Risk[] =>
  [...risks.values()].filter(({ over }) => over === undefined);
export type Carried = z.infer<typeof carriedSchema>;
export type OwnField = z.infer<typeof ownFieldSchema>;
export type OwnValue = z.infer<typeof ownValueSchema>;
export type OwnValues = z.infer<typeof ownValuesSchema>;
export type Team = z.infer<typeof teamSchema>;
export type Category = z.infer<typeof categorySchema>;
export type Placeholder = z.infer<typeof placeholderSchema>;
