import { succession, type Succession } from "../../plan/derived/succession.ts";
import type { CalendarSet } from "../../plan/compileCalendars.ts";
import type { PlanTree } from "../../plan/planTree.ts";
import type { Assignment, PlanBundle } from "../../plan/schema.ts";
import { frameOf, inOrder, nodesByPosition } from "./buildNetwork.ts";
import { linkColumns, linkEndsAgain, placeLinks, type PlacedLinks } from "./linkColumns.ts";
import * as net from "./network.ts";
import { assignmentsByActivity, emptyColumns, isScheduled, kindOf, writeNode } from "./nodeColumns.ts";

/** A plan as it was laid out before. */
export interface LaidOut {
  readonly plan: PlanBundle;
  readonly tree: PlanTree;
  readonly network: net.Network;
}

/** A network made of an earlier one. */
export interface Renewed {
  readonly network: net.Network;
  /** The node before, by node; -1 where it is new. `null` where nodes keep their numbers, and new ones follow them. */
  readonly was: Int32Array | null;
  /** Nodes of which something of their own, of their people or of their links may be other than before. */
  readonly stirred: readonly number[];
}

/**
 * Lays a plan out of how one that it came of was laid out: what stayed is copied, not looked up.
 * @returns `null` where more than rows and links changed: calendars, or what the project's head says of dates
 * @throws {PlanProblems} where the links form a loop
 */
export function renewNetwork(plan: PlanBundle, tree: PlanTree, set: CalendarSet, before: LaidOut): Renewed | null {
  if (!standsOnSame(plan, set, before)) return null;
  const rows = succession(before.plan.activities, plan.activities);
  const touched = touchedRows(plan, tree, before, rows);
  const byActivity = assignmentsByActivity(plan);
  const isIn = (at: number): boolean => {
    const activity = plan.activities[at]!;
    return !tree.parked.has(activity.id) && isScheduled(activity, byActivity.has(activity.id));
  };
  const numbered = numberNodes(before.network, rows, touched, isIn);
  const links = renewLinks(plan, tree, before, rows, numbered);
  const { was } = links;
  const nodeOf =
    links.activityOf === before.network.activityOf
      ? before.network.nodeOf
      : nodesByPosition(links.activityOf, plan.activities.length);
  const mine = touched.flatMap((at) => (nodeOf[at]! < 0 ? [] : [nodeOf[at]!]));
  const network: net.Network = {
    count: links.activityOf.length,
    activityOf: links.activityOf,
    nodeOf,
    calendarSet: set,
    ...renewColumns(plan, links.activityOf, before.network, was, mine),
    ...links.columns,
    ...frameOf(plan),
  };
  return { network, was, stirred: [...mine, ...relinked(network, before.network, was)] };
}

/** Whether calendars, those of people included, and the head are the same in all that dates rest on. */
function standsOnSame(plan: PlanBundle, set: CalendarSet, before: LaidOut): boolean {
  const [now, then] = [plan.project, before.plan.project];
  if (set !== before.network.calendarSet) return false;
  if (now !== then)
    for (const field of ["start", "dataDate", "calendar", "logic"] as const)
      if (now[field] !== then[field]) return false;
  if (plan.people === before.plan.people) return true;
  const calendars = new Map((before.plan.people ?? []).map(({ id, calendar }) => [id, { calendar }]));
  return (plan.people ?? []).every(({ id, calendar }) => {
    const known = calendars.get(id);
    return known === undefined || known.calendar === calendar;
  });
}

/** Positions of activities of which their own row, their people or being parked is other than before; each once. */
function touchedRows(plan: PlanBundle, tree: PlanTree, before: LaidOut, rows: Succession): number[] {
  const touched = new Set(rows.changed);
  const note = ({ activity }: Assignment): void => {
    const at = tree.indexOf.get(activity);
    if (at !== undefined) touched.add(at);
  };
  const [then, now] = [before.plan.assignments ?? NOBODY, plan.assignments ?? NOBODY];
  if (then !== now) {
    const { changed, gone } = succession(then, now);
    for (const at of changed) note(now[at]!);
    for (const at of gone) note(then[at]!);
  }
  if (tree !== before.tree && tree.parked.size + before.tree.parked.size > 0)
    plan.activities.forEach(({ id }, at) => {
      if (tree.parked.has(id) !== before.tree.parked.has(id)) touched.add(at);
    });
  return [...touched];
}

const NOBODY: readonly Assignment[] = [];

interface Numbered {
  readonly activityOf: Int32Array;
  /** As of {@link Renewed}. */
  readonly was: Int32Array | null;
}

/** Nodes that stay keep their order, and what is new comes after them. */
function numberNodes(
  before: net.Network,
  { from, to, inPlace }: Succession,
  touched: readonly number[],
  isIn: (at: number) => boolean,
): Numbered {
  const nodeBefore = (at: number): number => (from[at]! < 0 ? -1 : before.nodeOf[from[at]!]!);
  const come = touched.filter((at) => nodeBefore(at) < 0 && isIn(at));
  const leaves = new Set(touched.filter((at) => nodeBefore(at) >= 0 && !isIn(at)));
  if (inPlace && come.length + leaves.size === 0) return { activityOf: before.activityOf, was: null };
  const activityOf = new Int32Array(before.count + come.length);
  const was = new Int32Array(before.count + come.length).fill(-1);
  let filled = 0;
  for (let node = 0; node < before.count; node++) {
    const at = to[before.activityOf[node]!]!;
    if (at < 0 || leaves.has(at)) continue;
    activityOf[filled] = at;
    was[filled++] = node;
  }
  const stays = filled === before.count;
  for (const at of come) activityOf[filled++] = at;
  return { activityOf: activityOf.subarray(0, filled), was: stays ? null : was.subarray(0, filled) };
}

type LinksOf = ReturnType<typeof linkColumns>;

interface RenewedLinks extends Numbered {
  readonly columns: LinksOf & Pick<net.Network, "ends">;
}

/** Whether the nodes from one on are of rows that were not there before. */
const areAllNew = (activityOf: Int32Array, first: number, { from }: Succession): boolean =>
  activityOf.subarray(first).every((at) => from[at]! < 0);

/** The links of a network, where nodes without any may follow. */
function linksOf({ inStart, inLinks, inRow, linkRows, outStart, outLinks }: net.Network, count: number): LinksOf {
  const longer = (start: Int32Array): Int32Array => {
    if (start.length === count + 1) return start;
    const all = new Int32Array(count + 1).fill(start.at(-1)!);
    all.set(start);
    return all;
  };
  return { inStart: longer(inStart), inLinks, inRow, linkRows, outStart: longer(outStart), outLinks };
}

/** The links of the nodes as they are numbered; where one would lead backwards, nodes are put in order anew. */
function renewLinks(
  plan: PlanBundle,
  tree: PlanTree,
  { plan: then, network }: LaidOut,
  rows: Succession,
  numbered: Numbered,
): RenewedLinks {
  const links = plan.links ?? NO_LINKS;
  const isSame = links === (then.links ?? NO_LINKS);
  const ends =
    isSame && rows.inPlace
      ? network.ends
      : linkEndsAgain(links, tree, { links: then.links ?? NO_LINKS, ends: network.ends }, rows.to);
  // No link that was there leads to a row that was not.
  if (isSame && numbered.was === null && areAllNew(numbered.activityOf, network.count, rows))
    return { ...numbered, columns: { ...linksOf(network, numbered.activityOf.length), ends } };
  const placed = placeLinks(ends, nodesByPosition(numbered.activityOf, plan.activities.length));
  const { activityOf, was, placed: inTurn } = forward(plan, numbered, network.count, placed);
  return { activityOf, was, columns: { ...linkColumns(links, inTurn, activityOf.length), ends } };
}

const NO_LINKS: NonNullable<PlanBundle["links"]> = [];

/**
 * Nodes as they are numbered where every link leads forward in them; else in a new order.
 * @param count how many nodes there were before
 */
function forward(plan: PlanBundle, { activityOf, was }: Numbered, count: number, placed: PlacedLinks) {
  if (placed.from.every((node, i) => node < placed.to[i]!)) return { activityOf, was, placed };
  const ordered = inOrder(plan, activityOf, placed);
  const before = ordered.order.map((node) => (was === null ? (node < count ? node : -1) : was[node]!));
  return { activityOf: ordered.activityOf, was: before, placed: ordered.links };
}

/** The columns of nodes as they were, written anew for some; one in which nothing is written is the same as before. */
function renewColumns(
  plan: PlanBundle,
  activityOf: Int32Array,
  before: net.Network,
  was: Int32Array | null,
  written: readonly number[],
) {
  const columns = columnsBefore(activityOf.length, before, was);
  const byActivity = assignmentsByActivity(plan);
  const parts = new PartsOf(was === null ? before.parts : partsOf(before, was));
  const calendars = [...before.calendars];
  const one = emptyColumns(1);
  for (const node of written) {
    const activity = plan.activities[activityOf[node]!]!;
    const calendar = before.calendarSet.get(activity.calendar ?? plan.project.calendar);
    const known = calendars.indexOf(calendar);
    one.calendarOf[0] = known < 0 ? calendars.push(calendar) - 1 : known;
    one.kind[0] = kindOf(activity);
    const assigned = byActivity.get(activity.id) ?? [];
    parts.set(node, writeNode(one, 0, activity, assigned, plan, before.calendarSet));
    for (const column of COLUMNS) {
      if (columns[column][node] === one[column][0]) continue;
      if (columns[column] === before[column]) Object.assign(columns, { [column]: before[column].slice() });
      columns[column][node] = one[column][0]!;
    }
  }
  return { ...columns, calendars, parts: parts.all };
}

type Columns = ReturnType<typeof emptyColumns>;

function columnsBefore(count: number, before: net.Network, was: Int32Array | null): Columns {
  if (was === null && count === before.count)
    return Object.fromEntries(COLUMNS.map((column) => [column, before[column]])) as unknown as Columns;
  const columns = emptyColumns(count);
  for (const column of COLUMNS) net.gather(before[column], was, columns[column]);
  return columns;
}

type Parts = net.Network["parts"];

/** The parts of nodes whose people decide their finish, copied when one of them is first written. */
class PartsOf {
  private own: Map<number, readonly net.EffortPart[]> | undefined;
  constructor(private readonly before: Parts) {}

  get all(): Parts {
    return this.own ?? this.before;
  }

  set(node: number, parts: readonly net.EffortPart[] | null): void {
    if (parts === null && !this.all.has(node)) return;
    this.own ??= new Map(this.before);
    if (parts === null) this.own.delete(node);
    else this.own.set(node, parts);
  }
}

const COLUMNS = Object.keys(emptyColumns(0)) as (keyof Columns)[];

function partsOf(before: net.Network, was: Int32Array): Map<number, readonly net.EffortPart[]> {
  const parts = new Map<number, readonly net.EffortPart[]>();
  if (before.parts.size === 0) return parts;
  was.forEach((old, node) => {
    const own = before.parts.get(old);
    if (own !== undefined) parts.set(node, own);
  });
  return parts;
}

/** Nodes that are new or whose links, in or out, are not those that they had. */
function relinked(now: net.Network, before: net.Network, was: Int32Array | null): number[] {
  if (now.inLinks === before.inLinks) return [];
  const found: number[] = [];
  for (let node = 0; node < now.count; node++) {
    const old = was === null ? (node < before.count ? node : -1) : was[node]!;
    if (old < 0 || !sameLinksInto(now, node, before, old)) {
      found.push(node);
      // What lost a link, or has one more, is bound by other links than it was.
      for (let l = now.inStart[node]!; l < now.inStart[node + 1]!; l++) found.push(now.inLinks.other[l]!);
    } else if (now.outStart[node + 1]! - now.outStart[node]! !== before.outStart[old + 1]! - before.outStart[old]!)
      found.push(node);
  }
  return found;
}

function sameLinksInto(now: net.Network, node: number, before: net.Network, old: number): boolean {
  const [start, end] = [now.inStart[node]!, now.inStart[node + 1]!];
  const shift = before.inStart[old]! - start;
  if (before.inStart[old + 1]! - shift !== end) return false;
  for (let l = start; l < end; l++)
    if (now.linkRows[now.inRow[l]!] !== before.linkRows[before.inRow[l + shift]!]) return false;
  return true;
}
