import { remembered } from "./derived/remembered.ts";
import { succession } from "./derived/succession.ts";
import type { Activity } from "./schema.ts";

/** The position of each row of a table by its id. */
export const positionsOf = remembered((rows: readonly { readonly id: string }[]): ReadonlyMap<string, number> => {
  const positions = new Map<string, number>();
  for (let i = 0; i < rows.length; i++) positions.set(rows[i]!.id, i);
  return positions;
});

/** The tree of a plan's activities, by position in the table. */
export interface PlanTree {
  /** Position of each activity by id. */
  readonly indexOf: ReadonlyMap<string, number>;
  /** Position of each activity's parent, -1 where it has none. */
  readonly parentOf: Int32Array;
  /** All positions, every parent before what is below it. */
  readonly parentsFirst: Int32Array;
  /** The ids of what is parked itself or lies below something parked. */
  readonly parked: ReadonlySet<string>;
  /** Positions of what spans others (`levelOfEffort`) and is not parked. */
  readonly spans: readonly number[];
}

/** The tree; the parents must exist and form no loop. */
export const planTree = remembered((activities: readonly Activity[]): PlanTree => {
  const count = activities.length;
  const indexOf = positionsOf(activities);
  const parentOf = new Int32Array(count).fill(-1);
  for (let i = 0; i < count; i++) {
    const parent = activities[i]!.parent;
    if (parent !== undefined) parentOf[i] = indexOf.get(parent)!;
  }
  const parentsFirst = orderParentsFirst(parentOf);
  const parked = new Set<string>();
  for (const i of parentsFirst) {
    const activity = activities[i]!;
    if (activity.parked === true || (activity.parent !== undefined && parked.has(activity.parent)))
      parked.add(activity.id);
  }
  const spans: number[] = [];
  for (let i = 0; i < count; i++)
    if (activities[i]!.kind === "levelOfEffort" && !parked.has(activities[i]!.id)) spans.push(i);
  return { indexOf, parentOf, parentsFirst, parked, spans };
});

/**
 * Has what is derived of activities hold of those that came of them, as far as no change bears on it: ids and their
 * places, and the tree.
 */
export function handOnTree(before: readonly Activity[], after: readonly Activity[]): void {
  if (before === after) return;
  const { inPlace, changed } = succession(before, after);
  if (!inPlace) return;
  positionsOf.holdsOf(after, before);
  const isSameTree = changed.every((i) => {
    const [was, now] = [before[i]!, after[i]!];
    return was.parent === now.parent && was.parked === now.parked && was.kind === now.kind;
  });
  if (isSameTree) planTree.holdsOf(after, before);
}

function orderParentsFirst(parentOf: Int32Array): Int32Array {
  const count = parentOf.length;
  const order = new Int32Array(count);
  const placed = new Uint8Array(count);
  const path: number[] = [];
  let filled = 0;
  for (let i = 0; i < count; i++) {
    for (let at = i; at >= 0 && placed[at] === 0; at = parentOf[at]!) path.push(at);
    while (path.length > 0) {
      const at = path.pop()!;
      placed[at] = 1;
      order[filled++] = at;
    }
  }
  return order;
}

/** Ids of some rows of a tree and of all that lies below them; a parent may stand after what is below it. */
export function withBelow(
  rows: Iterable<{ readonly id: string; readonly parent?: string | null | undefined }>,
  roots: Iterable<string>,
): Set<string> {
  const all = [...rows];
  const found = new Set(roots);
  for (let before = -1; before !== found.size;) {
    before = found.size;
    for (const { id, parent } of all) if (parent != null && found.has(parent)) found.add(id);
  }
  return found;
}
