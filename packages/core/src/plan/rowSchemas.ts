import type { z } from "zod";
import {
  alternatesSchema,
  blockSchema,
  boxedSchema,
  carriedSchema,
  categorySchema,
  gatheredSchema,
  meetingSchema,
  noteSchema,
  ownFieldSchema,
  ownValuesSchema,
  placeholderSchema,
  promiseSchema,
  rangeSchema,
  riskSchema,
  teamSchema,
  timeboxSchema,
} from "./ownTables.ts";
import {
  activitySchema,
  actualCostSchema,
  assignmentSchema,
  baselineSchema,
  calendarSchema,
  costSchema,
  linkSchema,
  personSchema,
  timeEntrySchema,
} from "./schema.ts";
import type { PlanTable } from "./tables.ts";

/** What a row of each table holds. */
export const ROW_SCHEMAS = {
  calendars: calendarSchema,
  people: personSchema,
  activities: activitySchema,
  links: linkSchema,
  assignments: assignmentSchema,
  costs: costSchema,
  baselines: baselineSchema,
  timeEntries: timeEntrySchema,
  actualCosts: actualCostSchema,
  fields: ownFieldSchema,
  ownValues: ownValuesSchema,
  teams: teamSchema,
  categories: categorySchema,
  placeholders: placeholderSchema,
  carried: carriedSchema,
  blocks: blockSchema,
  promises: promiseSchema,
  notes: noteSchema,
  ranges: rangeSchema,
  risks: riskSchema,
  meetings: meetingSchema,
  alternates: alternatesSchema,
  timeboxes: timeboxSchema,
  boxed: boxedSchema,
  gathered: gatheredSchema,
} satisfies Readonly<Record<PlanTable, z.ZodType>>;

/** The rows of each table of a plan. */
export type PlanTables = { readonly [T in PlanTable]: z.infer<(typeof ROW_SCHEMAS)[T]> };
