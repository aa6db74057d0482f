import { applyChanges } from "../applyChanges.ts";
import type { Change } from "../change.ts";
import type { Plan } from "../plan.ts";
import { planTree } from "../planTree.ts";
import type { Link } from "../schema.ts";

/** A chain of links that leads through what is to be parked, and the link that would carry its logic across. */
export interface BrokenChain {
  readonly link: Link;
  /** What lies between, in walking order. */
  readonly through: readonly string[];
  /** Those of the rows to be parked that this chain leads through, themselves or by what lies below them. */
  readonly by: readonly string[];
}

type LinkType = NonNullable<Link["type"]>;
const leavesFinish = (type: LinkType): boolean => type === "FS" || type === "FF";
const entersStart = (type: LinkType): boolean => type === "FS" || type === "SS";
/** Whether a link goes on from where another ended: what came in at a finish does not leave at a start. */
const leadsOn = (into: Link, outOf: Link): boolean =>
  entersStart(into.type ?? "FS") || leavesFinish(outOf.type ?? "FS");
const typeOf = (fromFinish: boolean, toStart: boolean): LinkType =>
  fromFinish ? (toStart ? "FS" : "FF") : toStart ? "SS" : "SF";

/** Rows with all below them; each with the top one it lies under. */
function underTops(plan: Plan, tops: readonly string[]): Map<string, string> {
  const topOf = new Map(tops.map((id) => [id, id]));
  const activities = [...plan.activities.values()];
  const { parentsFirst } = planTree(activities);
  for (const i of parentsFirst) {
    const { id, parent } = activities[i]!;
    const top = parent === undefined ? undefined : topOf.get(parent);
    if (top !== undefined) topOf.set(id, top);
  }
  return topOf;
}

interface Walk {
  readonly first: Link;
  readonly last: Link;
  readonly lags: readonly Link[];
  readonly through: readonly string[];
}

/** The lag of a chain: the sum of its lags, by the clock only where all that count do. */
function lagOf(lags: readonly Link[]): Pick<Link, "lagMinutes" | "lagIn"> {
  const counted = lags.filter(({ lagMinutes = 0 }) => lagMinutes !== 0);
  const lagMinutes = counted.reduce((sum, link) => sum + (link.lagMinutes ?? 0), 0);
  if (lagMinutes === 0) return {};
  return { lagMinutes, ...(counted.every(({ lagIn }) => lagIn === "elapsed") ? { lagIn: "elapsed" as const } : {}) };
}

const MOST = 5000;

/**
 * Chains that parking rows would break: from what counts, through the rows and what lies below them, to what counts. A
 * chain that meets an activity at its finish and leaves it at its start says nothing, and is passed over. Of several
 * between the same two ends the one with the longest lag is told; those that a link there is says already are not.
 */
export function brokenChains(plan: Plan, tops: readonly string[]): BrokenChain[] {
  const topOf = underTops(plan, tops);
  const { parked } = planTree([...plan.activities.values()]);
  const counts = (id: string): boolean => !topOf.has(id) && !parked.has(id);
  const out = new Map<string, Link[]>();
  for (const link of plan.links.values()) out.set(link.from, [...(out.get(link.from) ?? []), link]);
  const found = new Map<string, BrokenChain>();
  for (const first of plan.links.values()) {
    if (!counts(first.from) || !topOf.has(first.to)) continue;
    for (const walk of walksFrom(first, out, topOf)) if (counts(walk.last.to)) keepLongest(found, walk, topOf);
  }
  const said = ({ from, to, type = "FS", lagMinutes = 0 }: Link): boolean =>
    [...plan.links.values()].some(
      (link) =>
        link.from === from && link.to === to && (link.type ?? "FS") === type && (link.lagMinutes ?? 0) >= lagMinutes,
    );
  return [...found.values()].filter(({ link }) => !said(link));
}

/** The ways from a link that leads into rows to be parked, to what is not among them. */
function* walksFrom(
  first: Link,
  out: ReadonlyMap<string, readonly Link[]>,
  topOf: ReadonlyMap<string, string>,
): Generator<Walk> {
  const open: Walk[] = [{ first, last: first, lags: [first], through: [first.to] }];
  for (let at = open.pop(), steps = 0; at !== undefined && steps < MOST; at = open.pop(), steps++) {
    for (const next of out.get(at.last.to) ?? []) {
      if (at.through.includes(next.to) || !leadsOn(at.last, next)) continue;
      const walk: Walk = { first, last: next, lags: [...at.lags, next], through: at.through };
      if (topOf.has(next.to)) open.push({ ...walk, through: [...at.through, next.to] });
      else yield walk;
    }
  }
}

function keepLongest(
  found: Map<string, BrokenChain>,
  { first, last, lags, through }: Walk,
  topOf: ReadonlyMap<string, string>,
): void {
  const type = typeOf(leavesFinish(first.type ?? "FS"), entersStart(last.type ?? "FS"));
  const link: Link = { from: first.from, to: last.to, ...(type === "FS" ? {} : { type }), ...lagOf(lags) };
  const key = JSON.stringify([link.from, link.to, type]);
  const known = found.get(key);
  if (known !== undefined && (known.link.lagMinutes ?? 0) >= (link.lagMinutes ?? 0)) return;
  found.set(key, { link, through, by: [...new Set(through.map((id) => topOf.get(id)!))] });
}

const carry = (chains: readonly BrokenChain[], newKey: () => string): Change[] =>
  chains.flatMap(({ link, by }): Change[] => {
    const key = newKey();
    return [
      { type: "addRow", table: "links", key, row: link },
      { type: "addRow", table: "carried", key, row: { by: [...by] } },
    ];
  });

/**
 * The changes that park rows and all below them, with their logic carried across or not. What was carried is
 * remembered, so that waking takes it back.
 */
export function parkRows(
  plan: Plan,
  ids: readonly string[],
  options: { readonly carried: boolean; readonly newKey: () => string },
): Change[] {
  const chains = options.carried ? brokenChains(plan, ids) : [];
  return [
    ...ids.flatMap((activity): Change[] =>
      plan.activities.get(activity)?.parked === true ? [] : [{ type: "setParked", activity, parked: true }],
    ),
    ...carry(chains, options.newKey),
  ];
}

/**
 * The changes that wake parked rows: links carried across them go, and where something of such a chain stays parked,
 * its logic is carried across what is left of it.
 */
export function wakeRows(plan: Plan, ids: readonly string[], newKey: () => string): Change[] {
  const woken = new Set(ids);
  const taken = [...plan.carried].filter(([, { by }]) => by.some((id) => woken.has(id)));
  const changes: Change[] = [
    ...ids.flatMap((activity): Change[] =>
      plan.activities.get(activity)?.parked === true ? [{ type: "setParked", activity, parked: false }] : [],
    ),
    ...taken.flatMap(([key]): Change[] => [
      ...(plan.links.has(key) ? [{ type: "removeRow", table: "links", key } as const] : []),
      { type: "removeRow", table: "carried", key },
    ]),
  ];
  const left = [...new Set(taken.flatMap(([, { by }]) => by))].filter(
    (id) => !woken.has(id) && plan.activities.get(id)?.parked === true,
  );
  return left.length === 0
    ? changes
    : [...changes, ...carry(brokenChains(applyChanges(plan, changes).plan, left), newKey)];
}
