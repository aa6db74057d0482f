import { randomUUID } from "node:crypto";
import type { Portfolio, ProjectLine } from "@chronometra/contract";
import { PlanProblems, type ProjectHead } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { missingReporters, openPeriod, organisationName, reportersIn } from "../cycle/cycleService.ts";
import type { Reporter } from "../look/summarise.ts";
import { keepPlan, storeChanges } from "../plan/changeService.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";
import { JsonText, serve, type Serving } from "../shared/http.ts";
import { createProject, emptyPlan } from "./createProject.ts";
import { lockProjectFor } from "./projectAccess.ts";
import { ProgrammeEntity, ProjectEntity } from "./projectEntity.ts";

async function waitingByProject(database: DataSource): Promise<Map<string, number>> {
  const rows = (await database.query("select project_id as id, count(*) as waiting from report where state = 'submitted' group by project_id")) as { id: string; waiting: string }[];
  return new Map(rows.map(({ id, waiting }) => [id, Number(waiting)]));
}

/** Drift of the finish and number of the period as last issued, by project. */
async function lastIssued(database: DataSource): Promise<Map<string, { number: number; drift: number | null }>> {
  const rows = (await database.query(
    `select i.project_id as id, i.number, json_value(i.summary, '$.drift') as drift from issued_period i
     join (select project_id, max(number) as number from issued_period group by project_id) newest on newest.project_id = i.project_id and newest.number = i.number`,
  )) as { id: string; number: number; drift: string | null }[];
  return new Map(rows.map(({ id, number, drift }) => [id, { number, drift: drift === null ? null : Number(drift) }]));
}

interface ProjectRow {
  readonly id: string;
  readonly code: string;
  readonly head: string;
  readonly programme: string | null;
  readonly manager: string;
  readonly revision: number;
  readonly summary: string;
  readonly people: string;
}

/** Put in order here: the database would sort the texts along with the codes. */
async function projectRows(database: DataSource): Promise<ProjectRow[]> {
  const rows = (await database.query(
    `select p.id, p.code, p.head, p.programme_id as programme, p.manager_id as manager, p.revision, f.summary, f.people
     from project p join figures f on f.project_id = p.id and f.revision = p.revision`,
  )) as ProjectRow[];
  return rows.sort((a, b) => (a.code < b.code ? -1 : a.code > b.code ? 1 : 0));
}

/**
 * The portfolio page as text. The figures of each project are kept as text and put in as they are: reading and writing
 * them again would be most of the page's time.
 */
async function portfolioText(database: DataSource): Promise<string> {
  const period = await openPeriod(database);
  const [name, programmes, reporters, waiting, issued, managers, rows] = await Promise.all([
    organisationName(database),
    database.getRepository(ProgrammeEntity).find({ order: { position: "ASC" } }),
    period === null ? new Set<string>() : reportersIn(database, period),
    waitingByProject(database),
    lastIssued(database),
    accountNames(database),
    projectRows(database),
  ]);
  const lines = rows.map(({ summary, people, head, ...row }) => {
    const line: Omit<ProjectLine, "summary"> = {
      ...row,
      name: (JSON.parse(head) as ProjectHead).name,
      manager: managers.get(row.manager) ?? "",
      issuedDrift: issued.get(row.id)?.drift ?? null,
      issuedNumber: issued.get(row.id)?.number ?? null,
      missing: period === null ? [] : missingReporters(row.id, JSON.parse(people) as Reporter[], period, reporters),
      waiting: waiting.get(row.id) ?? 0,
    };
    return `${JSON.stringify(line).slice(0, -1)},"summary":${summary}}`;
  });
  const top: Omit<Portfolio, "projects"> = { name, programmes: programmes.map(({ id, name: programme }) => ({ id, name: programme })) };
  return `${JSON.stringify(top).slice(0, -1)},"projects":[${lines.join(",")}]}`;
}

export function portfolioRoutes(serving: Serving): void {
  serve(serving, "GET /api/portfolio", async ({ database }) => new JsonText(await portfolioText(database)));

  serve(serving, "POST /api/programmes", ({ database, body }) =>
    inTransaction(database, async (manager) => {
      const programmes = manager.getRepository(ProgrammeEntity);
      if (await programmes.existsBy({ name: body.name })) throw new Failure("conflict", `There is a programme called "${body.name}" already.`);
      const programme = { id: randomUUID(), name: body.name, position: await programmes.count() };
      await programmes.insert(programme);
      return { id: programme.id, name: programme.name };
    }),
  );

  serve(serving, "POST /api/projects", ({ database, me, body }) =>
    inTransaction(database, async (manager) => {
      const project = await createProject(manager, me, { bundle: emptyPlan(body), programmeId: body.programme, managerId: me.id, label: "Begun with an empty plan" });
      return { project: project.id };
    }),
  );

  serve(serving, "POST /api/portfolio/data-date", async ({ database, me, body }) => {
    const refused: { project: string; why: string }[] = [];
    let moved = 0;
    for (const { id, code } of await database.getRepository(ProjectEntity).find({ order: { code: "ASC" } })) {
      try {
        const stored = await inTransaction(database, async (manager) => {
          const project = await lockProjectFor(manager, id, me);
          if (project.head.dataDate === body.date) return null;
          return { project, ...(await storeChanges(manager, project, me, { changes: [{ type: "setDataDate", date: body.date }], label: `Data date moved to ${body.date}` })) };
        });
        if (stored === null) continue;
        keepPlan(stored.project, stored.plan);
        moved++;
      } catch (error) {
        if (!(error instanceof PlanProblems)) throw error;
        refused.push({ project: code, why: error.message });
      }
    }
    return { moved, refused };
  });
}
