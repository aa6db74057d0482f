import type { Desk, DeskActivity, Report } from "@chronometra/contract";
import { formatDate, schedulePlan, toBundle, type Plan, type Schedule } from "@chronometra/core";
import { In, type DataSource, type EntityManager } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { loadPlan } from "../plan/planStore.ts";
import { ProjectEntity } from "../portfolio/projectEntity.ts";
import { today } from "../shared/clock.ts";
import { ReportEntity } from "./reportEntity.ts";

/** Projects in which a person has work. */
async function projectsOf(database: DataSource, person: string): Promise<ProjectEntity[]> {
  const rows = (await database.query("select distinct project_id as id from plan_row where person_id = ? and table_name = 'assignments'", [person])) as { id: string }[];
  return rows.length === 0 ? [] : database.getRepository(ProjectEntity).find({ where: { id: In(rows.map(({ id }) => id)) }, order: { code: "ASC" } });
}

/** What a person sees on their desk: their own activities that are not finished, or finished lately, and own reports. */
export async function deskOf(database: DataSource, person: string | null): Promise<Desk> {
  if (person === null) return { person, today: today(), activities: [], reports: [] };
  const reports = await database.getRepository(ReportEntity).find({ where: { personId: person }, order: { date: "DESC", sentAt: "DESC" }, take: 60 });
  const waiting = new Map<string, number>();
  for (const report of reports) {
    if (report.state !== "submitted") continue;
    const key = `${report.projectId}\0${report.activityId}`;
    waiting.set(key, (waiting.get(key) ?? 0) + (report.minutes ?? 0));
  }
  const activities: DeskActivity[] = [];
  for (const project of await projectsOf(database, person)) {
    const plan = await loadPlan(database.manager, project);
    for (const activity of ownActivities(project.id, plan, person)) {
      activities.push({ ...activity, waitingMinutes: waiting.get(`${project.id}\0${activity.activity}`) ?? 0 });
    }
  }
  return { person, today: today(), activities, reports: await presentReports(database, reports) };
}

function ownActivities(projectId: string, plan: Plan, person: string): DeskActivity[] {
  const bundle = toBundle(plan);
  const schedule = schedulePlan(bundle);
  const position = new Map(bundle.activities.map(({ id }, i) => [id, i]));
  const posted = new Map<string, number>();
  for (const entry of plan.timeEntries.values()) {
    if (entry.person === person && entry.state === "posted") posted.set(entry.activity, (posted.get(entry.activity) ?? 0) + entry.minutes);
  }
  const found: DeskActivity[] = [];
  for (const assignment of plan.assignments.values()) {
    const i = position.get(assignment.activity)!;
    const row = schedule.rows[i];
    const activity = bundle.activities[i]!;
    if (assignment.person !== person || row == null || row.state === "complete") continue;
    const booked = posted.get(activity.id) ?? 0;
    found.push({
      project: projectId,
      projectName: plan.project.name,
      activity: activity.id,
      name: activity.name,
      path: pathOf(plan, activity.parent),
      start: formatDate(row.startDay),
      finish: formatDate(row.finishDay),
      state: row.state,
      percent: activity.percent ?? null,
      plannedMinutes: assignment.plannedMinutes,
      remainingMinutes: assignment.remainingMinutes ?? assignment.plannedMinutes,
      postedMinutes: booked,
      waitingMinutes: 0,
      waitsFor: waitsFor(plan, schedule, position, activity.id),
    });
  }
  return found;
}

function pathOf(plan: Plan, parent: string | undefined): string {
  const names: string[] = [];
  for (let at = parent; at !== undefined; at = plan.activities.get(at)?.parent) names.unshift(plan.activities.get(at)?.name ?? at);
  return names.join(" / ");
}

/** Names of finish-to-start predecessors that are not finished. */
function waitsFor(plan: Plan, schedule: Schedule, position: ReadonlyMap<string, number>, activity: string): string[] {
  return [...plan.links.values()].flatMap((link) => {
    if (link.to !== activity || (link.type ?? "FS") !== "FS") return [];
    const row = schedule.rows[position.get(link.from)!];
    return row != null && row.state !== "complete" ? [plan.activities.get(link.from)!.name] : [];
  });
}

/** Reports with the names of what they speak of. */
export async function presentReports(database: DataSource | EntityManager, reports: readonly ReportEntity[]): Promise<Report[]> {
  if (reports.length === 0) return [];
  const manager = "manager" in database ? database.manager : database;
  const ids = [...new Set(reports.map(({ projectId }) => projectId))];
  const plans = new Map<string, Plan>();
  for (const project of await database.getRepository(ProjectEntity).findBy({ id: In(ids) })) plans.set(project.id, await loadPlan(manager, project));
  const names = await accountNames(database);
  return reports.map((report) => {
    const plan = plans.get(report.projectId)!;
    return {
      id: report.id,
      project: report.projectId,
      projectName: plan.project.name,
      activity: report.activityId,
      activityName: plan.activities.get(report.activityId)?.name ?? report.activityId,
      person: plan.people.get(report.personId)?.name ?? report.personId,
      date: report.date,
      minutes: report.minutes,
      percent: report.percent,
      remainingMinutes: report.remainingMinutes,
      note: report.note,
      state: report.state,
      sentAt: report.sentAt.toISOString(),
      word: report.word,
      decidedBy: report.decidedBy === null ? null : (names.get(report.decidedBy) ?? ""),
    };
  });
}
