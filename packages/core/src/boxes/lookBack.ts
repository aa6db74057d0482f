import type { Timebox } from "../plan/ownTables.ts";

/** That an activity came to stand in a timebox, or in none. */
export interface BoxMove {
  readonly activity: string;
  /** `YYYY-MM-DD`; `null` where it stood there from the beginning. */
  readonly on: string | null;
  readonly box: string | null;
}

/** What became of something that stood in a timebox. */
export const BOX_FATES = ["finished", "finishedLate", "movedOn", "takenOut", "open"] as const;
export type BoxFate = (typeof BOX_FATES)[number];

/** One activity that stood in a timebox, looked back at. */
export interface LookedBack {
  readonly activity: string;
  /** Whether it was meant for it, or came in later. */
  readonly meant: boolean;
  /** `YYYY-MM-DD` of the day on which it came in later. */
  readonly cameOn: string | null;
  readonly fate: BoxFate;
  /** Of what was moved on: the timebox to which. */
  readonly to: string | null;
}

interface Stay {
  readonly from: string | null;
  until: string | null;
  to: string | null;
}

/** The stays of each activity in one timebox. */
function staysIn(box: string, moves: readonly BoxMove[]): Map<string, Stay[]> {
  const stays = new Map<string, Stay[]>();
  for (const { activity, on, box: at } of moves) {
    const own = stays.get(activity) ?? [];
    const last = own.at(-1);
    const isIn = last !== undefined && last.until === null;
    if (at === box && !isIn) stays.set(activity, [...own, { from: on, until: null, to: null }]);
    if (at !== box && isIn) {
      last.until = on ?? "";
      last.to = at;
    } else if (at !== box && last !== undefined && last.to === null) last.to = at;
  }
  return stays;
}

/**
 * What was meant for a timebox, came in later, was finished in it and moved on (calculations.md section 10). What stood
 * in it at the end of its first day was meant for it: that day is there for filling it. Who came and went before counts
 * for nothing.
 * @param moves of all activities, the earliest first
 * @param finishedOn the day on which an activity was finished, `YYYY-MM-DD`; `null` where it is not, or is gone
 */
export function lookBack(
  { id, first, last }: Pick<Timebox, "id" | "first" | "last">,
  moves: readonly BoxMove[],
  finishedOn: (activity: string) => string | null,
): LookedBack[] {
  return [...staysIn(id, moves)].flatMap(([activity, stays]): LookedBack[] => {
    const counted = stays.filter(({ until }) => until === null || until > first);
    const [begin, end] = [counted[0], counted.at(-1)];
    if (begin === undefined || end === undefined) return [];
    const meant = begin.from === null || begin.from <= first;
    const finished = finishedOn(activity);
    const stillThere = end.until === null;
    const fate: BoxFate = !stillThere
      ? end.to === null
        ? "takenOut"
        : "movedOn"
      : finished === null
        ? "open"
        : finished <= last
          ? "finished"
          : "finishedLate";
    return [{ activity, meant, cameOn: meant ? null : begin.from, fate, to: fate === "movedOn" ? end.to : null }];
  });
}
