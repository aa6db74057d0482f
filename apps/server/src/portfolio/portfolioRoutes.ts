import type { Me, Portfolio, ProjectLine } from "@chronometra/contract";
import { dateWords, emptyPlan, PlanProblems, type Change } from "@chronometra/core";
import { In, type DataSource } from "typeorm";
import { missingReporters } from "../cycle/cycleService.ts";
import { setGroupThresholds, setThresholds } from "../cycle/limits/thresholds.ts";
import { driftsAccepted } from "../collect/driftsAccepted.ts";
import { storeChanges } from "../plan/changeService.ts";
import { inTransaction } from "../shared/database.ts";
import { todayOf } from "../shared/clock.ts";
import { Failure } from "../shared/failure.ts";
import { JsonText } from "../shared/http.ts";
import { serve, type Serving } from "../access/serve.ts";
import { createProject, planWith } from "../begin/createProject.ts";
import { pathsOf, writeStanding } from "./beside.ts";
import { namables } from "../resources/namables.ts";
import { writeFields } from "./ownFields.ts";
import { groupPeriods, groupPlanned } from "./groupSums.ts";
import { addProgramme, listGroups, removeProgramme, writeProgramme } from "./groups.ts";
import { exchangeOf, setExchange } from "./exchange.ts";
import { roadmapOf } from "./roadmap.ts";
import { portfolioFacts, type PortfolioFacts } from "./facts.ts";
import { keptLines } from "./keptLines.ts";
import { writeProject } from "../plan/writeProjects.ts";
import { groupsShown, holdsIn, mayEdit, maySee } from "../project/reach.ts";
import { ProjectEntity } from "../project/projectEntity.ts";

/** Why a project's data date stays where it is, if that concerns this project alone; `null` where it does not. */
function whyRefused(error: unknown): string | null {
  if (error instanceof PlanProblems) return error.message;
  return error instanceof Failure && ["invalid", "notAllowed", "conflict", "busy", "notFound"].includes(error.code)
    ? error.message
    : null;
}

/** What those are called whom values of fields of persons name. */
function namedIn(
  { fields, values, names, registered }: PortfolioFacts,
  projects: readonly ProjectRow[],
): Record<string, string> {
  const persons = fields.filter(({ type }) => type === "person");
  const ids =
    persons.length === 0
      ? []
      : projects.flatMap((project) => persons.flatMap(({ id }) => values.get(project.id)?.[id] ?? []));
  return Object.fromEntries(
    ids.flatMap((id) => {
      const name = names.get(String(id)) ?? registered.get(String(id));
      return name === undefined ? [] : [[id, name]];
    }),
  );
}

interface ProjectRow {
  readonly id: string;
  readonly code: string;
  readonly name: string;
  readonly programmeId: string | null;
  readonly managerId: string;
  readonly revision: number;
}

const PROJECTS_SQL =
  "select id, code, json_value(head, '$.name') as name, programme_id as programmeId, manager_id as managerId, revision from project";

/** Those that someone sees, in the order of their codes; put in order here, where it is quick. */
async function projectRows(database: DataSource, me: Me): Promise<ProjectRow[]> {
  const rows = (await database.query(PROJECTS_SQL)) as ProjectRow[];
  return rows.filter((row) => maySee(me, row)).sort((a, b) => (a.code < b.code ? -1 : a.code > b.code ? 1 : 0));
}

/**
 * The portfolio page as the bytes that are sent. The figures of each project are kept as text and put in as they are:
 * reading and writing them again would be most of the page's time.
 */
async function portfolioBytes(database: DataSource, me: Me): Promise<Buffer> {
  const [facts, { rows, kept }] = await Promise.all([
    portfolioFacts(database),
    projectRows(database, me).then(async (found) => ({ rows: found, kept: await keptLines(database, found) })),
  ]);
  const top: Omit<Portfolio, "projects"> = {
    name: facts.organisation,
    exchange: facts.exchange,
    on: facts.period?.dataDate ?? todayOf(me),
    programmes: groupsShown(
      me,
      facts.programmes,
      rows.map(({ programmeId }) => programmeId),
    ),
    fields: facts.fields,
    named: namedIn(facts, rows),
    thresholds: facts.thresholds,
    qualityLimits: facts.qualityLimits,
  };
  const parts: Buffer[] = [];
  let before = `${JSON.stringify(top).slice(0, -1)},"projects":[`;
  for (const { id, code, programmeId, revision, name, managerId } of rows) {
    const line = kept.get(id);
    if (line === undefined) continue;
    const says = facts.says.get(id);
    // Written out: an object spread from a row is slow to turn into text.
    const beside: Omit<ProjectLine, "summary"> = {
      id,
      code,
      programme: programmeId,
      revision,
      name,
      manager: facts.names.get(managerId) ?? "",
      comparedNumber: facts.compared.get(id)?.number ?? null,
      issuedDrift: facts.compared.get(id)?.drift ?? null,
      issuedNumber: facts.issued.get(id)?.number ?? null,
      openDrift:
        facts.period !== null && facts.issued.get(id)?.number === facts.period.number
          ? facts.issued.get(id)!.drift
          : null,
      closed: facts.closed.has(id),
      state: facts.states.get(id) ?? "running",
      stage: facts.stages.get(id) ?? null,
      locked: facts.locked.get(id)?.dataDate === line.dataDate ? (facts.locked.get(id) ?? null) : null,
      missing:
        facts.period === null || !line.isApproved || facts.closed.has(id)
          ? []
          : missingReporters(id, line.people, facts.period, facts.reporters).map(({ id: person, name: called }) => ({
              id: person,
              name: called,
            })),
      waiting: facts.waiting.get(id) ?? 0,
      mayEdit: mayEdit(me, { managerId, programmeId }),
      values: facts.values.get(id) ?? {},
      says:
        says === undefined
          ? null
          : { rating: says.rating, note: says.note, by: facts.names.get(says.saidBy) ?? "", at: says.at },
    };
    parts.push(Buffer.from(`${before}${JSON.stringify(beside).slice(0, -1)},"summary":`), line.summary);
    before = "},";
  }
  parts.push(Buffer.from(parts.length === 0 ? `${before}]}` : "}]}"));
  return Buffer.concat(parts);
}

export function portfolioRoutes(serving: Serving): void {
  serve(serving, "GET /api/portfolio", async ({ database, me }) => new JsonText(await portfolioBytes(database, me)));
  serve(serving, "GET /api/portfolio/roadmap", ({ database, me }) => roadmapOf(database, me));
  serve(serving, "GET /api/portfolio/paths", ({ database, me }) => pathsOf(database, me));
  serve(serving, "GET /api/portfolio/accepted", ({ database, me }) => driftsAccepted(database, me));
  serve(serving, "PUT /api/portfolio/thresholds", async ({ database, me, body }) => {
    await setThresholds(database, me, body);
    return { ok: true as const };
  });
  serve(serving, "PUT /api/programmes/:programme/thresholds", async ({ database, me, params, body }) => {
    if (!holdsIn(me, "controller", params["programme"]!))
      throw new Failure("notAllowed", "Only a controller of this group may write its limits.");
    await setGroupThresholds(database, me, params["programme"]!, body.thresholds);
    return { ok: true as const };
  });
  serve(serving, "GET /api/portfolio/exchange", ({ database }) => exchangeOf(database));
  serve(serving, "PUT /api/portfolio/exchange", async ({ database, me, body }) => {
    await setExchange(database, me, body.exchange);
    return { ok: true as const };
  });
  serve(serving, "GET /api/portfolio/people", ({ database }) => namables(database));
  serve(serving, "PUT /api/portfolio/fields", async ({ database, body }) => {
    await writeFields(database, body);
    return { ok: true as const };
  });
  serve(serving, "PUT /api/projects/:project/standing", async ({ database, me, params, body }) => {
    await writeStanding(database, me, params["project"]!, body);
    return { ok: true as const };
  });
  serve(serving, "PUT /api/programmes/:programme", ({ database, params, body }) =>
    writeProgramme(database, params["programme"]!, body),
  );

  serve(serving, "POST /api/programmes", ({ database, me, body }) => addProgramme(database, me, body));
  serve(serving, "GET /api/programmes", ({ database, me }) => listGroups(database, me));
  serve(serving, "GET /api/programmes/:programme/periods", ({ database, me, params }) =>
    groupPeriods(database, me, params["programme"]!),
  );
  serve(serving, "GET /api/programmes/:programme/planned", ({ database, me, params }) =>
    groupPlanned(database, me, params["programme"]!),
  );
  serve(serving, "DELETE /api/programmes/:programme", ({ database, me, params }) =>
    removeProgramme(database, me, params["programme"]!),
  );

  serve(serving, "POST /api/projects", ({ database, me, body }) =>
    inTransaction(database, async (manager) => {
      const project = await createProject(manager, me, {
        plan: planWith(emptyPlan(body), undefined),
        programmeId: body.programme,
        managerId: me.id,
        label: "Begun with an empty plan",
      });
      return { project: project.id };
    }),
  );

  serve(serving, "POST /api/portfolio/data-date", async ({ database, me, body }) => {
    const refused: { project: string; why: string }[] = [];
    const moved: string[] = [];
    const already: string[] = [];
    const revisions: { project: string; revision: number }[] = [];
    const changes: Change[] = [{ type: "setDataDate", date: body.date }];
    const label = `Data date moved to ${dateWords(body.date)}`;
    const found = await database
      .getRepository(ProjectEntity)
      .find({ ...(body.projects === undefined ? {} : { where: { id: In(body.projects) } }), order: { code: "ASC" } });
    for (const { id, code } of found.filter((project) => maySee(me, project))) {
      try {
        const isThere = ({ head }: ProjectEntity): boolean => head.dataDate === body.date;
        const changed = await writeProject(
          database,
          me,
          id,
          async (writing, project) => (isThere(project) ? null : storeChanges(writing, project, { changes, label })),
          (_plan, project) => (isThere(project) ? [] : changes),
        );
        if (changed === null) already.push(code);
        else {
          moved.push(code);
          revisions.push({ project: id, revision: changed.result.revision });
        }
      } catch (error) {
        const why = whyRefused(error);
        if (why === null) throw error;
        refused.push({ project: code, why });
      }
    }
    return { moved, revisions, already, refused };
  });
}
