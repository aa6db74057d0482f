import type { MinorUnits } from "@chronometra/core";
import { z } from "zod";

/** An amount, whole, in minor units of the currency that the answer names beside it. */
export const minorSchema = z
  .int()
  .describe("an amount in minor units of the currency named beside it") as unknown as z.ZodType<MinorUnits>;
