import { offendingSo, share, type Check } from "../ground/check.ts";
import { inDays, openThat } from "../ground/ground.ts";

/** Check 7 (DCMA 14-point assessment, "Negative float"). */
export const negativeFloat: Check = {
  number: 7,
  name: "Negative float",
  counts: "Open activities with a total float below zero.",
  why: "A deadline or a wish cannot be kept as the plan stands: it promises a date that its own logic denies.",
  rule: "atMost",
  limit: 0,
  mend: "links",
  measure: (ground) => {
    const { totalFloat } = ground.schedule.late;
    const { found, outOf } = openThat(ground, (node) => totalFloat[node]! < 0);
    return share(
      offendingSo(found, (placed) => `${inDays(-placed.row.totalFloat!, placed)} short`),
      outOf,
    );
  },
};
