import { offendingSo, share, type Check } from "../ground/check.ts";
import { inDays, plannedMinutes, type Placed } from "../ground/ground.ts";
import { MANY_DAYS } from "./highFloat.ts";

/** Check 8 (DCMA 14-point assessment, "High duration"). */
export const longActivities: Check = {
  number: 8,
  name: "Long activities",
  counts: `Open work longer than ${MANY_DAYS} days, as approved, or as planned where no baseline holds it.`,
  why: "Nobody can say how far such work is from one period to the next; trouble shows only near its end.",
  rule: "atMost",
  limit: 0.05,
  mend: "length",
  measure: (ground) => {
    const work = ground.open.filter(({ isWork }) => isWork);
    const lengthOf = (placed: Placed): number => placed.approved?.durationMinutes ?? plannedMinutes(ground, placed);
    const long = work.filter((placed) => lengthOf(placed) > MANY_DAYS * placed.calendar.dayMinutes);
    return share(
      offendingSo(long, (placed) => `${inDays(lengthOf(placed), placed)} long`),
      work.length,
    );
  },
};
