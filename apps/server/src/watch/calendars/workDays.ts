import type { Me } from "@chronometra/contract";
import { dateWords } from "@chronometra/core";
import type { DataSource } from "typeorm";
import type { CalendarDay } from "./calendarText.ts";

interface Row {
  readonly project: string;
  readonly code: string;
  readonly projectName: string;
  readonly activity: string;
  readonly name: string;
  readonly start: string;
  readonly finish: string;
  readonly deadline: string | null;
  readonly blockedBy: string | null;
}

/** Someone's own work that is not finished, on its days, and the deadlines of that work. */
export async function workDays(database: DataSource, { person }: Me): Promise<CalendarDay[]> {
  const rows = (await database.query(
    `select distinct p.id as project, p.code, json_value(p.head, '$.name') as projectName, a.activity_id as activity, a.name,
        a.start, a.finish, a.deadline, a.blocked_by as blockedBy
      from plan_row r join activity_row a on a.project_id = r.project_id and a.activity_id = json_value(r.doc, '$.activity')
      join project p on p.id = r.project_id left join project_closing c on c.project_id = p.id
      where r.person_id = ? and r.table_name = 'assignments' and c.project_id is null
        and a.state in ('notStarted', 'inProgress') and a.start is not null and a.finish is not null
      order by a.start, a.activity_id`,
    [person],
  )) as Row[];
  return rows.flatMap(({ project, code, projectName, activity, name, start, finish, deadline, blockedBy }) => {
    const words = `${code} ${projectName}${blockedBy === null ? "" : `. Blocked by ${blockedBy}`}`;
    const path = `/desk/plans/${project}?at=${encodeURIComponent(activity)}`;
    const work: CalendarDay = { id: `work-${project}-${activity}`, from: start, to: finish, title: name, words, path };
    if (deadline === null) return [work];
    const on = { from: deadline, to: deadline };
    return [
      work,
      {
        ...{ id: `work-deadline-${project}-${activity}`, ...on, title: `${name}: deadline` },
        words: `${words}. Finishes ${dateWords(finish)}.`,
        path,
      },
    ];
  });
}
