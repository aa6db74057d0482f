import { backwardPass } from "./backwardPass.ts";
import { actualFinishAt, actualStartAt } from "../plan/check/checkActivity.ts";
import { planTree } from "../plan/planTree.ts";
import type { Activity, PlanBundle } from "../plan/schema.ts";
import { compileCalendars } from "../plan/compileCalendars.ts";
import {
  closeOf,
  finishDayOf,
  formatDate,
  type LocalMinute,
  localMinute,
  openOf,
  parseDate,
  startDayOf,
} from "../time/instant.ts";
import { buildNetwork } from "./laid/buildNetwork.ts";
import { forwardPass, type EarlyDates } from "./forwardPass.ts";
import { isDriving } from "./longestPath.ts";
import * as net from "./laid/network.ts";

/** The other end of a link, with what the link says. */
export interface LinkedTo {
  readonly id: string;
  readonly name: string;
  readonly type: "FS" | "SS" | "FF" | "SF";
  readonly lagMinutes: number;
  readonly elapsed: boolean;
  /** The calendar in which the lag counts, and minutes of its day. */
  readonly calendar: string;
  readonly dayMinutes: number;
  /** The date, as shown, of the end that the link leads from. */
  readonly on: string;
}

/** What keeps an activity from beginning (or ending) earlier. */
export type Reason = { readonly decides: boolean } & (
  | { readonly kind: "projectStart" | "dataDate" | "nothingLeft"; readonly date: string }
  | {
      readonly kind: "wish";
      readonly type: NonNullable<Activity["wish"]>["type"];
      readonly date: string;
      readonly reason: string | null;
    }
  | { readonly kind: "actual"; readonly date: string }
  | ({ readonly kind: "link" } & LinkedTo)
);

/** Why an activity lies where it does, and what it holds in turn. */
export interface Explanation {
  readonly reasons: readonly Reason[];
  /** From the beginning of the chain of deciding links to the activity before this one. */
  readonly chain: readonly { readonly id: string; readonly name: string }[];
  readonly holds: readonly ({ readonly decides: boolean } & LinkedTo)[];
  /** Activities that lie where they do because of this one, all the way, in the order of the network. */
  readonly heldAllTheWay: readonly { readonly id: string; readonly name: string }[];
  /** Whether a deadline or a date wish takes from its total float, and gives way before the finish does. */
  readonly floatCapped: boolean;
}

const TYPES = ["FS", "SS", "FF", "SF"] as const;

/** What is needed to speak of one plan's network. */
interface Told {
  readonly plan: PlanBundle;
  readonly network: net.Network;
  readonly early: EarlyDates;
}

const activityAt = ({ plan, network }: Told, node: number): Activity => plan.activities[network.activityOf[node]!]!;

function linkedTo(
  told: Told,
  columns: net.LinkColumns,
  link: number,
  from: number,
  to: number,
  other: number,
): LinkedTo {
  const { plan, network, early } = told;
  const type = columns.type[link]!;
  const atFinish = type === net.FS || type === net.FF;
  const at = localMinute(atFinish ? early.finishAt[from]! : early.startAt[from]!);
  const { id, name } = activityAt(told, other);
  const calendar = activityAt(told, to).calendar ?? plan.project.calendar;
  return {
    id,
    name,
    type: TYPES[type]!,
    lagMinutes: columns.lag[link]!,
    elapsed: columns.elapsed[link] === 1,
    calendar: plan.calendars.find((each) => each.id === calendar)!.name,
    dayMinutes: network.calendars[network.calendarOf[to]!]!.dayMinutes,
    on: formatDate(atFinish ? finishDayOf(at) : startDayOf(at)),
  };
}

/**
 * The least place that a date asks for, in the same measure as {@link placeOf}: an index for work, an instant for a
 * milestone.
 */
function wantedBy({ network }: Told, node: number, at: LocalMinute, isFinish: boolean): number {
  const calendar = network.calendars[network.calendarOf[node]!]!;
  const index = calendar.indexAt(at);
  if (network.kind[node] === net.MILESTONE) return isFinish ? calendar.finishAt(index) : calendar.startAt(index);
  return isFinish ? index - network.duration[node]! : index;
}

const placeOf = ({ network, early }: Told, node: number): number =>
  network.kind[node] === net.MILESTONE ? early.startAt[node]! : early.restartIndex[node]!;

function dateReasons(told: Told, node: number): Reason[] {
  const { plan, network } = told;
  const activity = activityAt(told, node);
  const place = placeOf(told, node);
  const reasons: Reason[] = [];
  const started = network.state[node] === net.IN_PROGRESS;
  if (!started) {
    const date = plan.project.start;
    reasons.push({
      kind: "projectStart",
      date,
      decides: wantedBy(told, node, openOf(parseDate(date)!), false) === place,
    });
  }
  if (plan.project.dataDate !== undefined) {
    const date = plan.project.dataDate;
    const close = closeOf(parseDate(date)!);
    // With nothing left it does not lie after the data date: it ends on it, unless it is said to be finished.
    const isSpent = started && told.early.finishAt[node]! <= close;
    reasons.push({
      kind: isSpent ? "nothingLeft" : "dataDate",
      date,
      decides: wantedBy(told, node, close, false) === place,
    });
  }
  const { wish } = activity;
  if (wish !== undefined && !wish.type.endsWith("NotAfter") && !(started && wish.type.startsWith("start"))) {
    const isFinish = wish.type.startsWith("finish");
    const day = parseDate(wish.date)!;
    reasons.push({
      kind: "wish",
      type: wish.type,
      date: wish.date,
      reason: wish.reason ?? null,
      decides: wantedBy(told, node, isFinish ? closeOf(day) : openOf(day), isFinish) === place,
    });
  }
  return reasons;
}

/** Back along deciding links as far as they go, the first of several at each step. */
function chainTo(told: Told, node: number): { id: string; name: string }[] {
  const { network, early } = told;
  const chain: { id: string; name: string }[] = [];
  for (let at = node; ;) {
    let before = -1;
    for (let link = network.inStart[at]!; link < network.inStart[at + 1]! && before < 0; link++)
      if (network.state[at] !== net.COMPLETE && isDriving(network, early, link, at))
        before = network.inLinks.other[link]!;
    if (before < 0) return chain;
    const { id, name } = activityAt(told, before);
    chain.unshift({ id, name });
    at = before;
  }
}

/** Everything that deciding links lead to from a node. */
function heldBy(told: Told, node: number): { id: string; name: string }[] {
  const { network, early } = told;
  const held = new Uint8Array(network.count);
  held[node] = 1;
  const found: { id: string; name: string }[] = [];
  // Nodes are numbered so that whatever a link leads to comes later.
  for (let at = node + 1; at < network.count; at++) {
    for (let link = network.inStart[at]!; link < network.inStart[at + 1]!; link++) {
      if (
        held[network.inLinks.other[link]!] === 0 ||
        network.state[at] === net.COMPLETE ||
        !isDriving(network, early, link, at)
      )
        continue;
      held[at] = 1;
      const { id, name } = activityAt(told, at);
      found.push({ id, name });
      break;
    }
  }
  return found;
}

function tell(plan: PlanBundle, id: string): { told: Told; node: number } | null {
  const tree = planTree(plan.activities);
  const network = buildNetwork(plan, tree, compileCalendars(plan.calendars).set);
  const position = tree.indexOf.get(id);
  const node = position === undefined ? -1 : network.nodeOf[position]!;
  return node < 0 ? null : { told: { plan, network, early: forwardPass(network) }, node };
}

/**
 * All that decides where an activity lies, back along every deciding link, the activity itself among it.
 * @returns ids in the order of the network, none where the network does not place it
 */
export function decidingChain(plan: PlanBundle, id: string): string[] {
  const found = tell(plan, id);
  if (found === null) return [];
  const { told, node } = found;
  const { network, early } = told;
  const lit = new Uint8Array(network.count);
  lit[node] = 1;
  for (let at = node; at >= 0; at--) {
    if (lit[at] === 0 || network.state[at] === net.COMPLETE) continue;
    for (let link = network.inStart[at]!; link < network.inStart[at + 1]!; link++)
      if (isDriving(network, early, link, at)) lit[network.inLinks.other[link]!] = 1;
  }
  const ids: string[] = [];
  for (let at = 0; at <= node; at++) if (lit[at] === 1) ids.push(activityAt(told, at).id);
  return ids;
}

/**
 * Tells why an activity lies where it does: all that bounds it, what of that decides, and what it holds in turn.
 * @param plan a checked plan
 * @returns `null` for what the network does not place by itself: summaries, level of effort, parked or unscheduled work
 */
export function explainActivity(plan: PlanBundle, id: string): Explanation | null {
  const found = tell(plan, id);
  if (found === null) return null;
  const { told, node } = found;
  const { network } = told;
  const { actualStart, actualFinish } = activityAt(told, node);
  const actual: Reason[] = [
    ...(actualStart === undefined
      ? []
      : [{ kind: "actual", date: formatDate(startDayOf(actualStartAt(actualStart))), decides: true } as const]),
    ...(actualFinish === undefined
      ? []
      : [{ kind: "actual", date: formatDate(finishDayOf(actualFinishAt(actualFinish))), decides: true } as const]),
  ];
  const complete = network.state[node] === net.COMPLETE;
  const links: Reason[] = [];
  for (let link = network.inStart[node]!; link < network.inStart[node + 1]!; link++) {
    const from = network.inLinks.other[link]!;
    links.push({
      kind: "link",
      decides: !complete && isDriving(network, told.early, link, node),
      ...linkedTo(told, network.inLinks, link, from, node, from),
    });
  }
  const holds: Explanation["holds"][number][] = [];
  for (let link = network.outStart[node]!; link < network.outStart[node + 1]!; link++) {
    const to = network.outLinks.other[link]!;
    holds.push({
      decides: network.state[to] !== net.COMPLETE && drives(told, node, to, link),
      ...linkedTo(told, network.outLinks, link, node, to, to),
    });
  }
  return {
    reasons: [...actual, ...(complete ? [] : dateReasons(told, node)), ...links],
    chain: chainTo(told, node),
    holds,
    heldAllTheWay: heldBy(told, node),
    floatCapped: !complete && isFloatCapped(told, node),
  };
}

/** Total float with the caps of deadlines and wishes against that without them (calculations.md, section 2). */
function isFloatCapped({ network, early }: Told, node: number): boolean {
  const none = new Int32Array(network.count).fill(net.NONE);
  const free = { ...network, deadline: none, finishNotAfter: none, startNotAfter: none };
  return backwardPass(network, early).totalFloat[node]! < backwardPass(free, early).totalFloat[node]!;
}

/** Whether a link out of a node decides where its successor lies; it stands among the successor's links in as well. */
function drives({ network, early }: Told, node: number, to: number, out: number): boolean {
  const { type, lag, elapsed } = network.outLinks;
  for (let link = network.inStart[to]!; link < network.inStart[to + 1]!; link++) {
    const same =
      network.inLinks.other[link] === node &&
      network.inLinks.type[link] === type[out] &&
      network.inLinks.lag[link] === lag[out] &&
      network.inLinks.elapsed[link] === elapsed[out];
    if (same) return isDriving(network, early, link, to);
  }
  return false;
}
