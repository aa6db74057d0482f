import { offending, share, type Check } from "../ground/check.ts";
import { linksThat, placedLinkAt } from "../ground/ground.ts";
import { linkOffence } from "../ground/linkWords.ts";

/** Check 2 (DCMA 14-point assessment, "Leads"). */
export const leads: Check = {
  number: 2,
  name: "Leads",
  counts: "Links to open work with a negative lag.",
  why: "A lead says that work begins before what it waits for is done, and hides what it really waits for.",
  rule: "atMost",
  limit: 0,
  mend: "links",
  measure: (ground) => {
    const { lag } = ground.schedule.network.inLinks;
    const { found, outOf } = linksThat(ground, (link) => lag[link]! < 0);
    return share(
      offending(found, (each) => linkOffence(placedLinkAt(ground, each))),
      outOf,
    );
  },
};
