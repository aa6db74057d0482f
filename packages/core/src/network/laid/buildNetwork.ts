import type { PlanTree } from "../../plan/planTree.ts";
import { linkLabel, PlanProblems } from "../../plan/problem.ts";
import type { Activity, PlanBundle } from "../../plan/schema.ts";
import type { CalendarSet } from "../../plan/compileCalendars.ts";
import { parseDate } from "../../time/instant.ts";
import { linkColumns, linkEnds, placeLinks, renumbered, type PlacedLinks } from "./linkColumns.ts";
import * as net from "./network.ts";
import { activityColumns, assignmentsByActivity, dayOr, isScheduled } from "./nodeColumns.ts";

/**
 * Lays a checked plan out as arrays.
 * @throws {PlanProblems} where the links that are in form a loop, with the activities on it in order
 */
export function buildNetwork(plan: PlanBundle, tree: PlanTree, calendarSet: CalendarSet): net.Network {
  const { activities } = plan;
  const byActivity = assignmentsByActivity(plan);
  const scheduled: number[] = [];
  for (let i = 0; i < activities.length; i++) {
    const activity = activities[i]!;
    if (!tree.parked.has(activity.id) && isScheduled(activity, byActivity.has(activity.id))) scheduled.push(i);
  }
  const asTheyStand = Int32Array.from(scheduled);
  const ends = linkEnds(plan.links ?? [], tree);
  const placed = placeLinks(ends, nodesByPosition(asTheyStand, activities.length));
  const { activityOf, links } = inOrder(plan, asTheyStand, placed);
  return {
    count: activityOf.length,
    activityOf,
    nodeOf: nodesByPosition(activityOf, activities.length),
    calendarSet,
    ...activityColumns(plan, activityOf, calendarSet, byActivity),
    ends,
    ...linkColumns(plan.links ?? [], links, activityOf.length),
    ...frameOf(plan),
  };
}

/** What of a project's head bears on its dates. */
export const frameOf = ({ project }: PlanBundle) => ({
  projectStartDay: parseDate(project.start)!,
  dataDateDay: dayOr(project.dataDate),
  override: project.logic === "override",
});

/** Nodes by position in a plan's activities, -1 where there is none. */
export function nodesByPosition(activityOf: Int32Array, activities: number): Int32Array {
  const nodeOf = new Int32Array(activities).fill(-1);
  for (let node = 0; node < activityOf.length; node++) nodeOf[activityOf[node]!] = node;
  return nodeOf;
}

/**
 * Nodes put in an order in which every predecessor comes first, and the links with their new numbers.
 * @param activityOf the nodes as they are numbered so far
 * @returns besides, the former number of each node
 * @throws {PlanProblems} where the links form a loop
 */
export function inOrder(
  { activities }: PlanBundle,
  activityOf: Int32Array,
  links: PlacedLinks,
): { activityOf: Int32Array; links: PlacedLinks; order: Int32Array } {
  const count = activityOf.length;
  const ordered = net.topologicalOrder(count, links.from, links.to);
  if ("loop" in ordered) throw loopProblem(ordered.loop.map((node) => activities[activityOf[node]!]!));
  const { order } = ordered;
  const nodeAt = new Int32Array(count);
  for (let node = 0; node < count; node++) nodeAt[order[node]!] = node;
  return { activityOf: order.map((node) => activityOf[node]!), links: renumbered(links, nodeAt), order };
}

function loopProblem(loop: readonly Activity[]): PlanProblems {
  const ids = [...loop.map((activity) => activity.id), loop[0]!.id];
  const message = `the links form a loop: ${ids.join(" -> ")}; take one of them out`;
  return new PlanProblems([
    { table: "links", row: linkLabel({ from: ids[0]!, to: ids[1]! }), field: "to", message, loop: ids },
  ]);
}
