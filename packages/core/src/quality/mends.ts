import type { Change } from "../plan/change.ts";
import type { Plan } from "../plan/plan.ts";
import { plannedMinutes, type Ground, type Placed, type PlacedLink } from "./ground/ground.ts";
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
    this.changes.push({
      type: "addRow",
      table: "links",
      key: `mend-${n}`,
      row: { from: from.activity.id, to: to.activity.id, type },
    });
  }
}

/**
 * What loose ends are tied to: the first start and the last finish; of several at one time a milestone before work, then one that is
 * tied into the plan already. The check's own first may be a loose activity that begins with the plan.
 */
function anchorsOf(ground: Ground): { first: Placed | undefined; last: Placed | undefined } {
  const leading = new Set(ground.allLinks.map(({ from }) => from.at));
  const led = new Set(ground.allLinks.map(({ to }) => to.at));
  const best = (at: (placed: Placed) => number, tied: ReadonlySet<number>): Placed | undefined =>
    [...ground.scheduled].sort(
      (a, b) =>
        at(a) - at(b) ||
        Number(a.isWork) - Number(b.isWork) ||
        Number(tied.has(b.at)) - Number(tied.has(a.at)) ||
        (a.activity.id < b.activity.id ? -1 : 1),
    )[0];
  return { first: best(({ row }) => row.start, leading), last: best(({ row }) => -row.finish, led) };
}

/** What nothing leads to waits for the first start, and the last finish waits for what leads to nothing. */
function linkLooseEnds(mending: Mending, ground: Ground, isChosen: (placed: Placed) => boolean): void {
  const { first, last } = anchorsOf(ground);
  // What the check takes for the first or last is tied to these in the place of them.
  const counted = endsOf(ground);
  for (const { placed, before, after } of looseEnds(ground).filter(({ placed }) => isChosen(placed))) {
    if (before && first !== undefined) {
      if (placed === first) mending.link(first, counted.first!, first.isWork ? "SS" : "FS");
      else if (placed.row.start < first.row.start) mending.leave(placed, "it begins before the first start");
      else mending.link(first, placed, first.isWork ? "SS" : "FS");
    }
    if (after && last !== undefined) {
      if (placed === last) mending.link(counted.last!, last, last.isWork ? "FF" : "FS");
      else mending.link(placed, last, last.isWork ? "FF" : "FS");
    }
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
    else
      mending.changes.push({
        type: "editRow",
        table: "links",
        key: mending.key(placed),
        set: { type: "SS", lagMinutes: after },
      });
  }
}

/**
 * A date held to a day becomes one that is not before it; a latest finish becomes a deadline, which is seen and holds nothing. A promise
 * that was made stays as it is, and so does a reason, which a deadline cannot hold: both are for people to decide.
 */
function softenWishes(mending: Mending, ground: Ground, isChosen: (placed: Placed) => boolean): void {
  for (const placed of ground.open) {
    if (!isChosen(placed) || hardWish(placed) === null) continue;
    const { id, wish, deadline } = placed.activity;
    const reason = wish!.reason === undefined ? {} : { reason: wish!.reason };
    if (wish!.type === "startOn" || wish!.type === "finishOn")
      mending.changes.push({
        type: "setWish",
        activity: id,
        wish: { type: wish!.type === "startOn" ? "startNotBefore" : "finishNotBefore", date: wish!.date, ...reason },
      });
    else if (wish!.type === "finishNotAfter") {
      if (deadline !== undefined && deadline > wish!.date)
        mending.leave(placed, "it is promised for a later day already; say by hand which of the two holds");
      else if (wish!.reason !== undefined)
        mending.leave(placed, `its reason “${wish!.reason}” would be lost; make it a deadline by hand`);
      else
        mending.changes.push(
          { type: "setWish", activity: id, wish: null },
          ...(deadline === undefined ? [{ type: "setDeadline", activity: id, date: wish!.date } as const] : []),
        );
    } else
      mending.leave(placed, "a latest start cannot be said in another way; remove it by hand if it is no longer so");
  }
}

function dropRedundant(mending: Mending, ground: Ground, isChosen: (placed: Placed) => boolean): void {
  for (const placed of redundant(ground))
    if (isChosen(placed.to)) mending.changes.push({ type: "removeRow", table: "links", key: mending.key(placed) });
}

const HOW: Record<Mend, (mending: Mending, ground: Ground, isChosen: (placed: Placed) => boolean) => void> = {
  linkLooseEnds,
  leadsToOverlaps,
  softenWishes,
  dropRedundant,
};

/**
 * Changes that mend something for many activities at once.
 * @param ground what `groundOf` gave for the plan's bundle
 * @param ids the chosen ones, of those that the check or finding names
 */
export function mendMany(
  plan: Plan,
  ground: Ground,
  mend: Mend,
  ids: ReadonlySet<string>,
): { changes: Change[]; left: NotMended[] } {
  const mending = new Mending(plan);
  HOW[mend](mending, ground, ({ activity }) => ids.has(activity.id));
  return { changes: mending.changes, left: mending.left };
}
