import { randomUUID } from "node:crypto";
import { USUAL_WAYS, type NoticeKind, type Telling } from "@chronometra/contract";
import { In, IsNull, LessThanOrEqual, type EntityManager } from "typeorm";
import type { AccountEntity } from "../access/accountEntity.ts";
import { withinOf } from "../access/accounts.ts";
import { ProjectEntity } from "../project/projectEntity.ts";
import { maySee } from "../project/reach.ts";
import { installationZone } from "../shared/clock.ts";
import { NoticeEntity, TellingEntity } from "./noticeEntities.ts";
import { mailMoment } from "./whenTold.ts";
import { projectsWorkedIn } from "../project/worksIn.ts";

/** Something to tell someone who can sign in. */
export interface Notice {
  readonly to: AccountEntity;
  readonly kind: NoticeKind;
  readonly subject: string;
  readonly body: string;
  /** The page it is about, as `/desk/week`, and what is done there. */
  readonly link?: string | undefined;
  readonly act?: string | undefined;
  /** The project it is of: whoever sees it now is not told any more once they do not. */
  readonly project?: string | undefined;
  /** What it asks for, as `approval <id>`: asked again, it takes the place of what waits, and it is settled where that is done. */
  readonly about?: string | undefined;
  readonly moved?: string | undefined;
  readonly from?: { readonly id: string } | undefined;
}

const LONGEST_SUBJECT = 300;

/** A subject as it is kept. */
export const subjectOf = (words: string): string =>
  words.length <= LONGEST_SUBJECT ? words : `${words.slice(0, LONGEST_SUBJECT - 1)}…`;

/** As people are told who have not said how. */
export const USUALLY: Telling = { ways: { ...USUAL_WAYS }, quiet: null, at: "07:00", weekday: 1 };

/** How people want to be told, by account. */
export async function tellingOf(
  manager: EntityManager,
  accounts: readonly string[],
): Promise<(account: string) => Telling> {
  const said = await manager.getRepository(TellingEntity).findBy({ accountId: In([...accounts]) });
  const by = new Map(said.map(({ accountId, content }) => [accountId, content]));
  return (account) => ({ ...USUALLY, ...by.get(account), ways: { ...USUALLY.ways, ...by.get(account)?.ways } });
}

/** Of some projects those of which an account may be told: those that it may look into. */
async function seenBy(
  manager: EntityManager,
  { id, roles, only }: AccountEntity,
  projects: readonly string[],
): Promise<ReadonlySet<string>> {
  if (projects.length === 0) return new Set();
  const me = { id, roles, ...(await withinOf(manager, only)) };
  const found = await manager.getRepository(ProjectEntity).findBy({ id: In([...projects]) });
  return new Set(found.filter((project) => maySee(me, project)).map((project) => project.id));
}

/** When each account was sent mail last. */
async function lastMails(manager: EntityManager, accounts: readonly string[]): Promise<Map<string, Date>> {
  const rows = (await manager.query(
    "select account_id as account, max(sent_at) as at from mail where account_id in (?) group by account_id",
    [accounts],
  )) as { account: string; at: Date }[];
  return new Map(rows.map(({ account, at }) => [account, at]));
}

/** What is asked anew takes the place of what waits of it, and leaves by mail again. */
async function replaceWaiting(manager: EntityManager, notices: readonly Notice[]): Promise<void> {
  for (const { to, kind, about } of notices)
    if (kind === "asked" && about !== undefined)
      await manager.getRepository(NoticeEntity).delete({ accountId: to.id, about, kind, settledAt: IsNull() });
}

/** A message that is to leave for someone: the notices that it tells, and what the first of them was made of. */
export interface Due<N extends Notice> {
  readonly to: AccountEntity;
  readonly rows: readonly NoticeEntity[];
  readonly first: N;
}

/**
 * Puts what people are told into their inboxes; gives what is to leave as mail at once. The others wait for their time.
 * @param together see `mailMoment`
 */
export async function writeNotices<N extends Notice>(
  manager: EntityManager,
  notices: readonly N[],
  at: Date,
  together: number,
): Promise<Due<N>[]> {
  if (notices.length === 0) return [];
  await replaceWaiting(manager, notices);
  const accounts = new Map(notices.map(({ to }) => [to.id, to]));
  const [telling, last] = await Promise.all([
    tellingOf(manager, [...accounts.keys()]),
    lastMails(manager, [...accounts.keys()]),
  ]);
  const due: Due<N>[] = [];
  for (const to of accounts.values()) {
    const own = notices.filter((each) => each.to.id === to.id);
    const seen = await seenBy(
      manager,
      to,
      own.flatMap(({ project }) => (project === undefined ? [] : [project])),
    );
    const wishes = {
      ...telling(to.id),
      timeZone: to.timeZone ?? installationZone(),
      lastMail: last.get(to.id) ?? null,
    };
    const rows = own.map(({ kind, subject, body, link, act, project, about, moved, from }) =>
      manager.getRepository(NoticeEntity).create({
        ...{ id: randomUUID(), accountId: to.id, kind, subject: subjectOf(subject), body, at },
        ...{ link: link ?? null, act: act ?? "Open", about: about ?? null, moved: moved ?? null },
        projectId: project !== undefined && (seen.has(project) || kind === "talk") ? project : null,
        fromId: from?.id ?? null,
        ...{ seenAt: null, settledAt: null, mailId: null },
        mailAt: mailMoment(wishes.ways[kind], wishes, at, together),
      }),
    );
    await manager.getRepository(NoticeEntity).insert(rows);
    const now = rows.filter(({ mailAt }) => mailAt !== null && mailAt <= at);
    if (now.length > 0) due.push({ to, rows: now, first: own[rows.indexOf(now[0]!)]! });
  }
  return due;
}

/** What is due to someone and may still be told: not done meanwhile, and of projects that they still look into. */
export async function dueTo(manager: EntityManager, to: AccountEntity, now: Date): Promise<NoticeEntity[]> {
  const due = await manager
    .getRepository(NoticeEntity)
    .find({ where: { accountId: to.id, mailAt: LessThanOrEqual(now) }, order: { at: "ASC" } });
  const projects = [...new Set(due.flatMap(({ projectId }) => (projectId === null ? [] : [projectId])))];
  const [seen, worked] = await Promise.all([
    seenBy(manager, to, projects),
    projectsWorkedIn(manager, to.personId, projects),
  ]);
  return due.filter(
    ({ projectId, kind }) => projectId === null || seen.has(projectId) || (kind === "talk" && worked.has(projectId)),
  );
}

/** Notes that what was asked for is done, by whomever: it waits for nobody any more. */
export async function settleNotices(manager: EntityManager, about: string, at = new Date()): Promise<void> {
  await manager.query("update notice set settled_at = ?, mail_at = null where about = ? and settled_at is null", [
    at,
    about,
  ]);
}
