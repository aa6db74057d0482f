import type { Me, SharedEffect, WatchAct } from "@chronometra/contract";
import { compileCalendars, ownValueFault, type Change, type Person, type Plan } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { storeChanges } from "../plan/changeService.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { effectOn } from "../plan/prepare.ts";
import { writeProjects } from "../plan/writeProjects.ts";
import { isClosed } from "../project/projectAccess.ts";
import { findSeen, mayEdit } from "../project/reach.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { Failure } from "../shared/failure.ts";
import { overPlans, type PlanOf } from "../plan/held/overPlan.ts";
import type { WATCH_WORKS } from "./watchWorks.ts";

const overPlan = overPlans<typeof WATCH_WORKS>();

interface Left {
  readonly project: string;
  readonly id: string;
  readonly name: string;
  readonly why: string;
}

/** Changes to one plan, and rows that the act does not fit. */
interface Planned {
  readonly changes: Change[];
  readonly left: { id: string; name: string; why: string }[];
}

/** Brings someone into a plan who works in another one. */
async function personChange(manager: EntityManager, plan: Plan, person: string): Promise<Change[]> {
  if (plan.people.has(person)) return [];
  const rows = (await manager.query(
    "select doc from plan_row where table_name = 'people' and row_key = ? order by project_id limit 1",
    [person],
  )) as { doc: string }[];
  if (rows.length === 0) throw new Failure("invalid", "There is nobody of that name in any project.");
  const { calendar, ...row } = JSON.parse(rows[0]!.doc) as Person;
  return [
    {
      type: "addRow",
      table: "people",
      key: person,
      row: calendar !== undefined && plan.calendars.has(calendar) ? { ...row, calendar } : row,
    },
  ];
}

function reassigned(plan: Plan, id: string, from: string | null, to: string): Change[] | string {
  const own = [...plan.assignments].filter(([, { activity }]) => activity === id);
  const moved = own.filter(([, { person }]) => (from === null ? person !== to : person === from));
  if (moved.length === 0) return from === null ? "nobody else works on it" : "they do not work on it";
  if (own.some(([, { person }]) => person === to) || moved.length > 1)
    return own.some(([, { person }]) => person === to)
      ? "they work on it already"
      : "several people work on it; select whose work to move";
  return moved.map(([key]): Change => ({ type: "editRow", table: "assignments", key, set: { person: to } }));
}

type Act<D extends WatchAct["act"]["do"]> = Extract<WatchAct["act"], { readonly do: D }>;

/** The changes that an act makes of an activity, or why it leaves it as it is. */
type Of = (id: string) => Change[] | string;

const ownerOf =
  (plan: Plan, { to }: Act<"setOwner">): Of =>
  (id) =>
    plan.activities.get(id)!.owner === (to ?? undefined)
      ? "is so already"
      : [{ type: "setWorking", activity: id, owner: to }];

const deadlineOf =
  (plan: Plan, { date }: Act<"setDeadline">): Of =>
  (id) =>
    plan.activities.get(id)!.kind === "summary"
      ? "a branch has no deadline"
      : [{ type: "setDeadline", activity: id, date }];

function durationOf(plan: Plan, { days }: Act<"setDuration">): Of {
  const { set } = compileCalendars([...plan.calendars.values()]);
  return (id) => {
    const activity = plan.activities.get(id)!;
    if ((activity.kind ?? "work") !== "work") return "has no duration of its own";
    if (activity.driver === "effort") return "its hours decide how long it takes";
    const { dayMinutes } = set.get(activity.calendar ?? plan.project.calendar);
    return [{ type: "setDuration", activity: id, minutes: Math.max(1, Math.round(days * dayMinutes)) }];
  };
}

function ownValueOf(plan: Plan, { field: name, value }: Act<"setOwnValue">): Of {
  const field = [...plan.fields.values()].find((each) => each.name === name);
  return (id) => {
    if (field === undefined) return `its project has no field "${name}"`;
    const fault = value === null ? null : ownValueFault(field, value);
    return fault === null ? [{ type: "setOwnValue", activity: id, field: field.id, value }] : `${name} ${fault}`;
  };
}

async function plannedFor(
  manager: EntityManager,
  { id: project, plan }: PlanOf,
  ids: readonly string[],
  act: WatchAct["act"],
): Promise<Planned> {
  const left: Planned["left"] = [];
  const each = (make: Of): Planned => {
    const changes = ids.flatMap((id) => {
      const activity = plan.activities.get(id);
      const made = activity === undefined ? "no longer in the plan" : make(id);
      if (typeof made !== "string") return made;
      left.push({ id, name: activity?.name ?? id, why: made });
      return [];
    });
    return { changes, left };
  };
  /** As `each`; whoever it names joins the plan first, where anything comes of it. */
  const naming = async (person: string, make: Of): Promise<Planned> => {
    const { changes } = each(make);
    return { changes: changes.length === 0 ? [] : [...(await personChange(manager, plan, person)), ...changes], left };
  };
  switch (act.do) {
    case "pushOut": {
      const reason = act.reason === undefined || act.reason === "" ? `put off by ${act.days} d` : act.reason;
      return overPlan("pushedOut", { id: project, plan }, { ids, days: act.days, reason });
    }
    case "reassign":
      return naming(act.to, (id) => reassigned(plan, id, act.from, act.to));
    case "setOwner":
      return act.to === null ? each(ownerOf(plan, act)) : naming(act.to, ownerOf(plan, act));
    case "setName":
      return each((id) => [{ type: "setName", activity: id, name: act.name }]);
    case "setDeadline":
      return each(deadlineOf(plan, act));
    case "setDuration":
      return each(durationOf(plan, act));
    case "setOwnValue":
      return each(ownValueOf(plan, act));
    default:
      return act satisfies never;
  }
}

const LABELS: Record<WatchAct["act"]["do"], string> = {
  pushOut: "Put off",
  reassign: "Moved to someone else",
  setOwner: "Owner",
  setName: "Name",
  setDuration: "Duration",
  setDeadline: "Deadline",
  setOwnValue: "Own field",
};

/** Chosen rows by project, projects in one order everywhere. */
function byProject(rows: WatchAct["rows"]): [project: string, ids: string[]][] {
  const found = new Map<string, Set<string>>();
  for (const { project, activity } of rows) found.set(project, (found.get(project) ?? new Set()).add(activity));
  return [...found]
    .map(([project, ids]): [string, string[]] => [project, [...ids]])
    .sort(([a], [b]) => (a < b ? -1 : 1));
}

const named = (project: ProjectEntity, left: Planned["left"]): Left[] =>
  left.map((each) => ({ project: project.head.name, ...each }));
const refused = (project: ProjectEntity, plan: Plan, ids: readonly string[], why: string): Left[] =>
  named(
    project,
    ids.map((id) => ({ id, name: plan.activities.get(id)?.name ?? id, why })),
  );

/** Why someone may change nothing in a project; `null` where they may. */
async function notOpen(manager: EntityManager, me: Me, project: ProjectEntity): Promise<string | null> {
  if (!mayEdit(me, project)) return "only the project's manager or a controller may change it";
  return (await isClosed(manager, project)) ? "its project is closed" : null;
}

/** What doing something with rows would move, project by project; stores nothing. */
export async function effectOfAct(
  database: DataSource,
  me: Me,
  { rows, act }: WatchAct,
): Promise<{ effects: SharedEffect; left: Left[] }> {
  const effects: SharedEffect = [];
  const left: Left[] = [];
  for (const [id, ids] of byProject(rows)) {
    const project = await findSeen(database, me, id);
    const plan = await loadPlan(database.manager, project);
    const why = await notOpen(database.manager, me, project);
    if (why !== null) {
      left.push(...refused(project, plan, ids, why));
      continue;
    }
    const planned = await plannedFor(database.manager, { id, plan }, ids, act);
    left.push(...named(project, planned.left));
    if (planned.changes.length > 0)
      effects.push({
        project: id,
        code: project.code,
        name: project.head.name,
        effect: await effectOn({ id, plan }, planned.changes),
      });
  }
  return { effects, left };
}

/** Does something with rows of several projects, all or nothing; rows that it does not fit are left and named. */
export async function doAct(
  database: DataSource,
  me: Me,
  { rows, act }: WatchAct,
): Promise<{ changed: number; left: Left[]; revisions: { project: string; revision: number }[] }> {
  const wanted = byProject(rows);
  return writeProjects(
    database,
    me,
    wanted.map(([id]) => id),
    async (writing) => {
      const left: Left[] = [];
      const revisions: { project: string; revision: number }[] = [];
      let changed = 0;
      for (const [id, ids] of wanted) {
        const why = await notOpen(writing.manager, me, writing.project(id));
        const plan = await writing.plan(writing.project(id));
        if (why !== null) {
          left.push(...refused(writing.project(id), plan, ids, why));
          continue;
        }
        const project = await writing.editable(id);
        const planned = await plannedFor(writing.manager, { id, plan }, ids, act);
        left.push(...named(project, planned.left));
        if (planned.changes.length === 0) continue;
        const count = ids.length - planned.left.length;
        const { result } = await storeChanges(writing, project, {
          changes: planned.changes,
          label: `${LABELS[act.do]}: ${count === 1 ? "an activity" : `${count} activities`} of a watchlist`,
        });
        revisions.push({ project: id, revision: result.revision });
        changed += count;
      }
      return { changed, left, revisions };
    },
    async (plan, { id }) => {
      const ids = wanted.find(([project]) => project === id)![1];
      return (await plannedFor(database.manager, { id, plan }, ids, act)).changes;
    },
  );
}
