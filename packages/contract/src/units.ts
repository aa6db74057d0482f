import type { MinorUnits } from "@chronometra/core";
import { z } from "zod";

/** An amount, whole, in minor units of the currency that the answer names beside it. */
export const minorSchema = z
  .int()
  .describe("an amount in minor units of the currency named beside it") as unknown as z.ZodType<MinorUnits>;

/** An amount as `minorSchema`, as it is told or asked for and not computed with. */
export const amountMinorSchema = z.int().describe("an amount in minor units of the currency named beside it");

/** Minutes of work. */
export const minutesSchema = z.int().describe("minutes of work");
