import { faulty, share, type Check } from "../check.ts";
import type { Placed } from "../ground.ts";

const HARD = { startOn: "start on", finishOn: "finish on", startNotAfter: "start by", finishNotAfter: "finish by" } as const;

/** A wish that caps a date, in words; `null` where there is none. */
export function hardWish({ activity: { wish } }: Placed): string | null {
  const words = wish === undefined ? undefined : (HARD as Partial<Record<typeof wish.type, string>>)[wish.type];
  return words === undefined ? null : `${words} ${wish!.date}`;
}

/** Check 5 (DCMA 14-point assessment, "Hard constraints"). */
export const hardWishes: Check = {
  number: 5,
  name: "Hard date wishes",
  counts: "Open activities whose wish holds a start or a finish to a day, or to no later than it.",
  why: "A date held by hand does not move when what it waits for does: float turns negative instead, and the forecast stands still.",
  rule: "atMost",
  limit: 0.05,
  mend: "wish",
  measure: ({ open }) => share(faulty(open, hardWish), open.length),
};
