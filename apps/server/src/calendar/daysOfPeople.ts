import type { Me } from "@chronometra/contract";
import { leaveId, type Meeting, type Timebox } from "@chronometra/core";
import type { DataSource } from "typeorm";

interface Days {
  readonly from: string;
  readonly to: string;
}
/** Days on which a calendar differs; without shifts nobody works then. */
type Exception = Days & { readonly shifts: readonly unknown[] };

/** Someone's absence, as a project knows it. */
export interface Absence extends Days {
  readonly project: string;
  readonly person: string;
  readonly name: string;
}
/** A meeting of a project. */
export type ProjectMeeting = Meeting & { readonly project: string };

/** A timebox of a project, with the ids of what stands in it. */
export type ProjectBox = Timebox & { readonly project: string; readonly works: readonly string[] };

/** The projects in which someone works, and on what; none of whoever is no person. */
export async function projectsOfPerson(
  database: DataSource,
  { person }: Me,
): Promise<ReadonlyMap<string, ReadonlySet<string>>> {
  if (person === null) return new Map();
  const rows = (await database.query(
    `select project_id as project, json_value(doc, '$.activity') as activity from plan_row
      where person_id = ? and table_name = 'assignments'`,
    [person],
  )) as { project: string; activity: string }[];
  const found = new Map<string, Set<string>>();
  for (const { project, activity } of rows) found.set(project, (found.get(project) ?? new Set()).add(activity));
  return found;
}

/** The meetings of projects that may be held on some days. */
export async function meetingsIn(
  database: DataSource,
  projects: readonly string[],
  { from, to }: Days,
): Promise<ProjectMeeting[]> {
  const rows = (await database.query(
    `select project_id as project, doc from plan_row where project_id in (?) and table_name = 'meetings'
      and json_value(doc, '$.date') <= ? and coalesce(json_value(doc, '$.weeklyUntil'), json_value(doc, '$.date')) >= ?`,
    [[...projects, ""], to, from],
  )) as { project: string; doc: string }[];
  return rows.map(({ project, doc }) => ({ project, ...(JSON.parse(doc) as Meeting) }));
}

/** The timeboxes of projects that touch some days, with what stands in them. */
export async function timeboxesIn(
  database: DataSource,
  projects: readonly string[],
  { from, to }: Days,
): Promise<ProjectBox[]> {
  const rows = (await database.query(
    `select t.project_id as project, t.doc, group_concat(b.row_key separator '\n') as works
      from plan_row t left join plan_row b on b.project_id = t.project_id and b.table_name = 'boxed'
        and json_value(b.doc, '$.box') = t.row_key
      where t.project_id in (?) and t.table_name = 'timeboxes' and json_value(t.doc, '$.first') <= ?
        and json_value(t.doc, '$.last') >= ? group by t.project_id, t.row_key, t.doc`,
    [[...projects, ""], to, from],
  )) as { project: string; doc: string; works: string | null }[];
  return rows.map(({ project, doc, works }) => ({
    ...{ project, ...(JSON.parse(doc) as Timebox), works: works === null ? [] : works.split("\n") },
  }));
}

/** Who of the people in projects is away on some days. */
export async function absencesIn(
  database: DataSource,
  projects: readonly string[],
  { from, to }: Days,
): Promise<Absence[]> {
  const rows = (await database.query(
    `select c.project_id as project, c.row_key as calendar, p.row_key as person, json_value(p.doc, '$.name') as name,
        json_extract(c.doc, '$.exceptions') as exceptions
      from plan_row c join plan_row p on p.project_id = c.project_id and p.table_name = 'people'
        and json_value(p.doc, '$.calendar') = c.row_key
      where c.project_id in (?) and c.table_name = 'calendars' and c.row_key like 'leave-%'`,
    [[...projects, ""]],
  )) as { project: string; calendar: string; person: string; name: string; exceptions: Exception[] | string | null }[];
  return rows.flatMap(({ project, calendar, person, name, exceptions }) => {
    if (calendar !== leaveId(person)) return [];
    const days = typeof exceptions === "string" ? (JSON.parse(exceptions) as Exception[]) : (exceptions ?? []);
    return days
      .filter((leave) => leave.shifts.length === 0 && leave.from <= to && leave.to >= from)
      .map((leave) => ({ project, person, name, from: leave.from, to: leave.to }));
  });
}
