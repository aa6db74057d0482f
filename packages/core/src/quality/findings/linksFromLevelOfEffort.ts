import { offence, type Offence } from "../check.ts";
import type { Finding } from "../finding.ts";

export const linksFromLevelOfEffort: Finding = {
  key: "linksFromLevelOfEffort",
  about: "plan",
  name: "Links from level of effort",
  why: "Level of effort lasts as long as what it spans: nothing can wait for it, and such a link is left out.",
  mend: "why",
  find: ({ plan, schedule: { tree } }) => {
    const spans = new Map(plan.activities.flatMap((activity) => (activity.kind === "levelOfEffort" && !tree.parked.has(activity.id) ? [[activity.id, activity.name] as const] : [])));
    if (spans.size === 0) return [];
    return (plan.links ?? []).flatMap(({ from, to }): Offence[] => (spans.has(from) && !tree.parked.has(to) ? [offence({ at: tree.indexOf.get(to)! }, () => `waits for ${spans.get(from)}`)] : []));
  },
};
