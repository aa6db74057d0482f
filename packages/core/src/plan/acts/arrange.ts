import type { Change } from "../change.ts";
import { ownRowsOf } from "./hanging.ts";
import type { Plan } from "../plan.ts";

/** What a planner does to the tree of activities, said by the rows it is done to. */
export type Arrangement =
  | {
      readonly verb: "insert";
      readonly id: string;
      readonly name: string;
      /** The row it comes after; `null` for the end. */ readonly after: string | null;
      readonly inside: boolean;
    }
  | {
      readonly verb: "place";
      readonly ids: readonly string[];
      /** The row to stand before among those below `parent`; `null` for the last. */ readonly before: string | null;
      readonly parent: string | null;
    }
  | { readonly verb: "remove" | "indent" | "outdent" | "up" | "down"; readonly ids: readonly string[] };

/** The tree as it is asked for here: who lies below whom, in the order of the table. */
class Branches {
  private readonly below = new Map<string | null, string[]>();
  constructor(private readonly plan: Plan) {
    for (const { id, parent = null } of plan.activities.values())
      this.below.set(parent, [...(this.below.get(parent) ?? []), id]);
  }

  parentOf(id: string): string | null {
    return this.plan.activities.get(id)?.parent ?? null;
  }

  childrenOf(id: string | null): readonly string[] {
    return this.below.get(id) ?? [];
  }

  /** The sibling so many places on; `null` past either end. */
  siblingOf(id: string, step: number): string | null {
    const siblings = this.childrenOf(this.parentOf(id));
    return siblings[siblings.indexOf(id) + step] ?? null;
  }

  /** Those of some rows that lie below none of the others, in the order of the table. */
  topsOf(ids: readonly string[]): string[] {
    const chosen = new Set(ids);
    const liesBelow = (id: string): boolean => {
      for (let at = this.parentOf(id); at !== null; at = this.parentOf(at)) if (chosen.has(at)) return true;
      return false;
    };
    return [...this.plan.activities.keys()].filter((id) => chosen.has(id) && !liesBelow(id));
  }

  /** A row and all below it, what is deepest first. */
  deepestFirst(id: string): string[] {
    return [...this.childrenOf(id).flatMap((child) => this.deepestFirst(child)), id];
  }
}

/** Work that gets something below it becomes a summary, which has no duration of its own and stands in no timebox. */
function asSummary(plan: Plan, id: string): Change[] {
  const activity = plan.activities.get(id)!;
  if (activity.kind === "summary") return [];
  return [
    { type: "setKind", activity: id, kind: "summary" },
    ...(activity.durationMinutes === undefined ? [] : [{ type: "setDuration", activity: id, minutes: null } as const]),
    // Its work may stand in timeboxes and be gathered, a branch does not.
    ...(["boxed", "gathered"] as const).flatMap((table): Change[] =>
      plan[table].has(id) ? [{ type: "removeRow", table, key: id }] : [],
    ),
  ];
}

/** A summary that has lost all below it is work again, still without a duration. */
const asWork = (branches: Branches, parent: string | null, leaving: readonly string[]): Change[] =>
  parent !== null && branches.childrenOf(parent).every((child) => leaving.includes(child))
    ? [{ type: "setKind", activity: parent, kind: null }]
    : [];

function insert(
  plan: Plan,
  branches: Branches,
  { id, name, after, inside }: Extract<Arrangement, { verb: "insert" }>,
): Change[] {
  if (after === null) return [{ type: "addRow", table: "activities", key: id, row: { id, name } }];
  const parent = inside ? after : branches.parentOf(after);
  const before = inside ? (branches.childrenOf(after)[0] ?? null) : branches.siblingOf(after, 1);
  const row = { id, name, ...(parent === null ? {} : { parent }) };
  return [
    ...(inside ? asSummary(plan, after) : []),
    { type: "addRow", table: "activities", key: id, row, ...(before === null ? {} : { before }) },
  ];
}

/** Rows taken out with all that hangs on them: links, people, costs, and what lies below. */
function remove(plan: Plan, branches: Branches, ids: readonly string[]): Change[] {
  const tops = branches.topsOf(ids);
  const gone = tops.flatMap((id) => branches.deepestFirst(id));
  const isGone = new Set(gone);
  const keysOf = <T extends "links" | "assignments" | "costs">(
    table: T,
    hangs: (row: { from?: string; to?: string; activity?: string }) => boolean,
  ): Change[] =>
    [...plan[table]].flatMap(([key, row]) => (hangs(row) ? [{ type: "removeRow", table, key } as const] : []));
  return [
    ...keysOf("links", ({ from, to }) => isGone.has(from!) || isGone.has(to!)).flatMap((change): Change[] =>
      change.type === "removeRow" && plan.carried.has(change.key)
        ? [change, { ...change, table: "carried" }]
        : [change],
    ),
    ...keysOf("assignments", ({ activity }) => isGone.has(activity!)),
    ...keysOf("costs", ({ activity }) => isGone.has(activity!)),
    ...ownRowsOf(plan, isGone),
    ...gone.map((key) => ({ type: "removeRow", table: "activities", key }) as const),
    ...[...new Set(tops.map((id) => branches.parentOf(id)))].flatMap((parent) =>
      parent !== null && isGone.has(parent) ? [] : asWork(branches, parent, tops),
    ),
  ];
}

/** Rows go below the row before them. */
function indent(plan: Plan, branches: Branches, ids: readonly string[]): Change[] {
  const tops = branches.topsOf(ids);
  const changes: Change[] = [];
  let under: string | null = null;
  for (const id of tops) {
    const former: string | null = branches.siblingOf(id, -1);
    if (former === null) continue;
    // Rows that stand one after another go below the same row, not below each other.
    if (under === null || !tops.includes(former)) {
      under = former;
      changes.push(...asSummary(plan, under));
    }
    changes.push({ type: "moveBranch", activity: id, parent: under, before: null });
  }
  return changes;
}

/** Rows come out from below their parent, to stand after it. */
function outdent(branches: Branches, ids: readonly string[]): Change[] {
  const tops = branches.topsOf(ids).filter((id) => branches.parentOf(id) !== null);
  const moves = tops.map((id): Change => {
    const parent = branches.parentOf(id)!;
    return {
      type: "moveBranch",
      activity: id,
      parent: branches.parentOf(parent),
      before: branches.siblingOf(parent, 1),
    };
  });
  return [
    ...moves,
    ...[...new Set(tops.map((id) => branches.parentOf(id)))].flatMap((parent) => asWork(branches, parent, tops)),
  ];
}

/** Rows of one parent change places with the row before (after) them. */
function shift(branches: Branches, ids: readonly string[], step: -1 | 1): Change[] {
  const tops = branches.topsOf(ids);
  const edge = step < 0 ? tops[0] : tops.at(-1);
  if (edge === undefined) return [];
  const parent = branches.parentOf(edge);
  const neighbour = branches.siblingOf(edge, step);
  if (neighbour === null || tops.some((id) => branches.parentOf(id) !== parent)) return [];
  const before = step < 0 ? neighbour : branches.siblingOf(neighbour, 1);
  return tops.map((activity) => ({ type: "moveBranch", activity, parent, before }));
}

/** Rows put before another, or last below a parent; nothing where they would come to lie below themselves. */
function place(
  plan: Plan,
  branches: Branches,
  { ids, before, parent }: Extract<Arrangement, { verb: "place" }>,
): Change[] {
  const tops = branches.topsOf(ids);
  const moved = new Set(tops);
  for (let at = parent; at !== null; at = branches.parentOf(at)) if (moved.has(at)) return [];
  const siblings = branches.childrenOf(parent);
  const anchor =
    before === null ? null : (siblings.slice(siblings.indexOf(before)).find((id) => !moved.has(id)) ?? null);
  const inPlace = tops.every(
    (id, i) => branches.parentOf(id) === parent && branches.siblingOf(id, 1) === (tops[i + 1] ?? anchor),
  );
  if (inPlace) return [];
  const moves = tops.map((activity): Change => ({ type: "moveBranch", activity, parent, before: anchor }));
  const emptied = [...new Set(tops.map((id) => branches.parentOf(id)))].filter((former) => former !== parent);
  return [
    ...(parent === null ? [] : asSummary(plan, parent)),
    ...moves,
    ...emptied.flatMap((former) => asWork(branches, former, tops)),
  ];
}

/**
 * The changes that an arrangement comes to; none where it moves nothing.
 * They still have to be checked: work with people or links on it cannot become a summary.
 */
export function arrange(plan: Plan, arrangement: Arrangement): Change[] {
  const branches = new Branches(plan);
  switch (arrangement.verb) {
    case "insert":
      return insert(plan, branches, arrangement);
    case "remove":
      return remove(plan, branches, arrangement.ids);
    case "indent":
      return indent(plan, branches, arrangement.ids);
    case "outdent":
      return outdent(branches, arrangement.ids);
    case "up":
      return shift(branches, arrangement.ids, -1);
    case "down":
      return shift(branches, arrangement.ids, 1);
    case "place":
      return place(plan, branches, arrangement);
    default:
      return arrangement satisfies never;
  }
}
