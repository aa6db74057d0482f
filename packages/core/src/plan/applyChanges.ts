import type { Change } from "./change.ts";
import type { Plan, PlanTable, PlanTables, Rows } from "./plan.ts";
import { PlanProblems } from "./problem.ts";
import type { Activity } from "./schema.ts";

/** What came of applying changes. */
export interface Applied {
  readonly plan: Plan;
  /** Changes that lead back, in the order in which to apply them; `null` where one of them cannot be undone. */
  readonly inverse: readonly Change[] | null;
  /** The fields that were written, each once: `activities/A/percent`, or `links/7` for a whole row. */
  readonly touched: readonly string[];
}

interface Step {
  readonly plan: Plan;
  readonly inverse: Change | null;
  readonly touched: readonly string[];
}

const refuse = (table: PlanTable, row: string, field: string, message: string): never => {
  throw new PlanProblems([{ table, row, field, message }]);
};

const missing = (table: PlanTable, key: string): never => refuse(table, key, "", "is not in the plan any more; someone may have taken it out");

/** A copy with one row written; the order of the rows stays. */
function withRow<T>(rows: Rows<T>, key: string, row: T): Rows<T> {
  return new Map(rows).set(key, row);
}

/** A copy with one row added before another, or at the end. */
function withRowBefore<T>(rows: Rows<T>, key: string, row: T, before: string | undefined): Rows<T> {
  if (before === undefined || !rows.has(before)) return withRow(rows, key, row);
  const copy = new Map<string, T>();
  for (const [otherKey, other] of rows) {
    if (otherKey === before) copy.set(key, row);
    copy.set(otherKey, other);
  }
  return copy;
}

function keyAfter(rows: Rows<unknown>, key: string): string | undefined {
  const keys = [...rows.keys()];
  return keys[keys.indexOf(key) + 1];
}

type Fields = Record<string, unknown>;

/** Writes fields into a row, `null` clears one; gives what they were. */
function writeFields<T extends object>(row: T, set: Fields): { row: T; were: Fields; names: string[] } {
  const next: Fields = { ...row };
  const were: Fields = {};
  const names: string[] = [];
  for (const [name, value] of Object.entries(set)) {
    if (value === undefined) continue;
    names.push(name);
    were[name] = (row as Fields)[name] ?? null;
    if (value === null) delete next[name];
    else next[name] = value;
  }
  return { row: next as T, were, names };
}

function editActivity(plan: Plan, id: string, set: Fields, inverse: (were: Fields) => Change): Step {
  const activity = plan.activities.get(id) ?? missing("activities", id);
  const written = writeFields<Activity>(activity, set);
  return {
    plan: { ...plan, activities: withRow(plan.activities, id, written.row) },
    inverse: inverse(written.were),
    touched: written.names.map((name) => `activities/${id}/${name}`),
  };
}

function addRow(plan: Plan, table: PlanTable, key: string, row: PlanTables[PlanTable], before: string | undefined, inverse: Change | null): Step {
  const rows = plan[table] as Rows<PlanTables[PlanTable]>;
  if (rows.has(key)) refuse(table, key, "id", "is there already; choose another id");
  return { plan: { ...plan, [table]: withRowBefore(rows, key, row, before) }, inverse, touched: [`${table}/${key}`] };
}

function removeRow(plan: Plan, change: Extract<Change, { type: "removeRow" }>): Step {
  const rows = plan[change.table] as Rows<PlanTables[PlanTable]>;
  const row = rows.get(change.key) ?? missing(change.table, change.key);
  const before = keyAfter(rows, change.key);
  const rest = new Map(rows);
  rest.delete(change.key);
  const back = { type: "addRow", table: change.table, key: change.key, row, ...(before === undefined ? {} : { before }) } as Change;
  return { plan: { ...plan, [change.table]: rest }, inverse: back, touched: [`${change.table}/${change.key}`] };
}

function editProject(plan: Plan, set: Fields, inverse: (were: Fields) => Change): Step {
  const written = writeFields(plan.project, set);
  return { plan: { ...plan, project: written.row }, inverse: inverse(written.were), touched: written.names.map((name) => `project/${name}`) };
}

function editAssignment(plan: Plan, change: Extract<Change, { type: "setRemainingWork" }>): Step {
  const { type, assignment: key, ...set } = change;
  const row = plan.assignments.get(key) ?? missing("assignments", key);
  const written = writeFields(row, set);
  return {
    plan: { ...plan, assignments: withRow(plan.assignments, key, written.row) },
    inverse: { type, assignment: key, ...written.were },
    touched: written.names.map((name) => `assignments/${key}/${name}`),
  };
}

function step(plan: Plan, change: Change): Step {
  switch (change.type) {
    case "setProject":
      return editProject(plan, change.set, (were) => ({ type: "setProject", set: were }) as Change);
    case "setDataDate":
      return editProject(plan, { dataDate: change.date }, (were) => ({ type: "setDataDate", date: were["dataDate"] }) as Change);
    case "setName":
      return editActivity(plan, change.activity, { name: change.name }, (were) => ({ ...change, name: were["name"] as string }));
    case "setDuration":
      return editActivity(plan, change.activity, { durationMinutes: change.minutes }, (were) => ({ ...change, minutes: were["durationMinutes"] as number | null }));
    case "setDeadline":
      return editActivity(plan, change.activity, { deadline: change.date }, (were) => ({ ...change, date: were["deadline"] as string | null }));
    case "setWish":
      return editActivity(plan, change.activity, { wish: change.wish }, (were) => ({ ...change, wish: were["wish"] as typeof change.wish }));
    case "setCredit":
      return editActivity(plan, change.activity, { credit: change.credit }, (were) => ({ ...change, credit: were["credit"] as typeof change.credit }));
    case "setParked":
      return editActivity(plan, change.activity, { parked: change.parked ? true : null }, (were) => ({ ...change, parked: were["parked"] === true }));
    case "reportProgress": {
      const { type, activity, ...set } = change;
      return editActivity(plan, activity, set, (were) => ({ type, activity, ...were }));
    }
    case "setRemainingWork":
      return editAssignment(plan, change);
    case "postTime":
      return addRow(plan, "timeEntries", change.key, change.entry, undefined, null);
    case "postCost":
      return addRow(plan, "actualCosts", change.key, change.cost, undefined, null);
    case "freeze":
      return addRow(plan, "baselines", String(change.baseline.number), change.baseline, undefined, null);
    case "addRow":
      return addRow(plan, change.table, change.key, change.row, change.before, { type: "removeRow", table: change.table, key: change.key });
    case "removeRow":
      return removeRow(plan, change);
    default:
      return change satisfies never;
  }
}

/**
 * Applies changes one after another. The plan that comes out is not checked as a whole: see `checkPlan`.
 * @throws {PlanProblems} where a change names a row that is not there, or adds one that is
 */
export function applyChanges(plan: Plan, changes: readonly Change[]): Applied {
  const inverse: Change[] = [];
  const touched = new Set<string>();
  let reversible = true;
  let at = plan;
  for (const change of changes) {
    const done = step(at, change);
    at = done.plan;
    for (const field of done.touched) touched.add(field);
    if (done.inverse === null) reversible = false;
    else inverse.unshift(done.inverse);
  }
  return { plan: at, inverse: reversible ? inverse : null, touched: [...touched] };
}

/** The value at a touched path, for telling two people what each of them wrote. */
export function valueAtPath(plan: Plan, path: string): unknown {
  const [table, ...rest] = path.split("/");
  if (table === "project") return plan.project[rest.join("/") as keyof Plan["project"]];
  const rows = plan[table as PlanTable] as Rows<object>;
  const whole = rows.get(rest.join("/"));
  if (whole !== undefined) return whole;
  return (rows.get(rest.slice(0, -1).join("/")) as Fields | undefined)?.[rest.at(-1)!];
}

/** Whether writing one path meets writing the other: the same field, or a row and a field of it. */
export const pathsMeet = (a: string, b: string): boolean => a === b || a.startsWith(`${b}/`) || b.startsWith(`${a}/`);
