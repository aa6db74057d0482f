import { instantColumn, workColumn, type InstantColumn, type WorkColumn } from "../time/columns.ts";
import {
  closeOf,
  epochDay,
  HORIZON_END,
  type LocalMinute,
  localMinute,
  openOf,
  type WorkMinutes,
  workMinutes,
  greater,
} from "../time/instant.ts";
import { OutsideHorizon, type WorkCalendar } from "../time/workCalendar.ts";
import * as net from "./laid/network.ts";

/** Early dates of every node. Indices are W of the node's own calendar. */
export interface EarlyDates {
  readonly startAt: InstantColumn;
  readonly finishAt: InstantColumn;
  /** W(start) and W(finish). */
  readonly startIndex: WorkColumn;
  readonly finishIndex: WorkColumn;
  /** Where the work that is left begins: the early-start index, R where in progress; and S of it. */
  readonly restartIndex: WorkColumn;
  readonly restartAt: InstantColumn;
  /** 1 where a milestone is shown as a finish. */
  readonly shownAsFinish: Uint8Array;
  /** T: the latest finish, or -1 without nodes. */
  readonly latestFinish: LocalMinute;
}

/** Thrown by a pass with the node that was in hand when a date ran outside the horizon. */
export class NodeOutsideHorizon extends Error {
  constructor(readonly node: number) {
    super(`node ${node} runs outside the horizon`);
  }
}

/** The latest finish of nothing. */
const NO_FINISH = localMinute(-1);

const inHorizon = (at: number): LocalMinute => {
  if (!(at >= 0 && at <= HORIZON_END)) throw new OutsideHorizon();
  return localMinute(at);
};

/** Whether links bound the node's early dates: not once complete, nor in progress under progress override. */
export const isBoundByLinks = (network: net.Network, node: number): boolean =>
  network.state[node] === net.NOT_STARTED || (network.state[node] === net.IN_PROGRESS && !network.override);

/**
 * The index that a link into a node asks of its start (FS, SS) or finish (FF, SF), in the node's calendar.
 * Needs the predecessor's early dates.
 * @param link position among the network's links in
 */
export function linkIndex(network: net.Network, early: EarlyDates, link: number, node: number): WorkMinutes {
  const { other, type, lag, elapsed } = network.inLinks;
  const from = other[link]!;
  const fromFinish = type[link] === net.FS || type[link] === net.FF;
  const ownCalendar = network.calendarOf[node]!;
  if (elapsed[link] === 1) {
    const at = inHorizon((fromFinish ? early.finishAt[from]! : early.startAt[from]!) + lag[link]!);
    return network.calendars[ownCalendar]!.indexAt(at);
  }
  if (network.calendarOf[from] === ownCalendar)
    return workMinutes((fromFinish ? early.finishIndex[from]! : early.startIndex[from]!) + lag[link]!);
  return workMinutes(
    network.calendars[ownCalendar]!.indexAt(fromFinish ? early.finishAt[from]! : early.startAt[from]!) + lag[link]!,
  );
}

/** The instant at which a link into a milestone lets it be. */
export function linkInstant(network: net.Network, early: EarlyDates, link: number, node: number): LocalMinute {
  const { other, type, lag, elapsed } = network.inLinks;
  const from = other[link]!;
  const at = type[link] === net.FS || type[link] === net.FF ? early.finishAt[from]! : early.startAt[from]!;
  if (lag[link] === 0) return at;
  if (elapsed[link] === 1) return inHorizon(at + lag[link]!);
  const calendar = network.calendars[network.calendarOf[node]!]!;
  return calendar.finishAt(workMinutes(calendar.indexAt(at) + lag[link]!));
}

/** The finish of a node whose people decide it, were its remaining work to begin at an index. */
export function flexibleFinish(network: net.Network, node: number, index: WorkMinutes): LocalMinute {
  const calendar = network.calendars[network.calendarOf[node]!]!;
  const from = calendar.startAt(index);
  let latest = localMinute(-1);
  for (const part of network.parts.get(node)!) {
    if (part.minutes === 0) continue;
    const begin = from < part.restartAt ? part.restartAt : from;
    const finish = part.calendar.finishAt(workMinutes(part.calendar.indexAt(begin) + part.minutes));
    if (finish > latest) latest = finish;
  }
  if (network.finishBy[node] === net.EFFORT)
    return latest >= 0 ? latest : finishWithNothingLeft(network, node, calendar, index);
  const own =
    network.duration[node]! > 0
      ? calendar.finishAt(workMinutes(index + network.duration[node]!))
      : finishWithNothingLeft(network, node, calendar, index);
  return own > latest ? own : latest;
}

/** The later of F(index) and the start. */
function finishWithNothingLeft(
  network: net.Network,
  node: number,
  calendar: WorkCalendar,
  index: WorkMinutes,
): LocalMinute {
  const finish = calendar.finishAt(index);
  const start = network.state[node] === net.IN_PROGRESS ? network.actualStart[node]! : calendar.startAt(index);
  return finish > start ? finish : start;
}

/** The least start index, not below `least`, whose finish index meets `wanted`. */
function leastStartFor(network: net.Network, node: number, least: WorkMinutes, wanted: WorkMinutes): WorkMinutes {
  const calendar = network.calendars[network.calendarOf[node]!]!;
  const finishIndex = (index: WorkMinutes): WorkMinutes => calendar.indexAt(flexibleFinish(network, node, index));
  if (wanted <= least || finishIndex(least) >= wanted) return least;
  let low = least;
  let high = wanted;
  while (high - low > 1) {
    const middle = workMinutes(Math.floor((low + high) / 2));
    if (finishIndex(middle) >= wanted) high = middle;
    else low = middle;
  }
  return high;
}

/** Whether a finish bound alone would put the node where it is. */
export function finishBoundDrives(network: net.Network, early: EarlyDates, node: number, wanted: number): boolean {
  const index = early.restartIndex[node]!;
  if (network.finishBy[node] === net.FIXED) return wanted - network.duration[node]! === index;
  const calendar = network.calendars[network.calendarOf[node]!]!;
  return (
    early.finishIndex[node]! >= wanted &&
    (index === 0 || calendar.indexAt(flexibleFinish(network, node, workMinutes(index - 1))) < wanted)
  );
}

/**
 * The forward pass of calculations.md section 2.
 * @param into columns to write to, such as those of an earlier pass over the same nodes
 * @throws {NodeOutsideHorizon} where a date runs outside 1990 to 2099
 */
export function forwardPass(network: net.Network, into: EarlyDates = emptyDates(network.count)): EarlyDates {
  const { count } = network;
  const early = into as Writable<EarlyDates>;
  const floors = calendarFloors(network);
  let node = -1;
  try {
    for (node = 0; node < count; node++) placeNode(network, early, node, floors);
  } catch (error) {
    throw error instanceof OutsideHorizon ? new NodeOutsideHorizon(node) : error;
  }
  early.latestFinish = latestOf(early.finishAt);
  return early;
}

/** T: the latest finish of all. */
export function latestOf(finishAt: InstantColumn): LocalMinute {
  let latest = NO_FINISH;
  for (let node = 0; node < finishAt.length; node++) if (finishAt[node]! > latest) latest = finishAt[node]!;
  return latest;
}

/**
 * Places one node; all that it is linked from must have been placed.
 * @throws {OutsideHorizon} where its dates run outside 1990 to 2099
 */
export function placeNode(
  network: net.Network,
  early: EarlyDates,
  node: number,
  floors: ReturnType<typeof calendarFloors>,
): void {
  if (network.kind[node] === net.MILESTONE) placeMilestone(network, early, node);
  else if (network.state[node] === net.COMPLETE) placeComplete(network, early, node);
  else placeWork(network, early, node, floors);
}

/** Columns for the early dates of so many nodes. */
export function emptyDates(count: number): EarlyDates {
  return {
    startAt: instantColumn(count),
    finishAt: instantColumn(count),
    startIndex: workColumn(count),
    finishIndex: workColumn(count),
    restartIndex: workColumn(count),
    restartAt: instantColumn(count),
    shownAsFinish: new Uint8Array(count),
    latestFinish: NO_FINISH,
  };
}

/** The columns of early dates. */
export const EARLY_COLUMNS = [
  "startAt",
  "finishAt",
  "startIndex",
  "finishIndex",
  "restartIndex",
  "restartAt",
  "shownAsFinish",
] as const satisfies readonly (keyof EarlyDates)[];

/** Dates to be written to, as others are. */
export const copiedDates = (early: EarlyDates): EarlyDates => ({
  ...early,
  ...(Object.fromEntries(EARLY_COLUMNS.map((column) => [column, early[column].slice()])) as Pick<
    EarlyDates,
    (typeof EARLY_COLUMNS)[number]
  >),
});

/** Per calendar, the least early-start index: the project's start and the data date's close. */
export function calendarFloors(network: net.Network): { notStarted: WorkColumn; started: WorkColumn } {
  const open = openOf(epochDay(network.projectStartDay));
  const close = network.dataDateDay === net.NONE ? localMinute(0) : closeOf(epochDay(network.dataDateDay));
  const floors = { notStarted: workColumn(network.calendars.length), started: workColumn(network.calendars.length) };
  network.calendars.forEach((calendar, i) => {
    floors.notStarted[i] = calendar.indexAt(open > close ? open : close);
    floors.started[i] = calendar.indexAt(close);
  });
  return floors;
}

export type Writable<T> = { -readonly [K in keyof T]: T[K] };

function placeComplete(network: net.Network, early: Writable<EarlyDates>, node: number): void {
  const calendar = network.calendars[network.calendarOf[node]!]!;
  early.startAt[node] = network.actualStart[node]!;
  early.finishAt[node] = network.actualFinish[node]!;
  early.startIndex[node] = calendar.indexAt(network.actualStart[node]!);
  early.finishIndex[node] = calendar.indexAt(network.actualFinish[node]!);
}

function placeWork(
  network: net.Network,
  early: Writable<EarlyDates>,
  node: number,
  floors: ReturnType<typeof calendarFloors>,
): void {
  const calendar = network.calendars[network.calendarOf[node]!]!;
  const started = network.state[node] === net.IN_PROGRESS;
  const duration = network.duration[node]!;
  const fixed = network.finishBy[node] === net.FIXED;
  const floor = started ? floors.started : floors.notStarted;
  let index = floor[network.calendarOf[node]!]!;
  // The index that finish bounds ask of the finish; for fixed durations it moves the start at once.
  let finishWanted = workMinutes(-1);
  if (started) {
    const actual = calendar.indexAt(network.actualStart[node]!);
    if (actual > index) index = actual;
  } else if (network.startNotBefore[node] !== net.NONE) {
    const wish = calendar.indexAt(openOf(epochDay(network.startNotBefore[node]!)));
    if (wish > index) index = wish;
  }
  if (network.finishNotBefore[node] !== net.NONE)
    finishWanted = calendar.indexAt(closeOf(epochDay(network.finishNotBefore[node]!)));
  if (isBoundByLinks(network, node)) {
    const { other, type, lag } = network.inLinks;
    const ownCalendar = network.calendarOf[node]!;
    // W never decreases: of the instants that links from other calendars bring, only the latest is turned into an
    // index.
    let startAfter = localMinute(-1);
    let finishAfter = localMinute(-1);
    const last = network.inStart[node + 1]!;
    for (let link = network.inStart[node]!; link < last; link++) {
      const from = other[link]!;
      const toStart = type[link]! <= net.SS;
      if (lag[link] === 0 && network.calendarOf[from] !== ownCalendar) {
        const at = type[link] === net.FS || type[link] === net.FF ? early.finishAt[from]! : early.startAt[from]!;
        if (toStart) {
          if (at > startAfter) startAfter = at;
        } else if (at > finishAfter) finishAfter = at;
        continue;
      }
      const bound = linkIndex(network, early, link, node);
      if (toStart) {
        if (bound > index) index = bound;
      } else if (bound > finishWanted) finishWanted = bound;
    }
    if (startAfter >= 0) index = greater(index, calendar.indexAt(startAfter));
    if (finishAfter >= 0) finishWanted = greater(finishWanted, calendar.indexAt(finishAfter));
  }
  if (finishWanted >= 0) {
    index = fixed
      ? greater(index, workMinutes(finishWanted - duration))
      : leastStartFor(network, node, index, finishWanted);
  }
  early.restartIndex[node] = index;
  const start = started ? network.actualStart[node]! : calendar.startAt(index);
  const finish = fixed
    ? duration > 0
      ? calendar.finishAt(workMinutes(index + duration))
      : finishWithNothingLeft(network, node, calendar, index)
    : flexibleFinish(network, node, index);
  early.startAt[node] = start;
  early.finishAt[node] = finish;
  early.restartAt[node] = started ? calendar.startOr(index, HORIZON_END) : start;
  early.startIndex[node] = started ? calendar.indexAt(start) : index;
  early.finishIndex[node] = fixed ? workMinutes(index + duration) : calendar.indexAt(finish);
}

function placeMilestone(network: net.Network, early: Writable<EarlyDates>, node: number): void {
  const calendar = network.calendars[network.calendarOf[node]!]!;
  const reached = network.state[node] === net.COMPLETE;
  const place = reached ? reachedAt(network, node) : forecastMilestone(network, early, node, calendar);
  const index = calendar.indexAt(place.at);
  early.startAt[node] = early.finishAt[node] = early.restartAt[node] = place.at;
  early.startIndex[node] = early.finishIndex[node] = early.restartIndex[node] = index;
  early.shownAsFinish[node] = place.asFinish ? 1 : 0;
}

function reachedAt(network: net.Network, node: number): { at: LocalMinute; asFinish: boolean } {
  const finish = network.actualFinish[node]!;
  return finish === net.NONE ? { at: network.actualStart[node]!, asFinish: false } : { at: finish, asFinish: true };
}

function forecastMilestone(
  network: net.Network,
  early: EarlyDates,
  node: number,
  calendar: WorkCalendar,
): { at: LocalMinute; asFinish: boolean } {
  const workAt = (instant: LocalMinute): LocalMinute => calendar.startAt(calendar.indexAt(instant));
  let at = workAt(openOf(epochDay(network.projectStartDay)));
  let asFinish = false;
  const consider = (instant: LocalMinute, isFinish: boolean): void => {
    if (instant > at) {
      at = instant;
      asFinish = isFinish;
    } else if (instant === at && isFinish) asFinish = true;
  };
  if (network.dataDateDay !== net.NONE) consider(workAt(closeOf(epochDay(network.dataDateDay))), false);
  if (network.startNotBefore[node] !== net.NONE)
    consider(workAt(openOf(epochDay(network.startNotBefore[node]!))), false);
  if (network.finishNotBefore[node] !== net.NONE) {
    consider(calendar.finishAt(calendar.indexAt(closeOf(epochDay(network.finishNotBefore[node]!)))), true);
  }
  const { type, lag, elapsed } = network.inLinks;
  for (let link = network.inStart[node]!; link < network.inStart[node + 1]!; link++) {
    const working = lag[link] !== 0 && elapsed[link] === 0;
    consider(linkInstant(network, early, link, node), working || type[link] === net.FS || type[link] === net.FF);
  }
  return { at, asFinish };
}
