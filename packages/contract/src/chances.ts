import { RANGE_CLASSES, rangeSchema, riskSchema } from "@chronometra/core";
import { minutesSchema } from "./units.ts";
import { z } from "zod";

const classes = Object.keys(RANGE_CLASSES) as [keyof typeof RANGE_CLASSES, ...(keyof typeof RANGE_CLASSES)[]];

/** How a plan is simulated. */
export const chancesRequestSchema = z.strictObject({
  runs: z.int().min(100, "at least 100 runs").max(100_000, "at most 100 000 runs"),
  /** The same seed gives the same answer. */
  seed: z.int().min(0).max(2_147_483_647),
  /** How far lengths move together, 0 to 1. */
  correlation: z.number().min(0).max(1),
  /** The range of activities that have none of their own. */
  otherwise: z.enum(classes),
});
export type ChancesRequest = z.infer<typeof chancesRequestSchema>;

const percentiles = { p10: z.string(), p50: z.string(), p80: z.string(), p90: z.string() };
const amounts = { p10: z.int(), p50: z.int(), p80: z.int(), p90: z.int() };

/** How likely dates and costs are. */
export const chancesSchema = z.object({
  asked: chancesRequestSchema,
  revision: z.int(),
  currency: z.string(),
  minorDigits: z.int(),
  /** Minutes that a day of the project's calendar shows as. */
  dayMinutes: minutesSchema,
  runs: z.int(),
  finish: z.object({ planned: z.string(), chance: z.number(), ...percentiles }),
  cost: z.object({ planned: z.int(), chance: z.number(), ...amounts }),
  both: z.object({ chance: z.number(), correlation: z.number().nullable() }),
  finishes: z.array(z.object({ date: z.string(), runs: z.int() })),
  costs: z.array(z.object({ from: z.int(), to: z.int(), runs: z.int() })),
  sample: z.array(z.object({ date: z.string(), cost: z.int() })),
  deadlines: z.array(z.object({ id: z.string(), name: z.string(), deadline: z.string(), chance: z.number() })),
  activities: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      criticality: z.number(),
      sensitivity: z.number().nullable(),
      range: rangeSchema.nullable(),
    }),
  ),
  /** Open work, on which a risk may bear. */
  open: z.array(z.object({ id: z.string(), name: z.string() })),
  risks: z.array(riskSchema),
  /** What the risks bear on, finished or not. */
  bornOn: z.array(z.object({ id: z.string(), name: z.string() })),
});
export type ChancesView = z.infer<typeof chancesSchema>;
