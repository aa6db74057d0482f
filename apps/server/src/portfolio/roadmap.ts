import type { Me, Roadmap, RoadLine, Summary } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { roadGates } from "../gates/roadGates.ts";
import { portfolioFacts, type PortfolioFacts } from "./facts.ts";
import { groupsShown, maySee } from "../project/reach.ts";

/** What of a project's figures the roadmap shows. */
type Kept = Pick<
  RoadLine,
  "dataDate" | "start" | "finish" | "baselineStart" | "baselineFinish" | "drift" | "earned" | "milestones" | "deadlines"
>;

interface Row {
  readonly id: string;
  readonly code: string;
  readonly name: string;
  readonly programmeId: string | null;
  readonly managerId: string;
  readonly revision: number;
  readonly start: string;
}

/** Figures that this server has read already, by project: those of a revision never change. */
const readOf = new WeakMap<DataSource, Map<string, { readonly revision: number; readonly kept: Kept }>>();

function keptOf({ start, ...summary }: Summary): Kept {
  return {
    dataDate: summary.dataDate,
    start: start ?? null,
    finish: summary.finish,
    baselineStart: summary.baselineStart ?? null,
    baselineFinish: summary.baselineFinish,
    drift: summary.drift,
    earned: summary.figures?.percentComplete ?? null,
    milestones: summary.milestones,
    deadlines: summary.deadlines,
  };
}

async function figuresOf(database: DataSource, rows: readonly Row[]): Promise<ReadonlyMap<string, Kept>> {
  const known = readOf.get(database) ?? new Map<string, { readonly revision: number; readonly kept: Kept }>();
  readOf.set(database, known);
  const wanted = rows.filter(({ id, revision }) => known.get(id)?.revision !== revision);
  if (wanted.length > 0) {
    const read = (await database.query(
      `select project_id as id, revision, summary from figures where (project_id, revision) in (${wanted.map(() => "(?, ?)").join(", ")})`,
      wanted.flatMap(({ id, revision }) => [id, revision]),
    )) as { id: string; revision: number; summary: string }[];
    for (const { id, revision, summary } of read)
      known.set(id, { revision, kept: keptOf(JSON.parse(summary) as Summary) });
  }
  return new Map(rows.flatMap(({ id }) => (known.has(id) ? [[id, known.get(id)!.kept] as const] : [])));
}

/** A project in time, with what its rights rest on. */
export interface RoadProject extends RoadLine {
  readonly managerId: string;
  readonly programmeId: string | null;
}

/** Those projects that are not closed, and of which `isShown` says so, in time, by code. */
export async function roadProjects(
  database: DataSource,
  me: Me,
  isShown: (project: Pick<Row, "id" | "managerId" | "programmeId">) => boolean,
): Promise<{ projects: RoadProject[]; facts: PortfolioFacts }> {
  const [facts, all, gates] = await Promise.all([
    portfolioFacts(database),
    database.query(
      `select id, code, json_value(head, '$.name') as name, programme_id as programmeId, manager_id as managerId, revision,
              json_value(head, '$.start') as start from project order by code`,
    ) as Promise<Row[]>,
    roadGates(database, me),
  ]);
  const open = all.filter((row) => !facts.closed.has(row.id) && isShown(row));
  const figures = await figuresOf(database, open);
  const projects = open.flatMap(({ id, code, name, programmeId, managerId, start }): RoadProject[] => {
    const kept = figures.get(id);
    if (kept === undefined) return [];
    return [
      {
        ...{ id, code, name, programme: programmeId, programmeId, managerId },
        manager: facts.names.get(managerId) ?? "",
        state: facts.states.get(id) ?? "running",
        stage: facts.stages.get(id) ?? null,
        ...kept,
        start: kept.start ?? (kept.finish === null ? null : start),
        gates: gates(id, kept.milestones),
      },
    ];
  });
  return { projects, facts };
}

/** The projects that someone sees and that are not closed, in time, by code. */
export async function roadmapOf(database: DataSource, me: Me): Promise<Roadmap> {
  const found = await roadProjects(database, me, (project) => maySee(me, project));
  const projects = found.projects.map(({ managerId: _manager, programmeId: _group, ...line }) => line);
  const dates = projects.flatMap(({ dataDate }) => dataDate ?? []).sort();
  const programmes = groupsShown(
    me,
    found.facts.programmes,
    projects.map(({ programme }) => programme),
  );
  return { programmes, dataDate: dates.at(-1) ?? null, projects };
}
