import { randomUUID } from "node:crypto";
import type { Me, Portfolio, ProjectLine } from "@chronometra/contract";
import { PlanProblems } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { missingReporters, setThresholds } from "../cycle/cycleService.ts";
import type { Reporter } from "../look/summarise.ts";
import { keepPlan, storeChanges } from "../plan/changeService.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";
import { JsonText, serve, type Serving } from "../shared/http.ts";
import { createProject, emptyPlan } from "./createProject.ts";
import { pathsOf, presentProgramme, writeFields, writeProgramme, writeStanding } from "./beside.ts";
import { portfolioFacts } from "./facts.ts";
import { lockProjectFor, mayEdit } from "./projectAccess.ts";
import { ProgrammeEntity, ProjectEntity } from "./projectEntity.ts";

interface ProjectRow {
  readonly id: string;
  readonly code: string;
  readonly name: string;
  readonly programme: string | null;
  readonly managerId: string;
  readonly revision: number;
  readonly summary: string;
  readonly people: string;
}

/** The figures kept of every project; the bench reads the same rows with it. */
export const FIGURES_SQL = `select p.id, p.code, json_value(p.head, '$.name') as name, p.programme_id as programme, p.manager_id as managerId, p.revision, f.line as summary, f.people
  from project p join figures f on f.project_id = p.id and f.revision = p.revision`;

/** Put in order here: the database would sort the texts along with the codes. */
async function projectRows(database: DataSource): Promise<ProjectRow[]> {
  const rows = (await database.query(FIGURES_SQL)) as ProjectRow[];
  return rows.sort((a, b) => (a.code < b.code ? -1 : a.code > b.code ? 1 : 0));
}

/**
 * The portfolio page as text. The figures of each project are kept as text and put in as they are: reading and writing
 * them again would be most of the page's time.
 */
async function portfolioText(database: DataSource, me: Me): Promise<string> {
  const [facts, rows] = await Promise.all([portfolioFacts(database), projectRows(database)]);
  const lines = rows.map(({ id, code, programme, revision, summary, people, name, managerId }) => {
    const says = facts.says.get(id);
    // Written out: an object spread from a row is slow to turn into text.
    const line: Omit<ProjectLine, "summary"> = {
      id,
      code,
      programme,
      revision,
      name,
      manager: facts.names.get(managerId) ?? "",
      issuedDrift: facts.issued.get(id)?.drift ?? null,
      issuedNumber: facts.issued.get(id)?.number ?? null,
      missing: facts.period === null ? [] : missingReporters(id, JSON.parse(people) as Reporter[], facts.period, facts.reporters),
      waiting: facts.waiting.get(id) ?? 0,
      mayEdit: mayEdit(me, { managerId }),
      values: facts.values.get(id) ?? {},
      says: says === undefined ? null : { rating: says.rating, note: says.note, by: facts.names.get(says.saidBy) ?? "", at: says.at },
    };
    return `${JSON.stringify(line).slice(0, -1)},"summary":${summary}}`;
  });
  const top: Omit<Portfolio, "projects"> = { name: facts.organisation, programmes: facts.programmes, fields: facts.fields, thresholds: facts.thresholds, qualityLimits: facts.qualityLimits };
  return `${JSON.stringify(top).slice(0, -1)},"projects":[${lines.join(",")}]}`;
}

export function portfolioRoutes(serving: Serving): void {
  serve(serving, "GET /api/portfolio", async ({ database, me }) => new JsonText(await portfolioText(database, me)));
  serve(serving, "GET /api/portfolio/paths", ({ database }) => pathsOf(database));
  serve(serving, "PUT /api/portfolio/thresholds", async ({ database, body }) => {
    await setThresholds(database, body);
    return { ok: true as const };
  });
  serve(serving, "PUT /api/portfolio/fields", async ({ database, body }) => {
    await writeFields(database, body.fields);
    return { ok: true as const };
  });
  serve(serving, "PUT /api/projects/:project/standing", async ({ database, me, params, body }) => {
    await writeStanding(database, me, params["project"]!, body);
    return { ok: true as const };
  });
  serve(serving, "PUT /api/programmes/:programme", ({ database, params, body }) => writeProgramme(database, params["programme"]!, body));

  serve(serving, "POST /api/programmes", ({ database, body }) =>
    inTransaction(database, async (manager) => {
      const programmes = manager.getRepository(ProgrammeEntity);
      if (await programmes.existsBy({ name: body.name })) throw new Failure("conflict", `There is a programme called "${body.name}" already.`);
      const parentId = body.parent ?? null;
      if (parentId !== null && !(await programmes.existsBy({ id: parentId }))) throw new Failure("invalid", "There is no such programme to be part of.");
      const programme = { id: randomUUID(), name: body.name, position: await programmes.count(), parentId };
      await programmes.insert(programme);
      return presentProgramme(programme);
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
