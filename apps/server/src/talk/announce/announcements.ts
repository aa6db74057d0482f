import { randomUUID } from "node:crypto";
import type { Announcement, BodyOf, Me } from "@chronometra/contract";
import { dateWords } from "@chronometra/core";
import { In, IsNull, MoreThanOrEqual, type DataSource, type EntityManager } from "typeorm";
import { AccountEntity } from "../../access/accountEntity.ts";
import { accountNames } from "../../access/accounts.ts";
import { groupsBelow } from "../../project/groupTree.ts";
import { assertNotClosed, findProject } from "../../project/projectAccess.ts";
import { ProgrammeEntity, type ProjectEntity } from "../../project/projectEntity.ts";
import { holdsIn, mayEdit, maySee, seesGroup } from "../../project/reach.ts";
import { projectsWorkedIn } from "../../project/worksIn.ts";
import { todayOf } from "../../shared/clock.ts";
import { inTransaction } from "../../shared/database.ts";
import { Failure, orNotFound } from "../../shared/failure.ts";
import { settleNotices } from "../../tell/notices.ts";
import type { Message, Telling } from "../../tell/post.ts";
import { AnnouncementEntity } from "./announcementEntity.ts";

type Reader = DataSource | EntityManager;
type Subject = Pick<AnnouncementEntity, "projectId" | "groupId">;

/** Groups, and the projects that are not closed, with where each lies. */
interface House {
  readonly groups: readonly ProgrammeEntity[];
  readonly projects: readonly Pick<ProjectEntity, "id" | "managerId" | "programmeId" | "code">[];
}

async function houseOf(manager: Reader): Promise<House> {
  const [groups, projects] = await Promise.all([
    manager.getRepository(ProgrammeEntity).find(),
    manager.query(
      `select p.id, p.manager_id as managerId, p.programme_id as programmeId, p.code from project p
        left join project_closing c on c.project_id = p.id where c.project_id is null`,
    ) as Promise<House["projects"]>,
  ]);
  return { groups, projects };
}

/** The projects that an announcement is for. */
function projectsOf({ projectId, groupId }: Subject, { groups, projects }: House): House["projects"] {
  if (projectId !== null) return projects.filter(({ id }) => id === projectId);
  const below = groupsBelow(groups, groupId!);
  return projects.filter(({ programmeId }) => programmeId !== null && below.has(programmeId));
}

/** Whether someone may announce something, or end what was: who manages it, or controls what it lies in. */
function mayAnnounce(me: Me, { projectId, groupId }: Subject, { groups, projects }: House): boolean {
  if (projectId !== null) {
    const project = projects.find(({ id }) => id === projectId);
    return project !== undefined && mayEdit(me, project);
  }
  return holdsIn(me, "controller", groupId) || groups.find(({ id }) => id === groupId)?.managerId === me.id;
}

/** What is announced to someone just now, the newest first: of projects they see or work in, and of what these lie in. */
export async function listAnnouncements(database: DataSource, me: Me): Promise<Announcement[]> {
  const rows = await database
    .getRepository(AnnouncementEntity)
    .find({ where: { until: MoreThanOrEqual(todayOf(me)), endedBy: IsNull() }, order: { at: "DESC" } });
  if (rows.length === 0) return [];
  const [house, names] = await Promise.all([houseOf(database), accountNames(database)]);
  const worked = await projectsWorkedIn(
    database,
    me.person,
    house.projects.map(({ id }) => id),
  );
  const isFor = (row: AnnouncementEntity): boolean =>
    row.accountId === me.id ||
    (row.groupId !== null && seesGroup(me, row.groupId)) ||
    projectsOf(row, house).some((project) => maySee(me, project) || worked.has(project.id));
  return rows.filter(isFor).flatMap((row) => {
    const of =
      row.projectId === null
        ? house.groups.find(({ id }) => id === row.groupId)?.name
        : house.projects.find(({ id }) => id === row.projectId)?.code;
    if (of === undefined) return [];
    return {
      ...{ id: row.id, project: row.projectId, group: row.groupId, of, text: row.text, until: row.until },
      ...{ by: names.get(row.accountId) ?? "", at: row.at.toISOString(), mayEnd: mayAnnounce(me, row, house) },
    };
  });
}

/** Who works in some projects or manages them. */
async function peopleOf(manager: EntityManager, projects: House["projects"]): Promise<AccountEntity[]> {
  if (projects.length === 0) return [];
  const rows = (await manager.query(
    "select distinct person_id as person from plan_row where table_name = 'assignments' and project_id in (?)",
    [projects.map(({ id }) => id)],
  )) as { person: string }[];
  return manager.getRepository(AccountEntity).find({
    where: [
      { personId: In(rows.map(({ person }) => person)) },
      { id: In([...new Set(projects.map(({ managerId }) => managerId))]) },
    ],
  });
}

const aboutOf = (id: string): string => `announcement ${id}`;

/** Announces something to all who work in a project or in those of a group, and to whoever manages these. */
export async function announce(
  database: DataSource,
  me: Me,
  post: Telling,
  { project, group, text, until }: BodyOf<"POST /api/announcements">,
): Promise<Announcement[]> {
  const subject = { projectId: project, groupId: group };
  if ((project === null) === (group === null))
    throw new Failure("invalid", "Say for which project or which group it is.");
  if (until < todayOf(me))
    throw new Failure("invalid", `${dateWords(until)} is over; say until when it is to be shown.`);
  await inTransaction(database, async (manager) => {
    if (project !== null) await assertNotClosed(manager, await findProject(manager, project));
    const house = await houseOf(manager);
    if (!mayAnnounce(me, subject, house))
      throw new Failure("notAllowed", "Only whoever manages it, or a controller, announces something there.");
    const projects = projectsOf(subject, house);
    const id = randomUUID();
    const at = new Date();
    const row = { id, ...subject, accountId: me.id, at, until, text, endedBy: null };
    await manager.getRepository(AnnouncementEntity).insert(row);
    const of = project === null ? house.groups.find((each) => each.id === group)!.name : projects[0]!.code;
    const people = (await peopleOf(manager, projects)).filter((each) => each.id !== me.id);
    await post.put(
      manager,
      people.map((to): Message => ({
        ...{ to, from: me, kind: "talk", about: aboutOf(id), project: project ?? undefined, body: text },
        ...{ subject: `For all of ${of}: ${text.split("\n")[0]!.slice(0, 120)}`, link: "/talk", act: "Read" },
      })),
      at,
    );
  });
  return listAnnouncements(database, me);
}

/** Ends an announcement before its time, or lets it stand again. */
export async function endAnnouncement(
  database: DataSource,
  me: Me,
  id: string,
  ended: boolean,
): Promise<Announcement[]> {
  await inTransaction(database, async (manager) => {
    const rows = manager.getRepository(AnnouncementEntity);
    const row = orNotFound(await rows.findOneBy({ id }), "announcement of that address");
    if (!mayAnnounce(me, row, await houseOf(manager)))
      throw new Failure("notAllowed", "Only whoever manages it, or a controller, ends what is announced there.");
    await rows.update({ id }, { endedBy: ended ? me.id : null });
    if (ended) await settleNotices(manager, aboutOf(id));
  });
  return listAnnouncements(database, me);
}
