import { wordFor, type Desk, type DeskActivity, type Me, type QueuedReport, type Report } from "@chronometra/contract";
import {
  addDays,
  formatDate,
  leaveOf,
  parseDate,
  remarksOn,
  weekdayOf,
  type Plan,
  type Remark,
} from "@chronometra/core";
import { In, MoreThanOrEqual, type DataSource, type EntityManager } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { lockedTo } from "../project/locks.ts";
import { overPlans } from "../plan/held/overPlan.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { ProjectEntity } from "../project/projectEntity.ts";
import { todayOf } from "../shared/clock.ts";
import { clockOf } from "./clock.ts";
import { keepSeen, newsFor } from "./deskNews.ts";
import { projectsOf } from "./kept/projectsOf.ts";
import { acceptedBefore } from "./kept/acceptedBefore.ts";
import { ReportEntity } from "./kept/reportEntity.ts";
import { expectedMinutes } from "../resources/capacity.ts";
import { broughtTime } from "./works/broughtTime.ts";
import type { COLLECT_WORKS } from "./works/collectWorks.ts";
import { ownWordsOf } from "../charter/charter.ts";
import { documentCounts } from "../documents/documents.ts";
import { unbookedDays } from "./unbooked.ts";

const overPlan = overPlans<typeof COLLECT_WORKS>();

const SENT_DAYS = 35;
const BOOKED_DAYS = 400;

interface PlanOfProject {
  readonly project: ProjectEntity;
  readonly plan: Plan;
}

/** A person's plans, with what bears on them alone. */
async function plansOf(database: DataSource, person: string): Promise<PlanOfProject[]> {
  const plans = [];
  for (const project of await projectsOf(database, person))
    plans.push({ project, plan: await loadPlan(database.manager, project) });
  return plans;
}

/** All of a person's own work that is not finished, project by project. */
const ownWork = async (plans: readonly PlanOfProject[], person: string): Promise<DeskActivity[]> =>
  (
    await Promise.all(
      plans.map(({ project: { id }, plan }) => overPlan("ownActivities", { id, plan }, { project: id, person })),
    )
  ).flat();

/** The desk of someone who is no person of any plan. */
const nobodysDesk = (today: string): Desk => ({
  person: null,
  today,
  activities: [],
  reports: [],
  booked: {},
  seenAt: null,
  news: [],
  clock: null,
  forgotten: [],
  meetings: [],
  leave: [],
  calendar: [],
});

/** A person's reports that wait, and those of late. */
const reportsSince = (database: DataSource, personId: string, lately: string): Promise<ReportEntity[]> =>
  database.getRepository(ReportEntity).find({
    where: [
      { personId, state: "submitted" },
      { personId, date: MoreThanOrEqual(lately) },
      { personId, sentAt: MoreThanOrEqual(new Date(`${lately}T00:00:00Z`)) },
    ],
    order: { date: "DESC", sentAt: "DESC" },
  });

/** Minutes that wait to be accepted, by activity. */
function waitingIn(reports: readonly ReportEntity[]): (work: { project: string; activity: string }) => number {
  const waiting = new Map<string, number>();
  for (const { state, projectId, activityId, minutes } of reports) {
    if (state !== "submitted") continue;
    const key = `${projectId}\0${activityId}`;
    waiting.set(key, (waiting.get(key) ?? 0) + (minutes ?? 0));
  }
  return ({ project, activity }) => waiting.get(`${project}\0${activity}`) ?? 0;
}

/**
 * What a person sees on their desk: their own activities that are not finished, own reports, and what else asks for a
 * glance.
 */
export async function deskOf(database: DataSource, me: Me): Promise<Desk> {
  const { person } = me;
  const today = todayOf(me);
  if (person === null) return nobodysDesk(today);
  const since = (days: number): string => formatDate(addDays(parseDate(today)!, -days));
  const reports = await reportsSince(database, person, since(SENT_DAYS));
  const waiting = waitingIn(reports);
  const plans = await plansOf(database, person);
  const ids = plans.map(({ project }) => project.id);
  const [work, documents, words] = await Promise.all([
    ownWork(plans, person),
    documentCounts(database, ids),
    ownWordsOf(database, ids),
  ]);
  const activities = work.map((each) => ({
    ...each,
    waitingMinutes: waiting(each),
    priorityWord: each.note?.priority === undefined ? null : wordFor(words.get(each.project) ?? {}, each.note.priority),
    documents: documents.get(`${each.project}\0${each.activity}`) ?? 0,
  }));
  const [{ seenAt, news }, clock, { forgotten, meetings }] = await Promise.all([
    newsFor(database, person, activities),
    clockOf(database, person),
    unbookedDays(database, person, today, plans),
  ]);
  return {
    person,
    today,
    activities,
    reports: await presentReports(database, reports),
    booked: await bookedByDay(database, person, since(BOOKED_DAYS), plans),
    seenAt,
    news,
    clock,
    forgotten,
    meetings,
    leave: leaveOfPerson(person, today, plans, reports),
    calendar: await calendarOf(database, person, today),
  };
}

/** Minutes by day as the week counts them: what was reported, and what came from elsewhere. */
async function bookedByDay(
  database: DataSource,
  person: string,
  from: string,
  plans: readonly { plan: Plan }[],
): Promise<Desk["booked"]> {
  const rows = (await database.query(
    "select date, sum(minutes) as minutes from report where person_id = ? and date >= ? and state in ('submitted', 'posted') and minutes is not null group by date",
    [person, from],
  )) as { date: string; minutes: string }[];
  const booked: Desk["booked"] = Object.fromEntries(rows.map(({ date, minutes }) => [date, Number(minutes)]));
  for (const { plan } of plans)
    for (const { date, minutes } of broughtTime(plan, person))
      if (date >= from) booked[date] = (booked[date] ?? 0) + minutes;
  return booked;
}

/** Keeps a person's own work as it is now as what they have seen. */
export async function markSeen(database: DataSource, person: string | null): Promise<void> {
  if (person === null) return;
  const plans = await plansOf(database, person);
  await keepSeen(database, person, await ownWork(plans, person));
}

const CALENDAR_DAYS = 35;

async function calendarOf(database: DataSource, person: string, today: string): Promise<Desk["calendar"]> {
  const now = parseDate(today)!;
  const days = Array.from({ length: CALENDAR_DAYS }, (_, i) => addDays(now, i - weekdayOf(now)));
  return (await expectedMinutes(database, [person], days))(person).map((minutes, i) => ({
    date: formatDate(days[i]!),
    expectedMinutes: minutes,
  }));
}

function leaveOfPerson(
  person: string,
  today: string,
  plans: readonly { plan: Plan }[],
  reports: readonly ReportEntity[],
): Desk["leave"] {
  const booked = new Map<string, Desk["leave"][number]>();
  for (const { plan } of plans) {
    const row = plan.people.get(person);
    for (const { from, to, label } of row === undefined ? [] : leaveOf(plan, row))
      booked.set(`${from} ${to}`, { from, to, label: label ?? "", waiting: false });
  }
  for (const report of reports) {
    const key = `${report.date} ${report.leaveUntil}`;
    if (report.leaveUntil !== null && report.state === "submitted" && !booked.has(key))
      booked.set(key, { from: report.date, to: report.leaveUntil, label: report.note, waiting: true });
  }
  return [...booked.values()].filter(({ to }) => to >= today).sort((a, b) => (a.from < b.from ? -1 : 1));
}

/** Reports with the names of what they speak of. */
export async function presentReports(
  database: DataSource | EntityManager,
  reports: readonly ReportEntity[],
): Promise<Report[]> {
  if (reports.length === 0) return [];
  const manager = "manager" in database ? database.manager : database;
  const ids = [...new Set(reports.map(({ projectId }) => projectId))];
  const plans = new Map<string, Plan>();
  for (const project of await database.getRepository(ProjectEntity).findBy({ id: In(ids) }))
    plans.set(project.id, await loadPlan(manager, project));
  const names = await accountNames(database);
  return reports.map((report) => {
    const plan = plans.get(report.projectId)!;
    return {
      id: report.id,
      project: report.projectId,
      projectName: plan.project.name,
      activity: report.activityId,
      activityName:
        report.leaveUntil === null ? (plan.activities.get(report.activityId)?.name ?? report.activityId) : "leave",
      person: plan.people.get(report.personId)?.name ?? report.personId,
      date: report.date,
      leaveUntil: report.leaveUntil,
      minutes: report.minutes,
      percent: report.percent,
      remainingMinutes: report.remainingMinutes,
      stage: report.stage,
      note: report.note,
      state: report.state,
      sentAt: report.sentAt.toISOString(),
      word: report.word,
      decidedBy: report.decidedBy === null ? null : (names.get(report.decidedBy) ?? ""),
    };
  });
}

/** Reports that wait, with what should be known of each before it is decided. */
export async function presentQueue(database: DataSource, reports: readonly ReportEntity[]): Promise<QueuedReport[]> {
  const remarks = new Map<string, Remark[]>();
  for (const project of await database
    .getRepository(ProjectEntity)
    .findBy({ id: In([...new Set(reports.map(({ projectId }) => projectId))]) })) {
    const own = reports.filter(({ projectId }) => projectId === project.id);
    for (const [id, found] of remarksOn(
      await loadPlan(database.manager, project),
      own,
      await lockedTo(database, project.id),
      await acceptedBefore(database.manager, project.id, own),
    ))
      remarks.set(id, found);
  }
  return (await presentReports(database, reports)).map((report) => ({
    ...report,
    remarks: remarks.get(report.id) ?? [],
  }));
}
