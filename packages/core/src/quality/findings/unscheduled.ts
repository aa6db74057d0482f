import { offence } from "../ground/check.ts";
import type { Finding } from "../ground/finding.ts";

export const unscheduled: Finding = {
  key: "unscheduled",
  about: "plan",
  name: "No duration, so no dates",
  why: "Work without a duration is in no date, no float and no forecast.",
  mend: "length",
  find: ({ schedule }) => schedule.unscheduled.map((at) => offence(at, "no duration", (words) => words)),
};
