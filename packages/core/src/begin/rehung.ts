import type { Plan } from "../plan/plan.ts";

export type Ids = ReadonlyMap<string, string>;

/** How ids of a plan are called where its rows go to. */
export interface Names {
  /** Activities that go; others stay what they are. */
  readonly activity: Ids;
  readonly person: (id: string) => string;
  readonly field: (id: string) => string;
  /** A key that nothing has yet, for a row that had another. */
  readonly fresh: (key: string) => string;
}

const HANGING = [
  "links",
  "carried",
  "assignments",
  "costs",
  "meetings",
  "ownValues",
  "notes",
  "ranges",
  "alternates",
] as const satisfies readonly (keyof Plan)[];
type Rehung = Pick<Plan, (typeof HANGING)[number]>;

/** Rows of a table under other keys; those that `to` gives nothing for are left out. */
const keyed = <T>(
  rows: ReadonlyMap<string, T>,
  to: (key: string, row: T) => readonly [string, T] | null,
): Map<string, T> => new Map([...rows].flatMap(([key, row]) => [to(key, row)].filter((each) => each !== null)));

/** All that hangs on some activities, hung on those they become; a link goes with either of its ends. */
export function rehung(plan: Plan, { activity, person, field, fresh }: Names): Rehung {
  const on = <R extends { readonly activity: string }>(row: R): R | null => {
    const to = activity.get(row.activity);
    return to === undefined ? null : { ...row, activity: to };
  };
  const hung = <R extends { readonly activity: string }>(
    rows: ReadonlyMap<string, R>,
    as: (row: R, key: string) => R,
  ) =>
    keyed(rows, (key, row) => {
      const next = on(row);
      const made = next === null ? "" : fresh(key);
      return next === null ? null : [made, as(next, made)];
    });
  const byActivity = <R>(rows: ReadonlyMap<string, R>, as: (row: R) => R = (row) => row) =>
    keyed(rows, (key, row) => (activity.has(key) ? [activity.get(key)!, as(row)] : null));
  const carried = new Map<string, { by: string[] }>();
  const links = keyed(plan.links, (key, link) => {
    const [from, to] = [activity.get(link.from), activity.get(link.to)];
    if (from === undefined && to === undefined) return null;
    const made = fresh(key);
    const by = plan.carried.get(key)?.by;
    if (by !== undefined) carried.set(made, { by: by.map((id) => activity.get(id) ?? id) });
    return [made, { ...link, from: from ?? link.from, to: to ?? link.to }];
  });
  return {
    links,
    carried,
    assignments: hung(plan.assignments, (row) => ({ ...row, person: person(row.person) })),
    costs: hung(plan.costs, (row, id) => ({ ...row, id })),
    meetings: hung(plan.meetings, (row, id) => ({ ...row, id, people: row.people.map(person) })),
    ownValues: byActivity(plan.ownValues, (values) =>
      Object.fromEntries(Object.entries(values).map(([of, value]) => [field(of), value])),
    ),
    notes: byActivity(plan.notes),
    ranges: byActivity(plan.ranges),
    alternates: keyed(plan.alternates, (key, row) => {
      if (!row.members.every((id) => activity.has(id))) return null;
      const id = fresh(key);
      return [id, { ...row, id, members: row.members.map((member) => activity.get(member)!) }];
    }),
  };
}

/** A plan with what was hung anew put behind what it has. */
export function withHung(plan: Plan, all: readonly Rehung[]): Plan {
  const tables = HANGING.map((table) => [
    table,
    new Map<string, unknown>([plan, ...all].flatMap((each) => [...(each[table] as ReadonlyMap<string, unknown>)])),
  ]);
  return { ...plan, ...(Object.fromEntries(tables) as Rehung) };
}
