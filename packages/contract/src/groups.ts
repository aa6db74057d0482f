import { thresholdsSchema } from "@chronometra/core";
import { z } from "zod";
import { figuresSchema, programmeSchema } from "./look.ts";
import { amountMinorSchema } from "./units.ts";

/** `null` to take them from above. */
export const groupLimitsSchema = z.strictObject({ thresholds: thresholdsSchema.nullable() });
const programmeName = z.string().trim().min(1, "give the programme a name").max(200);
export const newProgrammeSchema = z.strictObject({
  name: programmeName,
  parent: z.string().max(36).nullable().optional(),
});
export const writeProgrammeSchema = z.strictObject({
  name: programmeName,
  parent: z.string().max(36).nullable(),
  /** Whoever answers for it; left out, that stays. */
  manager: z.string().max(36).nullable().optional(),
  /** The group of the same level that it is put before, `null` for the end; left out, its place stays. */
  before: z.string().max(36).nullable().optional(),
});

const namedOne = z.object({ id: z.string(), name: z.string() });
/** Portfolios and programmes in their order, who answers for each, and who may. */
export const groupsSchema = z.object({
  groups: z.array(programmeSchema.extend({ manager: namedOne.nullable() })),
  managers: z.array(namedOne),
  mayEdit: z.boolean(),
});
export type Groups = z.infer<typeof groupsSchema>;

/** What was issued of the projects of a group, period by period; of each the edition that holds. */
export const groupPeriodsSchema = z.array(
  z.object({
    number: z.int(),
    dataDate: z.string(),
    projects: z.array(
      z.object({ project: z.string(), currency: z.string(), minorDigits: z.int(), figures: figuresSchema }),
    ),
  }),
);
export type GroupPeriods = z.infer<typeof groupPeriodsSchema>;

/** What the measured projects of a group that are not closed plan to earn by calendar month, summed by currency. */
export const groupPlannedSchema = z.array(
  z.object({
    currency: z.string(),
    minorDigits: z.int(),
    /** The first approved day, `YYYY-MM-DD`. */
    first: z.string(),
    /** By month, `YYYY-MM`, in their order; those in which nothing is planned may be left out. */
    months: z.array(z.object({ month: z.string(), minor: amountMinorSchema })),
  }),
);
export type GroupPlanned = z.infer<typeof groupPlannedSchema>;
