import { z } from "zod";
import { CHECKS } from "./measureChecks.ts";

const share = z.number().min(0, "a share between 0 and 1").max(1, "a share between 0 and 1");
const index = z.number().gt(0, "an index between 0 and 2").max(2, "an index between 0 and 2");

/** Limits of a portfolio in the place of the published ones, by the number of the check; and days without news that are named. */
export const qualityLimitsSchema = z.strictObject({
  ...Object.fromEntries(
    CHECKS.filter(({ rule }) => rule !== "holds").map(({ number }) => [
      String(number),
      (number >= 13 ? index : share).optional(),
    ]),
  ),
  silentDays: z.int().min(1, "a day or more").max(365, "a year at most").optional(),
});
