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
  /** The node before, by node; -1 where it is new. `null` where all nodes are what they were. */
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
    was === null && rows.inPlace ? before.network.nodeOf : nodesByPosition(links.activityOf, plan.activities.length);
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
  const stays = filled === before.count && come.length === 0;
  for (const at of come) activityOf[filled++] = at;
  return { activityOf: activityOf.subarray(0, filled), was: stays ? null : was.subarray(0, filled) };
}

const LINK_COLUMNS = ["inStart", "inLinks", "inRow", "linkRows", "outStart", "outLinks"] as const;
type LinkColumn = (typeof LINK_COLUMNS)[number];

interface RenewedLinks extends Numbered {
  readonly columns: Pick<net.Network, LinkColumn | "ends">;
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
  if (isSame && numbered.was === null) {
    const columns = Object.fromEntries(LINK_COLUMNS.map((column) => [column, network[column]]));
    return { ...numbered, columns: { ...(columns as Pick<net.Network, LinkColumn>), ends } };
  }
  const placed = placeLinks(ends, nodesByPosition(numbered.activityOf, plan.activities.length));
  const { activityOf, was, placed: inTurn } = forward(plan, numbered, placed);
  return { activityOf, was, columns: { ...linkColumns(links, inTurn, activityOf.length), ends } };
}

const NO_LINKS: NonNullable<PlanBundle["links"]> = [];

/** Nodes as they are numbered where every link leads forward in them; else in a new order. */
function forward(plan: PlanBundle, { activityOf, was }: Numbered, placed: PlacedLinks) {
  if (placed.from.every((node, i) => node < placed.to[i]!)) return { activityOf, was, placed };
  const ordered = inOrder(plan, activityOf, placed);
  const before = ordered.order.map((node) => (was === null ? node : was[node]!));
  return { activityOf: ordered.activityOf, was: before, placed: ordered.links };
}

/** The columns of nodes: copied, and written anew for some. */
function renewColumns(
  plan: PlanBundle,
  activityOf: Int32Array,
  before: net.Network,
  was: Int32Array | null,
  written: readonly number[],
) {
  const columns = was === null ? copied(before) : gathered(before, was);
  const byActivity = assignmentsByActivity(plan);
  const parts = was === null ? new Map(before.parts) : partsOf(before, was);
  const calendars = [...before.calendars];
  for (const node of written) {
    const activity = plan.activities[activityOf[node]!]!;
    const calendar = before.calendarSet.get(activity.calendar ?? plan.project.calendar);
    const known = calendars.indexOf(calendar);
    columns.calendarOf[node] = known < 0 ? calendars.push(calendar) - 1 : known;
    columns.kind[node] = kindOf(activity);
    const assigned = byActivity.get(activity.id) ?? [];
    const own = writeNode(columns, node, activity, assigned, plan, before.calendarSet);
    if (own === null) parts.delete(node);
    else parts.set(node, own);
  }
  return { ...columns, calendars, parts };
}

type Columns = ReturnType<typeof emptyColumns>;
const COLUMNS = Object.keys(emptyColumns(0)) as (keyof Columns)[];

const copied = (before: Columns): Columns =>
  Object.fromEntries(COLUMNS.map((column) => [column, before[column].slice()])) as unknown as Columns;

function gathered(before: Columns, was: Int32Array): Columns {
  const columns = emptyColumns(was.length);
  for (const column of COLUMNS) net.gather(before[column], was, columns[column]);
  return columns;
}

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
    const old = was === null ? node : was[node]!;
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
