import type { GroupPeriods, GroupPlanned, Me, Summary } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { groupsBelow } from "../project/groupTree.ts";
import { seenSql } from "../project/reach.ts";
import { orNotFound } from "../shared/failure.ts";
import { inOrder } from "./groups.ts";

/** All groups. */
const HOUSE = "house";

/** A condition on projects `p`: in a group or below it, and seen by someone. Throws a Failure where there is no such group. */
async function withinSql(database: DataSource, me: Me, id: string): Promise<{ sql: string; values: unknown[] }> {
  const seen = seenSql(me, "p");
  if (id === HOUSE) return { sql: seen.sql, values: [...seen.values] };
  const groups = await inOrder(database);
  orNotFound(
    groups.find((each) => each.id === id),
    "group of that address",
  );
  const below = [...groupsBelow(groups, id)];
  return {
    sql: `p.programme_id in (${below.map(() => "?").join(", ")}) and ${seen.sql}`,
    values: [...below, ...seen.values],
  };
}

/** What was issued of the projects of a group and of those below it that someone sees, by period. */
export async function groupPeriods(database: DataSource, me: Me, id: string): Promise<GroupPeriods> {
  const within = await withinSql(database, me, id);
  // As text: the driver reads what the database calls JSON by itself.
  const rows = (await database.query(
    `select i.project_id as project, i.number, i.data_date as dataDate,
        json_value(i.summary, '$.currency') as currency, json_value(i.summary, '$.minorDigits') as minorDigits,
        concat(json_extract(i.summary, '$.figures')) as figures
       from issued_period i join project p on p.id = i.project_id
      where i.edition = (select max(e.edition) from issued_period e where e.project_id = i.project_id and e.number = i.number)
        and ${within.sql}
      order by i.number, p.code`,
    within.values,
  )) as {
    project: string;
    number: number;
    dataDate: string;
    currency: string;
    minorDigits: string;
    figures: string | null;
  }[];
  const periods = new Map<number, GroupPeriods[number]>();
  for (const { project, number, dataDate, currency, minorDigits, figures } of rows) {
    const read = figures === null ? null : (JSON.parse(figures) as Summary["figures"]);
    if (read === null) continue;
    const period = periods.get(number) ?? { number, dataDate, projects: [] };
    period.projects.push({ project, currency, minorDigits: Number(minorDigits), figures: read });
    periods.set(number, period);
  }
  return [...periods.values()];
}

/** What is planned month by month of the open projects of a group and of those below it that someone sees. */
export async function groupPlanned(database: DataSource, me: Me, id: string): Promise<GroupPlanned> {
  const within = await withinSql(database, me, id);
  const rows = (await database.query(
    `select m.currency, m.digits, left(m.begins, 7) as month, min(m.begins) as first, sum(m.amount) as minor
       from planned_month m join project p on p.id = m.project_id
      where not exists (select 1 from project_closing c where c.project_id = p.id) and ${within.sql}
      group by m.currency, m.digits, left(m.begins, 7) order by m.currency, m.digits, month`,
    within.values,
  )) as { currency: string; digits: number; month: string; first: string; minor: string }[];
  const all = new Map<string, GroupPlanned[number]>();
  for (const { currency, digits, month, first, minor } of rows) {
    const of = all.get(`${currency} ${digits}`) ?? { currency, minorDigits: digits, first, months: [] };
    of.months.push({ month, minor: Number(minor) });
    all.set(`${currency} ${digits}`, of);
  }
  return [...all.values()];
}
