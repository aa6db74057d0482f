import { offences } from "../ground/check.ts";
import type { Finding } from "../ground/finding.ts";

/** Links into one activity beyond which it is named. Common practice, no source. */
export const MANY_LINKS = 8;

export const manyLinks: Finding = {
  key: "manyLinks",
  about: "plan",
  name: "Many links into one",
  why: "Where many paths meet, the latest of them decides: such a date is later than any one of them says.",
  mend: "links",
  find: ({ plan, links, open }) => {
    const into = new Int32Array(plan.activities.length);
    for (const { to } of links) into[to.at]!++;
    return offences(
      open.filter(({ at }) => into[at]! > MANY_LINKS),
      ({ at }) => `${into[at]} links into it`,
    );
  },
};
