import { MEND_PLACES, MENDS } from "@chronometra/core";
import { z } from "zod";
import { effectSchema } from "./plan.ts";

const offenceSchema = z.object({
  id: z.string(),
  name: z.string(),
  /** The value that offends, in words. */ words: z.string(),
  /** What of the activity it is mended in. */ mend: z.enum(MEND_PLACES),
});
const mendSchema = z.enum(MENDS);

export const fitnessSchema = z.enum(["fit", "mend", "unfit"]);

/** How far a plan can be trusted: a verdict in words, the fourteen checks and the further findings. */
export const qualitySchema = z.object({
  asOf: z.string().nullable(),
  baseline: z.int().nullable(),
  mayEdit: z.boolean(),
  verdict: z.object({
    fitness: fitnessSchema,
    reasons: z.array(z.object({ check: z.int().nullable(), grave: z.boolean(), words: z.string() })),
    best: z.object({ check: z.int(), rows: z.int(), words: z.string() }).nullable(),
  }),
  checks: z.array(
    z.object({
      number: z.int(),
      name: z.string(),
      counts: z.string(),
      why: z.string(),
      value: z.number().nullable(),
      /** Value and limit in words, and the published limit where another one is set. */
      words: z.string(),
      limit: z.string(),
      published: z.string().nullable(),
      passes: z.boolean().nullable(),
      mendMany: mendSchema.nullable(),
      offences: z.array(offenceSchema),
      trend: z.array(
        z.object({
          period: z.int(),
          dataDate: z.string(),
          value: z.number().nullable(),
          passes: z.boolean().nullable(),
        }),
      ),
    }),
  ),
  findings: z.array(
    z.object({
      key: z.string(),
      about: z.enum(["plan", "reporting"]),
      name: z.string(),
      why: z.string(),
      mendMany: mendSchema.nullable(),
      offences: z.array(offenceSchema),
    }),
  ),
  /** The critical path test, run for real. */
  pathTest: z
    .object({
      id: z.string(),
      name: z.string(),
      addedDays: z.number(),
      movedDays: z.number(),
      finish: z.string(),
      then: z.string(),
    })
    .nullable(),
});
export type QualityView = z.infer<typeof qualitySchema>;

export const mendRequestSchema = z.strictObject({
  mend: mendSchema,
  activities: z.array(z.string().max(64)).min(1, "select at least one activity").max(20_000),
});
const leftSchema = z.array(z.object({ id: z.string(), name: z.string(), why: z.string() }));
export const mendEffectSchema = z.object({ effect: effectSchema, changes: z.int(), left: leftSchema });
export const mendedSchema = z.object({ revision: z.int(), changes: z.int(), left: leftSchema });
