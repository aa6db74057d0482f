import { planTree, withBelow } from "../plan/planTree.ts";
import type { Plan } from "../plan/plan.ts";
import type { Activity } from "../plan/schema.ts";
import { FreshIds } from "./freshIds.ts";
import { rehung, withHung, type Ids } from "./rehung.ts";

/** A branch that stands several times. */
export interface Repeat {
  readonly activity: string;
  readonly times: number;
  /** Whether one comes after the other; side by side else. */
  readonly inTurn: boolean;
}

/** Work of a set of rows that nothing in it comes before, or after. */
export function endsOf(plan: Plan, ids: ReadonlySet<string>, side: "first" | "last"): string[] {
  const { parked } = planTree([...plan.activities.values()]);
  const inner = new Set<string>();
  for (const { from, to } of plan.links.values())
    if (ids.has(from) && ids.has(to) && !parked.has(from) && !parked.has(to)) inner.add(side === "first" ? to : from);
  return [...ids].filter((id) => plan.activities.get(id)!.kind !== "summary" && !inner.has(id) && !parked.has(id));
}

/** Risks that bear on a branch bear on its copies as well. */
const risksOf = ({ risks }: Plan, copies: readonly Ids[]): Plan["risks"] =>
  new Map(
    [...risks].map(([key, risk]) => [
      key,
      {
        ...risk,
        effects: risk.effects.flatMap((effect) => [
          effect,
          ...copies.flatMap((ids) => {
            const activity = ids.get(effect.activity);
            return activity === undefined ? [] : [{ ...effect, activity }];
          }),
        ]),
      },
    ]),
  );

/** The rows with those of the copies behind the last of the branch, so that what stands after it stays there. */
function rowsOf(plan: Plan, root: string, branch: ReadonlySet<string>, copies: readonly Ids[]): Plan["activities"] {
  const { name } = plan.activities.get(root)!;
  const rows = [...plan.activities];
  const end = rows.findLastIndex(([id]) => branch.has(id)) + 1;
  const copied = copies.flatMap((ids, i) =>
    rows.flatMap(([id, activity]): [string, Activity][] => {
      if (!branch.has(id)) return [];
      const parent = activity.parent === undefined ? undefined : (ids.get(activity.parent) ?? activity.parent);
      const to = activity.credit?.to;
      return [
        [
          ids.get(id)!,
          {
            ...activity,
            id: ids.get(id)!,
            name: id === root ? `${name} ${i + 2}` : activity.name,
            ...(parent === undefined ? {} : { parent }),
            ...(to === undefined ? {} : { credit: { ...activity.credit!, to: ids.get(to) ?? to } }),
          },
        ],
      ];
    }),
  );
  return new Map(
    [...rows.slice(0, end), ...copied, ...rows.slice(end)].map(([id, activity]) => [
      id,
      id === root ? { ...activity, name: `${name} 1` } : activity,
    ]),
  );
}

/**
 * A plan in which a branch stands several times, numbered from 1: with its work, people, costs and links, those to the
 * outside too; each copy comes after the one before it where they come in turn.
 * @param repeat of a branch that is in the plan; once leaves it as it is
 */
export function repeated(plan: Plan, { activity: root, times, inTurn }: Repeat): Plan {
  if (times <= 1 || !plan.activities.has(root)) return plan;
  const branch = withBelow(plan.activities.values(), [root]);
  const fresh = new FreshIds(
    [plan.activities, plan.links, plan.assignments, plan.costs, plan.meetings, plan.alternates].flatMap((rows) => [
      ...rows.keys(),
    ]),
  );
  const copies = Array.from({ length: times - 1 }, (_, i): Ids => {
    const ids = new Map<string, string>();
    for (const id of branch) ids.set(id, fresh.made(id, `${i + 2}`));
    return ids;
  });
  const activities = rowsOf(plan, root, branch, copies);
  const hung = copies.map((activity, i) =>
    rehung(plan, {
      activity,
      person: (id) => id,
      field: (id) => id,
      fresh: (key) => fresh.made(key, `${i + 2}`),
    }),
  );
  const next: Plan = { ...withHung(plan, hung), activities, risks: risksOf(plan, copies) };
  return inTurn ? oneAfterAnother(next, [branch, ...copies.map((ids) => new Set(ids.values()))], fresh) : next;
}

/** Branches one after the other: where several ends meet several beginnings, by a milestone between them. */
function oneAfterAnother(plan: Plan, turns: readonly ReadonlySet<string>[], fresh: FreshIds): Plan {
  const links = new Map(plan.links);
  const order = [...plan.activities.keys()];
  /** Milestones by the row that they stand behind. */
  const joints = new Map<string, Activity>();
  const link = (from: string, to: string): void => void links.set(fresh.made(from, "turn"), { from, to });
  turns.slice(1).forEach((turn, i) => {
    const done = turns[i]!;
    const [ends, begins] = [endsOf(plan, done, "last"), endsOf(plan, turn, "first")];
    if (ends.length <= 1 || begins.length <= 1) return ends.forEach((from) => begins.forEach((to) => link(from, to)));
    const { id: root, name, parent } = plan.activities.get([...done][0]!)!;
    const id = fresh.made(root, "done");
    const above = parent === undefined ? {} : { parent };
    joints.set(
      order.findLast((row) => done.has(row))!,
      { id, name: `${name} complete`, kind: "milestone", ...above },
    );
    for (const from of ends) link(from, id);
    for (const to of begins) link(id, to);
  });
  const rows = [...plan.activities].flatMap(([id, row]): [string, Activity][] => {
    const joint = joints.get(id);
    return joint === undefined
      ? [[id, row]]
      : [
          [id, row],
          [joint.id, joint],
        ];
  });
  return { ...plan, activities: new Map(rows), links };
}
