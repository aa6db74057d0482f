import { durationOf } from "../baseline/freeze.ts";
import { schedulePlan } from "../network/schedule.ts";
import { leaveId, worksBy } from "../plan/acts/leave.ts";
import type { ActivityNote, Risk } from "../plan/ownTables.ts";
import { emptyOwnTables, toBundle, type Plan, type Rows } from "../plan/plan.ts";
import type { Activity, Assignment, Calendar, Credit, Person } from "../plan/schema.ts";

/** What of a plan goes along when another begins with it; what happened in it never does. */
export interface TakenAlong {
  /** People by name, only the roles they hold, or nobody. */
  readonly people: "people" | "roles" | "none";
  readonly costs: boolean;
  /** Risks, and how exactly durations are known. */
  readonly risks: boolean;
  readonly deadlines: boolean;
}

type Mutable<T> = { -readonly [K in keyof T]: T[K] };

/** A credit without what was reached. */
function creditAnew({ steps, unitsDone: _done, stage: _stage, ...rest }: Credit): Credit {
  return steps === undefined ? rest : { ...rest, steps: steps.map(({ doneOn: _on, ...step }) => step) };
}

/** The plan as it was meant: an activity without what happened to it. */
function activityAnew(activity: Activity, keepsDeadlines: boolean): Mutable<Activity> {
  const {
    actualStart: _start,
    actualFinish: _finish,
    percent: _percent,
    remainingMinutes: _remaining,
    dropped: _dropped,
    credit,
    deadline,
    ...rest
  } = activity;
  return {
    ...rest,
    ...(credit === undefined ? {} : { credit: creditAnew(credit) }),
    ...(deadline === undefined || !keepsDeadlines ? {} : { deadline }),
  };
}

const SOMEONE = "Someone";
const MOST_LETTERS = 40;

/** A name as it stands in an id. */
const inId = (name: string): string =>
  name
    .normalize("NFD")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "")
    .slice(0, MOST_LETTERS) || "role";

/**
 * Roles in the place of people: "Diver", "Diver 2", in the order of the people; who stands for a role already keeps it.
 * Nobody's leave goes along, so each works by the calendar that lies below it.
 * @returns the roles by the id of the person they replace
 */
function rolesOf(plan: Plan): Map<string, Person> {
  const count = new Map<string, number>();
  const taken = new Set<string>();
  const roles = new Map<string, Person>();
  for (const [id, person] of plan.people) {
    const role = person.role ?? (plan.placeholders.has(id) ? person.name : SOMEONE);
    const number = (count.get(role) ?? 0) + 1;
    count.set(role, number);
    const name = number === 1 ? role : `${role} ${number}`;
    let key = `role-${inId(name)}`;
    while (taken.has(key)) key += "-";
    taken.add(key);
    const calendar = worksBy(plan, person);
    roles.set(id, {
      id: key,
      name,
      role,
      ...(calendar === undefined ? {} : { calendar }),
      ...(person.rates === undefined ? {} : { rates: person.rates }),
    });
  }
  return roles;
}

const entries = <T>(rows: Rows<T>, to: (row: T, key: string) => T | null): Map<string, T> =>
  new Map(
    [...rows].flatMap(([key, row]) => {
      const next = to(row, key);
      return next === null ? [] : [[key, next] as const];
    }),
  );

type Staff = Pick<Plan, "people" | "placeholders" | "teams" | "assignments" | "activities" | "meetings" | "calendars">;

const assignmentAnew = ({ remainingMinutes: _left, restart: _restart, ...rest }: Assignment): Assignment => rest;

/** Calendars that are nobody's own. */
const calendarsOfAll = (plan: Plan): Map<string, Calendar> => {
  const own = new Set([...plan.people.keys()].map(leaveId));
  return entries(plan.calendars, (calendar, id) => (own.has(id) ? null : calendar));
};

/** Who works, as it goes along. */
function staffOf(plan: Plan, activities: Map<string, Activity>, people: TakenAlong["people"]): Staff {
  if (people === "people")
    return {
      people: plan.people,
      placeholders: plan.placeholders,
      teams: plan.teams,
      assignments: entries(plan.assignments, assignmentAnew),
      activities,
      meetings: plan.meetings,
      calendars: plan.calendars,
    };
  const nobody = { teams: new Map(), meetings: new Map(), calendars: calendarsOfAll(plan) };
  const roles = people === "roles" ? rolesOf(plan) : new Map<string, Person>();
  const owned = entries(activities, ({ owner, ...rest }) => {
    const role = owner === undefined ? undefined : roles.get(owner);
    return role === undefined ? rest : { ...rest, owner: role.id };
  });
  if (people === "roles")
    return {
      ...nobody,
      people: new Map([...roles.values()].map((role) => [role.id, role])),
      placeholders: new Map([...roles.values()].map(({ id }) => [id, { person: id }])),
      assignments: entries(plan.assignments, (row) => ({ ...assignmentAnew(row), person: roles.get(row.person)!.id })),
      activities: owned,
    };
  // Without people their hours decide no dates any more: what they came to is the duration.
  const bundle = toBundle(plan);
  const schedule = schedulePlan(bundle);
  const position = new Map(bundle.activities.map(({ id }, i) => [id, i]));
  const timed = entries(owned, (activity) => {
    if (activity.driver !== "effort") return activity;
    const { driver: _driver, ...rest } = activity;
    const row = schedule.rows[position.get(activity.id)!];
    return row == null ? rest : { ...rest, durationMinutes: durationOf(activity, row, bundle, schedule) };
  });
  return { ...nobody, people: new Map(), placeholders: new Map(), assignments: new Map(), activities: timed };
}

/** What is to be thought of is to be thought of again. */
const noteAnew = (note: ActivityNote): ActivityNote =>
  note.checks === undefined ? note : { ...note, checks: note.checks.map(({ done: _done, ...check }) => check) };

/** A risk may come about again, whatever became of it. */
const riskAnew = ({ over: _over, ...risk }: Risk): Risk => risk;

/**
 * A plan as another one would begin with it: its activities, links, calendars, own fields and what else is asked for,
 * on the dates that it has. What happened in it stays behind: time, costs and progress, baselines, the data date, what
 * is blocked, and what was promised to whom.
 * @throws {PlanProblems} where the plan cannot be scheduled, of a plan that leaves its people behind
 */
export function beginAnew(plan: Plan, { people, costs, risks, deadlines }: TakenAlong): Plan {
  const { dataDate: _dataDate, ...project } = plan.project;
  const bare: Plan = {
    ...plan,
    project,
    activities: entries(plan.activities, (activity) => activityAnew(activity, deadlines)),
    assignments: entries(plan.assignments, assignmentAnew),
    baselines: new Map(),
    timeEntries: new Map(),
    actualCosts: new Map(),
  };
  return {
    ...bare,
    ...emptyOwnTables(),
    fields: plan.fields,
    ownValues: plan.ownValues,
    notes: entries(plan.notes, noteAnew),
    categories: plan.categories,
    carried: plan.carried,
    alternates: plan.alternates,
    timeboxes: plan.timeboxes,
    boxed: plan.boxed,
    gathered: plan.gathered,
    ...(risks ? { risks: entries(plan.risks, riskAnew), ranges: plan.ranges } : {}),
    ...staffOf(bare, new Map(bare.activities), people),
    costs: costs ? plan.costs : new Map(),
  };
}
