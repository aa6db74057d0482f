import { closeOf, HORIZON_END, openOf, type EpochDay } from "../time/instant.ts";
import { OutsideHorizon, type WorkCalendar } from "../time/workCalendar.ts";
import { isBoundByLinks, NodeOutsideHorizon, type EarlyDates } from "./forwardPass.ts";
import * as net from "./network.ts";

/** Late dates and float of every incomplete node; NaN where a node is complete. */
export interface LateDates {
  /** LF of work in its own calendar. */
  readonly finishIndex: Float64Array;
  /** The late instant of a milestone. */
  readonly milestoneAt: Float64Array;
  readonly totalFloat: Float64Array;
  readonly freeFloat: Float64Array;
}

/** What is fixed between a node's start and its finish in the backward pass. */
const fixedDuration = (network: net.Network, early: EarlyDates, node: number): number =>
  network.finishBy[node] === net.FIXED ? network.duration[node]! : early.finishIndex[node]! - early.restartIndex[node]!;

/** S(i), where what lies past all working time bounds nothing. */
const boundAt = (calendar: WorkCalendar, index: number): number => (index >= calendar.total ? HORIZON_END : calendar.startAt(index));

const lessLag = (at: number, lag: number): number => {
  if (at - lag < 0) throw new OutsideHorizon();
  return Math.min(at - lag, HORIZON_END);
};

/**
 * u of calculations.md: the instant by which a link wants its predecessor's end.
 * @param startIndex the successor's start (or restart) index, late or early
 * @param finishIndex its finish index
 * @param milestoneAt its instant, where it is a milestone
 */
function wantedAt(network: net.Network, link: number, startIndex: number, finishIndex: number, milestoneAt: number): number {
  const successor = network.linkTo[link]!;
  const calendar = network.calendars[network.calendarOf[successor]!]!;
  const lag = network.linkLag[link]!;
  const elapsed = network.linkElapsed[link] === 1;
  if (network.kind[successor] === net.MILESTONE) {
    if (lag === 0) return milestoneAt;
    return elapsed ? lessLag(milestoneAt, lag) : boundAt(calendar, calendar.indexAt(milestoneAt) - lag);
  }
  const index = toStart(network, link) ? startIndex : finishIndex;
  return elapsed ? lessLag(boundAt(calendar, index), lag) : boundAt(calendar, index - lag);
}

const toStart = (network: net.Network, link: number): boolean => network.linkType[link]! <= net.SS;
const fromStart = (network: net.Network, link: number): boolean => network.linkType[link] === net.SS || network.linkType[link] === net.SF;

/**
 * The backward pass and float of calculations.md section 2.
 * @throws {NodeOutsideHorizon} where a late date runs before 1990
 */
export function backwardPass(network: net.Network, early: EarlyDates): LateDates {
  const column = (): Float64Array => new Float64Array(network.count).fill(NaN);
  const late = { finishIndex: column(), milestoneAt: column(), totalFloat: column(), freeFloat: column() };
  const end = early.latestFinish;
  const endIndex = Float64Array.from(network.calendars, (calendar) => (end < 0 ? 0 : calendar.indexAt(end)));
  let node = -1;
  try {
    for (let position = network.count - 1; position >= 0; position--) {
      node = network.order[position]!;
      if (network.state[node] === net.COMPLETE) continue;
      if (network.kind[node] === net.MILESTONE) limitMilestone(network, early, late, node, end);
      else limitWork(network, early, late, node, endIndex[network.calendarOf[node]!]!);
    }
  } catch (error) {
    throw error instanceof OutsideHorizon ? new NodeOutsideHorizon(node) : error;
  }
  return late;
}

function limitWork(network: net.Network, early: EarlyDates, late: LateDates, node: number, endIndex: number): void {
  const calendar = network.calendars[network.calendarOf[node]!]!;
  const duration = fixedDuration(network, early, node);
  const started = network.state[node] === net.IN_PROGRESS;
  const earlyFinish = early.finishIndex[node]!;
  const earlyStart = early.restartIndex[node]!;
  let lateFinish = capFinish(network, node, calendar, endIndex);
  if (!started && network.startNotAfter[node] !== net.NONE) {
    lateFinish = Math.min(lateFinish, calendar.indexAt(openOf(network.startNotAfter[node] as EpochDay)) + duration);
  }
  let free = endIndex - earlyFinish;
  for (let o = network.outStart[node]!; o < network.outStart[node + 1]!; o++) {
    const link = network.outLinks[o]!;
    const successor = network.linkTo[link]!;
    const byStart = fromStart(network, link);
    // What links no longer move bounds nothing that comes before it.
    if (!isBoundByLinks(network, successor) || (started && byStart)) continue;
    const lateBound = indexWanted(network, early, late, link, successor, true);
    const earlyBound = indexWanted(network, early, late, link, successor, false);
    const ownFinish = byStart ? lateBound + duration : lateBound;
    const ownFree = earlyBound - (byStart ? earlyStart : earlyFinish);
    if (ownFinish < lateFinish) lateFinish = ownFinish;
    if (ownFree < free) free = ownFree;
  }
  if (lateFinish - duration < 0) throw new OutsideHorizon();
  late.finishIndex[node] = lateFinish;
  late.totalFloat[node] = lateFinish - earlyFinish;
  late.freeFloat[node] = free;
}

/** The largest index that a link allows its predecessor's finish (start, for SS and SF), by late or early dates. */
function indexWanted(network: net.Network, early: EarlyDates, late: LateDates, link: number, successor: number, byLate: boolean): number {
  const calendarOf = network.calendarOf[network.linkFrom[link]!]!;
  const finishIndex = byLate ? late.finishIndex[successor]! : early.finishIndex[successor]!;
  const startIndex = byLate ? finishIndex - fixedDuration(network, early, successor) : early.restartIndex[successor]!;
  const sameCalendar = calendarOf === network.calendarOf[successor];
  if (sameCalendar && network.kind[successor] === net.WORK && network.linkElapsed[link] === 0) {
    return (toStart(network, link) ? startIndex : finishIndex) - network.linkLag[link]!;
  }
  const milestoneAt = byLate ? late.milestoneAt[successor]! : early.startAt[successor]!;
  const at = wantedAt(network, link, startIndex, finishIndex, milestoneAt);
  const calendar = network.calendars[calendarOf]!;
  return fromStart(network, link) ? calendar.lastStartIndex(at) : calendar.indexAt(at);
}

function capFinish(network: net.Network, node: number, calendar: WorkCalendar, endIndex: number): number {
  let cap = endIndex;
  if (network.finishNotAfter[node] !== net.NONE) cap = Math.min(cap, calendar.indexAt(closeOf(network.finishNotAfter[node] as EpochDay)));
  if (network.deadline[node] !== net.NONE) cap = Math.min(cap, calendar.indexAt(closeOf(network.deadline[node] as EpochDay)));
  return cap;
}

function limitMilestone(network: net.Network, early: EarlyDates, late: LateDates, node: number, end: number): void {
  const calendar = network.calendars[network.calendarOf[node]!]!;
  let lateAt = end;
  for (const day of [network.finishNotAfter[node]!, network.deadline[node]!]) {
    if (day !== net.NONE) lateAt = Math.min(lateAt, calendar.finishAt(calendar.indexAt(closeOf(day as EpochDay))));
  }
  if (network.startNotAfter[node] !== net.NONE) {
    lateAt = Math.min(lateAt, boundAt(calendar, calendar.indexAt(openOf(network.startNotAfter[node] as EpochDay))));
  }
  let freeAt = end;
  for (let o = network.outStart[node]!; o < network.outStart[node + 1]!; o++) {
    const link = network.outLinks[o]!;
    const successor = network.linkTo[link]!;
    if (!isBoundByLinks(network, successor)) continue;
    const lateFinish = late.finishIndex[successor]!;
    const lateStart = lateFinish - fixedDuration(network, early, successor);
    lateAt = Math.min(lateAt, wantedAt(network, link, lateStart, lateFinish, late.milestoneAt[successor]!));
    freeAt = Math.min(freeAt, wantedAt(network, link, early.restartIndex[successor]!, early.finishIndex[successor]!, early.startAt[successor]!));
  }
  const index = early.startIndex[node]!;
  late.milestoneAt[node] = lateAt;
  late.totalFloat[node] = calendar.indexAt(lateAt) - index;
  late.freeFloat[node] = calendar.indexAt(freeAt) - index;
}
