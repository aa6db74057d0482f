import type { Plan, TimeEntry } from "@chronometra/core";

/** Time of a person that is posted and was not reported here: it came from another system, or with the plan. */
export const broughtTime = (plan: Plan, person: string): TimeEntry[] =>
  [...plan.timeEntries].flatMap(([key, entry]) =>
    entry.person === person && entry.state === "posted" && !key.startsWith("report-") ? [entry] : [],
  );
