import type { Link } from "../../plan/schema.ts";
import type { CalendarSet } from "../../plan/compileCalendars.ts";
import type { KnownInstants, WorkColumn } from "../../time/columns.ts";
import { localMinute, type LocalMinute, type WorkMinutes } from "../../time/instant.ts";
import type { WorkCalendar } from "../../time/workCalendar.ts";

export const WORK = 0;
export const MILESTONE = 1;

export const NOT_STARTED = 0;
export const IN_PROGRESS = 1;
export const COMPLETE = 2;

export const FS = 0;
export const SS = 1;
export const FF = 2;
export const SF = 3;

/** How an activity's finish comes about: from its duration, its people's effort, or the later of the two. */
export const FIXED = 0;
export const EFFORT = 1;
export const DRIFT = 2;

/** One person's remaining work on an activity whose finish depends on its people. */
export interface EffortPart {
  readonly calendar: WorkCalendar;
  /** Working minutes of `calendar` that are needed: ceil(minutes x 100 / percent of time). */
  readonly minutes: WorkMinutes;
  /** 00:00 of the day before which this part does not go on; 0 where there is none. */
  readonly restartAt: LocalMinute;
}

/** No date: all days count from 0. */
export const NONE = -1;
/** No instant, in the same way. */
export const NO_INSTANT = localMinute(NONE);

/** Links as columns. */
export interface LinkColumns {
  /** The node at the other end: the predecessor of links in, the successor of links out. */
  readonly other: Int32Array;
  readonly type: Uint8Array;
  readonly lag: Float64Array;
  /** 1 where the lag counts in plain minutes. */
  readonly elapsed: Uint8Array;
}

/** Where links begin and end, as positions in the plan's activities, by position in the plan's links. */
export interface LinkEnds {
  readonly from: Int32Array;
  readonly to: Int32Array;
}

/**
 * The scheduled work and milestones of a plan as flat arrays, and the links that are in. Nodes are numbered so that
 * every predecessor comes before its successors: a pass reads all arrays from one end to the other, which at a
 * million nodes is worth a factor of three over visiting them by a list of positions.
 * Instants are minutes, days are counted from 1990-01-01, lags and durations are doubles because data may be huge.
 */
export interface Network {
  readonly count: number;
  /** Position in the plan's activities, by node. */
  readonly activityOf: Int32Array;
  /** Node by position in the plan's activities, or -1. */
  readonly nodeOf: Int32Array;
  readonly kind: Uint8Array;
  readonly state: Uint8Array;
  readonly calendarOf: Uint16Array;
  readonly calendars: readonly WorkCalendar[];
  readonly calendarSet: CalendarSet;
  /** Duration; where in progress, remaining duration. */
  readonly duration: WorkColumn;
  readonly actualStart: KnownInstants;
  readonly actualFinish: KnownInstants;
  /** Days of date wishes, {@link NONE} where there is none; "on" wishes stand in both. */
  readonly startNotBefore: Int32Array;
  readonly startNotAfter: Int32Array;
  readonly finishNotBefore: Int32Array;
  readonly finishNotAfter: Int32Array;
  readonly deadline: Int32Array;
  readonly finishBy: Uint8Array;
  readonly parts: ReadonlyMap<number, readonly EffortPart[]>;
  /** Of all links, those that are not in included. */
  readonly ends: LinkEnds;
  /** Links into node n: `inStart[n] .. inStart[n + 1]`, each with its other end and its own data beside each other. */
  readonly inStart: Int32Array;
  readonly inLinks: LinkColumns;
  /** The plan's own rows of those links: `linkRows[inRow[l]]`; all links of the plan are among the rows. */
  readonly inRow: Int32Array;
  readonly linkRows: readonly Link[];
  /** Links out of node n, laid out again in their own order, so that the backward pass too reads straight on. */
  readonly outStart: Int32Array;
  readonly outLinks: LinkColumns;
  readonly projectStartDay: number;
  /** {@link NONE} without a data date. */
  readonly dataDateDay: number;
  readonly override: boolean;
}

/** Any column of a network or of its dates. */
export type Column = Uint8Array | Uint16Array | Int32Array | Float64Array;

/**
 * Writes into a column what another has of the same nodes; of new ones it stays as it is.
 * @param was the node before, by node; -1 where it is new. `null` where nodes keep their numbers and new ones follow
 */
export function gather(from: Column, was: Int32Array | null, into: Column): void {
  if (was === null) return into.set(from);
  for (let node = 0; node < was.length; node++) if (was[node]! >= 0) into[node] = from[was[node]!]!;
}

/** Rows by key: count, prefix-sum, fill. Rows of one key keep their order. */
export function groupBy(keys: Int32Array, groups: number): { start: Int32Array; items: Int32Array } {
  const start = new Int32Array(groups + 1);
  for (let i = 0; i < keys.length; i++) start[keys[i]! + 1]!++;
  for (let g = 0; g < groups; g++) start[g + 1]! += start[g]!;
  const next = start.slice(0, groups);
  const items = new Int32Array(keys.length);
  for (let i = 0; i < keys.length; i++) items[next[keys[i]!]!++] = i;
  return { start, items };
}

/** An order in which every predecessor comes first, or the nodes of one loop in walking order. */
export function topologicalOrder(
  count: number,
  linkFrom: Int32Array,
  linkTo: Int32Array,
): { order: Int32Array } | { loop: number[] } {
  const out = groupBy(linkFrom, count);
  const waiting = new Int32Array(count);
  for (let l = 0; l < linkTo.length; l++) waiting[linkTo[l]!]!++;
  const order = new Int32Array(count);
  let filled = 0;
  for (let n = 0; n < count; n++) if (waiting[n] === 0) order[filled++] = n;
  for (let next = 0; next < filled; next++) {
    const node = order[next]!;
    for (let o = out.start[node]!; o < out.start[node + 1]!; o++) {
      const to = linkTo[out.items[o]!]!;
      if (--waiting[to]! === 0) order[filled++] = to;
    }
  }
  return filled === count ? { order } : { loop: findLoop(waiting, linkFrom, linkTo) };
}

/** Walks back from a node that still waits to a predecessor that still waits, until one comes round again. */
function findLoop(waiting: Int32Array, linkFrom: Int32Array, linkTo: Int32Array): number[] {
  const waitsFor = new Int32Array(waiting.length).fill(-1);
  for (let l = 0; l < linkTo.length; l++) {
    if (waiting[linkTo[l]!]! > 0 && waiting[linkFrom[l]!]! > 0) waitsFor[linkTo[l]!] = linkFrom[l]!;
  }
  let at = waiting.findIndex((count) => count > 0);
  const seen = new Set<number>();
  while (!seen.has(at)) {
    seen.add(at);
    at = waitsFor[at]!;
  }
  const loop: number[] = [];
  const first = at;
  do {
    loop.push(at);
    at = waitsFor[at]!;
  } while (at !== first);
  return loop.reverse();
}
