import { offence } from "../ground/check.ts";
import type { Finding } from "../ground/finding.ts";

export const linksFromLevelOfEffort: Finding = {
  key: "linksFromLevelOfEffort",
  about: "plan",
  name: "Links from level of effort",
  why: "Level of effort lasts as long as what it spans: nothing can wait for it, and such a link is left out.",
  mend: "links",
  find: ({ plan, schedule: { tree } }) => {
    const spans = new Map(
      plan.activities
        .filter(({ kind, id }) => kind === "levelOfEffort" && !tree.parked.has(id))
        .map(({ id, name }) => [id, name]),
    );
    if (spans.size === 0) return [];
    const links = (plan.links ?? []).filter(({ from, to }) => spans.has(from) && !tree.parked.has(to));
    return links.map(({ from, to }) => offence(tree.indexOf.get(to)!, spans.get(from)!, (name) => `waits for ${name}`));
  },
};
