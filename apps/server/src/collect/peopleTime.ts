import type { Endings, Me, PeopleWeek, WeeksEffect } from "@chronometra/contract";
import { addDays, dateWords, parseDate } from "@chronometra/core";
import { Between, In, Like, MoreThanOrEqual, type DataSource } from "typeorm";
import { AccountEntity } from "../access/accountEntity.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { mayEdit } from "../project/reach.ts";
import { ProjectEntity } from "../project/projectEntity.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";
import { NoticeEntity } from "../tell/noticeEntities.ts";
import { reminderOf, weekAsked } from "../tell/reminders.ts";
import type { Post } from "../tell/post.ts";
import { WeekSheetEntity } from "./kept/deskEntities.ts";
import { ReportEntity } from "./kept/reportEntity.ts";
import { decideReports, effectOfReports } from "./report/decideReports.ts";
import { sheetsOf, waitingInWeek, weekAround } from "./report/sheets.ts";
import { expectedMinutes } from "../resources/capacity.ts";
import { overPlans } from "../plan/held/overPlan.ts";
import type { COLLECT_WORKS } from "./works/collectWorks.ts";

const overPlan = overPlans<typeof COLLECT_WORKS>();

type Line = PeopleWeek["people"][number];

const newLine = (id: string, name: string): Line => ({
  id,
  name,
  expectedMinutes: 0,
  plannedMinutes: 0,
  postedMinutes: 0,
  waitingMinutes: 0,
  sheet: null,
  remindedAt: null,
  canBeReached: false,
  projects: [],
});

const inProject = (projectId: string, personId: string): string => `${projectId} ${personId}`;

/** The minutes that wait to be reviewed, by project and person. */
async function waitingMinutes(database: DataSource, monday: string, sunday: string): Promise<Map<string, number>> {
  const waiting = await database
    .getRepository(ReportEntity)
    .find({ where: { state: "submitted", date: Between(monday, sunday) } });
  const found = new Map<string, number>();
  for (const { projectId, personId, minutes } of waiting) {
    const key = inProject(projectId, personId);
    found.set(key, (found.get(key) ?? 0) + (minutes ?? 0));
  }
  return found;
}

function addProject(line: Line, own: Line["projects"][number]): void {
  line.plannedMinutes += own.plannedMinutes;
  line.postedMinutes += own.postedMinutes;
  line.waitingMinutes += own.waitingMinutes;
  if (own.plannedMinutes !== 0 || own.postedMinutes !== 0 || own.waitingMinutes !== 0) line.projects.push(own);
}

/** A week's lines by person, of what the projects say that someone answers for. */
async function linesBetween(database: DataSource, me: Me, monday: string, sunday: string): Promise<Map<string, Line>> {
  const waiting = await waitingMinutes(database, monday, sunday);
  const lines = new Map<string, Line>();
  const projects = await database.getRepository(ProjectEntity).find({ order: { code: "ASC" } });
  for (const project of projects.filter((each) => mayEdit(me, each))) {
    const plan = await loadPlan(database.manager, project);
    const { planned, posted } = await overPlan("peopleBetween", { id: project.id, plan }, { from: monday, to: sunday });
    for (const id of new Set([...plan.assignments.values()].map(({ person }) => person))) {
      if (plan.placeholders.has(id)) continue;
      const line = lines.get(id) ?? newLine(id, plan.people.get(id)?.name ?? id);
      addProject(line, {
        project: project.id,
        name: project.head.name,
        plannedMinutes: planned.get(id) ?? 0,
        postedMinutes: posted.get(id) ?? 0,
        waitingMinutes: waiting.get(inProject(project.id, id)) ?? 0,
      });
      lines.set(id, line);
    }
  }
  return lines;
}

/** When each account was reminded of a week last. */
async function remindedOf(database: DataSource, monday: string): Promise<Map<string | null, string>> {
  const told = await database.getRepository(NoticeEntity).find({
    where: { subject: Like(`${reminderOf(monday)}%`), at: MoreThanOrEqual(new Date(`${monday}T00:00:00Z`)) },
    order: { at: "ASC" },
  });
  return new Map(told.map(({ accountId, at }) => [accountId, at.toISOString()]));
}

/** The week around a day of everyone with work in the projects that someone answers for. */
export async function peopleWeek(database: DataSource, me: Me, date: string): Promise<PeopleWeek> {
  const { monday, sunday } = weekAround(date);
  const from = parseDate(monday)!;
  const days = Array.from({ length: 7 }, (_, i) => addDays(from, i));
  const lines = await linesBetween(database, me, monday, sunday);
  const sheets = await sheetsOf(database, monday);
  const expected = await expectedMinutes(database, [...lines.keys()], days);
  const accounts = new Map(
    (await database.getRepository(AccountEntity).find()).flatMap((account) =>
      account.personId === null ? [] : [[account.personId, account] as const],
    ),
  );
  const reminded = await remindedOf(database, monday);
  const people = [...lines.values()].map((line): Line => {
    const account = accounts.get(line.id);
    return {
      ...line,
      expectedMinutes: expected(line.id).reduce((sum, minutes) => sum + minutes, 0),
      sheet: sheets.get(line.id) ?? null,
      canBeReached: account !== undefined,
      remindedAt: account === undefined ? null : (reminded.get(account.id) ?? null),
    };
  });
  return { from: monday, people: people.sort((a, b) => a.name.localeCompare(b.name)) };
}

/**
 * What approving weeks would accept of those reports that this person decides, and what that would move; nothing
 * stored.
 */
export async function effectOfWeeks(
  database: DataSource,
  me: Me,
  date: string,
  people: readonly string[],
  endings: Endings | undefined,
): Promise<WeeksEffect> {
  const { monday, sunday } = weekAround(date);
  const { mine } = await waitingInWeek(database, me, monday, sunday, people);
  return { reports: mine, effects: mine.length === 0 ? [] : await effectOfReports(database, me, mine, { endings }) };
}

interface WeekDecision {
  readonly people: readonly string[];
  readonly decision: "approve" | "return";
  readonly word: string;
  /** The reports whose effect was looked at. */
  readonly seen: readonly string[];
  readonly endings?: Endings | undefined;
}

/**
 * Approves weeks that were sent, which accepts what was seen to wait in them and this person decides; or returns them
 * with a word.
 */
export async function decideWeeks(
  database: DataSource,
  post: Post,
  me: Me,
  date: string,
  { people, decision, word, seen: looked, endings }: WeekDecision,
): Promise<{ approved: string[]; open: string[] }> {
  const { monday, sunday } = weekAround(date);
  const seen = new Map((await peopleWeek(database, me, date)).people.map((line) => [line.id, line]));
  for (const id of people) {
    const line = seen.get(id);
    if (line === undefined)
      throw new Failure("notAllowed", "Only weeks of people who work in your projects are decided by you.");
    if (line.sheet?.state !== "sent")
      throw new Failure(
        "conflict",
        `${line.name} has not sent the week of ${dateWords(monday)}, or it was decided meanwhile; load the page again.`,
      );
  }
  const { mine, others } = await waitingInWeek(database, me, monday, sunday, people);
  if (decision === "approve" && (mine.length !== looked.length || mine.some((id) => !looked.includes(id))))
    throw new Failure(
      "conflict",
      "What waits in these weeks is not what you looked at: look at what approving would move, and decide then.",
    );
  if (decision === "approve" && mine.length > 0)
    await decideReports(database, post, me, mine, { decision: "accept", endings, ...(word === "" ? {} : { word }) });
  const done = people.filter((id) => decision === "return" || !others.has(id));
  await inTransaction(database, async (manager) => {
    if (done.length > 0)
      await manager.getRepository(WeekSheetEntity).update(
        { personId: In(done), monday, state: "sent" },
        {
          state: decision === "approve" ? "approved" : "returned",
          decidedBy: me.id,
          decidedAt: new Date(),
          word: word === "" ? null : word,
        },
      );
  });
  const names = (ids: readonly string[]): string[] => ids.map((id) => seen.get(id)!.name);
  return {
    approved: decision === "approve" ? names(done) : [],
    open: names(people.filter((id) => !done.includes(id))),
  };
}

/** Sends a message to each of some people that they have not sent their week. */
export async function remind(
  database: DataSource,
  post: Post,
  me: Me,
  date: string,
  people: readonly string[],
  words: string,
): Promise<{ sent: number; failed: { to: string; why: string }[] }> {
  const { monday } = weekAround(date);
  const mine = new Map((await peopleWeek(database, me, date)).people.map(({ id, name }) => [id, name]));
  if (people.some((id) => !mine.has(id)))
    throw new Failure("notAllowed", "Only people who work in your projects are reminded by you.");
  const accounts = await database.getRepository(AccountEntity).findBy({ personId: In([...people]) });
  await inTransaction(database, (manager) =>
    post.put(
      manager,
      accounts.map((to) => ({
        to,
        kind: "asked" as const,
        about: weekAsked(to.personId!, monday),
        subject: reminderOf(monday),
        body: words.trim(),
        act: "Open the week",
        link: `/desk/week?date=${monday}`,
        from: me,
      })),
    ),
  );
  const reached = new Set(accounts.map(({ personId }) => personId));
  return {
    sent: accounts.length,
    failed: people.filter((id) => !reached.has(id)).map((id) => ({ to: mine.get(id)!, why: "has no account here" })),
  };
}
