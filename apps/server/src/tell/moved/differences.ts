import { In, type DataSource, type EntityManager } from "typeorm";
import { AccountEntity } from "../../access/accountEntity.ts";
import { ProjectEntity } from "../../project/projectEntity.ts";
import { inTransaction } from "../../shared/database.ts";
import { KINDS, NONE, OF, told, type Kind, type Line, type Lines } from "./differenceWords.ts";
import { NoticeEntity, ToldProjectEntity, type ToldActivityEntity } from "../noticeEntities.ts";
import type { Message, Telling } from "../post.ts";
import { eachAlone } from "../../shared/eachAlone.ts";
import { everyAccount } from "../../access/accounts.ts";
import { maySee } from "../../project/reach.ts";
import { workersOf } from "../../project/worksIn.ts";

/** An activity as it is now, as far as people are told of it. */
interface Now extends Omit<ToldActivityEntity, "projectId"> {
  readonly name: string;
  readonly owner: string | null;
  /** Whether a baseline has it: before, dates are being planned and nobody is told of them. */
  readonly approved: number;
}

/** Whom of a project's people which lines are for, by kind and account. */
type For = Map<Kind, Map<string, Lines>>;

function add(all: For, kind: Kind, account: string, id: string, line: Line): void {
  const of = all.get(kind) ?? new Map<string, Lines>();
  const lines = of.get(account) ?? {};
  lines[id] = line;
  all.set(kind, of.set(account, lines));
}

/** What of an activity differs from what was told: nothing of dates that are only being planned. */
function differing(now: Now, was: ToldActivityEntity): Kind[] {
  return KINDS.filter((kind) => {
    const [before, after] = [OF[kind](was), OF[kind](now)];
    if (before === after) return false;
    if (kind === "moved") return now.approved === 1 && before !== NONE;
    return kind === "blocked" || (before !== NONE && after !== NONE);
  });
}

/** How activities are to be told, as columns of `activity_row r`: nothing of deadlines that are done with. */
const TOLD_OF = `r.start, r.finish, if(r.state in ('complete', 'parked'), null, r.deadline_state) as deadline,
  if(r.blocked = 1, left(r.blocked_by, 200), null) as blocked`;
const TOLD_ROWS = "r.project_id = ? and r.kind not in ('summary', 'levelOfEffort')";
const COLUMNS = ["start", "finish", "deadline", "blocked"] as const;

/** An activity that is not as people were told of it, with how that was; `null` of one that is new. */
interface Differing {
  readonly now: Now;
  readonly was: ToldActivityEntity | null;
}

/** Activities that are not as they were told. Compared by the database: of a large plan they are few. */
async function differingNow(manager: EntityManager, project: string): Promise<Differing[]> {
  const rows = (await manager.query(
    `select n.*, t.activity_id as known, t.start as wasStart, t.finish as wasFinish, t.deadline as wasDeadline, t.blocked as wasBlocked
       from (select r.activity_id as activityId, r.name, ${TOLD_OF},
           r.owner_id as owner, r.baseline_start is not null and r.state not in ('complete', 'parked') as approved
         from activity_row r where ${TOLD_ROWS}) n
       left join told_activity t on t.project_id = ? and t.activity_id = n.activityId
      where t.activity_id is null or not (${COLUMNS.map((name) => `t.${name} <=> n.${name}`).join(" and ")})`,
    [project, project],
  )) as (Now & Record<"known" | "wasStart" | "wasFinish" | "wasDeadline" | "wasBlocked", string | null>)[];
  return rows.map(({ known, wasStart, wasFinish, wasDeadline, wasBlocked, ...now }) => ({
    now,
    was:
      known === null
        ? null
        : {
            ...{ projectId: project, activityId: known, start: wasStart, finish: wasFinish },
            ...{ deadline: wasDeadline, blocked: wasBlocked },
          },
  }));
}

const ROWS_AT_ONCE = 2000;

/** Keeps how activities were told, and no more those that are gone. */
async function keep(manager: EntityManager, projectId: string, told: readonly Now[]): Promise<void> {
  for (let at = 0; at < told.length; at += ROWS_AT_ONCE)
    await manager.query(
      `insert into told_activity (project_id, activity_id, ${COLUMNS.join(", ")}) values ?
        on duplicate key update ${COLUMNS.map((name) => `${name} = values(${name})`).join(", ")}`,
      [
        told
          .slice(at, at + ROWS_AT_ONCE)
          .map(({ activityId, start, finish, deadline, blocked }) => [
            ...[projectId, activityId],
            ...[start, finish, deadline, blocked],
          ]),
      ],
    );
  await manager.query(
    `delete t from told_activity t left join activity_row r on r.project_id = t.project_id and r.activity_id = t.activity_id
      where t.project_id = ? and r.activity_id is null`,
    [projectId],
  );
}

/** Who follows which activities of a project, or it as a whole (`""`), and sees it: accounts by what they follow. */
async function followersOf(manager: EntityManager, project: ProjectEntity): Promise<ReadonlyMap<string, string[]>> {
  const rows = (await manager.query(
    "select account_id as account, about_id as aboutId from following where project_id = ? and about in ('activity', 'project') and follows = 1 and ended = 0",
    [project.id],
  )) as { account: string; aboutId: string }[];
  const followers = new Map<string, string[]>();
  if (rows.length === 0) return followers;
  const workers = await workersOf(manager, project.id);
  const seeing = new Set(
    (await everyAccount(manager))
      .filter((who) => maySee(who, project) || (who.person !== null && workers.has(who.person)))
      .map(({ id }) => id),
  );
  for (const { account, aboutId } of rows)
    if (seeing.has(account)) followers.set(aboutId, [...(followers.get(aboutId) ?? []), account]);
  return followers;
}

/** Whose work the activities are, who follows them, and who manages the project: accounts by what they are told of. */
async function lineUp(
  manager: EntityManager,
  project: ProjectEntity,
  moved: readonly { readonly now: Now; readonly was: ToldActivityEntity; readonly kinds: readonly Kind[] }[],
): Promise<{ lines: For; accounts: Map<string, AccountEntity> }> {
  const people = (await manager.query(
    "select activity_id as activity, person_id as person from activity_person where project_id = ? and activity_id in (?)",
    [project.id, moved.map(({ now }) => now.activityId)],
  )) as { activity: string; person: string }[];
  const persons = new Set([...people.map(({ person }) => person), ...moved.flatMap(({ now }) => now.owner ?? [])]);
  const followers = await followersOf(manager, project);
  const found = await manager.getRepository(AccountEntity).find({
    where: [{ personId: In([...persons]) }, { id: In([project.managerId, ...[...followers.values()].flat()]) }],
  });
  const byPerson = new Map(
    found.flatMap((account) => (account.personId === null ? [] : [[account.personId, account.id]])),
  );
  const on = new Map<string, string[]>();
  for (const { activity, person } of people) on.set(activity, [...(on.get(activity) ?? []), person]);
  const lines: For = new Map();
  for (const { now, was, kinds } of moved)
    for (const kind of kinds) {
      const line = { name: now.name, was: OF[kind](was), is: OF[kind](now) };
      const own = [...(on.get(now.activityId) ?? []), ...(kind === "moved" ? [] : [now.owner ?? ""])];
      const to = new Set(own.flatMap((person) => byPerson.get(person) ?? []));
      if (kind !== "moved") to.add(project.managerId);
      for (const account of followers.get(now.activityId) ?? []) to.add(account);
      // Of a project that is followed as a whole, its promises.
      if (kind === "deadline") for (const account of followers.get("") ?? []) to.add(account);
      for (const account of to) add(lines, kind, account, now.activityId, line);
    }
  return { lines, accounts: new Map(found.map((account) => [account.id, account])) };
}

/** What was not looked at yet, together with what came: what is as it was again, is not told at all. */
function together(before: Lines, lines: Lines): Lines {
  const merged: Record<string, Line> = { ...before };
  for (const [id, line] of Object.entries(lines)) {
    const was = before[id]?.was ?? line.was;
    if (was === line.is) delete merged[id];
    else merged[id] = { ...line, was };
  }
  return merged;
}

const linkOf = (kind: Kind, project: ProjectEntity, { id, personId }: AccountEntity): string => {
  if (id !== project.managerId && personId === null)
    return `/projects/${project.id}/${kind === "deadline" ? "dates" : "plan"}`;
  if (id !== project.managerId || kind === "moved") return "/desk";
  return kind === "deadline" ? `/projects/${project.id}/dates` : "/time/blocked";
};

/** Tells people; who has not looked at what they were told before, is told both as one. */
async function tell(
  manager: EntityManager,
  post: Telling,
  project: ProjectEntity,
  { lines, accounts }: { lines: For; accounts: ReadonlyMap<string, AccountEntity> },
  { leaveOut, at }: { leaveOut: string | null; at: Date },
): Promise<void> {
  const notices = manager.getRepository(NoticeEntity);
  const messages: Message[] = [];
  for (const [kind, byAccount] of lines) {
    const about = `${kind} ${project.id}`;
    const open = await manager.query(
      "select id, account_id as account, moved from notice where about = ? and seen_at is null and mail_id is null",
      [about],
    );
    const waiting = new Map(
      (open as { id: string; account: string; moved: string }[]).map((row) => [row.account, row]),
    );
    for (const [account, own] of byAccount) {
      const to = accounts.get(account);
      const before = waiting.get(account);
      if (to === undefined || (account === leaveOut && before === undefined)) continue;
      const all = together(before === undefined ? {} : (JSON.parse(before.moved) as Lines), own);
      const moved = JSON.stringify(all);
      if (Object.keys(all).length === 0) await notices.delete({ id: before?.id ?? "" });
      else if (before !== undefined)
        await notices.update({ id: before.id }, { ...told(kind, project.code, all), moved, at });
      else
        messages.push({
          ...{ to, kind, about, moved, project: project.id },
          ...told(kind, project.code, all),
          link: linkOf(kind, project, to),
        });
    }
  }
  await post.put(manager, messages, at);
}

/** The one who alone changed a project since a revision: they know. */
async function soleAuthor(manager: EntityManager, project: string, since: number): Promise<string | null> {
  const rows = (await manager.query(
    "select distinct account_id as account from change_list where project_id = ? and revision > ? limit 2",
    [project, since],
  )) as { account: string }[];
  return rows.length === 1 ? rows[0]!.account : null;
}

/** Tells of one project what differs from what was told; of one that was never looked at, only from then on. */
async function tellProject(manager: EntityManager, post: Telling, id: string, at: Date): Promise<void> {
  await manager.query("insert ignore into told_project (project_id, revision) values (?, -1)", [id]);
  // Of two servers the second finds it told.
  const [{ revision: since }] = (await manager.query(
    "select revision from told_project where project_id = ? for update",
    [id],
  )) as [{ revision: number }];
  const [{ kept, closed }] = (await manager.query(
    "select kept_revision as kept, exists(select 1 from project_closing c where c.project_id = p.id) as closed from project p where id = ?",
    [id],
  )) as [{ kept: number; closed: string }];
  if (since >= kept) return;
  if (since < 0)
    await manager.query(
      `insert ignore into told_activity (project_id, activity_id, ${COLUMNS.join(", ")})
         select r.project_id, r.activity_id, ${TOLD_OF} from activity_row r where ${TOLD_ROWS}`,
      [id],
    );
  const rows = since < 0 ? [] : await differingNow(manager, id);
  const moved = rows.flatMap(({ now, was }) => {
    const kinds = was === null ? [] : differing(now, was);
    return was === null || kinds.length === 0 ? [] : [{ now, was, kinds }];
  });
  if (moved.length > 0 && Number(closed) === 0) {
    const project = await manager.getRepository(ProjectEntity).findOneByOrFail({ id });
    const leaveOut = await soleAuthor(manager, id, since);
    await tell(manager, post, project, await lineUp(manager, project, moved), { leaveOut, at });
  }
  await keep(
    manager,
    id,
    rows.map(({ now }) => now),
  );
  await manager.getRepository(ToldProjectEntity).update({ projectId: id }, { revision: kept });
}

/** Notes that people were told of the dates that some activities have now, with why, by whoever moved them. */
export async function datesTold(manager: EntityManager, project: string, activities: readonly string[]): Promise<void> {
  if (activities.length === 0) return;
  await manager.query(
    `update told_activity t join activity_row r on r.project_id = t.project_id and r.activity_id = t.activity_id
        set t.start = r.start, t.finish = r.finish where t.project_id = ? and t.activity_id in (?)`,
    [project, activities],
  );
}

const AT_ONCE = 200;

/**
 * Tells people which dates of their work, deadlines and blocks are not what they were told last, whatever it was that
 * changed the plan; gives of how many projects it looked.
 */
export async function tellDifferences(database: DataSource, post: Telling, at = new Date()): Promise<number> {
  const rows = (await database.query(
    `select p.id from project p left join told_project t on t.project_id = p.id where p.kept_revision > coalesce(t.revision, -1) order by p.id limit ${AT_ONCE}`,
  )) as { id: string }[];
  await eachAlone(rows, ({ id }) => inTransaction(database, (manager) => tellProject(manager, post, id, at)));
  return rows.length;
}
