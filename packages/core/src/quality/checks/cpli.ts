import { parseInstant } from "../../time/instant.ts";
import { uncounted, type Check } from "../ground/check.ts";

/** Check 13 (DCMA 14-point assessment, "Critical path length index"). */
export const cpli: Check = {
  number: 13,
  name: "Critical path length index",
  counts: "Working days to the finish and the room to the approved finish, over working days to the finish.",
  why: "Below 1 the project must be faster from now on than it is planned to be.",
  rule: "atLeast",
  limit: 0.95,
  mend: "links",
  measure: ({ plan, schedule, baseline, close }) => {
    // Instants as text come in their own order.
    const latest =
      baseline?.activities.reduce(
        (last, { id, finish }) => (finish <= last || schedule.tree.parked.has(id) ? last : finish),
        "",
      ) ?? "";
    if (close === null || schedule.finish === null || latest === "" || schedule.finish <= close) return uncounted(null);
    const calendar = schedule.calendars.get(plan.project.calendar);
    const length = calendar.indexAt(schedule.finish) - calendar.indexAt(close);
    return uncounted(
      length === 0 ? null : (calendar.indexAt(parseInstant(latest)!) - calendar.indexAt(close)) / length,
    );
  },
};
