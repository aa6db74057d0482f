import { randomUUID } from "node:crypto";
import type { Endings, Me, ReportRequest, ReportsEffect, WeekCell, WindowsHeld } from "@chronometra/contract";
import { dateWords, dayAfter, formatHours, goesTo, type Plan } from "@chronometra/core";
import { In, type DataSource, type EntityManager } from "typeorm";
import { storeChanges } from "../../plan/changeService.ts";
import { overPlans, type PlanOf } from "../../plan/held/overPlan.ts";
import { loadPlan } from "../../plan/stored/planStore.ts";
import { writeProjects } from "../../plan/writeProjects.ts";
import { assertMayEdit, assertNotClosed, findProject } from "../../project/projectAccess.ts";
import { lockedTo } from "../../project/locks.ts";
import { effectOn } from "../../plan/prepare.ts";
import { todayOf } from "../../shared/clock.ts";
import { inTransaction } from "../../shared/database.ts";
import { Failure, orNotFound } from "../../shared/failure.ts";
import type { Post } from "../../tell/post.ts";
import { tellNext } from "./tellNext.ts";
import { acceptedBefore } from "../kept/acceptedBefore.ts";
import { ReportEntity } from "../kept/reportEntity.ts";
import type { Outcome } from "../works/outcome.ts";
import type { COLLECT_WORKS } from "../works/collectWorks.ts";
import { assertWeekOpen, noteWeekChange } from "./sheets.ts";

const overPlan = overPlans<typeof COLLECT_WORKS>();

export const MINUTES_OF_A_DAY = 1440;

const refuse = (row: string, field: string, message: string): never => {
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
    note: report.note ?? "",
  });
}

type Said = Pick<
  ReportEntity,
  "projectId" | "activityId" | "personId" | "date" | "leaveUntil" | "minutes" | "percent" | "remainingMinutes" | "note"
>;

export async function insertSent(manager: EntityManager, said: Said): Promise<ReportEntity> {
  const row = manager
    .getRepository(ReportEntity)
    .create({ ...said, id: randomUUID(), state: "submitted", sentAt: new Date(), decidedBy: null, word: null });
  await manager.getRepository(ReportEntity).insert(row);
  return row;
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
 * Writes cells of a week: what waits of an activity and day is taken back and said anew, so that with what is accepted it
 * comes to what was written. A report that says more than time is left as it is.
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
        ({ state, percent, remainingMinutes }) =>
          state === "submitted" && percent === null && remainingMinutes === null,
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
async function broughtMinutes(
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

/** Reports of those ids that still wait, by the days they report on; a failure where one has been decided. */
async function waitingReports(manager: EntityManager, ids: readonly string[], lock: boolean): Promise<ReportEntity[]> {
  const unique = [...new Set(ids)];
  const found = await manager.getRepository(ReportEntity).find({
    where: { id: In(unique) },
    order: { date: "ASC", sentAt: "ASC" },
    ...(lock ? { lock: { mode: "pessimistic_write" as const } } : {}),
  });
  if (found.length < unique.length)
    throw new Failure("notFound", "A report is not there any more; load the page again.");
  if (found.some(({ state }) => state !== "submitted"))
    throw new Failure("conflict", "A report among these has been decided or withdrawn already; load the page again.");
  return found;
}

/** How reports are accepted: which windows are held, and what a 100% ends. */
export interface Deciding {
  readonly hold?: WindowsHeld | undefined;
  readonly endings?: Endings | undefined;
}

/** What accepting a project's reports comes to. Throws PlanProblems where the plan would not hold. */
async function outcomeOf(
  manager: EntityManager,
  { id, plan }: PlanOf,
  reports: readonly ReportEntity[],
  { hold = [], endings = {} }: Deciding,
): Promise<Outcome> {
  return overPlan(
    "outcome",
    { id, plan },
    {
      reports: reports.map((report) => ({ ...report })),
      closedTo: await lockedTo(manager, id),
      earlier: await acceptedBefore(manager, id, reports),
      endings: new Map(Object.entries(endings)),
      hold: hold.flatMap(({ project, activity }) => (project === id ? [activity] : [])),
    },
  );
}

const byProject = (reports: readonly ReportEntity[]): [string, ReportEntity[]][] =>
  [...new Set(reports.map((report) => report.projectId))]
    .sort()
    .map((id) => [id, reports.filter((report) => report.projectId === id)]);

/** What accepting reports would move in each project, nothing stored. */
export async function effectOfReports(
  database: DataSource,
  me: Me,
  ids: readonly string[],
  deciding: Deciding,
): Promise<ReportsEffect> {
  const effects: ReportsEffect = [];
  for (const [projectId, reports] of byProject(await waitingReports(database.manager, ids, false))) {
    const project = await findProject(database, projectId);
    assertMayEdit(me, project);
    const of = { id: projectId, plan: await loadPlan(database.manager, project) };
    const { changes, windows, asked, assumed } = await outcomeOf(database.manager, of, reports, deciding);
    effects.push({
      project: projectId,
      projectName: project.head.name,
      effect: await effectOn(of, changes),
      windows: windows.map((window) => ({ ...window, load: [...window.load] })),
      asked: asked.map((one) => ({ ...one, others: [...one.others] })),
      assumed: assumed.map((one) => ({ ...one, people: [...one.people] })),
    });
  }
  return effects;
}

/** Refuses to accept where something was to be held that cannot be, or where it was not said what a 100% ends. */
function assertDecided({ windows, asked }: Outcome): void {
  const lost = windows.filter(({ outcome }) => outcome === "lost");
  if (lost.length > 0)
    throw new Failure(
      "invalid",
      lost.map(({ name, why }) => `The window of "${name}" cannot be held: ${why}.`).join(" "),
    );
  const open = asked.filter(({ answer }) => answer === null);
  if (open.length > 0)
    throw new Failure(
      "invalid",
      open
        .map(
          ({ name, person, others }) =>
            `${others.map((other) => other.person).join(", ")} still ${others.length === 1 ? "has" : "have"} hours on "${name}": say whether the 100% of ${person} finishes all of it, or only their own work.`,
        )
        .join(" "),
    );
}

/** Accepts or returns reports, all or none; accepted time is posted, the activities' progress with it, and whoever comes next is told. */
export async function decideReports(
  database: DataSource,
  post: Post,
  me: Me,
  ids: readonly string[],
  {
    decision,
    word,
    ...deciding
  }: Deciding & { readonly decision: "accept" | "return"; readonly word?: string | undefined },
): Promise<void> {
  const looked = byProject(await waitingReports(database.manager, ids, false));
  return writeProjects(
    database,
    me,
    looked.map(([project]) => project),
    async (writing) => {
      const { manager } = writing;
      const reports = await waitingReports(manager, ids, true);
      const decided: { before: Plan; plan: Plan }[] = [];
      for (const [projectId, own] of byProject(reports)) {
        const project = await writing.editable(projectId);
        if (decision === "return") continue;
        const before = await writing.plan(project);
        const outcome = await outcomeOf(manager, { id: projectId, plan: before }, own, deciding);
        assertDecided(outcome);
        const { changes, windows } = outcome;
        if (changes.length === 0) continue;
        const held = windows.filter((window) => window.outcome === "held").length;
        const label = `Accepted ${own.length === 1 ? "a report" : `${own.length} reports`}${held === 0 ? "" : held === 1 ? ", a window held" : `, ${held} windows held`}`;
        decided.push({ before, plan: (await storeChanges(writing, project, { changes, label })).plan });
      }
      await manager
        .getRepository(ReportEntity)
        .update(
          { id: In(reports.map(({ id }) => id)) },
          { state: decision === "return" ? "returned" : "posted", decidedBy: me.id, word: word ?? null },
        );
      await tellNext(manager, post, decided);
    },
    async (plan, { id }) => {
      const own = looked.find(([project]) => project === id)![1];
      return decision === "return" ? [] : (await outcomeOf(database.manager, { id, plan }, own, deciding)).changes;
    },
  );
}
