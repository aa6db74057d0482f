import { earlyFinish } from "../network/schedule.ts";
import { withBelow } from "../plan/planTree.ts";
import { compileCalendars } from "../plan/compileCalendars.ts";
import { emptyOwnTables, toBundle, type Plan } from "../plan/plan.ts";
import type { Activity, ProjectHead } from "../plan/schema.ts";
import { addDays, finishDayOf, formatDate } from "../time/instant.ts";
import { FreshIds } from "./freshIds.ts";
import { movedTo } from "./movedTo.ts";
import { rehung, withHung, type Ids } from "./rehung.ts";
import { endsOf } from "./repeated.ts";

/** A plan that becomes a branch of another. */
export interface Part {
  readonly name: string;
  readonly plan: Plan;
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Makes ids for the rows of one part. */
type Made = (id: string) => string;

/** What two tables come to together: rows of one id that say the same are one, others get an id of their own. */
function together<T extends { readonly id: string }>(
  rows: ReadonlyMap<string, T>,
  more: Iterable<T>,
  made: Made,
  isSame: (a: T, b: T) => boolean = same,
): { rows: Map<string, T>; ids: Ids } {
  const all = new Map(rows);
  const ids = new Map<string, string>();
  for (const row of more) {
    const known = all.get(row.id);
    const id = known === undefined || isSame(known, row) ? row.id : made(row.id);
    if (id !== row.id || known === undefined) all.set(id, { ...row, id });
    ids.set(row.id, id);
  }
  return { rows: all, ids };
}

/** The whole with the calendars, people, fields, teams and categories of a part, and what they are called there. */
function withCommon(whole: Plan, plan: Plan, made: Made) {
  const calendars = together(whole.calendars, plan.calendars.values(), made);
  const calendar: Made = (id) => calendars.ids.get(id) ?? id;
  for (const id of calendars.ids.values()) {
    const row = calendars.rows.get(id)!;
    if (row.base !== undefined && calendar(row.base) !== row.base)
      calendars.rows.set(id, { ...row, base: calendar(row.base) });
  }
  const staff = [...plan.people.values()].map((row) =>
    row.calendar === undefined ? row : { ...row, calendar: calendar(row.calendar) },
  );
  const people = together(whole.people, staff, made, (a, b) => a.name === b.name && a.role === b.role);
  const person: Made = (id) => people.ids.get(id)!;
  const fields = together(whole.fields, plan.fields.values(), made);
  const teams = [...plan.teams.values()].map((team) => ({ ...team, members: team.members.map(person) }));
  const known = new Set([...whole.categories.values()].map(({ name }) => name));
  const categories = [...plan.categories.values()].filter(({ name }) => !known.has(name));
  return {
    calendar,
    person,
    field: (id: string): string => fields.ids.get(id)!,
    common: {
      calendars: calendars.rows,
      people: people.rows,
      fields: fields.rows,
      teams: together(whole.teams, teams, made).rows,
      categories: together(whole.categories, categories, made, () => false).rows,
      placeholders: new Map([
        ...whole.placeholders,
        ...[...plan.placeholders.keys()].map((id) => [person(id), { person: person(id) }] as const),
      ]),
    },
  };
}

interface Renaming {
  readonly activity: Ids;
  readonly calendar: Made;
  readonly person: Made;
  /** The row that the part lies below. */
  readonly root: string;
  /** The calendar of the whole project, and of the part's. */
  readonly ofWhole: string;
  readonly ofPart: string;
}

/** An activity of a part as it stands in the whole. What had no calendar goes on by that of the project it came from. */
function asPart(row: Activity, { activity, calendar, person, root, ofWhole, ofPart }: Renaming): Activity {
  const { parent, owner, credit, calendar: own, ...rest } = row;
  const by = own === undefined ? ofPart : calendar(own);
  return {
    ...rest,
    id: activity.get(row.id)!,
    parent: parent === undefined ? root : activity.get(parent)!,
    ...(by === ofWhole || row.kind === "summary" ? {} : { calendar: by }),
    ...(owner === undefined ? {} : { owner: person(owner) }),
    ...(credit === undefined ? {} : { credit }),
    ...(credit?.to === undefined ? {} : { credit: { ...credit, to: activity.get(credit.to)! } }),
  };
}

/** The whole with a part below a row of its own. */
function withPart(whole: Plan, { name, plan }: Part, made: Made): { whole: Plan; root: string } {
  const { calendar, person, field, common } = withCommon(whole, plan, made);
  const activity: Ids = new Map([...plan.activities.keys()].map((id) => [id, made(id)]));
  const root = made("part");
  const renaming = {
    ...{ activity, calendar, person, root },
    ofWhole: whole.project.calendar,
    ofPart: calendar(plan.project.calendar),
  };
  const rows = [...plan.activities.values()].map((row) => asPart(row, renaming));
  const risks = [...plan.risks.values()].map((risk) => ({
    ...risk,
    id: made(risk.id),
    effects: risk.effects.map((effect) => ({ ...effect, activity: activity.get(effect.activity)! })),
  }));
  const top: Activity = { id: root, name, kind: "summary" };
  return {
    root,
    whole: {
      ...withHung({ ...whole, ...common }, [rehung(plan, { activity, person, field, fresh: made })]),
      activities: new Map([...whole.activities, ...[top, ...rows].map((row) => [row.id, row] as const)]),
      risks: new Map([...whole.risks, ...risks.map((risk) => [risk.id, risk] as const)]),
    },
  };
}

const EMPTY = {
  calendars: new Map(),
  people: new Map(),
  activities: new Map(),
  links: new Map(),
  assignments: new Map(),
  costs: new Map(),
  baselines: new Map(),
  timeEntries: new Map(),
  actualCosts: new Map(),
} as const satisfies Partial<Plan>;

const withLinks = (plan: Plan, links: readonly { from: string; to: string }[], made: Made): Plan => ({
  ...plan,
  links: new Map([...plan.links, ...links.map((link) => [made("joint"), link] as const)]),
});

const idsIn = (parts: readonly Part[]): string[] =>
  parts.flatMap(({ plan }) =>
    [plan.calendars, plan.people, plan.fields, plan.activities].flatMap((rows) => [...rows.keys()]),
  );

/**
 * Plans put together into one, a branch each, one after the other: between two stands a milestone that all of the first
 * leads to and all of the second waits for.
 * @param head the project that comes of it; its calendar is the first part's
 * @param parts in their order; each is brought to the day after which the one before it is finished
 * @throws {PlanProblems} where a part cannot be scheduled
 */
export function joined(head: Omit<ProjectHead, "calendar">, parts: readonly Part[]): Plan {
  const fresh = new FreshIds(idsIn(parts));
  let plan: Plan = {
    ...EMPTY,
    ...emptyOwnTables(),
    project: { ...head, calendar: parts[0]!.plan.project.calendar },
  };
  let { start } = head;
  let before: string | null = null;
  parts.forEach((part, i) => {
    const made: Made = (id) => fresh.made(id, `${i + 1}`);
    const { whole, root } = withPart(plan, { ...part, plan: movedTo(part.plan, start) }, made);
    const rows = withBelow(whole.activities.values(), [root]);
    const joint = before;
    plan = withLinks(
      whole,
      joint === null ? [] : endsOf(whole, rows, "first").map((to) => ({ from: joint, to })),
      made,
    );
    if (i === parts.length - 1) return;
    const milestone: Activity = { id: made("joint"), name: `${part.name} complete`, kind: "milestone" };
    before = milestone.id;
    const ends = endsOf(plan, rows, "last").map((from) => ({ from, to: milestone.id }));
    plan = withLinks({ ...plan, activities: new Map([...plan.activities, [milestone.id, milestone]]) }, ends, made);
    const done = earlyFinish(toBundle(plan), null, compileCalendars([...plan.calendars.values()]).set);
    if (done !== null) start = formatDate(addDays(finishDayOf(done), 1));
  });
  return plan;
}
