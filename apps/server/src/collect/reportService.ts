import { randomUUID } from "node:crypto";
import type { Me, ReportRequest } from "@chronometra/contract";
import type { Plan } from "@chronometra/core";
import { In, type DataSource, type EntityManager } from "typeorm";
import { applyChecked, keepPlan, storeChanges } from "../plan/changeService.ts";
import { loadPlan } from "../plan/planStore.ts";
import { assertMayEdit, findProject, lockProjectFor } from "../portfolio/projectAccess.ts";
import type { ProjectEntity } from "../portfolio/projectEntity.ts";
import { dayAfter, today } from "../shared/clock.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";
import { reportChanges } from "./reportChanges.ts";
import { ReportEntity } from "./reportEntity.ts";

const MINUTES_OF_A_DAY = 1440;

const refuse = (row: string, field: string, message: string): never => {
  throw new Failure("invalid", message, { problems: [{ table: "timeEntries", row, field, message }] });
};

/** What can be reported on: own work that counts. */
function assertReportable(plan: Plan, person: string, report: ReportRequest): void {
  const activity = plan.activities.get(report.activity);
  const row = `${report.activity} / ${person}`;
  if (activity === undefined) return refuse(row, "activity", "There is no such activity in this project any more.");
  const isOwn = [...plan.assignments.values()].some((assignment) => assignment.activity === activity.id && assignment.person === person);
  if (!isOwn) return refuse(row, "person", `"${activity.name}" is not assigned to you; ask the project manager.`);
  for (let at: typeof activity | undefined = activity; at !== undefined; at = at.parent === undefined ? undefined : plan.activities.get(at.parent)) {
    if (at.parked === true) return refuse(row, "activity", `"${at.name}" is parked and takes no time; ask the project manager to wake it.`);
  }
  if (report.date > dayAfter(today())) return refuse(row, "date", `${report.date} has not come yet; time is booked for days that have passed.`);
}

/** Minutes that a person has booked on a day in all projects, waiting or posted. */
async function minutesOn(manager: EntityManager, person: string, date: string): Promise<number> {
  const [own] = (await manager.query("select coalesce(sum(minutes), 0) as total from report where person_id = ? and date = ? and state in ('submitted', 'posted')", [person, date])) as { total: string }[];
  const [brought] = (await manager.query(
    `select coalesce(sum(json_value(doc, '$.minutes')), 0) as total from plan_row
     where person_id = ? and table_name = 'timeEntries' and row_key not like 'report-%' and json_value(doc, '$.date') = ? and json_value(doc, '$.state') = 'posted'`,
    [person, date],
  )) as { total: string }[];
  return Number(own!.total) + Number(brought!.total);
}

/** Takes a report from a desk; it waits until someone accepts it. */
export async function sendReport(database: DataSource, me: Me, report: ReportRequest): Promise<ReportEntity> {
  const person = me.person;
  if (person === null) throw new Failure("invalid", "Your account is tied to no person in the plans; ask an administrator.");
  return inTransaction(database, async (manager) => {
    // The account's row serialises two reports of one person, so that a day cannot be filled twice at once.
    await manager.query("select id from account where id = ? for update", [me.id]);
    const project = await findProject(manager, report.project);
    assertReportable(await loadPlan(manager, project), person, report);
    if (report.minutes !== undefined) {
      const booked = await minutesOn(manager, person, report.date);
      if (booked + report.minutes > MINUTES_OF_A_DAY) {
        const hours = (minutes: number): string => `${Math.round((minutes / 60) * 100) / 100} h`;
        refuse(`${report.activity} / ${person}`, "minutes", `${hours(booked)} are booked on ${report.date} already; with ${hours(report.minutes)} more the day would have over 24 hours.`);
      }
    }
    const row = manager.getRepository(ReportEntity).create({
      id: randomUUID(),
      projectId: project.id,
      activityId: report.activity,
      personId: person,
      date: report.date,
      minutes: report.minutes ?? null,
      percent: report.percent ?? null,
      remainingMinutes: report.remainingMinutes ?? null,
      note: report.note ?? "",
      state: "submitted",
      sentAt: new Date(),
      decidedBy: null,
      word: null,
    });
    await manager.getRepository(ReportEntity).insert(row);
    return row;
  });
}

/** Reports of those ids that still wait, by the days they report on; a failure where one has been decided. */
async function waitingReports(manager: EntityManager, ids: readonly string[], lock: boolean): Promise<ReportEntity[]> {
  const unique = [...new Set(ids)];
  const found = await manager.getRepository(ReportEntity).find({
    where: { id: In(unique) },
    order: { date: "ASC", sentAt: "ASC" },
    ...(lock ? { lock: { mode: "pessimistic_write" as const } } : {}),
  });
  if (found.length < unique.length) throw new Failure("notFound", "A report is not there any more; load the page again.");
  if (found.some(({ state }) => state !== "submitted")) throw new Failure("conflict", "A report among these has been decided or taken back already; load the page again.");
  return found;
}

/** The plan of the reports' project as it is, and as accepting them would make it. */
export async function planWithReports(database: DataSource, me: Me, ids: readonly string[]): Promise<{ before: Plan; after: Plan }> {
  const reports = await waitingReports(database.manager, ids, false);
  const projectId = reports[0]!.projectId;
  if (reports.some((report) => report.projectId !== projectId)) throw new Failure("invalid", "Choose reports of one project to see their effect together.");
  const project = await findProject(database, projectId);
  assertMayEdit(me, project);
  const before = await loadPlan(database.manager, project);
  return { before, after: applyChecked(before, reportChanges(before, reports)).plan };
}

/** Accepts or returns reports, all or none; accepted time is posted, the activities' progress with it. */
export async function decideReports(database: DataSource, me: Me, ids: readonly string[], decision: "accept" | "return", word: string | undefined): Promise<void> {
  const stored = await inTransaction(database, async (manager) => {
    const reports = await waitingReports(manager, ids, true);
    const kept: { project: ProjectEntity; plan: Plan }[] = [];
    for (const projectId of [...new Set(reports.map((report) => report.projectId))].sort()) {
      const project = await lockProjectFor(manager, projectId, me);
      if (decision === "return") continue;
      const own = reports.filter((report) => report.projectId === projectId);
      const changes = reportChanges(await loadPlan(manager, project), own);
      if (changes.length === 0) continue;
      const label = own.length === 1 ? "Accepted a report" : `Accepted ${own.length} reports`;
      kept.push({ project, plan: (await storeChanges(manager, project, me, { changes, label })).plan });
    }
    await manager.getRepository(ReportEntity).update({ id: In(reports.map(({ id }) => id)) }, { state: decision === "accept" ? "posted" : "returned", decidedBy: me.id, word: word ?? null });
    return kept;
  });
  for (const { project, plan } of stored) keepPlan(project, plan);
}
