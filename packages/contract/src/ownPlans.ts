import { z } from "zod";
import { ownWordsSchema } from "./charter.ts";

const projectSchema = { id: z.string(), code: z.string(), name: z.string(), manager: z.string() };

/** The projects in which one has work, and what of it is open. */
export const ownPlansSchema = z.array(
  z.object({
    ...projectSchema,
    /** The last finish of the plan; `null` where it has no dates. */
    finish: z.string().nullable(),
    /** How many of one's own activities are not finished. */
    open: z.int(),
    /** When the first of these finishes. */
    next: z.string().nullable(),
    /** How many deadlines of the project break. */
    breaking: z.int(),
  }),
);
export type OwnPlans = z.infer<typeof ownPlansSchema>;

const activitySchema = z.object({
  id: z.string(),
  parent: z.string().nullable(),
  name: z.string(),
  kind: z.enum(["work", "milestone", "summary", "levelOfEffort"]),
  state: z.enum(["notStarted", "inProgress", "complete", "parked"]),
  start: z.string().nullable(),
  finish: z.string().nullable(),
  baselineStart: z.string().nullable(),
  baselineFinish: z.string().nullable(),
  drift: z.number().nullable().describe("working days"),
  percent: z.number().nullable().describe("0 to 100"),
  deadline: z.string().nullable(),
  deadlineState: z.string().nullable(),
  margin: z.number().nullable().describe("working days"),
  blockedBy: z.string().nullable(),
  people: z.array(z.string()),
  /** Whether one works on it oneself. */
  own: z.boolean(),
});
export type OwnPlanActivity = z.infer<typeof activitySchema>;

/** A plan as whoever works in it reads it: who does what when, without what it costs. */
export const ownPlanSchema = z.object({
  ...projectSchema,
  isClosed: z.boolean(),
  /** What it calls states of activities, where it has words of its own for them. */
  words: ownWordsSchema,
  dataDate: z.string().nullable(),
  /** In the order of the plan. */
  activities: z.array(activitySchema),
});
/** A plan as it was at a revision, to be read. */
export const planThenSchema = z.object({
  revision: z.int(),
  at: z.string(),
  by: z.string(),
  /** What was done then. */
  label: z.string(),
  /** The newest revision there is. */
  newest: z.int(),
  name: z.string(),
  dataDate: z.string().nullable(),
  activities: z.array(activitySchema),
});
export type PlanThen = z.infer<typeof planThenSchema>;
export type OwnPlan = z.infer<typeof ownPlanSchema>;
