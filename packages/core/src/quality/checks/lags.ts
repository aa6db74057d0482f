import { share, type Check } from "../ground/check.ts";
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
  measure: ({ links }) => share(links.filter(({ link }) => (link.lagMinutes ?? 0) > 0).map(linkOffence), links.length),
};
