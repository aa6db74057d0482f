import { withBelow } from "../plan/planTree.ts";
import type { Plan } from "../plan/plan.ts";

/**
 * A branch as a plan of its own: its row and all below it, with what hangs on them; links to the outside are left out.
 * @param root a row of the plan
 */
export function branchAsPlan(plan: Plan, root: string): Plan {
  const inside = withBelow(plan.activities.values(), [root]);
  const only = <T>(rows: ReadonlyMap<string, T>, is: (row: T, key: string) => boolean): Map<string, T> =>
    new Map([...rows].filter(([key, row]) => is(row, key)));
  const onRow = ({ activity }: { readonly activity: string }): boolean => inside.has(activity);
  const activities = only(plan.activities, (_row, id) => inside.has(id));
  const { parent: _parent, ...top } = activities.get(root)!;
  activities.set(root, top);
  const assignments = only(plan.assignments, onRow);
  const meetings = only(plan.meetings, onRow);
  const staff = new Set<string | undefined>([
    ...[...assignments.values()].map(({ person }) => person),
    ...[...activities.values()].map(({ owner }) => owner),
    ...[...meetings.values()].flatMap(({ people }) => people),
  ]);
  const links = only(plan.links, ({ from, to }) => inside.has(from) && inside.has(to));
  return {
    ...plan,
    activities,
    links,
    assignments,
    meetings,
    people: only(plan.people, (_row, id) => staff.has(id)),
    placeholders: only(plan.placeholders, (_row, id) => staff.has(id)),
    teams: new Map(),
    costs: only(plan.costs, onRow),
    ownValues: only(plan.ownValues, (_row, id) => inside.has(id)),
    notes: only(plan.notes, (_row, id) => inside.has(id)),
    ranges: only(plan.ranges, (_row, id) => inside.has(id)),
    blocks: only(plan.blocks, (_row, id) => inside.has(id)),
    promises: only(plan.promises, (_row, id) => inside.has(id)),
    risks: new Map(
      [...plan.risks].flatMap(([key, risk]) => {
        const effects = risk.effects.filter(onRow);
        return effects.length === 0 ? [] : [[key, { ...risk, effects }]];
      }),
    ),
    timeboxes: only(plan.timeboxes, ({ branch }) => branch === undefined || inside.has(branch)),
    boxed: only(plan.boxed, (_row, id) => inside.has(id)),
    gathered: only(plan.gathered, ({ milestone }, id) => inside.has(id) && inside.has(milestone)),
    alternates: only(plan.alternates, ({ members }) => members.every((id) => inside.has(id))),
    carried: only(plan.carried, ({ by }, key) => links.has(key) && by.every((id) => inside.has(id))),
    baselines: new Map(),
    timeEntries: only(plan.timeEntries, onRow),
    actualCosts: only(plan.actualCosts, onRow),
  };
}
