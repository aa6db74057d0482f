import type { Change } from "./change.ts";
import type { Plan, Rows } from "./plan.ts";
import type { PlanTables } from "./rowSchemas.ts";
import type { PlanTable } from "./tables.ts";
import { PlanProblems } from "./problem.ts";

/** What came of applying changes. */
export interface Applied {
  readonly plan: Plan;
  /** Changes that lead back, in the order in which to apply them; `null` where one of them cannot be undone. */
  readonly inverse: readonly Change[] | null;
  /** The same for whatever can be undone, where another change of the list cannot: how fields were before. */
  readonly were: readonly Change[];
  /** The fields that were written, each once: `activities/A/percent`, or `links/7` for a whole row. */
  readonly touched: readonly string[];
}

const refuse = (table: PlanTable, row: string, field: string, message: string): never => {
  throw new PlanProblems([{ table, row, field, message }]);
};

const missing = (table: PlanTable, key: string): never =>
  refuse(table, key, "", "is not in the plan any more; someone may have removed it");

type Row = PlanTables[PlanTable];
type Fields = Record<string, unknown>;

/** A plan being changed: each table is copied when it is first written, so that a long list costs one copy. */
class Draft {
  private readonly own = new Set<PlanTable>();
  constructor(private readonly tables: { -readonly [K in keyof Plan]: Plan[K] }) {}

  get plan(): Plan {
    return this.tables;
  }

  get(table: PlanTable, key: string): Row {
    return (this.tables[table] as Rows<Row>).get(key) ?? missing(table, key);
  }

  set(table: PlanTable, key: string, row: Row): void {
    this.writable(table).set(key, row);
  }

  setProject(project: Plan["project"]): void {
    this.tables.project = project;
  }

  /** Adds a row before another, or at the end. */
  add(table: PlanTable, key: string, row: Row, before: string | undefined): void {
    const rows = this.tables[table] as Rows<Row>;
    if (rows.has(key)) refuse(table, key, "id", "is there already; use another id");
    if (before === undefined || !rows.has(before)) this.writable(table).set(key, row);
    else {
      const placed = new Map<string, Row>();
      rows.forEach((each, at) => {
        if (at === before) placed.set(key, row);
        placed.set(at, each);
      });
      this.replace(table, placed);
    }
  }

  /** Takes a row out; gives the row and the key of the one after it. */
  remove(table: PlanTable, key: string): { row: Row; before: string | undefined } {
    const row = this.get(table, key);
    const keys = [...(this.tables[table] as Rows<Row>).keys()];
    const before = keys[keys.indexOf(key) + 1];
    this.writable(table).delete(key);
    return { row, before };
  }

  private writable(table: PlanTable): Map<string, Row> {
    if (!this.own.has(table)) {
      // Twice as fast as a map made of another's entries.
      const copy = new Map<string, Row>();
      (this.tables[table] as Rows<Row>).forEach((row, key) => copy.set(key, row));
      this.replace(table, copy);
    }
    return this.tables[table] as Map<string, Row>;
  }

  private replace(table: PlanTable, rows: Map<string, Row>): void {
    this.own.add(table);
    (this.tables as Record<PlanTable, Rows<Row>>)[table] = rows;
  }
}

interface Step {
  readonly inverse: Change | null;
  readonly touched: readonly string[];
}

/** Writes fields into a row, `null` clears one; gives what they were. */
function writeFields<T extends object>(row: T, set: Fields): { row: T; were: Fields; names: string[] } {
  const next = { ...row } as Fields;
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

function edit(draft: Draft, table: PlanTable, key: string, set: Fields, inverse: (were: Fields) => Change): Step {
  const written = writeFields(draft.get(table, key), set);
  draft.set(table, key, written.row);
  return { inverse: inverse(written.were), touched: written.names.map((name) => `${table}/${key}/${name}`) };
}

/**
 * Amounts mean what they meant when they were booked or approved: the currency stays from then on, and its decimals as
 * long as there are any amounts at all.
 * @throws {PlanProblems} where they would change
 */
function assertMoneyStays(plan: Plan, set: Fields): void {
  const { project } = plan;
  const refuse = (field: string, message: string): never => {
    throw new PlanProblems([{ table: "project", row: project.code, field, message }]);
  };
  const isBooked =
    plan.actualCosts.size > 0 ||
    plan.baselines.size > 0 ||
    [...plan.timeEntries.values()].some(({ state }) => state === "posted");
  if (set["currency"] !== undefined && set["currency"] !== project.currency && isBooked)
    refuse("currency", `money is booked or approved in ${project.currency}; the currency stays`);
  const digits = set["minorDigits"] === undefined ? undefined : ((set["minorDigits"] ?? 2) as number);
  const hasAmounts =
    isBooked || plan.costs.size > 0 || [...plan.people.values()].some(({ rates }) => (rates ?? []).length > 0);
  if (digits !== undefined && digits !== (project.minorDigits ?? 2) && hasAmounts)
    refuse("minorDigits", "there are amounts in this currency already; its decimals stay");
}

function editProject(draft: Draft, set: Fields, inverse: (were: Fields) => Change): Step {
  const written = writeFields(draft.plan.project, set);
  draft.setProject(written.row);
  return { inverse: inverse(written.were), touched: written.names.map((name) => `project/${name}`) };
}

function add(
  draft: Draft,
  table: PlanTable,
  key: string,
  row: Row,
  before: string | undefined,
  inverse: Change | null,
): Step {
  draft.add(table, key, row, before);
  return { inverse, touched: [`${table}/${key}`] };
}

function remove(draft: Draft, { table, key }: Extract<Change, { type: "removeRow" }>): Step {
  const { row, before } = draft.remove(table, key);
  const inverse = { type: "addRow", table, key, row, ...(before === undefined ? {} : { before }) } as Change;
  return { inverse, touched: [`${table}/${key}`] };
}

/** A row put elsewhere in the tree and in the order of the table; what lies below it goes along by naming it as parent. */
function moveBranch(draft: Draft, { activity, parent, before }: Extract<Change, { type: "moveBranch" }>): Step {
  const { row, before: wasBefore } = draft.remove("activities", activity);
  const written = writeFields(row as PlanTables["activities"], { parent });
  draft.add("activities", activity, written.row, before ?? undefined);
  const inverse: Change = {
    type: "moveBranch",
    activity,
    parent: (written.were["parent"] as string | null) ?? null,
    before: wasBefore ?? null,
  };
  return { inverse, touched: [`activities/${activity}/parent`, `activities/${activity}/place`] };
}

/** A value of an own field; an activity without any has no row. */
function setOwnValue(draft: Draft, change: Extract<Change, { type: "setOwnValue" }>): Step {
  const { activity, field, value } = change;
  draft.get("activities", activity);
  const written = writeFields(draft.plan.ownValues.get(activity) ?? {}, { [field]: value });
  if (Object.keys(written.row).length > 0) draft.set("ownValues", activity, written.row);
  else if (draft.plan.ownValues.has(activity)) draft.remove("ownValues", activity);
  return {
    inverse: { ...change, value: written.were[field] as typeof value },
    touched: [`ownValues/${activity}/${field}`],
  };
}

function step(draft: Draft, change: Change): Step {
  const editActivity = (id: string, set: Fields, inverse: (were: Fields) => Change): Step =>
    edit(draft, "activities", id, set, inverse);
  switch (change.type) {
    case "setProject":
      assertMoneyStays(draft.plan, change.set);
      return editProject(draft, change.set, (were) => ({ type: "setProject", set: were }) as Change);
    case "setDataDate":
      return editProject(
        draft,
        { dataDate: change.date },
        (were) => ({ type: "setDataDate", date: were["dataDate"] }) as Change,
      );
    case "setName":
      return editActivity(change.activity, { name: change.name }, (were) => ({
        ...change,
        name: were["name"] as string,
      }));
    case "setKind":
      return editActivity(change.activity, { kind: change.kind }, (were) => ({
        ...change,
        kind: were["kind"] as typeof change.kind,
      }));
    case "moveBranch":
      return moveBranch(draft, change);
    case "setDuration":
      return editActivity(change.activity, { durationMinutes: change.minutes }, (were) => ({
        ...change,
        minutes: were["durationMinutes"] as number | null,
      }));
    case "setDeadline":
      return editActivity(change.activity, { deadline: change.date }, (were) => ({
        ...change,
        date: were["deadline"] as string | null,
      }));
    case "setWish":
      return editActivity(change.activity, { wish: change.wish }, (were) => ({
        ...change,
        wish: were["wish"] as typeof change.wish,
      }));
    case "setCredit":
      return editActivity(change.activity, { credit: change.credit }, (were) => ({
        ...change,
        credit: were["credit"] as typeof change.credit,
      }));
    case "setParked":
      return editActivity(change.activity, { parked: change.parked ? true : null }, (were) => ({
        ...change,
        parked: were["parked"] === true,
      }));
    case "reportProgress": {
      const { type, activity, ...said } = change;
      // What goes on again was not dropped after all.
      const goesOn =
        said.actualFinish === null &&
        (draft.get("activities", activity) as PlanTables["activities"]).dropped !== undefined;
      return editActivity(activity, goesOn ? { ...said, dropped: null } : said, (were) => ({
        type,
        activity,
        ...were,
      }));
    }
    case "setRemainingWork": {
      const { type, assignment, ...set } = change;
      return edit(draft, "assignments", assignment, set, (were) => ({ type, assignment, ...were }));
    }
    case "setWorking": {
      const { type, activity, ...set } = change;
      return editActivity(activity, set, (were) => ({ type, activity, ...were }));
    }
    case "setOwnValue":
      return setOwnValue(draft, change);
    case "editRow":
      return edit(
        draft,
        change.table,
        change.key,
        change.set as Fields,
        (were) => ({ ...change, set: were }) as Change,
      );
    case "postTime":
      return add(draft, "timeEntries", change.key, change.entry, undefined, null);
    case "postCost":
      return add(draft, "actualCosts", change.key, change.cost, undefined, null);
    case "freeze":
      return add(draft, "baselines", String(change.baseline.number), change.baseline, undefined, null);
    case "addRow":
      return add(draft, change.table, change.key, change.row, change.before, {
        type: "removeRow",
        table: change.table,
        key: change.key,
      });
    case "removeRow":
      return remove(draft, change);
    default:
      return change satisfies never;
  }
}

/**
 * Applies changes one after another; the plan given stays as it is. What comes out is not checked as a whole: see `checkPlan`.
 * @throws {PlanProblems} where a change names a row that is not there, or adds one that is
 */
export function applyChanges(plan: Plan, changes: readonly Change[]): Applied {
  const draft = new Draft({ ...plan });
  const inverse: Change[] = [];
  const touched = new Set<string>();
  let reversible = true;
  for (const change of changes) {
    const done = step(draft, change);
    for (const field of done.touched) touched.add(field);
    if (done.inverse === null) reversible = false;
    else inverse.push(done.inverse);
  }
  const were = inverse.reverse();
  return { plan: draft.plan, inverse: reversible ? were : null, were, touched: [...touched] };
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
