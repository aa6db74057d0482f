import { ratio } from "../../budget/exact.ts";
import { uncounted, type Check } from "../ground/check.ts";

/** Check 14 (DCMA 14-point assessment, "Baseline execution index"). */
export const bei: Check = {
  number: 14,
  name: "Baseline execution index",
  counts: "What is finished, over what was to be finished by the data date or is in no baseline.",
  why: "Below 1 less is finished than was approved, whatever the percentages say.",
  rule: "atLeast",
  limit: 0.95,
  mend: "progress",
  measure: ({ scheduled, dataDay, baseline, due }) => {
    if (dataDay === null || baseline === null) return uncounted(null);
    let done = 0;
    let inNone = 0;
    for (const { activity, isOpen, approved } of scheduled) {
      if (activity.dropped === true) continue;
      if (!isOpen) done++;
      if (approved === null) inNone++;
    }
    return uncounted(ratio(done, due.length + inNone));
  },
};
