import { offence, type Offence } from "../check.ts";
import type { Finding } from "../finding.ts";
import type { Ground, Placed } from "../ground.ts";

/** Open work all of whose links on one side bear on its other end only. */
function hanging({ plan, allLinks, open }: Ground, end: "from" | "to", bears: (type: string) => boolean): Placed[] {
  const linked = new Uint8Array(plan.activities.length);
  const held = new Uint8Array(plan.activities.length);
  for (const placed of allLinks) {
    linked[placed[end].at] = 1;
    if (bears(placed.link.type ?? "FS")) held[placed[end].at] = 1;
  }
  return open.filter(({ isWork, at }) => isWork && linked[at] === 1 && held[at] === 0);
}

export const danglingStarts: Finding = {
  key: "danglingStarts",
  about: "plan",
  name: "Dangling starts",
  why: "Only its finish waits for something: made longer, it would begin earlier instead of finishing later.",
  mend: "why",
  find: (ground) => hanging(ground, "to", (type) => type.endsWith("S")).map((placed): Offence => offence(placed, () => "nothing decides its start")),
};

export const danglingFinishes: Finding = {
  key: "danglingFinishes",
  about: "plan",
  name: "Dangling finishes",
  why: "Only its start is waited for: it may take as long as it likes and moves nothing.",
  mend: "why",
  find: (ground) => hanging(ground, "from", (type) => type.startsWith("F")).map((placed): Offence => offence(placed, () => "nothing waits for its finish")),
};
