import { finishDayOf, formatDate, parseInstant, startDayOf, type EpochDay } from "../../time/instant.ts";
import { NOTHING_TO_COUNT, offendingSo, share, type Check } from "../ground/check.ts";
import type { Placed } from "../ground/ground.ts";

/** The day on which the approved finish is shown, as the current one is. */
function approvedDay({ approved, row }: Placed): EpochDay {
  const finish = parseInstant(approved!.finish)!;
  return row.shownAsStart ? startDayOf(finish) : finishDayOf(finish);
}

/** Check 11 (DCMA 14-point assessment, "Missed tasks"). */
export const missed: Check = {
  number: 11,
  name: "Missed",
  counts: "What was to be finished by the data date and is finished later, or will be.",
  why: "A plan that was not kept so far will not be kept from here on unless something changed.",
  rule: "atMost",
  limit: 0.05,
  mend: "left",
  measure: ({ dataDay, baseline, due }) => {
    if (dataDay === null || baseline === null) return NOTHING_TO_COUNT;
    const late = due.filter((placed) => placed.row.finishDay > approvedDay(placed));
    return share(
      offendingSo(late, (placed) => `${formatDate(placed.row.finishDay)}, approved ${formatDate(approvedDay(placed))}`),
      due.length,
    );
  },
};
