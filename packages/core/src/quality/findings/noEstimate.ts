import { offences } from "../ground/check.ts";
import type { Finding } from "../ground/finding.ts";

export const noEstimate: Finding = {
  key: "noEstimate",
  about: "reporting",
  name: "No estimate",
  why: "People are on it, but nobody has said how much work it is: load and cost leave it out.",
  mend: "people",
  find: ({ open, assignments }) =>
    offences(
      open.filter(
        ({ activity: { id } }) => assignments.get(id)?.every(({ plannedMinutes }) => plannedMinutes === 0) === true,
      ),
      () => "people, but no hours",
    ),
};
