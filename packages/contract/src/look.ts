import {
  exchangeSchema,
  ownFieldSchema,
  ownValueSchema,
  qualityLimitsSchema,
  RATINGS,
  thresholdsSchema,
} from "@chronometra/core";
import { z } from "zod";
import { ownWordsSchema } from "./charter.ts";
import { PROJECT_STATES } from "./charterWords.ts";
import { PROJECT_FIELD_TYPES } from "./projectFields.ts";
import { minorSchema, amountMinorSchema, minutesSchema } from "./units.ts";

export const figuresSchema = z.object({
  bac: minorSchema,
  pv: minorSchema,
  ev: minorSchema,
  ac: minorSchema,
  sv: minorSchema,
  cv: minorSchema,
  spi: z.number().nullable(),
  cpi: z.number().nullable(),
  percentComplete: z.number().nullable(),
  percentSpent: z.number().nullable(),
  eac: minorSchema.nullable(),
  etc: minorSchema.nullable(),
  vac: minorSchema.nullable(),
  eacRemaining: minorSchema,
  eacCpiSpi: minorSchema.nullable(),
  eacBottomUp: minorSchema,
  tcpiBac: z.number().nullable(),
  tcpiEac: z.number().nullable(),
});

export const earnedScheduleSchema = z.object({
  period: z.enum(["workday", "week", "month"]),
  es: z.number().nullable(),
  at: z.number().nullable(),
  pd: z.number().nullable(),
  svt: z.number().nullable(),
  spit: z.number().nullable(),
  forecastDuration: z.number().nullable(),
  forecastFinish: z.string().nullable(),
});

export const milestoneSchema = z.object({
  id: z.string(),
  name: z.string(),
  /** Dates as shown; null where no baseline holds the milestone. */
  baseline: z.string().nullable(),
  forecast: z.string(),
  drift: z.number().nullable(),
  reached: z.boolean(),
  dropped: z.literal(true).optional(),
  deadline: z.string().nullable(),
});
export type MilestoneLine = z.infer<typeof milestoneSchema>;

export const deadlineSchema = z.object({
  id: z.string(),
  name: z.string(),
  deadline: z.string(),
  finish: z.string(),
  /** `null` where it was dropped. */
  marginDays: z.number().nullable(),
  state: z.enum(["metOnTime", "metLate", "dropped", "breached", "willBreach", "tight", "safe"]),
});
export type DeadlineLine = z.infer<typeof deadlineSchema>;

/** A project's figures as kept for one revision. */
export const summarySchema = z.object({
  currency: z.string(),
  minorDigits: z.int(),
  dataDate: z.string().nullable(),
  baseline: z.int().nullable(),
  finish: z.string().nullable(),
  baselineFinish: z.string().nullable(),
  /** The first day of work, and the first that was approved; left out of what was kept before they were told. */
  start: z.string().nullable().optional(),
  baselineStart: z.string().nullable().optional(),
  /** Working days by which the finish has moved from the approved one. */
  drift: z.number().nullable(),
  /** Working days from the data date to the finish; `null` where either is not there. */
  daysLeft: z.number().nullable(),
  done: z.int(),
  activities: z.int(),
  unscheduled: z.int(),
  unbaselined: z.int(),
  /** Work ended short of its scope, with the budget it has not earned; left out of what was kept before it was told. */
  dropped: z.object({ count: z.int(), unearnedMinor: amountMinorSchema }).optional(),
  figures: figuresSchema.nullable(),
  earnedSchedule: earnedScheduleSchema.nullable(),
  milestones: z.array(milestoneSchema),
  deadlines: z.array(deadlineSchema),
  /**
   * Values of the fourteen checks in the order of their numbers; left out of periods issued before they were measured.
   */
  quality: z.array(z.number().nullable()).optional(),
});
export type Summary = z.infer<typeof summarySchema>;

const DEADLINE_STATES = deadlineSchema.shape.state;

/**
 * A project's figures as the portfolio page shows them: the least of them that it can do with, since it has hundreds.
 */
export const lineSummarySchema = summarySchema
  .omit({ milestones: true, deadlines: true, earnedSchedule: true, start: true, baselineStart: true })
  .extend({
    /** SPI(t) of earned schedule. */
    spit: z.number().nullable(),
    /** The milestone not reached yet that has drifted furthest. */
    worst: milestoneSchema.nullable(),
    deadlineCounts: z.partialRecord(DEADLINE_STATES, z.int()),
    /** Deadlines that are broken, will be, or are tight. */
    endangered: z.array(deadlineSchema),
  });
export type LineSummary = z.infer<typeof lineSummarySchema>;

/**
 * Figures of a locked period that what has changed since is told against; the estimate in minor units, from what is
 * left.
 */
export const lockedFiguresSchema = z.object({
  number: z.int(),
  dataDate: z.string(),
  spi: z.number().nullable(),
  cpi: z.number().nullable(),
  drift: z.number().nullable(),
  estimate: z.number().nullable(),
});
export type LockedFigures = z.infer<typeof lockedFiguresSchema>;

/** One line of the portfolio page. */
export const projectLineSchema = z.object({
  id: z.string(),
  code: z.string(),
  name: z.string(),
  programme: z.string().nullable(),
  manager: z.string(),
  revision: z.int(),
  /** Number and drift of the finish of the last period issued before the open one, which movements are told against. */
  comparedNumber: z.int().nullable(),
  issuedDrift: z.number().nullable(),
  /** The period last issued whose issue still holds; and the drift that the open one was issued with, where it was. */
  issuedNumber: z.int().nullable(),
  openDrift: z.number().nullable(),
  /** Nothing in it changes any more: it takes part in no period, and nothing of it is asked. */
  closed: z.boolean(),
  /** How it stands as such. */
  state: z.enum(PROJECT_STATES),
  /** The stage of its life cycle that it is in; `null` where it is in none. */
  stage: z.string().nullable(),
  /** What the newest locked period said, where the data date has not moved on from it. */
  locked: lockedFiguresSchema.nullable(),
  missing: z.array(z.object({ id: z.string(), name: z.string() })),
  waiting: z.int(),
  mayEdit: z.boolean(),
  /** Values of the portfolio's own fields, by the id of the field. */
  values: z.record(z.string(), ownValueSchema),
  /** What the manager says of it, whatever the figures say. */
  says: z.object({ rating: z.enum(RATINGS), note: z.string(), by: z.string(), at: z.string() }).nullable(),
  summary: lineSummarySchema,
});
export type ProjectLine = z.infer<typeof projectLineSchema>;

/** A portfolio or programme, part of another one or of none. */
export const programmeSchema = z.object({ id: z.string(), name: z.string(), parent: z.string().nullable() });

/** A field that every project has. */
export const projectFieldSchema = ownFieldSchema.extend({ type: z.enum(PROJECT_FIELD_TYPES) });
export type ProjectField = z.infer<typeof projectFieldSchema>;

export const portfolioSchema = z.object({
  name: z.string(),
  /** By what amounts of several currencies are summed, and the data date of such sums. */
  exchange: exchangeSchema.nullable(),
  on: z.string(),
  /** Each with limits of its own, where it does not take them from above. */
  programmes: z.array(programmeSchema.extend({ thresholds: thresholdsSchema.nullable() })),
  fields: z.array(projectFieldSchema),
  /** What those are called whom values of fields name, by id. */
  named: z.record(z.string(), z.string()),
  thresholds: thresholdsSchema,
  qualityLimits: qualityLimitsSchema,
  projects: z.array(projectLineSchema),
});
export type Portfolio = z.infer<typeof portfolioSchema>;

/** Where projects would stand with all reports accepted that wait for a decision. */
export const acceptedSchema = z.array(
  z.object({
    project: z.string(),
    reports: z.int(),
    drift: z.number().nullable(),
    /** Of how many it is still to be said what their 100% ends; their own work is taken to end. */ asked: z.int(),
    /** Why they cannot all be accepted. */ fault: z.string().nullable(),
  }),
);
export type Accepted = z.infer<typeof acceptedSchema>;

/** SPI, CPI and drift of each project as issued, period by period. */
export const pathsSchema = z.record(
  z.string(),
  z.array(
    z.object({
      number: z.int(),
      dataDate: z.string(),
      spi: z.number().nullable(),
      cpi: z.number().nullable(),
      drift: z.number().nullable(),
    }),
  ),
);
export type Paths = z.infer<typeof pathsSchema>;

export const projectFieldsSchema = z.strictObject({
  fields: z.array(projectFieldSchema).max(50),
  /** The fields that their writer saw; with them, what someone else wrote meanwhile is not lost. */
  seen: z.array(projectFieldSchema).max(50).optional(),
  /** Choices that are called something else: values that say the one say the other from then on. */
  renamed: z
    .array(z.strictObject({ field: z.string().max(36), from: z.string().max(200), to: z.string().max(200) }))
    .max(100)
    .optional(),
});
export type WriteProjectFields = z.infer<typeof projectFieldsSchema>;

/** Who can be named in a field of projects. */
export const namablesSchema = z.array(z.object({ id: z.string(), name: z.string() }));

/** What the portfolio knows of a project beside its plan; what is left out stays. */
export const projectStandingSchema = z.strictObject({
  programme: z.string().max(36).nullable().optional(),
  says: z
    .strictObject({ rating: z.enum(RATINGS), note: z.string().trim().max(1000) })
    .nullable()
    .optional(),
  values: z.record(z.string().max(36), ownValueSchema.nullable()).optional(),
});

const rowFiguresSchema = z.object({
  id: z.string(),
  name: z.string(),
  parent: z.string().nullable(),
  kind: z.enum(["work", "milestone", "summary", "levelOfEffort"]),
  left: z.boolean(),
  figures: figuresSchema.nullable(),
});

const curvePointSchema = z.object({
  date: z.string(),
  pv: minorSchema,
  ev: minorSchema.nullable(),
  ac: minorSchema.nullable(),
});

/** The project page: the summary, figures by branch and activity, curves over time. */
export const projectLookSchema = z.object({
  id: z.string(),
  revision: z.int(),
  code: z.string(),
  name: z.string(),
  programme: z.string().nullable(),
  manager: z.string(),
  mayEdit: z.boolean(),
  /** Nothing in it changes any more. */
  closed: z.boolean(),
  /** How it stands as such. */
  state: z.enum(PROJECT_STATES),
  /** What it calls states of activities and priorities, where it has words of its own for them. */
  words: ownWordsSchema,
  /** The stage of its life cycle that it is in; `null` where it is in none. */
  stage: z.string().nullable(),
  summary: summarySchema,
  rows: z.array(rowFiguresSchema),
  curve: z.array(curvePointSchema),
  periods: z.array(
    z.object({
      number: z.int(),
      dataDate: z.string(),
      issuedOn: z.string(),
      issuedBy: z.string(),
      figures: figuresSchema.nullable(),
      drift: z.number().nullable(),
      locked: z.boolean(),
    }),
  ),
});
export type ProjectLook = z.infer<typeof projectLookSchema>;

/** What stands behind one activity's figures: its budget, the time and the costs, its people. */
export const activityLookSchema = z.object({
  id: z.string(),
  name: z.string(),
  path: z.string(),
  kind: z.enum(["work", "milestone", "summary", "levelOfEffort"]),
  currency: z.string(),
  minorDigits: z.int(),
  dataDate: z.string().nullable(),
  credit: z.string(),
  percent: z.number().nullable(),
  figures: figuresSchema.nullable(),
  dates: z
    .object({
      start: z.string(),
      finish: z.string(),
      baselineStart: z.string().nullable(),
      baselineFinish: z.string().nullable(),
      drift: z.number().nullable(),
    })
    .nullable(),
  budget: z.array(
    z.object({
      activity: z.string(),
      what: z.string(),
      minutes: minutesSchema.nullable(),
      amountMinor: amountMinorSchema,
    }),
  ),
  time: z.array(
    z.object({
      activity: z.string(),
      person: z.string(),
      date: z.string(),
      minutes: minutesSchema,
      amountMinor: amountMinorSchema,
      note: z.string(),
    }),
  ),
  costs: z.array(
    z.object({ activity: z.string(), date: z.string(), what: z.string(), amountMinor: amountMinorSchema }),
  ),
  before: z.array(z.string()),
  after: z.array(z.string()),
});
export type ActivityLook = z.infer<typeof activityLookSchema>;
