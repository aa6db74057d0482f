import { counted, offending, type Check } from "../ground/check.ts";
import { FS } from "../../network/laid/network.ts";
import { linksThat, placedLinkAt } from "../ground/ground.ts";
import { linkOffence } from "../ground/linkWords.ts";

/** Check 4 (DCMA 14-point assessment, "Relationship types"). */
export const linkTypes: Check = {
  number: 4,
  name: "Link types",
  counts: "Links to open work that lead from a finish to a start.",
  why: "Finish to start is what people mean and check; many others make a plan that nobody can follow by eye.",
  rule: "atLeast",
  limit: 0.9,
  mend: "links",
  measure: (ground) => {
    const { type } = ground.schedule.network.inLinks;
    const { found, outOf } = linksThat(ground, (link) => type[link] !== FS);
    return counted(
      outOf - found.length,
      outOf,
      offending(found, (each) => linkOffence(placedLinkAt(ground, each))),
    );
  },
};
