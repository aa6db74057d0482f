import { DRIFT_GROUPS } from "@chronometra/core";
import { z } from "zod";
import { minorSchema, amountMinorSchema, minutesSchema } from "./units.ts";

const stateRowSchema = z.object({
  startDate: z.string().nullable(),
  finishDate: z.string().nullable(),
  /** Instants in local minutes since 1990, for drawing. */
  start: z.number().nullable(),
  finish: z.number().nullable(),
  durationMinutes: minutesSchema.nullable(),
  minutes: minutesSchema,
  budgetMinor: amountMinorSchema,
  deadline: z.string().nullable(),
  parked: z.boolean(),
});

/** Which state of a plan is meant: `plan` as it is now, `baseline-2`, `period-9` as it was issued, `revision-12` as it stood then, `whatif-` and an id as it would be,
 * `request-` and an id: what approving that change request alone would freeze. */
export const STATE_NAME =
  /^(plan|baseline-\d{1,6}|period-\d{1,6}|revision-\d{1,9}|(whatif|request|asked)-[0-9a-f-]{36})$/;

export const comparedStateSchema = z.object({ name: z.string(), words: z.string(), on: z.string().nullable() });

export const comparisonSchema = z.object({
  currency: z.string(),
  minorDigits: z.int(),
  /** Minutes of a day in the project's calendar. */
  dayMinutes: minutesSchema,
  /** Every state that there is to compare, the newest first. */
  states: z.array(comparedStateSchema),
  from: comparedStateSchema,
  to: comparedStateSchema,
  rows: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      path: z.string(),
      milestone: z.boolean(),
      what: z.enum(["added", "dropped", "parked", "woken", "changed"]),
      from: stateRowSchema.nullable(),
      to: stateRowSchema.nullable(),
      startDays: z.number().nullable(),
      finishDays: z.number().nullable(),
      logicAdded: z.array(z.string()),
      logicDropped: z.array(z.string()),
    }),
  ),
  finish: z.object({ from: z.string().nullable(), to: z.string().nullable(), days: z.number().nullable() }),
  budgetMinor: z.object({ from: amountMinorSchema, to: amountMinorSchema }),
  minutes: z.object({ from: minutesSchema, to: minutesSchema }),
  alike: z.int(),
});
export type ComparisonView = z.infer<typeof comparisonSchema>;

const frozenFiguresSchema = z.object({
  bac: minorSchema,
  pv: minorSchema,
  ev: minorSchema,
  sv: amountMinorSchema,
  spi: z.number().nullable(),
});

/**
 * What freezing a state of a plan would make of its figures at once; `null` where there is no data date to measure at.
 */
export const onceFrozenSchema = z
  .object({
    currency: z.string(),
    minorDigits: z.int(),
    dataDate: z.string(),
    before: frozenFiguresSchema.nullable(),
    after: frozenFiguresSchema,
    /** Unfinished work whose approved finish would lie on the data date or before it. */
    past: z.array(z.object({ id: z.string(), name: z.string(), finish: z.string(), pvMinor: amountMinorSchema })),
  })
  .nullable();
export type OnceFrozenView = z.infer<typeof onceFrozenSchema>;

const progressedSchema = z.object({
  what: z.enum(["finished", "underWay", "notBegun"]),
  start: z.string(),
  finish: z.string(),
  leftDays: z.number(),
});

/**
 * Why a date moved between two states, cause by cause; the parts add up to the whole. Causes of no days would have
 * moved it by themselves.
 */
export const driftLedgerSchema = z.object({
  from: z.string().nullable(),
  to: z.string().nullable(),
  days: z.number(),
  causes: z.array(
    z.object({
      group: z.enum(DRIFT_GROUPS),
      kind: z.enum(["activity", "calendar", "person", "project"]),
      id: z.string(),
      name: z.string(),
      days: z.number(),
      /** What it would have moved by itself; `null` where that was not worked out. */
      alone: z.number().nullable(),
      /** Of progress: what was forecast for the later data date, and what came. */
      expected: progressedSchema.nullable(),
      came: progressedSchema.nullable(),
      /** Of a date wish. */
      reason: z.string().nullable(),
    }),
  ),
});
export type DriftLedgerView = z.infer<typeof driftLedgerSchema>;
