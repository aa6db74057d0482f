import { offences } from "../ground/check.ts";
import type { Finding } from "../ground/finding.ts";
import type { Ground, Placed, PlacedLink } from "../ground/ground.ts";

/** Open work all of whose links on one side bear on its other end only. */
function hanging(
  { plan, allLinks, open }: Ground,
  endOf: (link: PlacedLink) => Placed,
  bears: readonly string[],
): Placed[] {
  const linked = new Uint8Array(plan.activities.length);
  const held = new Uint8Array(plan.activities.length);
  for (const placed of allLinks) {
    const { at } = endOf(placed);
    linked[at] = 1;
    if (held[at] === 0 && bears.includes(placed.link.type ?? "FS")) held[at] = 1;
  }
  return open.filter(({ isWork, at }) => isWork && linked[at] === 1 && held[at] === 0);
}

export const danglingStarts: Finding = {
  key: "danglingStarts",
  about: "plan",
  name: "Dangling starts",
  why: "Only its finish waits for something: made longer, it would begin earlier instead of finishing later.",
  mend: "links",
  find: (ground) =>
    offences(
      hanging(ground, ({ to }) => to, ["FS", "SS"]),
      () => "nothing decides its start",
    ),
};

export const danglingFinishes: Finding = {
  key: "danglingFinishes",
  about: "plan",
  name: "Dangling finishes",
  why: "Only its start is waited for: it may take as long as it likes and moves nothing.",
  mend: "links",
  find: (ground) =>
    offences(
      hanging(ground, ({ from }) => from, ["FS", "FF"]),
      () => "nothing waits for its finish",
    ),
};
