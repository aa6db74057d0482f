import type { Me, Promised, Summary } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { mayEdit, maySee } from "../project/reach.ts";

interface Row {
  readonly id: string;
  readonly code: string;
  readonly name: string;
  readonly managerId: string;
  readonly programmeId: string | null;
  readonly summary: string;
}

/**
 * Every deadline of every project that someone sees from kept figures, with how it stood when last issued and what
 * follows if it is not kept.
 */
export async function allDeadlines(database: DataSource, me: Me): Promise<Promised[]> {
  const [rows, issued, kept, names] = await Promise.all([
    database.query(
      "select p.id, p.code, json_value(p.head, '$.name') as name, p.manager_id as managerId, p.programme_id as programmeId, f.summary from project p join figures f on f.project_id = p.id and f.revision = p.revision where p.id not in (select project_id from project_closing)",
    ) as Promise<Row[]>,
    database.query(
      `select i.project_id as id, i.number, i.summary from issued_period i
       join (select project_id, max(number * 1000 + edition) as newest from issued_period group by project_id) last on last.project_id = i.project_id and last.newest = i.number * 1000 + i.edition`,
    ) as Promise<{ id: string; number: number; summary: string }[]>,
    database.query(
      "select project_id as project, row_key as activity, doc from plan_row where table_name = 'promises'",
    ) as Promise<{ project: string; activity: string; doc: string }[]>,
    accountNames(database),
  ]);
  const before = new Map(
    issued.map(({ id, number, summary }) => [
      id,
      { number, deadlines: new Map((JSON.parse(summary) as Summary).deadlines.map((line) => [line.id, line])) },
    ]),
  );
  const promises = new Map(
    kept.map(({ project, activity, doc }) => [
      `${project} ${activity}`,
      JSON.parse(doc) as { consequence: string; to?: string },
    ]),
  );
  return rows.flatMap((row) => {
    const { id: project, code, name: projectName, managerId, summary } = row;
    if (!maySee(me, row)) return [];
    return (JSON.parse(summary) as Summary).deadlines.map((line): Promised => {
      const was = before.get(project)?.deadlines.get(line.id);
      const promise = promises.get(`${project} ${line.id}`);
      return {
        project,
        code,
        projectName,
        manager: names.get(managerId) ?? "",
        mayEdit: mayEdit(me, row),
        ...line,
        consequence: promise?.consequence ?? null,
        to: promise?.to ?? null,
        was:
          was === undefined
            ? null
            : {
                number: before.get(project)!.number,
                deadline: was.deadline,
                marginDays: was.marginDays,
                state: was.state,
              },
      };
    });
  });
}
