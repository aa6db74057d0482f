import { dateSchema, LIMIT_RULES, parseInstant } from "@chronometra/core";
import { z } from "zod";
import { minutesSchema } from "./units.ts";
import { CYCLE_STEPS } from "./cycleSteps.ts";

const instantTextSchema = z.string().refine((text) => parseInstant(text) !== null, "must be a time YYYY-MM-DDTHH:MM");

/** A step of the cycle with what is still open in it; `done` where all that take part are through. */
export const cycleStepSchema = z.object({
  name: z.enum(CYCLE_STEPS),
  open: z.int(),
  done: z.boolean(),
  words: z.string(),
  link: z.string(),
});

/** What the period bar shows. */
export const periodBarSchema = z.object({
  number: z.int().nullable(),
  dataDate: z.string().nullable(),
  issueBy: z.string().nullable(),
  organisation: z.string(),
  /** Whether all that take part have locked it: the next one can be opened. */
  over: z.boolean(),
  steps: z.array(cycleStepSchema),
});
export type PeriodBar = z.infer<typeof periodBarSchema>;

const markSchema = z.object({ words: z.string(), by: z.string(), at: z.string() });

/** Someone by id and name. */
export const someoneSchema = z.object({ id: z.string(), name: z.string() });
export type Someone = z.infer<typeof someoneSchema>;

/**
 * Who owes time or progress of the open period: everyone with work to be done in it who has reported nothing of it,
 * project by project.
 */
export const owingSchema = z.object({
  number: z.int().nullable(),
  from: z.string().nullable(),
  dataDate: z.string().nullable(),
  people: z.array(
    someoneSchema.extend({
      /** Where they have an account. */
      canBeReached: z.boolean(),
      /** When they were last reminded in this period. */
      remindedAt: z.string().nullable(),
      /** Whether the asker may remind them: of a controller everyone, of a manager who works in their projects. */
      mayRemind: z.boolean(),
      projects: z.array(
        z.object({
          id: z.string(),
          code: z.string(),
          name: z.string(),
          /** The first day of the period on which they were to work. */ since: z.string(),
        }),
      ),
      /** Mondays of the weeks of which nothing was reported. */
      weeks: z.array(z.string()),
    }),
  ),
});
export type Owing = z.infer<typeof owingSchema>;

/** A limit of the portfolio that a project breaks. */
export const brokenLimitSchema = z.object({
  rule: z.enum(LIMIT_RULES),
  words: z.string(),
  explanation: markSchema.nullable(),
});
export type BrokenLimit = z.infer<typeof brokenLimitSchema>;

/** Where a project stands in the cycle. */
export const projectCycleSchema = z.object({
  id: z.string(),
  code: z.string(),
  name: z.string(),
  manager: z.string(),
  mayEdit: z.boolean(),
  /** Whether it has an approved plan and is not closed, and so takes part. */
  takesPart: z.boolean(),
  closed: z.boolean(),
  steps: z.array(
    z.object({ name: z.enum(CYCLE_STEPS), open: z.int(), words: z.string(), waitsFor: z.array(z.string()) }),
  ),
  /** Who owes a report of the period, and who of them can be reached and was not reminded yet. */
  missing: z.array(someoneSchema),
  unreminded: z.array(someoneSchema),
  /** What the check step should look at, in words. */
  findings: z.array(z.string()),
  /** Which limits are broken, in words, each with how that was explained. */
  broken: z.array(brokenLimitSchema),
  checked: markSchema.nullable(),
  issued: z.boolean(),
  locked: z.boolean(),
  /** Why it was locked though something fell short, and by whom. */
  lockedWord: markSchema.nullable(),
  /** Times that periods of it were opened again, the newest first. */
  reopened: z.array(z.object({ number: z.int(), by: z.string(), at: z.string(), reason: z.string() })),
});
export type ProjectCycle = z.infer<typeof projectCycleSchema>;

export const cycleSchema = z.object({
  number: z.int().nullable(),
  dataDate: z.string().nullable(),
  issueBy: z.string().nullable(),
  projects: z.array(projectCycleSchema),
});
export type Cycle = z.infer<typeof cycleSchema>;

const markWords = z.string().trim().max(4000);
/**
 * That a step of the period is done, in words; empty ones take the mark away. An explanation names the limit that it
 * explains.
 */
export const markStepSchema = z.discriminatedUnion("step", [
  z.strictObject({ step: z.literal("Check"), words: markWords }),
  z.strictObject({ step: z.literal("Explain"), rule: z.enum(LIMIT_RULES), words: markWords }),
]);
/** Why a period is locked though something of it falls short; needed where it does. */
export const lockSchema = z.strictObject({ word: z.string().trim().max(1000).optional() });
export const reopenSchema = z.strictObject({
  reason: z.string().trim().min(3, "say why the period is opened again").max(1000),
});

/** The reporting calendar: periods that were, the open one, and those to come. */
export const reportingCalendarSchema = z.object({
  periods: z.array(
    z.object({
      number: z.int(),
      from: z.string(),
      dataDate: z.string(),
      issueBy: z.string(),
      state: z.enum(["past", "open", "planned"]),
      issued: z.int(),
      locked: z.int(),
    }),
  ),
});
export type ReportingCalendar = z.infer<typeof reportingCalendarSchema>;
export const planPeriodsSchema = z.strictObject({
  periods: z.array(z.strictObject({ dataDate: dateSchema, issueBy: instantTextSchema })).max(120),
});

/** The reporting period to be opened next. */
export const openPeriodSchema = z.strictObject({
  dataDate: dateSchema,
  issueBy: instantTextSchema,
  /** Though projects of the one before are not locked. */ anyway: z.boolean().optional(),
});

/** What is left in a project that is to be closed. */
export const closingSchema = z.object({
  /** `ended` counts the activities that closing ended and opening it again restores. */
  closed: z.object({ by: z.string(), at: z.string(), word: z.string(), ended: z.int() }).nullable(),
  dataDate: z.string().nullable(),
  activities: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      state: z.enum(["notStarted", "inProgress"]),
      percent: z.number().nullable(),
      finish: z.string(),
      postedMinutes: minutesSchema,
      /** Work that counts already is not parked. */ mayPark: z.boolean(),
    }),
  ),
  /** What stands in the way and is to be settled first. */
  first: z.array(z.string()),
});
export type Closing = z.infer<typeof closingSchema>;
/** For each activity that is left: done as of the data date, dropped at the percent it has, or parked. */
export const closeProjectSchema = z.strictObject({
  word: z.string().trim().min(3, "say why the project is closed").max(1000),
  activities: z.record(z.string(), z.enum(["done", "dropped", "parked"])),
});

/** The projects whose data date is moved; left out for all. */
export const setDataDateSchema = z.strictObject({
  date: dateSchema,
  projects: z.array(z.string().max(36)).min(1, "select a project").max(5000).optional(),
});
export const dataDateResultSchema = z.object({
  moved: z.array(z.string()),
  revisions: z.array(z.object({ project: z.string(), revision: z.int() })),
  already: z.array(z.string()),
  refused: z.array(z.object({ project: z.string(), why: z.string() })),
});
