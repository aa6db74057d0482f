import type { DraftAspect, Me, ReportContent, ReportGroups, Summary } from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";
import { Outdated, withAlongside } from "../cycle/alongside.ts";
import { IssuedPeriodEntity, ProjectClosingEntity, type ReportingPeriodEntity } from "../cycle/cycleEntities.ts";
import { openPeriod, organisationName } from "../cycle/cycleService.ts";
import { exchangeOf } from "../portfolio/exchange.ts";
import { ProgrammeEntity, ProjectEntity } from "../project/projectEntity.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";
import { beginForGroup, composeGroup, suggestForGroup } from "./compose/composeGroup.ts";
import type { GroupMember } from "./compose/groupMember.ts";
import { digestOf, issuedContent, issuedLines, reportBefore, storeIssued } from "./issued.ts";
import type { Post } from "../tell/post.ts";
import { tellIssued } from "./recipients.ts";
import { aspectsOf, faultOf, saidVersions } from "./said.ts";
import { HOUSE, layoutOf, type Subject } from "./subjects.ts";
import { maySee, groupsShown, seesGroup } from "../project/reach.ts";

type Group = Extract<Subject, { of: "group" }>;

/** The projects of a group that take part or did in this period, each with its report that holds. */
async function membersOf(database: DataSource, { projects }: Group, number: number): Promise<GroupMember[]> {
  const closed = new Set((await database.getRepository(ProjectClosingEntity).find()).map(({ projectId }) => projectId));
  const members: GroupMember[] = [];
  for (const project of projects) {
    const line = (await issuedLines(database, project.id)).find((each) => each.number === number && each.holds);
    if (line === undefined && closed.has(project.id)) continue;
    if (line === undefined) {
      members.push({ project, content: null, summary: null });
      continue;
    }
    const { edition } = line;
    const [{ content }, period] = await Promise.all([
      issuedContent(database, project.id, number, edition),
      database.getRepository(IssuedPeriodEntity).findOneByOrFail({ projectId: project.id, number, edition }),
    ]);
    members.push({ project, content, summary: JSON.parse(period.summary) as Summary });
  }
  return members;
}

/** A group's report of a period as it would be issued now. */
export async function groupReport(
  database: DataSource,
  group: Group,
  period: ReportingPeriodEntity,
): Promise<{ aspects: DraftAspect[]; content: ReportContent; issued: number }> {
  const [members, last, organisation, exchange, layout] = await Promise.all([
    membersOf(database, group, period.number),
    reportBefore(database, group.id, period.number),
    organisationName(database),
    exchangeOf(database),
    layoutOf(database, group),
  ]);
  const beginning = { suggested: suggestForGroup(members), texts: beginForGroup(members), last };
  const aspects = await aspectsOf(database, group.id, period.number, beginning);
  const content = composeGroup(
    { organisation, name: group.name, period, exchange, last, sections: layout.groupSections },
    members,
    aspects,
  );
  return { aspects, content, issued: members.filter((each) => each.content !== null).length };
}

/** What a group's report rests on: who wrote what on its sides, and which reports of its projects hold. */
async function restsOn(manager: EntityManager, { id, projects }: Group, number: number): Promise<string> {
  const ids = projects.map((project) => project.id);
  return JSON.stringify(
    await Promise.all([
      saidVersions(manager, id, number),
      manager.query(
        "select subject_id, max(edition) from issued_report where number = ? and subject_id in (?) group by subject_id",
        [number, [...ids, ""]],
      ),
      manager.query("select count(*), max(reopened_at) from period_lock where number = ? and project_id in (?)", [
        number,
        [...ids, ""],
      ]),
    ]),
  );
}

/** Issues a group's report of the open period, of the reports that its projects issued. */
export async function issueGroup(
  database: DataSource,
  post: Post,
  me: Me,
  group: Group,
  at = new Date(),
): Promise<void> {
  const period = await openPeriod(database);
  if (period === null) throw new Failure("invalid", "No reporting period is open.");
  const make = async () => {
    const before = await restsOn(database.manager, group, period.number);
    const { aspects, content, issued } = await groupReport(database, group, period);
    if (issued === 0)
      throw new Failure(
        "invalid",
        "None of its projects has issued a report of this period; there is nothing to gather.",
      );
    const fault = faultOf(aspects);
    if (fault !== null) throw new Failure("invalid", fault);
    return {
      store: async (manager: EntityManager): Promise<boolean> => {
        // Two who issue it at once come one after the other.
        await manager.query("select number from reporting_period where number = ? for update", [period.number]);
        if ((await restsOn(manager, group, period.number)) !== before) return false;
        const [newest] = (await issuedLines(manager, group.id)).filter(({ number }) => number === period.number);
        if (newest?.digest === digestOf(JSON.stringify(content)))
          throw new Failure("conflict", "This report has been issued already, and nothing in it has changed since.");
        const edition = (newest?.edition ?? 0) + 1;
        await storeIssued(manager, content, { subjectId: group.id, edition, issuedBy: me.id, issuedAt: at });
        await tellIssued(manager, post, content, { subjectId: group.id, edition });
        return true;
      },
    };
  };
  await withAlongside(make, (made) =>
    inTransaction(database, async (manager) => {
      if (!(await made.store(manager))) throw new Outdated();
    }),
  );
}

/** Groups with the projects that someone sees, the whole portfolio first, then as they lie in each other. */
export async function reportGroups(database: DataSource, me: Me): Promise<ReportGroups> {
  const [allGroups, allProjects, closed, newest, former, house] = await Promise.all([
    database.getRepository(ProgrammeEntity).find({ order: { position: "ASC" } }),
    database.getRepository(ProjectEntity).find({ order: { code: "ASC" } }),
    database.getRepository(ProjectClosingEntity).find(),
    database.query("select subject_id as id, max(number) as number from issued_report group by subject_id") as Promise<
      { id: string; number: number }[]
    >,
    // Periods that were issued before reports were kept have a page too.
    database.query("select project_id as id, max(number) as number from issued_period group by project_id") as Promise<
      { id: string; number: number }[]
    >,
    organisationName(database),
  ]);
  const projects = allProjects.filter((project) => maySee(me, project));
  const groups = groupsShown(
    me,
    allGroups.map(({ id, name, parentId }) => ({ id, name, parent: parentId })),
    projects.map(({ programmeId }) => programmeId),
  );
  const over = new Set(closed.map(({ projectId }) => projectId));
  const issued = new Map([...former, ...newest].map(({ id, number }) => [id, number]));
  const lineOf = ({ id, code, head }: ProjectEntity): ReportGroups[number]["projects"][number] => ({
    id,
    code,
    name: head.name,
    issued: issued.get(id) ?? null,
    closed: over.has(id),
  });
  const inGroup = (id: string | null) => projects.filter(({ programmeId }) => programmeId === id).map(lineOf);
  // The report of a group tells of all that lies in it.
  const lineOfGroup = (group: string | null, name: string, level: number): ReportGroups[number] => {
    const id = group ?? HOUSE;
    const mayOpen = seesGroup(me, group);
    return { id, name, level, mayOpen, projects: inGroup(group), issued: mayOpen ? (issued.get(id) ?? null) : null };
  };
  const below = (above: string | null, level: number): ReportGroups =>
    groups
      .filter(({ parent }) => parent === above)
      .flatMap(({ id, name }) => [lineOfGroup(id, name, level), ...below(id, level + 1)]);
  return [lineOfGroup(null, house, 0), ...below(null, 1)];
}
