import { remembered } from "../../plan/derived/remembered.ts";
import type { BaselineRow } from "../../plan/schema.ts";
import { parseInstant } from "../../time/instant.ts";
import { uncounted, type Check } from "../ground/check.ts";

/** The last finish of a baseline, leaving out what is parked; empty where there is none. */
const latestApproved = remembered((rows: readonly BaselineRow[]) =>
  remembered((parked: ReadonlySet<string>): string =>
    // Instants as text come in their own order.
    rows.reduce((last, { id, finish }) => (finish <= last || parked.has(id) ? last : finish), ""),
  ),
);

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
    const latest = baseline === null ? "" : latestApproved(baseline.activities)(schedule.tree.parked);
    if (close === null || schedule.finish === null || latest === "" || schedule.finish <= close) return uncounted(null);
    const calendar = schedule.calendars.get(plan.project.calendar);
    const length = calendar.indexAt(schedule.finish) - calendar.indexAt(close);
    return uncounted(
      length === 0 ? null : (calendar.indexAt(parseInstant(latest)!) - calendar.indexAt(close)) / length,
    );
  },
};
