import { offendingSo, share, type Check } from "../ground/check.ts";
import { inDays, openThat } from "../ground/ground.ts";

/** Days beyond which float or a length is called too much (DCMA 14-point assessment: two working months). */
export const MANY_DAYS = 44;

/** Check 6 (DCMA 14-point assessment, "High float"). */
export const highFloat: Check = {
  number: 6,
  name: "High float",
  counts: `Open activities with a total float above ${MANY_DAYS} days.`,
  why: "So much room is seldom true: mostly something that waits for the work is not linked to it.",
  rule: "atMost",
  limit: 0.05,
  mend: "links",
  measure: (ground) => {
    const { late, network } = ground.schedule;
    const most = network.calendars.map(({ dayMinutes }) => MANY_DAYS * dayMinutes);
    const { found, outOf } = openThat(ground, (node) => late.totalFloat[node]! > most[network.calendarOf[node]!]!);
    return share(
      offendingSo(found, (placed) => `${inDays(placed.row.totalFloat!, placed)} float`),
      outOf,
    );
  },
};
