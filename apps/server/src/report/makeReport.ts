import type { DraftAspect, Me, ReportContent } from "@chronometra/contract";
import { beginTexts, suggestRatings } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import type { MadeAlongside, MakeAlongside } from "../cycle/alongside.ts";
import { CycleMarkEntity, type ReportingPeriodEntity } from "../cycle/cycleEntities.ts";
import { openPeriod } from "../cycle/cycleService.ts";
import { keepStandings } from "../matters/ofProject.ts";
import type { Writing } from "../plan/writeProjects.ts";
import { ProjectSaysEntity, type ProjectEntity } from "../project/projectEntity.ts";
import { Failure } from "../shared/failure.ts";
import { composeProject } from "./compose/composeProject.ts";
import { gather, gatherKnown, type Gathered, type Known } from "./gather.ts";
import { reportBefore, storeIssued } from "./issued.ts";
import type { Post } from "../tell/post.ts";
import { tellIssued } from "./recipients.ts";
import { aspectsOf, faultOf, saidVersions } from "./said.ts";
import { findSubject, groupName, layoutOf } from "./subjects.ts";

/** A project's report of the open period as it would be issued now. */
export interface ProjectReport {
  readonly gathered: Gathered;
  readonly aspects: readonly DraftAspect[];
  readonly content: ReportContent;
}

/** The sides of a project's report as they stand, begun from what is known of it. */
async function sidesOf(database: DataSource, { facts, project, period }: Known): Promise<DraftAspect[]> {
  const last = await reportBefore(database, project.id, period.number);
  return aspectsOf(database, project.id, period.number, {
    suggested: suggestRatings(facts),
    texts: beginTexts(facts),
    last,
  });
}

/** What is said in a project's report of a period; the rest of the report is not put together for it. */
export const projectSides = async (
  database: DataSource,
  me: Me,
  project: ProjectEntity,
  period: ReportingPeriodEntity,
): Promise<DraftAspect[]> => sidesOf(database, await gatherKnown(database, me, project, period));

/** Puts a project's report of a period together; nothing is stored. */
export async function projectReport(
  database: DataSource,
  me: Me,
  project: ProjectEntity,
  period: ReportingPeriodEntity,
  signal: AbortSignal,
): Promise<ProjectReport> {
  const gathered = await gather(database, me, project, period, signal);
  const subject = { of: "project" as const, id: project.id, name: project.head.name, project };
  const [aspects, layout, group] = await Promise.all([
    sidesOf(database, gathered),
    layoutOf(database, subject),
    groupName(database, subject),
  ]);
  return { gathered, aspects, content: composeProject(gathered, aspects, layout.sections, group) };
}

/** What a report rests on besides the plan: who wrote what on its sides, and how limits were explained. */
async function restsOn(manager: EntityManager, projectId: string, number: number): Promise<string> {
  const [said, marks] = await Promise.all([
    saidVersions(manager, projectId, number),
    manager.getRepository(CycleMarkEntity).find({ where: { projectId, number }, order: { step: "ASC" } }),
  ]);
  return JSON.stringify([said, marks.map(({ step, words }) => [step, words])]);
}

/** What the manager said of a project as a whole is what the portfolio tells of it from then on. */
async function sayOfWhole({ manager, me }: Writing, projectId: string, aspects: readonly DraftAspect[], at: Date) {
  const overall = aspects.find(({ aspect }) => aspect === "overall")!;
  if (overall.rating === null && overall.text === null) return;
  const note = (overall.text ?? overall.begun).slice(0, 1000);
  await manager
    .getRepository(ProjectSaysEntity)
    .upsert({ projectId, rating: overall.rating ?? overall.suggested, note, saidBy: me.id, saidAt: at }, ["projectId"]);
}

async function made(post: Post, database: DataSource, me: Me, projectId: string): Promise<MadeAlongside> {
  const subject = await findSubject(database, projectId);
  if (subject.of !== "project") throw new Failure("notFound", "There is no project of that address.");
  const period = await openPeriod(database);
  if (period === null) throw new Failure("invalid", "No reporting period is open.");
  const before = await restsOn(database.manager, projectId, period.number);
  const { signal } = new AbortController();
  const { gathered, aspects, content } = await projectReport(database, me, subject.project, period, signal);
  return {
    store: async (writing, { edition, at }) => {
      const { manager } = writing;
      const same =
        (await openPeriod(manager))?.number === period.number &&
        writing.project(projectId).revision === gathered.revision &&
        (await restsOn(manager, projectId, period.number)) === before;
      if (!same) return false;
      const fault = faultOf(aspects);
      if (fault !== null) throw new Failure("invalid", fault);
      await storeIssued(manager, content, { subjectId: projectId, edition, issuedBy: writing.me.id, issuedAt: at });
      await keepStandings(manager, projectId, period.number);
      await sayOfWhole(writing, projectId, aspects, at);
      await tellIssued(manager, post, content, { subjectId: projectId, edition });
      return true;
    },
  };
}

/**
 * Makes the report that is issued with a project's figures: put together before the project is locked, stored where
 * nothing that it rests on has changed by then.
 */
export const makeReport =
  (post: Post): MakeAlongside =>
  (database, me, projectId) =>
    made(post, database, me, projectId);
