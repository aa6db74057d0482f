import type { ActivityHistory, Me, OwnPlan, OwnPlanActivity, OwnPlans } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { accountNames } from "../../access/accounts.ts";
import { ownWordsOf } from "../../charter/charter.ts";
import { activityHistory } from "../../plan/history.ts";
import { isClosed } from "../../project/projectAccess.ts";
import { ProjectEntity } from "../../project/projectEntity.ts";
import { maySee } from "../../project/reach.ts";
import { ownActivities, projectsWorkedIn } from "../../project/worksIn.ts";
import { orNotFound } from "../../shared/failure.ts";
import { projectsOf } from "../kept/projectsOf.ts";

/** A project for someone who looks into it or works in it; to others it is not there. */
async function findReadable(database: DataSource, me: Me, id: string): Promise<ProjectEntity> {
  const project = await database.getRepository(ProjectEntity).findOneBy({ id });
  const isReadable =
    project !== null && (maySee(me, project) || (await projectsWorkedIn(database, me.person, [id])).has(id));
  return orNotFound(isReadable ? project : null, "project of that address");
}

interface Counted {
  readonly id: string;
  readonly open: string;
  readonly next: string | null;
  readonly finish: string | null;
  readonly breaking: string;
  readonly closed: string;
}

/** The projects in which someone has work, with what of it is open. */
export async function ownPlans(database: DataSource, me: Me): Promise<OwnPlans> {
  if (me.person === null) return [];
  const projects = await projectsOf(database, me.person);
  const [counted, names] = await Promise.all([
    database.query(
      `select p.id, (select c.project_id from project_closing c where c.project_id = p.id) is not null as closed,
          count(distinct case when r.person_id is not null and a.state in ('notStarted', 'inProgress') then a.activity_id end) as open,
          min(case when r.person_id is not null and a.state in ('notStarted', 'inProgress') then a.finish end) as next,
          max(a.finish) as finish,
          count(distinct case when a.deadline_state in ('breached', 'willBreach') then a.activity_id end) as breaking
        from project p join activity_row a on a.project_id = p.id
        left join plan_row r on r.project_id = p.id and r.table_name = 'assignments' and r.person_id = ?
          and json_value(r.doc, '$.activity') = a.activity_id
        where p.id in (?) group by p.id`,
      [me.person, [...projects.map(({ id }) => id), ""]],
    ) as Promise<Counted[]>,
    accountNames(database),
  ]);
  const by = new Map(counted.map((each) => [each.id, each]));
  return projects.flatMap(({ id, head, managerId }) => {
    const own = by.get(id);
    if (own === undefined || Number(own.closed) === 1) return [];
    return {
      ...{ id, code: head.code ?? "", name: head.name, manager: names.get(managerId) ?? "", finish: own.finish },
      ...{ open: Number(own.open), next: own.next, breaking: Number(own.breaking) },
    };
  });
}

const ROWS = `select a.activity_id as id, a.parent_id as parent, a.name, a.kind, a.state, a.start, a.finish,
    a.baseline_start as baselineStart, a.baseline_finish as baselineFinish, a.drift, a.percent, a.deadline,
    a.deadline_state as deadlineState, a.margin, a.blocked_by as blockedBy
  from activity_row a join plan_row r on r.project_id = a.project_id and r.table_name = 'activities' and r.row_key = a.activity_id
  where a.project_id = ? order by r.position`;

const PEOPLE = `select json_value(r.doc, '$.activity') as activity, json_value(p.doc, '$.name') as name
  from plan_row r join plan_row p on p.project_id = r.project_id and p.table_name = 'people' and p.row_key = r.person_id
  where r.project_id = ? and r.table_name = 'assignments' order by r.position`;

/** The plan of a project for whoever works in it: who does what when, without what it costs. */
export async function ownPlan(database: DataSource, me: Me, id: string): Promise<OwnPlan> {
  const project = await findReadable(database, me, id);
  const [rows, people, own, names, closed, words] = await Promise.all([
    database.query(ROWS, [id]) as Promise<Omit<OwnPlanActivity, "people" | "own">[]>,
    database.query(PEOPLE, [id]) as Promise<{ activity: string; name: string }[]>,
    ownActivities(database, id, me),
    accountNames(database),
    isClosed(database, project),
    ownWordsOf(database, [id]),
  ]);
  const doing = new Map<string, string[]>();
  for (const { activity, name } of people) doing.set(activity, [...(doing.get(activity) ?? []), name]);
  const { head, managerId } = project;
  return {
    ...{ id, code: head.code ?? "", name: head.name, manager: names.get(managerId) ?? "", isClosed: closed },
    words: words.get(id) ?? {},
    dataDate: head.dataDate ?? null,
    activities: rows.map((row) => ({ ...row, people: doing.get(row.id) ?? [], own: own.has(row.id) })),
  };
}

/** The tables of a plan that say nothing of money, nor what hours others booked. */
const WORK_TABLES = new Set(["activities", "links", "assignments", "blocks", "notes", "meetings"]);

/** What became of an activity, for whoever works on it: all but what it costs and who booked what. */
export async function ownHistory(
  database: DataSource,
  me: Me,
  { project: id, activity, before }: { project: string; activity: string; before: number | null },
): Promise<ActivityHistory> {
  const project = await findReadable(database, me, id);
  const isOwn = (await ownActivities(database, id, me)).has(activity);
  orNotFound(isOwn || maySee(me, project) ? activity : null, "work of yours at that address");
  const history = await activityHistory(database, project, activity, before);
  return {
    ...history,
    lists: history.lists.flatMap((list) => {
      const lines = list.lines.filter(({ path }) => WORK_TABLES.has(path.split("/")[0]!));
      return lines.length === 0 ? [] : [{ ...list, lines }];
    }),
  };
}
