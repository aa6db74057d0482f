import { randomUUID } from "node:crypto";
import type { Me, ReportRequest, WeekCell } from "@chronometra/contract";
import { dateWords, dayAfter, formatHours, goesTo, stageEarns, type Plan } from "@chronometra/core";
import { In, type DataSource, type EntityManager } from "typeorm";
import { loadPlan } from "../../plan/stored/planStore.ts";
import { assertNotClosed, findProject } from "../../project/projectAccess.ts";
import { todayOf } from "../../shared/clock.ts";
import { inTransaction } from "../../shared/database.ts";
import { Failure, orNotFound } from "../../shared/failure.ts";
import { ReportEntity } from "../kept/reportEntity.ts";
import { assertWeekOpen, noteWeekChange } from "./sheets.ts";

export const MINUTES_OF_A_DAY = 1440;

export const refuse = (row: string, field: string, message: string): never => {
  throw new Failure("invalid", message, { problems: [{ table: "timeEntries", row, field, message }] });
};

/** What can be reported on: own work that counts. */
export function assertReportable(plan: Plan, me: Me, person: string, report: ReportRequest): void {
  const activity = plan.activities.get(report.activity);
  const row = `${report.activity} / ${person}`;
  if (activity === undefined) return refuse(row, "activity", "There is no such activity in this project any more.");
  const isOwn =
    [...plan.assignments.values()].some(
      (assignment) => assignment.activity === activity.id && assignment.person === person,
    ) || goesTo(plan, activity.id, person);
  if (!isOwn) return refuse(row, "person", `"${activity.name}" is not assigned to you; ask the project manager.`);
  for (
    let at: typeof activity | undefined = activity;
    at !== undefined;
    at = at.parent === undefined ? undefined : plan.activities.get(at.parent)
  ) {
    if (at.parked === true)
      return refuse(row, "activity", `"${at.name}" is parked and takes no time; ask the project manager to wake it.`);
  }
  if (report.stage !== undefined && stageEarns(plan, { activityId: activity.id, stage: report.stage }) === null)
    return refuse(
      row,
      "stage",
      `"${activity.name}" has no stage "${report.stage}" any more; load the page again and select one that it has.`,
    );
  if (report.date > dayAfter(todayOf(me)))
    return refuse(row, "date", `${dateWords(report.date)} has not come yet; time is booked for days that have passed.`);
  if (report.minutes !== undefined && report.date < plan.project.start)
    return refuse(
      row,
      "date",
      `${plan.project.name} begins on ${dateWords(plan.project.start)}; no time is booked on it before.`,
    );
}

/** Minutes that a person has booked on a day in all projects, waiting or posted. */
export async function minutesOn(manager: EntityManager, person: string, date: string): Promise<number> {
  const [own] = (await manager.query(
    "select coalesce(sum(minutes), 0) as total from report where person_id = ? and date = ? and state in ('submitted', 'posted')",
    [person, date],
  )) as { total: string }[];
  const [brought] = (await manager.query(
    `select coalesce(sum(json_value(doc, '$.minutes')), 0) as total from plan_row
     where person_id = ? and table_name = 'timeEntries' and row_key not like 'report-%' and json_value(doc, '$.date') = ? and json_value(doc, '$.state') = 'posted'`,
    [person, date],
  )) as { total: string }[];
  return Number(own!.total) + Number(brought!.total);
}

/** The account's row serialises what one person reports, so that a day cannot be filled twice at once. */
export async function alone<T>(
  database: DataSource,
  me: Me,
  work: (manager: EntityManager, person: string) => Promise<T>,
): Promise<T> {
  const { person } = me;
  if (person === null)
    throw new Failure("invalid", "Your account is tied to no person in the plans; ask an administrator.");
  return inTransaction(database, async (manager) => {
    await manager.query("select id from account where id = ? for update", [me.id]);
    return work(manager, person);
  });
}

export async function insertReport(
  manager: EntityManager,
  me: Me,
  person: string,
  report: ReportRequest,
): Promise<ReportEntity> {
  const project = await findProject(manager, report.project);
  await assertNotClosed(manager, project);
  assertReportable(await loadPlan(manager, project), me, person, report);
  if (report.minutes !== undefined) {
    await assertWeekOpen(manager, person, report.date, report.note ?? "");
    await noteWeekChange(manager, person, [report.date]);
    if (report.minutes < 0) await assertAccepted(manager, person, report, -report.minutes);
    const booked = await minutesOn(manager, person, report.date);
    if (booked + report.minutes > MINUTES_OF_A_DAY) {
      refuse(
        `${report.activity} / ${person}`,
        "minutes",
        `${formatHours(booked)} are booked on ${dateWords(report.date)} already; with ${formatHours(report.minutes)} more the day would have over 24 hours.`,
      );
    }
  }
  return insertSent(manager, {
    projectId: project.id,
    activityId: report.activity,
    personId: person,
    date: report.date,
    leaveUntil: null,
    minutes: report.minutes ?? null,
    percent: report.percent ?? null,
    remainingMinutes: report.remainingMinutes ?? null,
    stage: report.stage ?? null,
    note: report.note ?? "",
  });
}

type Said = Omit<ReportEntity, "id" | "state" | "sentAt" | "decidedBy" | "word">;

export async function insertSent(manager: EntityManager, said: Said): Promise<ReportEntity> {
  const row = manager
    .getRepository(ReportEntity)
    .create({ ...said, id: randomUUID(), state: "submitted", sentAt: new Date(), decidedBy: null, word: null });
  await manager.getRepository(ReportEntity).insert(row);
  return row;
}

/** Takes a report from a desk; it waits until someone accepts it. */
export const sendReport = (database: DataSource, me: Me, report: ReportRequest): Promise<ReportEntity> =>
  alone(database, me, (manager, person) => insertReport(manager, me, person, report));

/** Takes a report back that nobody has decided. */
export const takeBackReport = (database: DataSource, me: Me, id: string): Promise<void> =>
  inTransaction(database, async (manager) => {
    const reports = manager.getRepository(ReportEntity);
    const report = orNotFound(await reports.findOneBy({ id, personId: me.person ?? "" }), "report of yours");
    // In one statement with the state, so that a report decided this moment is not taken back.
    const taken = await reports.update({ id, state: "submitted" }, { state: "withdrawn" });
    if (taken.affected === 0)
      throw new Failure("conflict", "This report has been decided already; ask for a correction instead.");
    if (report.minutes !== null) await noteWeekChange(manager, report.personId, [report.date]);
  });

/**
 * Writes cells of a week: what waits of an activity and day is taken back and said anew, so that with what is accepted
 * it comes to what was written. A report that says more than time is left as it is.
 */
export const writeWeek = (database: DataSource, me: Me, cells: readonly WeekCell[]): Promise<void> =>
  alone(database, me, async (manager, person) => {
    const reports = manager.getRepository(ReportEntity);
    for (const { project, activity, date, minutes, note } of cells) {
      const own = await reports.find({
        where: { projectId: project, activityId: activity, personId: person, date, state: In(["submitted", "posted"]) },
      });
      const timed = own.filter((report) => report.minutes !== null);
      const loose = timed.filter(
        ({ state, percent, remainingMinutes, stage }) =>
          state === "submitted" && percent === null && remainingMinutes === null && stage === null,
      );
      const fixed =
        timed.filter((report) => !loose.includes(report)).reduce((sum, report) => sum + report.minutes!, 0) +
        (await broughtMinutes(manager, project, person, activity, date));
      const why = (note ?? "").trim();
      if (minutes < fixed && why === "")
        refuse(
          `${activity} / ${person}`,
          "minutes",
          `${formatHours(fixed)} of ${dateWords(date)} are accepted already, or were sent with a percent; write why, as "${formatHours(minutes)} counted twice", to take the difference back by an adjusting entry.`,
        );
      const notes = loose.map((report) => report.note).filter((words) => words !== "");
      if (loose.length > 0) await reports.update({ id: In(loose.map(({ id }) => id)) }, { state: "withdrawn" });
      if (loose.length > 0) await noteWeekChange(manager, person, [date]);
      if (minutes !== fixed)
        await insertReport(manager, me, person, {
          project,
          activity,
          date,
          minutes: minutes - fixed,
          note: note ?? notes.join("; ").slice(0, 1000),
        });
    }
  });

/** Time posted on an activity and day that did not come from the desk. */
export async function broughtMinutes(
  manager: EntityManager,
  projectId: string,
  person: string,
  activity: string,
  date: string,
): Promise<number> {
  const { timeEntries } = await loadPlan(manager, await findProject(manager, projectId));
  return [...timeEntries].reduce(
    (sum, [key, entry]) =>
      !key.startsWith("report-") &&
      entry.state === "posted" &&
      entry.person === person &&
      entry.activity === activity &&
      entry.date === date
        ? sum + entry.minutes
        : sum,
    0,
  );
}

/** An adjusting entry takes back what was accepted, and no more than that. */
export async function assertAccepted(
  manager: EntityManager,
  person: string,
  { project, activity, date }: Pick<ReportRequest, "project" | "activity" | "date">,
  minutes: number,
): Promise<void> {
  const own = await manager.getRepository(ReportEntity).find({
    where: { projectId: project, activityId: activity, personId: person, date, state: In(["submitted", "posted"]) },
  });
  const accepted =
    own.reduce(
      (sum, report) => (report.state === "posted" || (report.minutes ?? 0) < 0 ? sum + (report.minutes ?? 0) : sum),
      0,
    ) + (await broughtMinutes(manager, project, person, activity, date));
  if (minutes > accepted)
    refuse(
      `${activity} / ${person}`,
      "minutes",
      `${formatHours(accepted)} of ${dateWords(date)} are accepted on this activity; more than that cannot be taken back. What still waits is taken back by itself.`,
    );
}
