import { offences, share, type Check } from "../ground/check.ts";
import { inDays } from "../ground/ground.ts";

/** Check 7 (DCMA 14-point assessment, "Negative float"). */
export const negativeFloat: Check = {
  number: 7,
  name: "Negative float",
  counts: "Open activities with a total float below zero.",
  why: "A deadline or a wish cannot be kept as the plan stands: it promises a date that its own logic denies.",
  rule: "atMost",
  limit: 0,
  mend: "links",
  measure: ({ open }) =>
    share(
      offences(
        open.filter(({ row }) => row.totalFloat! < 0),
        (placed) => `${inDays(-placed.row.totalFloat!, placed)} short`,
      ),
      open.length,
    ),
};
