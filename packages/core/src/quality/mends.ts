import type { Change } from "../plan/change.ts";
import type { Plan } from "../plan/plan.ts";
import { plannedMinutes, type Ground, type Placed, type PlacedLink } from "./ground.ts";
import { hardWish } from "./checks/hardWishes.ts";
import { endsOf, looseEnds } from "./checks/missingLogic.ts";
import { redundant } from "./findings/redundantLinks.ts";

/** What can be mended for many activities at once. */
export const MENDS = ["linkLooseEnds", "leadsToOverlaps", "softenWishes", "dropRedundant"] as const;
export type Mend = (typeof MENDS)[number];

/** An activity that a mend does not fit, and why. */
export interface NotMended {
  readonly id: string;
  readonly name: string;
  readonly why: string;
}

/** Gathers changes, and what they do not fit. */
class Mending {
  readonly changes: Change[] = [];
  readonly left: NotMended[] = [];
  private readonly keys: ReadonlyMap<object, string>;

  constructor(readonly plan: Plan) {
    this.keys = new Map([...plan.links].map(([key, row]) => [row, key]));
  }

  key({ link }: PlacedLink): string {
    return this.keys.get(link)!;
  }

  leave({ activity: { id, name } }: Placed, why: string): void {
    this.left.push({ id, name, why });
  }

  link(from: Placed, to: Placed, type: "FS" | "SS" | "FF"): void {
    let n = this.plan.links.size + this.changes.length + 1;
    while (this.plan.links.has(`mend-${n}`)) n++;
    this.changes.push({ type: "addRow", table: "links", key: `mend-${n}`, row: { from: from.activity.id, to: to.activity.id, type } });
  }
}

/** What nothing leads to waits for the first start, and the last finish waits for what leads to nothing. */
function linkLooseEnds(mending: Mending, ground: Ground, isChosen: (placed: Placed) => boolean): void {
  const { first, last } = endsOf(ground);
  for (const { placed, before, after } of looseEnds(ground).filter(({ placed }) => isChosen(placed))) {
    if (before && first !== undefined) {
      if (placed.row.start < first.row.start) mending.leave(placed, "it begins before the first start");
      else mending.link(first, placed, first.isWork ? "SS" : "FS");
    }
    if (after && last !== undefined) mending.link(placed, last, last.isWork ? "FF" : "FS");
  }
}

/** A lead is said as an overlap: begun so long after the other one begins, in the place of so long before it ends. */
function leadsToOverlaps(mending: Mending, ground: Ground, isChosen: (placed: Placed) => boolean): void {
  for (const placed of ground.links) {
    const lead = placed.link.lagMinutes ?? 0;
    if (lead >= 0 || !isChosen(placed.to)) continue;
    const after = plannedMinutes(ground, placed.from) + lead;
    if ((placed.link.type ?? "FS") !== "FS") mending.leave(placed.to, "its lead is not on a finish-to-start link");
    else if (placed.link.lagIn === "elapsed") mending.leave(placed.to, "its lead counts elapsed hours");
    else if (!placed.from.isWork || after < 0) mending.leave(placed.to, "its lead is longer than what it waits for");
    else mending.changes.push({ type: "editRow", table: "links", key: mending.key(placed), set: { type: "SS", lagMinutes: after } });
  }
}

/** A date held to a day becomes one that is not before it; a latest finish becomes a deadline, which is seen and holds nothing. */
function softenWishes(mending: Mending, ground: Ground, isChosen: (placed: Placed) => boolean): void {
  for (const placed of ground.open) {
    if (!isChosen(placed) || hardWish(placed) === null) continue;
    const { id, wish, deadline } = placed.activity;
    const reason = wish!.reason === undefined ? {} : { reason: wish!.reason };
    if (wish!.type === "startOn" || wish!.type === "finishOn") mending.changes.push({ type: "setWish", activity: id, wish: { type: wish!.type === "startOn" ? "startNotBefore" : "finishNotBefore", date: wish!.date, ...reason } });
    else if (wish!.type === "finishNotAfter") mending.changes.push({ type: "setWish", activity: id, wish: null }, ...(deadline === undefined || deadline > wish!.date ? [{ type: "setDeadline", activity: id, date: wish!.date } as const] : []));
    else mending.leave(placed, "a latest start cannot be said in another way; take it out by hand if it is no longer so");
  }
}

function dropRedundant(mending: Mending, ground: Ground, isChosen: (placed: Placed) => boolean): void {
  for (const placed of redundant(ground)) if (isChosen(placed.to)) mending.changes.push({ type: "removeRow", table: "links", key: mending.key(placed) });
}

const HOW: Record<Mend, (mending: Mending, ground: Ground, isChosen: (placed: Placed) => boolean) => void> = { linkLooseEnds, leadsToOverlaps, softenWishes, dropRedundant };

/**
 * Changes that mend something for many activities at once.
 * @param ground what `groundOf` gave for the plan's bundle
 * @param ids the chosen ones, of those that the check or finding names
 */
export function mendMany(plan: Plan, ground: Ground, mend: Mend, ids: ReadonlySet<string>): { changes: Change[]; left: NotMended[] } {
  const mending = new Mending(plan);
  HOW[mend](mending, ground, ({ activity }) => ids.has(activity.id));
  return { changes: mending.changes, left: mending.left };
}
