import { offending, share, type Check } from "../ground/check.ts";
import { linksThat, placedLinkAt } from "../ground/ground.ts";
import { linkOffence } from "../ground/linkWords.ts";

/** Check 3 (DCMA 14-point assessment, "Lags"). */
export const lags: Check = {
  number: 3,
  name: "Lags",
  counts: "Links to open work with a positive lag.",
  why: "A lag is time that no activity explains: nobody owns it, and nobody can shorten it.",
  rule: "atMost",
  limit: 0.05,
  mend: "links",
  measure: (ground) => {
    const { lag } = ground.schedule.network.inLinks;
    const { found, outOf } = linksThat(ground, (link) => lag[link]! > 0);
    return share(
      offending(found, (each) => linkOffence(placedLinkAt(ground, each))),
      outOf,
    );
  },
};
