import { z } from "zod";
import type { Thresholds } from "./thresholds.ts";

const limit = z.number().nullable();
const index = limit.refine((value) => value === null || (value > 0 && value <= 2), "an index between 0 and 2");
const days = limit.refine((value) => value === null || value >= 0, "0 days or more");
const percent = limit.refine((value) => value === null || value >= 0, "0 percent or more");

/** Limits as they come in from outside. */
export const thresholdsSchema = z.strictObject({
  spiBelow: index,
  cpiBelow: index,
  spitBelow: index,
  driftOver: days,
  movedOver: days,
  overrunOver: percent,
  deadlines: z.boolean(),
}) satisfies z.ZodType<Thresholds>;
