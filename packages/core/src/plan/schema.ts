import { z } from "zod";
import { parseDate, parseInstant, parseTime } from "../time/instant.ts";

/** Reads as a date of the calendar within the horizon. */
const isDate = (text: string): boolean => parseDate(text) !== null;
const isInstant = (text: string): boolean => parseInstant(text) !== null;

export const dateSchema = z
  .string()
  .refine(isDate, "must be a date YYYY-MM-DD between 1990-01-01 and 2099-12-31")
  .meta({ format: "date" });
const instantSchema = z
  .string()
  .refine(isInstant, "must be an instant YYYY-MM-DDTHH:MM between 1990-01-01 and 2099-12-31")
  .meta({ pattern: "^\\d{4}-\\d{2}-\\d{2}T\\d{2}:\\d{2}$" });
const dateOrInstantSchema = z
  .string()
  .refine(
    (text) => isDate(text) || isInstant(text),
    "must be a date YYYY-MM-DD or an instant YYYY-MM-DDTHH:MM between 1990-01-01 and 2099-12-31",
  );
const timeSchema = z
  .string()
  .refine((text) => parseTime(text) !== null, "must be a time HH:MM between 00:00 and 24:00")
  .meta({ pattern: "^\\d{2}:\\d{2}$" });

export const idSchema = z.string().min(1).max(64);
const text = z.string().max(4000);
const minutesSchema = z.int().min(0).describe("working minutes");
const minorSchema = z.int().describe("an amount in minor units of the project's currency");
const percentSchema = z.number().min(0).max(100);

const shiftSchema = z.tuple([timeSchema, timeSchema]);
const shiftsSchema = z.array(shiftSchema).max(48);

export const weekSchema = z.strictObject({
  mon: shiftsSchema.optional(),
  tue: shiftsSchema.optional(),
  wed: shiftsSchema.optional(),
  thu: shiftsSchema.optional(),
  fri: shiftsSchema.optional(),
  sat: shiftsSchema.optional(),
  sun: shiftsSchema.optional(),
});

export const calendarExceptionSchema = z.strictObject({
  from: dateSchema,
  to: dateSchema,
  shifts: shiftsSchema,
  label: text.optional(),
});

export const calendarSchema = z.strictObject({
  id: idSchema,
  name: text,
  base: idSchema.optional(),
  dayMinutes: z.int().min(1).max(1440).describe("working minutes that one day stands for").optional(),
  week: weekSchema.optional(),
  exceptions: z.array(calendarExceptionSchema).optional(),
});

export const rateSchema = z.strictObject({ from: dateSchema, perHourMinor: minorSchema });

export const personSchema = z.strictObject({
  id: idSchema,
  name: text,
  role: text.optional(),
  calendar: idSchema.optional(),
  rates: z.array(rateSchema).optional(),
});

export const projectSchema = z.strictObject({
  code: z.string().min(1).max(64),
  name: text,
  currency: z.string().regex(/^[A-Z]{3}$/, "must be a currency code of ISO 4217, three capital letters"),
  minorDigits: z.int().min(0).max(4).optional(),
  start: dateSchema,
  dataDate: dateSchema.optional(),
  calendar: idSchema,
  logic: z.enum(["retained", "override"]).optional(),
  criticalFloatMinutes: z.int().describe("working minutes of float up to which an activity is critical").optional(),
  tightDays: z.number().min(0).optional(),
});

export const wishSchema = z.strictObject({
  type: z.enum(["startNotBefore", "startNotAfter", "startOn", "finishNotBefore", "finishNotAfter", "finishOn"]),
  date: dateSchema,
  reason: text.optional(),
});

export const creditSchema = z.strictObject({
  rule: z.enum(["reported", "zeroHundred", "startFinish", "steps", "units", "stages", "levelOfEffort", "apportioned"]),
  startCredit: percentSchema.optional(),
  steps: z.array(z.strictObject({ name: text, weight: z.number().min(0), doneOn: dateSchema.optional() })).optional(),
  unitsTotal: z.number().min(0).optional(),
  unitsDone: z.number().min(0).optional(),
  stages: z.array(z.strictObject({ name: text, credit: percentSchema })).optional(),
  stage: text.optional(),
  to: idSchema.optional(),
});

export const activitySchema = z.strictObject({
  id: idSchema,
  name: text,
  parent: idSchema.optional(),
  kind: z.enum(["work", "milestone", "summary", "levelOfEffort"]).optional(),
  calendar: idSchema.optional(),
  durationMinutes: minutesSchema.optional(),
  driver: z.enum(["duration", "effort"]).optional(),
  windowPolicy: z.enum(["hold", "drift"]).optional(),
  wish: wishSchema.optional(),
  deadline: dateSchema.optional(),
  parked: z.boolean().optional(),
  owner: idSchema.optional(),
  credit: creditSchema.optional(),
  actualStart: dateOrInstantSchema.optional(),
  actualFinish: dateOrInstantSchema.optional(),
  percent: percentSchema.optional(),
  remainingMinutes: minutesSchema.optional(),
  dropped: z.boolean().optional(),
});

export const linkSchema = z.strictObject({
  from: idSchema,
  to: idSchema,
  type: z.enum(["FS", "SS", "FF", "SF"]).optional(),
  lagMinutes: z.int().optional(),
  lagIn: z.enum(["successor", "elapsed"]).optional(),
});

export const assignmentSchema = z.strictObject({
  activity: idSchema,
  person: idSchema,
  plannedMinutes: minutesSchema,
  remainingMinutes: minutesSchema.optional(),
  unitsPercent: z.number().gt(0).max(10_000).optional(),
  restart: dateSchema.optional(),
});

export const costSchema = z.strictObject({
  id: idSchema,
  activity: idSchema,
  category: text,
  plannedMinor: minorSchema,
  timing: z.enum(["even", "start", "finish"]).optional(),
});

export const baselineRowSchema = z.strictObject({
  id: idSchema,
  start: instantSchema,
  finish: instantSchema,
  durationMinutes: minutesSchema,
  calendar: idSchema.optional(),
  evenMinor: minorSchema,
  startMinor: minorSchema,
  finishMinor: minorSchema,
  minutes: z.int(),
  deadline: dateSchema.optional(),
});

export const baselineSchema = z.strictObject({
  number: z.int().min(1),
  approvedOn: dateSchema,
  approvedBy: text,
  reason: text,
  calendars: z.array(calendarSchema).optional(),
  activities: z.array(baselineRowSchema),
});

export const timeEntrySchema = z.strictObject({
  activity: idSchema,
  person: idSchema,
  date: dateSchema,
  minutes: z.int(),
  state: z.enum(["draft", "submitted", "posted", "returned"]),
  note: text.optional(),
});

export const actualCostSchema = z.strictObject({
  activity: idSchema,
  date: dateSchema,
  amountMinor: minorSchema,
  category: text.optional(),
  reference: text.optional(),
});

/** The plan bundle, the open format of a whole project (docs/plan-bundle.schema.json is made from this). */
export const bundleSchema = z.strictObject({
  format: z.literal("chronometra-plan"),
  version: z.literal(1),
  project: projectSchema,
  calendars: z.array(calendarSchema),
  people: z.array(personSchema).optional(),
  activities: z.array(activitySchema),
  links: z.array(linkSchema).optional(),
  assignments: z.array(assignmentSchema).optional(),
  costs: z.array(costSchema).optional(),
  baselines: z.array(baselineSchema).optional(),
  timeEntries: z.array(timeEntrySchema).optional(),
  actualCosts: z.array(actualCostSchema).optional(),
});

export type Calendar = z.infer<typeof calendarSchema>;
export type Person = z.infer<typeof personSchema>;
export type ProjectHead = z.infer<typeof projectSchema>;
export type Activity = z.infer<typeof activitySchema>;
export type Credit = z.infer<typeof creditSchema>;
export type Link = z.infer<typeof linkSchema>;
export type Assignment = z.infer<typeof assignmentSchema>;
export type CostLine = z.infer<typeof costSchema>;
export type BaselineRow = z.infer<typeof baselineRowSchema>;
export type Baseline = z.infer<typeof baselineSchema>;
export type TimeEntry = z.infer<typeof timeEntrySchema>;
export type ActualCost = z.infer<typeof actualCostSchema>;
export type PlanBundle = z.infer<typeof bundleSchema>;
