import type { Change } from "./change.ts";
import type { Plan } from "./plan.ts";

/** Changes that take out what a plan's own tables say of activities that go: values, blocks, promises, ranges, what risks do to them, meetings, and their place among alternates. */
export function ownRowsOf(plan: Plan, isGone: ReadonlySet<string>): Change[] {
  return [
    ...[...plan.ownValues].flatMap(([activity, values]) =>
      isGone.has(activity)
        ? Object.keys(values).map((field): Change => ({ type: "setOwnValue", activity, field, value: null }))
        : [],
    ),
    ...[...plan.blocks.keys()].flatMap((key): Change[] =>
      isGone.has(key) ? [{ type: "removeRow", table: "blocks", key }] : [],
    ),
    ...[...plan.promises.keys()].flatMap((key): Change[] =>
      isGone.has(key) ? [{ type: "removeRow", table: "promises", key }] : [],
    ),
    ...[...plan.ranges.keys()].flatMap((key): Change[] =>
      isGone.has(key) ? [{ type: "removeRow", table: "ranges", key }] : [],
    ),
    ...[...plan.risks].flatMap(([key, { effects }]): Change[] => {
      const left = effects.filter(({ activity }) => !isGone.has(activity));
      return left.length === effects.length ? [] : [{ type: "editRow", table: "risks", key, set: { effects: left } }];
    }),
    ...[...plan.meetings].flatMap(([key, { activity }]): Change[] =>
      isGone.has(activity) ? [{ type: "removeRow", table: "meetings", key }] : [],
    ),
    ...[...plan.alternates].flatMap(([key, { members }]): Change[] => {
      const left = members.filter((member) => !isGone.has(member));
      if (left.length === members.length) return [];
      return [
        left.length < 2
          ? { type: "removeRow", table: "alternates", key }
          : { type: "editRow", table: "alternates", key, set: { members: left } },
      ];
    }),
  ];
}

/** Changes that take a person out of the meetings they go to; a meeting of nobody goes. */
export function meetingsWithout(plan: Plan, person: string): Change[] {
  return [...plan.meetings].flatMap(([key, row]): Change[] => {
    if (!row.people.includes(person)) return [];
    const people = row.people.filter((each) => each !== person);
    return [
      { type: "removeRow", table: "meetings", key },
      ...(people.length === 0 ? [] : [{ type: "addRow", table: "meetings", key, row: { ...row, people } } as const]),
    ];
  });
}
