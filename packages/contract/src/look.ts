import { dateSchema, parseInstant } from "@chronometra/core";
import { z } from "zod";

const instantTextSchema = z.string().refine((text) => parseInstant(text) !== null, "must be a time YYYY-MM-DDTHH:MM");

export const figuresSchema = z.object({
  bac: z.int(),
  pv: z.int(),
  ev: z.int(),
  ac: z.int(),
  sv: z.int(),
  cv: z.int(),
  spi: z.number().nullable(),
  cpi: z.number().nullable(),
  percentComplete: z.number().nullable(),
  percentSpent: z.number().nullable(),
  eac: z.int().nullable(),
  etc: z.int().nullable(),
  vac: z.int().nullable(),
  eacRemaining: z.int(),
  eacCpiSpi: z.int().nullable(),
  eacBottomUp: z.int(),
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
  deadline: z.string().nullable(),
});
export type MilestoneLine = z.infer<typeof milestoneSchema>;

export const deadlineSchema = z.object({
  id: z.string(),
  name: z.string(),
  deadline: z.string(),
  finish: z.string(),
  marginDays: z.number(),
  state: z.enum(["metOnTime", "metLate", "breached", "willBreach", "tight", "safe"]),
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
  /** Working days by which the finish has moved from the approved one. */
  drift: z.number().nullable(),
  done: z.int(),
  activities: z.int(),
  unscheduled: z.int(),
  unbaselined: z.int(),
  figures: figuresSchema.nullable(),
  earnedSchedule: earnedScheduleSchema.nullable(),
  milestones: z.array(milestoneSchema),
  deadlines: z.array(deadlineSchema),
});
export type Summary = z.infer<typeof summarySchema>;

/** One line of the portfolio page. */
export const projectLineSchema = z.object({
  id: z.string(),
  code: z.string(),
  name: z.string(),
  programme: z.string().nullable(),
  manager: z.string(),
  revision: z.int(),
  /** Drift of the finish and number of the period as last issued. */
  issuedDrift: z.number().nullable(),
  issuedNumber: z.int().nullable(),
  missing: z.array(z.string()),
  waiting: z.int(),
  summary: summarySchema,
});
export type ProjectLine = z.infer<typeof projectLineSchema>;

export const programmeSchema = z.object({ id: z.string(), name: z.string() });

export const portfolioSchema = z.object({
  name: z.string(),
  programmes: z.array(programmeSchema),
  projects: z.array(projectLineSchema),
});
export type Portfolio = z.infer<typeof portfolioSchema>;

const rowFiguresSchema = z.object({
  id: z.string(),
  name: z.string(),
  parent: z.string().nullable(),
  kind: z.enum(["work", "milestone", "summary", "levelOfEffort"]),
  left: z.boolean(),
  figures: figuresSchema.nullable(),
});

const curvePointSchema = z.object({ date: z.string(), pv: z.int(), ev: z.int().nullable(), ac: z.int().nullable() });

/** The project page: the summary, figures by branch and activity, curves over time. */
export const projectLookSchema = z.object({
  id: z.string(),
  revision: z.int(),
  code: z.string(),
  name: z.string(),
  programme: z.string().nullable(),
  manager: z.string(),
  mayEdit: z.boolean(),
  summary: summarySchema,
  rows: z.array(rowFiguresSchema),
  curve: z.array(curvePointSchema),
  periods: z.array(z.object({ number: z.int(), dataDate: z.string(), issuedOn: z.string(), issuedBy: z.string(), figures: figuresSchema.nullable(), drift: z.number().nullable() })),
});
export type ProjectLook = z.infer<typeof projectLookSchema>;

/** A step of the cycle with what is still open in it. */
export const cycleStepSchema = z.object({ name: z.string(), open: z.int(), words: z.string(), link: z.string() });

/** What the period bar shows. */
export const periodBarSchema = z.object({
  number: z.int().nullable(),
  dataDate: z.string().nullable(),
  issueBy: z.string().nullable(),
  organisation: z.string(),
  steps: z.array(cycleStepSchema),
});
export type PeriodBar = z.infer<typeof periodBarSchema>;

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
  dates: z.object({ start: z.string(), finish: z.string(), baselineStart: z.string().nullable(), baselineFinish: z.string().nullable(), drift: z.number().nullable() }).nullable(),
  budget: z.array(z.object({ activity: z.string(), what: z.string(), minutes: z.int().nullable(), amountMinor: z.int() })),
  time: z.array(z.object({ activity: z.string(), person: z.string(), date: z.string(), minutes: z.int(), amountMinor: z.int(), note: z.string() })),
  costs: z.array(z.object({ activity: z.string(), date: z.string(), what: z.string(), amountMinor: z.int() })),
  before: z.array(z.string()),
  after: z.array(z.string()),
});
export type ActivityLook = z.infer<typeof activityLookSchema>;

/** The reporting period to be opened next. */
export const openPeriodSchema = z.strictObject({ dataDate: dateSchema, issueBy: instantTextSchema });
