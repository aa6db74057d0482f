import { exchangeRateSchema } from "@chronometra/core";
import { z } from "zod";

/** What amounts of several projects are summed in, and how they came to be: converted at the rates in force on the data date of the sum. */
export const summedInSchema = z.object({
  /** `null` where there is no sum. */
  currency: z.string().nullable(),
  minorDigits: z.int(),
  on: z.string(),
  /** The rates that were used; none where all amounts are of one currency. */
  used: z.array(exchangeRateSchema),
  /** Currencies whose rate is missing. */
  missing: z.array(z.string()),
});
export type SummedIn = z.infer<typeof summedInSchema>;
