import type { FeedFigure, FeedProject, Me, Summary } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { ProgrammeEntity } from "../project/projectEntity.ts";
import { seenSql } from "../project/reach.ts";
import { Failure } from "../shared/failure.ts";

/** A page of figures: which, how many, and after which. */
export interface FigureQuestion {
  /** The code or id of a project. */
  readonly project: string | null;
  readonly from: number;
  readonly to: number;
  readonly limit: number;
  /** Period and project of the row before; `null` from the beginning. */
  readonly after: readonly [number, string] | null;
}

interface Row {
  readonly id: string;
  readonly code: string;
  readonly name: string;
  readonly number: number;
  readonly edition: number;
  readonly issuedAt: Date;
  readonly summary: string;
}

function presentFigure({ id, code, name, number, edition, issuedAt, summary }: Row): FeedFigure {
  const said = JSON.parse(summary) as Summary;
  return {
    project: { id, code, name },
    period: number,
    dataDate: said.dataDate ?? "",
    edition,
    issuedAt: issuedAt.toISOString(),
    currency: said.currency,
    minorDigits: said.minorDigits,
    finish: said.finish,
    baselineFinish: said.baselineFinish,
    drift: said.drift,
    figures: said.figures,
    earnedSchedule: said.earnedSchedule,
  };
}

/**
 * A page of the figures that were issued of the projects someone sees, by period and project, and whether there is
 * more.
 * @throws {Failure} for a project that is not among those
 */
export async function issuedFigures(
  database: DataSource,
  me: Me,
  { project, from, to, limit, after }: FigureQuestion,
): Promise<{ rows: FeedFigure[]; isMore: boolean }> {
  const seen = seenSql(me, "p");
  if (project !== null) {
    const named = await database.query(`select p.id from project p where (p.id = ? or p.code = ?) and ${seen.sql}`, [
      ...[project, project],
      ...seen.values,
    ]);
    if ((named as unknown[]).length === 0)
      throw new Failure("notFound", `There is no project ${project} among those that this token is for.`);
  }
  const [lastNumber, lastProject] = after ?? [from - 1, "~"];
  const rows = (await database.query(
    `select p.id, p.code, json_value(p.head, '$.name') as name, i.number, i.edition, i.issued_at as issuedAt, i.summary
       from issued_period i join project p on p.id = i.project_id
      where i.number between ? and ? and (i.number > ? or (i.number = ? and i.project_id > ?))
        and i.edition = (select max(e.edition) from issued_period e where e.project_id = i.project_id and e.number = i.number)
        ${project === null ? "" : "and (p.id = ? or p.code = ?)"} and ${seen.sql}
      order by i.number, i.project_id limit ?`,
    [
      ...[from, to, lastNumber, lastNumber, lastProject],
      ...(project === null ? [] : [project, project]),
      ...seen.values,
      limit + 1,
    ],
  )) as Row[];
  return { rows: rows.slice(0, limit).map(presentFigure), isMore: rows.length > limit };
}

/** The projects that someone sees, by code. */
export async function projectsFor(database: DataSource, me: Me): Promise<FeedProject[]> {
  const seen = seenSql(me, "p");
  const [rows, groups] = await Promise.all([
    database.query(
      `select p.id, p.code, json_value(p.head, '$.name') as name, p.programme_id as inGroup,
          exists (select 1 from project_closing c where c.project_id = p.id) as closed
         from project p where ${seen.sql} order by p.code`,
      [...seen.values],
    ) as Promise<{ id: string; code: string; name: string; inGroup: string | null; closed: string | number }[]>,
    database.getRepository(ProgrammeEntity).find(),
  ]);
  const byId = new Map(groups.map((group) => [group.id, group]));
  const path = (id: string | null): string[] => {
    const group = id === null ? undefined : byId.get(id);
    return group === undefined ? [] : [...path(group.parentId), group.name];
  };
  return rows.map(({ inGroup, closed, ...project }) => ({
    ...project,
    groups: path(inGroup),
    closed: Number(closed) === 1,
  }));
}
