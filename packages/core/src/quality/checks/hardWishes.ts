import { offendingSo, share, type Check } from "../ground/check.ts";
import { NONE } from "../../network/laid/network.ts";
import { openThat, type Placed } from "../ground/ground.ts";
import { WISHES } from "../../plan/words/wishWords.ts";
import { dateWords } from "../../words/dateWords.ts";

/** A wish that caps a date, in words; `null` where there is none. */
export function hardWish({ activity: { wish } }: Placed): string | null {
  return wish === undefined || wish.type.endsWith("NotBefore") ? null : `${WISHES[wish.type]} ${dateWords(wish.date)}`;
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
  measure: (ground) => {
    const { startNotAfter, finishNotAfter } = ground.schedule.network;
    const { found, outOf } = openThat(ground, (node) => startNotAfter[node] !== NONE || finishNotAfter[node] !== NONE);
    return share(
      offendingSo(found, (placed) => hardWish(placed)!),
      outOf,
    );
  },
};
