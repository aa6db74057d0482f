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
  lesser,
} from "../time/instant.ts";
import { OutsideHorizon, type WorkCalendar } from "../time/workCalendar.ts";
import { isBoundByLinks, NodeOutsideHorizon, type EarlyDates } from "./forwardPass.ts";
import * as net from "./laid/network.ts";

/** Late dates and float of every incomplete node; NaN where a node is complete. */
export interface LateDates {
  /** LS and LF of work in its own calendar; LS is that of the work left where in progress. */
  readonly startIndex: WorkColumn;
  readonly finishIndex: WorkColumn;
  /** S(LS): the late start, the late restart where in progress; of a milestone its late instant. */
  readonly startAt: InstantColumn;
  readonly totalFloat: WorkColumn;
  readonly freeFloat: WorkColumn;
}

/** What is fixed between a node's start and its finish in the backward pass. */
const fixedDuration = (network: net.Network, early: EarlyDates, node: number): WorkMinutes =>
  network.finishBy[node] === net.FIXED
    ? network.duration[node]!
    : workMinutes(early.finishIndex[node]! - early.restartIndex[node]!);

/** S(i), where what lies past all working time bounds nothing. */
const boundAt = (calendar: WorkCalendar, index: WorkMinutes): LocalMinute => calendar.startOr(index, HORIZON_END);

const lessLag = (at: LocalMinute, lag: number): LocalMinute => {
  if (at - lag < 0) throw new OutsideHorizon();
  return localMinute(Math.min(at - lag, HORIZON_END));
};

const toStart = (type: number): boolean => type === net.FS || type === net.SS;
const fromStart = (type: number): boolean => type === net.SS || type === net.SF;

/** Where nodes lie, late or early: start (restart) and finish of work as indices, and the start as an instant. */
interface Places {
  readonly startIndex: WorkColumn;
  readonly finishIndex: WorkColumn;
  /** S(startIndex) of work, the instant of a milestone. */
  readonly startAt: InstantColumn;
}

/**
 * u of calculations.md: the instant by which a link wants its predecessor's end.
 * @param link position among the links out
 */
function wantedAt(network: net.Network, link: number, successor: number, places: Places): LocalMinute {
  const { type, lag, elapsed } = network.outLinks;
  const by = lag[link]!;
  const at = places.startAt[successor]!;
  const calendar = network.calendars[network.calendarOf[successor]!]!;
  if (network.kind[successor] === net.MILESTONE) {
    if (by === 0) return at;
    return elapsed[link] === 1 ? lessLag(at, by) : boundAt(calendar, workMinutes(calendar.indexAt(at) - by));
  }
  const byStart = toStart(type[link]!);
  if (elapsed[link] === 1) return lessLag(byStart ? at : boundAt(calendar, places.finishIndex[successor]!), by);
  if (byStart && by === 0) return at;
  return boundAt(
    calendar,
    workMinutes((byStart ? places.startIndex[successor]! : places.finishIndex[successor]!) - by),
  );
}

/**
 * The backward pass and float of calculations.md section 2.
 * @throws {NodeOutsideHorizon} where a late date runs before 1990
 */
export function backwardPass(network: net.Network, early: EarlyDates): LateDates {
  const late = noLateDates(network.count);
  const limit = limiting(network, early, late);
  let node = -1;
  try {
    for (node = network.count - 1; node >= 0; node--) limit(node);
  } catch (error) {
    throw error instanceof OutsideHorizon ? new NodeOutsideHorizon(node) : error;
  }
  return late;
}

/** Late dates of so many nodes, none of them known. */
export function noLateDates(count: number): LateDates {
  const late: LateDates = {
    startIndex: workColumn(count),
    finishIndex: workColumn(count),
    startAt: instantColumn(count),
    totalFloat: workColumn(count),
    freeFloat: workColumn(count),
  };
  for (const column of LATE_COLUMNS) late[column].fill(NaN);
  return late;
}

/** The columns of late dates. */
export const LATE_COLUMNS = [
  "startIndex",
  "finishIndex",
  "startAt",
  "totalFloat",
  "freeFloat",
] as const satisfies readonly (keyof LateDates)[];

/** Gives what limits one node; all that it is linked to must have been limited. */
function limiting(network: net.Network, early: EarlyDates, late: LateDates): (node: number) => void {
  const soon: Places = { startIndex: early.restartIndex, finishIndex: early.finishIndex, startAt: early.restartAt };
  const end = early.latestFinish;
  const endIndex = network.calendars.map((calendar) => (end < 0 ? workMinutes(0) : calendar.indexAt(end)));
  return (node) => {
    if (network.state[node] === net.COMPLETE) return;
    if (network.kind[node] === net.MILESTONE) limitMilestone(network, early, late, soon, node, end);
    else limitWork(network, early, late, soon, node, endIndex[network.calendarOf[node]!]!);
  };
}

/**
 * The backward pass where most dates are known and T is what it was: limits some nodes, and what comes before them as
 * far as it moves.
 * @param late dates as they were before of these nodes, which are written to
 * @param stirred nodes of which something is other than it was when these dates were made
 * @param moved by node, 1 where its early dates are other than then
 * @returns by node, 1 where its late dates or float are other than before
 * @throws {NodeOutsideHorizon} where a late date runs before 1990
 */
export function backwardAgain(
  network: net.Network,
  early: EarlyDates,
  late: LateDates,
  stirred: readonly number[],
  moved: Uint8Array,
): Uint8Array {
  const limit = limiting(network, early, late);
  const waiting = moved.slice();
  const other = moved.slice();
  for (const node of stirred) waiting[node] = other[node] = 1;
  const shifted = new Uint8Array(network.count);
  let node = network.count - 1;
  try {
    for (; node >= 0; node--) {
      if (waiting[node] === 1) shifted[node] = limitAgain(late, node, limit) ? 1 : 0;
      // What comes before it is bound by its late dates, free as far as its early ones let it be, and bound at all by
      // what it is: work that begins just when it was to begin may wait for nothing any more.
      if (shifted[node] === 0 && other[node] === 0) continue;
      for (let link = network.inStart[node]!; link < network.inStart[node + 1]!; link++)
        waiting[network.inLinks.other[link]!] = 1;
    }
  } catch (error) {
    throw error instanceof OutsideHorizon ? new NodeOutsideHorizon(node) : error;
  }
  return shifted;
}

/** Limits a node that may have late dates; gives whether they or its float are others now. */
function limitAgain(late: LateDates, node: number, limit: (node: number) => void): boolean {
  const was = LATE_COLUMNS.map((column) => late[column][node]!);
  for (const column of LATE_COLUMNS) late[column][node] = NaN as never;
  limit(node);
  return LATE_COLUMNS.some((column, i) => !Object.is(late[column][node], was[i]));
}

/**
 * W never decreases, so of all the instants that links to other calendars want only the least is turned into an index,
 * once for finishes and once for starts: most of the pass would else be spent looking up calendars.
 */
function limitWork(
  network: net.Network,
  early: EarlyDates,
  late: LateDates,
  soon: Places,
  node: number,
  endIndex: WorkMinutes,
): void {
  const ownCalendar = network.calendarOf[node]!;
  const calendar = network.calendars[ownCalendar]!;
  const duration = fixedDuration(network, early, node);
  const started = network.state[node] === net.IN_PROGRESS;
  const { other, type, lag, elapsed } = network.outLinks;
  let lateFinish = capFinish(network, node, calendar, endIndex);
  let lateStart = workMinutes(Infinity);
  let soonFinish = endIndex;
  let soonStart = workMinutes(Infinity);
  let lateFinishAt = localMinute(Infinity);
  let lateStartAt = localMinute(Infinity);
  let soonFinishAt = localMinute(Infinity);
  let soonStartAt = localMinute(Infinity);
  if (!started && network.startNotAfter[node] !== net.NONE)
    lateStart = calendar.indexAt(openOf(epochDay(network.startNotAfter[node]!)));
  const last = network.outStart[node + 1]!;
  for (let link = network.outStart[node]!; link < last; link++) {
    const successor = other[link]!;
    const byStart = fromStart(type[link]!);
    // What links no longer move bounds nothing that comes before it.
    if (!isBoundByLinks(network, successor) || (started && byStart)) continue;
    if (network.calendarOf[successor] === ownCalendar && elapsed[link] === 0 && network.kind[successor] === net.WORK) {
      const toItsStart = toStart(type[link]!);
      const lateBound = workMinutes(
        (toItsStart ? late.startIndex[successor]! : late.finishIndex[successor]!) - lag[link]!,
      );
      const soonBound = workMinutes(
        (toItsStart ? soon.startIndex[successor]! : soon.finishIndex[successor]!) - lag[link]!,
      );
      if (byStart) {
        if (lateBound < lateStart) lateStart = lateBound;
        if (soonBound < soonStart) soonStart = soonBound;
      } else {
        if (lateBound < lateFinish) lateFinish = lateBound;
        if (soonBound < soonFinish) soonFinish = soonBound;
      }
      continue;
    }
    const lateBound = wantedAt(network, link, successor, late);
    const soonBound = wantedAt(network, link, successor, soon);
    if (byStart) {
      if (lateBound < lateStartAt) lateStartAt = lateBound;
      if (soonBound < soonStartAt) soonStartAt = soonBound;
    } else {
      if (lateBound < lateFinishAt) lateFinishAt = lateBound;
      if (soonBound < soonFinishAt) soonFinishAt = soonBound;
    }
  }
  if (lateFinishAt < Infinity) {
    lateFinish = lesser(lateFinish, calendar.indexAt(lateFinishAt));
    soonFinish = lesser(soonFinish, calendar.indexAt(soonFinishAt));
  }
  if (lateStartAt < Infinity) {
    lateStart = lesser(lateStart, calendar.lastStartIndex(lateStartAt));
    soonStart = lesser(soonStart, calendar.lastStartIndex(soonStartAt));
  }
  lateFinish = lesser(lateFinish, workMinutes(lateStart + duration));
  lateStart = workMinutes(lateFinish - duration);
  if (lateStart < 0) throw new OutsideHorizon();
  late.finishIndex[node] = lateFinish;
  late.startIndex[node] = lateStart;
  late.startAt[node] = boundAt(calendar, lateStart);
  late.totalFloat[node] = workMinutes(lateFinish - early.finishIndex[node]!);
  late.freeFloat[node] = workMinutes(
    Math.min(soonFinish - early.finishIndex[node]!, soonStart - early.restartIndex[node]!),
  );
}

function capFinish(network: net.Network, node: number, calendar: WorkCalendar, endIndex: WorkMinutes): WorkMinutes {
  let cap = endIndex;
  if (network.finishNotAfter[node] !== net.NONE)
    cap = lesser(cap, calendar.indexAt(closeOf(epochDay(network.finishNotAfter[node]!))));
  if (network.deadline[node] !== net.NONE)
    cap = lesser(cap, calendar.indexAt(closeOf(epochDay(network.deadline[node]!))));
  return cap;
}

function limitMilestone(
  network: net.Network,
  early: EarlyDates,
  late: LateDates,
  soon: Places,
  node: number,
  end: LocalMinute,
): void {
  const calendar = network.calendars[network.calendarOf[node]!]!;
  let lateAt = end;
  for (const day of [network.finishNotAfter[node]!, network.deadline[node]!]) {
    if (day !== net.NONE) lateAt = lesser(lateAt, calendar.finishAt(calendar.indexAt(closeOf(epochDay(day)))));
  }
  if (network.startNotAfter[node] !== net.NONE) {
    lateAt = lesser(lateAt, boundAt(calendar, calendar.indexAt(openOf(epochDay(network.startNotAfter[node]!)))));
  }
  let freeAt = end;
  for (let link = network.outStart[node]!; link < network.outStart[node + 1]!; link++) {
    const successor = network.outLinks.other[link]!;
    if (!isBoundByLinks(network, successor)) continue;
    lateAt = lesser(lateAt, wantedAt(network, link, successor, late));
    freeAt = lesser(freeAt, wantedAt(network, link, successor, soon));
  }
  const index = early.startIndex[node]!;
  late.startAt[node] = lateAt;
  late.totalFloat[node] = workMinutes(calendar.indexAt(lateAt) - index);
  late.freeFloat[node] = workMinutes(calendar.indexAt(freeAt) - index);
}
