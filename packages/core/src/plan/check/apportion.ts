import { planTree, positionsOf, type PlanTree } from "../planTree.ts";
import type { Problem } from "../problem.ts";
import type { Activity, PlanBundle } from "../schema.ts";

const isApportioned = (activity: Activity): boolean =>
  activity.kind !== "summary" && activity.credit?.rule === "apportioned";

/**
 * Positions of a plan's activities such that whatever an activity's percent rests on comes before it: a summary
 * after what is below it, an apportioned activity after the one it follows.
 * @returns the order, or the ids of one loop in walking order
 */
export function earningOrder(
  activities: readonly Activity[],
  { parentOf, parentsFirst }: PlanTree,
): { order: ArrayLike<number> } | { loop: string[] } {
  if (!activities.some(isApportioned)) return { order: parentsFirst.toReversed() };
  const count = activities.length;
  const position = positionsOf(activities);
  const below: number[][] = [];
  for (let i = 0; i < count; i++) if (parentOf[i]! >= 0) (below[parentOf[i]!] ??= []).push(i);
  const restsOn = (i: number): readonly number[] =>
    isApportioned(activities[i]!) ? [position.get(activities[i]!.credit!.to!)!] : (below[i] ?? []);
  const UNSEEN = 0,
    OPEN = 1,
    DONE = 2;
  const mark = new Uint8Array(count);
  const order: number[] = [];
  for (let root = 0; root < count; root++) {
    if (mark[root] !== UNSEEN) continue;
    const stack = [{ at: root, next: 0 }];
    mark[root] = OPEN;
    while (stack.length > 0) {
      const top = stack[stack.length - 1]!;
      const target = restsOn(top.at)[top.next++];
      if (target === undefined) {
        mark[top.at] = DONE;
        order.push(top.at);
        stack.pop();
      } else if (mark[target] === OPEN) {
        const path = stack.map((frame) => activities[frame.at]!.id);
        return { loop: path.slice(path.indexOf(activities[target]!.id)) };
      } else if (mark[target] === UNSEEN) {
        mark[target] = OPEN;
        stack.push({ at: target, next: 0 });
      }
    }
  }
  return { order };
}

/** Loops among apportioned activities, which are refused. */
export function apportionLoops(plan: PlanBundle): Problem[] {
  const ordered = earningOrder(plan.activities, planTree(plan.activities));
  if ("order" in ordered) return [];
  const message = `what it is apportioned to rests on itself: ${[...ordered.loop, ordered.loop[0]!].join(" -> ")}`;
  const apportioned = ordered.loop.find((id) =>
    isApportioned(plan.activities.find((activity) => activity.id === id)!),
  )!;
  return [{ table: "activities", row: apportioned, field: "credit.to", message }];
}
