import { offendingSo, share, type Check } from "../ground/check.ts";
import { inDays, plannedMinutes } from "../ground/ground.ts";

/** Check 10 (DCMA 14-point assessment, "Resources"). */
export const noResources: Check = {
  number: 10,
  name: "No people or costs",
  counts: "Open work of a day or more with neither people nor costs on it.",
  why: "Work that nobody does and that costs nothing is in no budget and in no load: figures and load say too little.",
  rule: "atMost",
  limit: 0,
  mend: "people",
  measure: (ground) => {
    const costed = new Set((ground.plan.costs ?? []).map(({ activity }) => activity));
    const work = ground.open.filter(
      (placed) => placed.isWork && plannedMinutes(ground, placed) >= placed.calendar.dayMinutes,
    );
    const bare = work.filter(({ activity: { id } }) => !ground.assignments.has(id) && !costed.has(id));
    return share(
      offendingSo(bare, (placed) => `${inDays(plannedMinutes(ground, placed), placed)} with nobody and no cost`),
      work.length,
    );
  },
};
