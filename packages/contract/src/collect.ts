import { dateSchema, idSchema } from "@chronometra/core";
import { z } from "zod";
import { minutesSchema } from "./units.ts";
import { effectSchema } from "./plan.ts";

/** What a contributor sends from the desk; at least one of minutes, percent, remaining minutes and a stage. */
export const reportRequestSchema = z
  .strictObject({
    project: z.string(),
    activity: z.string(),
    date: dateSchema,
    /** Less than nothing in an adjusting entry, which takes back what was accepted and says why. */
    minutes: z
      .int("minutes are a whole number")
      .min(-1440, "a day has 24 hours")
      .max(1440, "a day has 24 hours")
      .refine((minutes) => minutes !== 0, "hours must not be 0")
      .optional(),
    percent: z.number().min(0).max(100).optional(),
    remainingMinutes: minutesSchema.min(0).max(10_000_000).optional(),
    /** The stage that it has come to, of those by which the activity earns. */
    stage: z.string().min(1).max(4000).optional(),
    note: z.string().max(1000).optional(),
  })
  .refine(
    (report) => (report.minutes ?? 0) >= 0 || (report.note ?? "").trim() !== "",
    "an adjusting entry takes hours back that were accepted: say in a note why",
  )
  .refine(
    ({ minutes, percent, remainingMinutes, stage }) =>
      minutes !== undefined || percent !== undefined || remainingMinutes !== undefined || stage !== undefined,
    "say at least one of time, percent, what remains and a stage",
  );
export type ReportRequest = z.infer<typeof reportRequestSchema>;

export const reportSchema = z.object({
  id: z.string(),
  project: z.string(),
  projectName: z.string(),
  activity: z.string(),
  activityName: z.string(),
  person: z.string(),
  date: z.string(),
  /** Of leave its last day; `null` for anything else. */
  leaveUntil: z.string().nullable(),
  minutes: minutesSchema.nullable(),
  percent: z.number().nullable(),
  remainingMinutes: minutesSchema.nullable(),
  stage: z.string().nullable(),
  note: z.string(),
  state: z.enum(["submitted", "posted", "returned", "withdrawn"]),
  sentAt: z.string(),
  word: z.string().nullable(),
  decidedBy: z.string().nullable(),
});
export type Report = z.infer<typeof reportSchema>;

/** First and last day of leave that someone said they will take. */
export const leaveDaysSchema = z.strictObject({ from: dateSchema, to: dateSchema });
/** Leave that someone will take, first and last day. */
export const leaveRequestSchema = z
  .strictObject({ from: dateSchema, to: dateSchema, note: z.string().max(200) })
  .refine(({ from, to }) => to >= from, "the last day of leave lies before the first");

const remarkSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("parked"), name: z.string() }),
  z.object({ kind: z.literal("gone") }),
  z.object({ kind: z.literal("finished"), on: z.string() }),
  z.object({ kind: z.literal("unbaselined"), baseline: z.int() }),
  z.object({ kind: z.literal("outOfSequence"), after: z.string() }),
  z.object({ kind: z.literal("percentFell"), from: z.number(), to: z.number() }),
  z.object({ kind: z.literal("leftRose"), fromMinutes: minutesSchema, toMinutes: minutesSchema }),
  z.object({ kind: z.literal("notAssigned") }),
  z.object({ kind: z.literal("late"), closedTo: z.string() }),
  z.object({ kind: z.literal("adjusts"), backMinutes: minutesSchema }),
  z.object({ kind: z.literal("reopens"), leftMinutes: minutesSchema }),
  z.object({ kind: z.literal("stageFell"), from: z.string(), to: z.string() }),
  z.object({ kind: z.literal("stageGone"), stage: z.string() }),
  z.object({ kind: z.literal("older"), what: z.enum(["percent", "remaining", "stage"]) }),
]);
/** A report that waits to be decided, with what should be known of it first. */
export const queuedReportSchema = reportSchema.extend({ remarks: z.array(remarkSchema) });
export type QueuedReport = z.infer<typeof queuedReportSchema>;

/** What somebody's 100% ends where others still have hours: the activity, or only their own work on it. */
const endingSchema = z.enum(["all", "own"]);
/** By report. */
const endingsSchema = z.record(z.string().max(36), endingSchema);
export type Endings = z.infer<typeof endingsSchema>;
/** Activities whose windows are kept from ending later. */
const windowsHeldSchema = z.array(z.strictObject({ project: z.string().max(36), activity: idSchema })).max(500);
export type WindowsHeld = z.infer<typeof windowsHeldSchema>;

/** What accepting reports would do to each project that they speak of. */
export const reportsEffectSchema = z.array(
  z.object({
    project: z.string(),
    projectName: z.string(),
    effect: effectSchema,
    /** Windows that would end later, and those in which someone has more to do than fits. */
    windows: z.array(
      z.object({
        activity: z.string(),
        name: z.string(),
        was: z.string().nullable(),
        wouldEnd: z.string(),
        ends: z.string(),
        outcome: z.enum(["stays", "moves", "held", "lost"]),
        /** Why it cannot be held; `null` where it can. */
        why: z.string().nullable(),
        load: z.array(z.object({ person: z.string(), leftMinutes: minutesSchema, roomMinutes: minutesSchema })),
      }),
    ),
    /**
     * Reports of 100% beside whose senders others still have hours: whether all of the activity is finished, or only
     * their own work.
     */
    asked: z.array(
      z.object({
        report: z.string(),
        activity: z.string(),
        name: z.string(),
        person: z.string(),
        others: z.array(z.object({ person: z.string(), leftMinutes: minutesSchema })),
        answer: endingSchema.nullable(),
      }),
    ),
    /** Starts taken from the plan, since those who were to begin then have not reported. */
    assumed: z.array(
      z.object({ activity: z.string(), name: z.string(), start: z.string(), people: z.array(z.string()) }),
    ),
  }),
);
export type ReportsEffect = z.infer<typeof reportsEffectSchema>;

/** Marks an activity as blocked by something, or takes the mark away where `by` is `null`. */
export const blockRequestSchema = z.strictObject({
  project: z.string(),
  activity: z.string(),
  by: z.string().trim().min(1, "say by what or whom").max(500).nullable(),
  on: z.strictObject({ project: z.string(), activity: z.string() }).optional(),
});

export const weekSheetSchema = z.object({
  state: z.enum(["sent", "approved", "returned"]),
  sentAt: z.string(),
  decidedBy: z.string().nullable(),
  word: z.string().nullable(),
  /** When hours of it were last written after it was sent. */ changedAt: z.string().nullable(),
});
export type WeekSheet = z.infer<typeof weekSheetSchema>;

/** A week of everyone that someone answers for. Minutes. */
export const peopleWeekSchema = z.object({
  from: z.string(),
  people: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      /** By their calendar, leave taken off. */
      expectedMinutes: minutesSchema,
      plannedMinutes: minutesSchema,
      postedMinutes: minutesSchema,
      waitingMinutes: minutesSchema,
      sheet: weekSheetSchema.nullable(),
      /** When they were last reminded of this week. */
      remindedAt: z.string().nullable(),
      canBeReached: z.boolean(),
      projects: z.array(
        z.object({
          project: z.string(),
          name: z.string(),
          plannedMinutes: minutesSchema,
          postedMinutes: minutesSchema,
          waitingMinutes: minutesSchema,
        }),
      ),
    }),
  ),
});
export type PeopleWeek = z.infer<typeof peopleWeekSchema>;
const peopleChosen = z.array(z.string()).min(1, "select someone").max(1000);
export const decideWeekSchema = z
  .strictObject({
    people: peopleChosen,
    decision: z.enum(["approve", "return"]),
    word: z.string().max(1000),
    /** The reports whose effect was seen; approving accepts these and no others. */ seen: z
      .array(z.string())
      .max(5000)
      .optional(),
    endings: endingsSchema.optional(),
  })
  .refine(
    ({ decision, word }) => decision === "approve" || word.trim() !== "",
    "say in a word what to change before you return a week",
  );
export const decidedWeekSchema = z.object({
  approved: z.array(z.string()),
  /** Who still has reports that others decide. */ open: z.array(z.string()),
});
export const remindSchema = z.strictObject({
  people: peopleChosen,
  words: z.string().trim().min(1, "write what to remind them of").max(4000),
});

export const decideReportsSchema = z.strictObject({
  ids: z.array(z.string()).min(1).max(2000),
  decision: z.enum(["accept", "return"]),
  word: z.string().max(1000).optional(),
  hold: windowsHeldSchema.optional(),
  endings: endingsSchema.optional(),
});
export const reportsEffectRequestSchema = z.strictObject({
  ids: z.array(z.string()).min(1).max(2000),
  hold: windowsHeldSchema.optional(),
  endings: endingsSchema.optional(),
});

const alongSchema = z.object({
  project: z.string(),
  projectName: z.string(),
  id: z.string(),
  name: z.string(),
  start: z.string(),
  finish: z.string(),
  driftDays: z.number().nullable(),
  blockedBy: z.string().nullable(),
  movesDays: z.number(),
});
const deadlineAtStakeSchema = z.object({
  id: z.string(),
  name: z.string(),
  deadline: z.string(),
  nowState: z.string(),
  nowMarginDays: z.number().nullable(),
  thenState: z.string(),
  thenMarginDays: z.number().nullable(),
});

/** What is blocked across all projects, with what could be the cause and what will feel it. */
export const blockedSchema = z.object({
  /** Working days for which each is taken to stay blocked. */
  days: z.int(),
  blocks: z.array(
    z.object({
      project: z.string(),
      projectName: z.string(),
      activity: z.string(),
      name: z.string(),
      finish: z.string(),
      by: z.string(),
      since: z.string(),
      saidBy: z.string(),
      mayEdit: z.boolean(),
      on: z.object({ project: z.string(), activity: z.string(), projectName: z.string(), name: z.string() }).nullable(),
      /** Across projects: in this one by links, and on from the activity that is waited for in another. */
      upstream: z.array(alongSchema),
      /** Across projects: in this one by links, and what waits elsewhere for any of it. */
      downstream: z.array(alongSchema),
      deadlines: z.array(deadlineAtStakeSchema),
      finishDays: z.number(),
      fault: z.string().nullable(),
    }),
  ),
});
export type Blocked = z.infer<typeof blockedSchema>;

/** What approving weeks would accept, and what that would move in each project. */
export const weeksChosenSchema = z.strictObject({ people: peopleChosen, endings: endingsSchema.optional() });
export const weeksEffectSchema = z.object({ reports: z.array(z.string()), effects: reportsEffectSchema });
export type WeeksEffect = z.infer<typeof weeksEffectSchema>;
