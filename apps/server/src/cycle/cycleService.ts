import { randomUUID } from "node:crypto";
import type { BodyOf, Me, Summary } from "@chronometra/contract";
import { dateWords, dayAfter, toBundle } from "@chronometra/core";
import { In, LessThanOrEqual, type DataSource, type EntityManager } from "typeorm";
import { FiguresEntity } from "../writers/figuresEntity.ts";
import type { Reporter } from "../writers/summarise.ts";
import { tellSystems } from "../hooks/tellSystems.ts";
import { writeProject, type Writing } from "../plan/writeProjects.ts";
import { type ProjectEntity } from "../project/projectEntity.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";
import { Outdated, withAlongside, type MadeAlongside, type MakeAlongside } from "./alongside.ts";
import {
  CycleMarkEntity,
  IssuedPeriodEntity,
  IssuedPlanEntity,
  PeriodLockEntity,
  PlannedPeriodEntity,
  ReportingPeriodEntity,
  SettingEntity,
} from "./cycleEntities.ts";

/** The name of the organisation whose portfolio this is. */
export async function organisationName(database: DataSource | EntityManager): Promise<string> {
  const setting = await database.getRepository(SettingEntity).findOneBy({ name: "organisation" });
  return setting?.value ?? "Portfolio";
}

/** The reporting period with the highest number, which is the open one. */
export async function openPeriod(database: DataSource | EntityManager): Promise<ReportingPeriodEntity | null> {
  const [period] = await database.getRepository(ReportingPeriodEntity).find({ order: { number: "DESC" }, take: 1 });
  return period ?? null;
}

/** Who has reported in a period, as `project\0person`. */
export async function reportersIn(database: DataSource, period: ReportingPeriodEntity): Promise<Set<string>> {
  const rows = (await database.query(
    "select distinct project_id as project, person_id as person from report where date between ? and ? and state in ('submitted', 'posted')",
    [period.fromDate, period.dataDate],
  )) as { project: string; person: string }[];
  return new Set(rows.map(({ project, person }) => `${project}\0${person}`));
}

/**
 * Who owes a report of a period on a project that takes part: those with unfinished work that was to begin by its data date who
 * have reported nothing of it, neither time nor progress. Wherever someone is called missing, this is meant.
 */
export function missingReporters(
  projectId: string,
  people: readonly Reporter[],
  period: Pick<ReportingPeriodEntity, "dataDate"> | null,
  reporters: ReadonlySet<string>,
): Reporter[] {
  if (period === null) return [];
  return people.filter(({ id, from }) => from <= period.dataDate && !reporters.has(`${projectId}\0${id}`));
}

/** Freezes a project's figures as those of the open period, with what was made alongside. */
async function issue(
  writing: Writing,
  project: ProjectEntity,
  period: ReportingPeriodEntity,
  at: Date,
  made: MadeAlongside | null,
): Promise<void> {
  const { manager, me } = writing;
  const projectId = project.id;
  const figures = await manager.getRepository(FiguresEntity).findOneByOrFail({ projectId, revision: project.revision });
  const { dataDate } = JSON.parse(figures.summary) as Summary;
  if (dataDate !== period.dataDate) {
    throw new Failure(
      "invalid",
      `The project's data date is ${dataDate === null ? "not set" : dateWords(dataDate)}; move it to ${dateWords(period.dataDate)}, the period's, before issuing.`,
    );
  }
  const edition =
    ((await manager.getRepository(IssuedPeriodEntity).maximum("edition", { projectId, number: period.number })) ?? 0) +
    1;
  await manager.getRepository(IssuedPeriodEntity).insert({
    projectId,
    number: period.number,
    edition,
    dataDate,
    revision: project.revision,
    issuedBy: me.id,
    issuedAt: at,
    summary: figures.summary,
  });
  const { timeEntries: _time, actualCosts: _costs, ...plan } = toBundle(await writing.plan(project));
  await manager
    .getRepository(IssuedPlanEntity)
    .insert({ projectId, number: period.number, edition, content: JSON.stringify(plan) });
  if (made === null || !(await made.store(writing, { edition, at }))) throw new Outdated();
  const told = { period: period.number, edition, revision: project.revision };
  await tellSystems(manager, "periodIssued", project, told, at);
}

async function periodToIssue(manager: EntityManager): Promise<ReportingPeriodEntity> {
  const period = await openPeriod(manager);
  if (period === null) throw new Failure("invalid", "No reporting period is open.");
  return period;
}

/** Whether the newest edition of a period holds: it was issued, and not opened again since. */
export async function isIssued(manager: EntityManager, projectId: string, number: number): Promise<boolean> {
  const [issued] = await manager
    .getRepository(IssuedPeriodEntity)
    .find({ where: { projectId, number }, order: { edition: "DESC" }, take: 1 });
  if (issued === undefined) return false;
  const [lock] = await manager
    .getRepository(PeriodLockEntity)
    .find({ where: { projectId, number }, order: { lockedAt: "DESC" }, take: 1 });
  return lock === undefined || lock.reopenedAt === null || issued.issuedAt > lock.reopenedAt;
}

/** Issues the open period for a project. */
export async function issuePeriod(
  database: DataSource,
  me: Me,
  projectId: string,
  make: MakeAlongside,
  at = new Date(),
): Promise<void> {
  await withAlongside(
    () => make(database, me, projectId),
    (made) =>
      writeProject(database, me, projectId, async (writing, project) => {
        const { manager } = writing;
        const period = await periodToIssue(manager);
        if (await isIssued(manager, projectId, period.number))
          throw new Failure("conflict", `Period ${period.number} has been issued for this project already.`);
        await issue(writing, project, period, at, made);
      }),
  );
}

/** Locks the open period for a project, issuing it first where that was not done. Locked twice is locked once. */
export async function lockPeriod(
  database: DataSource,
  me: Me,
  projectId: string,
  word: string,
  make: MakeAlongside,
  at = new Date(),
): Promise<void> {
  await withAlongside(
    async () => {
      const period = await openPeriod(database);
      const issued = period === null || (await isIssued(database.manager, projectId, period.number));
      return issued ? null : make(database, me, projectId);
    },
    (made) => writeProject(database, me, projectId, (writing, project) => lock(writing, project, { word, made, at })),
  );
}

interface Locking {
  readonly word: string;
  readonly made: MadeAlongside | null;
  readonly at: Date;
}

async function lock(writing: Writing, project: ProjectEntity, { word, made, at }: Locking): Promise<void> {
  const { manager, me } = writing;
  const projectId = project.id;
  const period = await periodToIssue(manager);
  const locks = manager.getRepository(PeriodLockEntity);
  if ((await locks.findBy({ projectId, number: period.number })).some(({ reopenedAt }) => reopenedAt === null)) return;
  const [{ waiting }] = (await manager.query(
    "select count(*) as waiting from report where project_id = ? and state = 'submitted' and date <= ?",
    [projectId, period.dataDate],
  )) as [{ waiting: string }];
  if (Number(waiting) > 0)
    throw new Failure(
      "invalid",
      `${waiting} of the period's reports wait for a decision; accept or return them first.`,
    );
  if (!(await isIssued(manager, projectId, period.number))) await issue(writing, project, period, at, made);
  await locks.insert({
    id: randomUUID(),
    projectId,
    number: period.number,
    dataDate: period.dataDate,
    lockedBy: me.id,
    lockedAt: at,
    reopenedBy: null,
    reopenedAt: null,
    reason: null,
    word: word === "" ? null : word,
  });
}

/** Takes the lock of the open period back, as long as nothing was changed since; that it was locked for a while stays. */
export async function takeLockBack(database: DataSource, me: Me, projectId: string): Promise<void> {
  await writeProject(database, me, projectId, async ({ manager }, project) => {
    const { number } = await periodToIssue(manager);
    const locks = manager.getRepository(PeriodLockEntity);
    const lock = (await locks.findBy({ projectId, number })).find(({ reopenedAt }) => reopenedAt === null);
    if (lock === undefined) throw new Failure("conflict", `Period ${number} of this project is not locked.`);
    const [issued] = await manager
      .getRepository(IssuedPeriodEntity)
      .find({ where: { projectId, number }, order: { edition: "DESC" }, take: 1 });
    if (issued?.revision !== project.revision)
      throw new Failure(
        "conflict",
        "The project was changed since it was locked; open the period again with a reason.",
      );
    await locks.update({ id: lock.id }, { reopenedBy: me.id, reopenedAt: new Date(), reason: "taken back at once" });
    await tellSystems(manager, "periodReopened", project, { period: number });
  });
}

/** Opens the newest locked period of a project again; who did, when and why stays. */
export async function reopenPeriod(database: DataSource, me: Me, projectId: string, reason: string): Promise<void> {
  await writeProject(database, me, projectId, async ({ manager }, project) => {
    const locks = manager.getRepository(PeriodLockEntity);
    const [lock] = (await locks.find({ where: { projectId }, order: { number: "DESC", lockedAt: "DESC" } })).filter(
      ({ reopenedAt }) => reopenedAt === null,
    );
    if (lock === undefined) throw new Failure("conflict", "No period of this project is locked.");
    const open = await openPeriod(manager);
    if (open !== null && lock.number !== open.number)
      throw new Failure(
        "invalid",
        `Period ${lock.number} is over and period ${open.number} open; what is found now lands in period ${open.number} and says so.`,
      );
    await locks.update({ id: lock.id }, { reopenedBy: me.id, reopenedAt: new Date(), reason });
    await tellSystems(manager, "periodReopened", project, { period: lock.number });
  });
}

/** Marks a step of the open period as done for a project, or a broken limit as explained, in words; without words the mark is taken away. */
export async function markStep(
  database: DataSource,
  me: Me,
  projectId: string,
  { words, ...of }: BodyOf<"PUT /api/projects/:project/cycle">,
): Promise<void> {
  const step = of.step === "Check" ? of.step : (`${of.step} ${of.rule}` as const);
  await writeProject(database, me, projectId, async ({ manager }) => {
    const { number } = await periodToIssue(manager);
    const marks = manager.getRepository(CycleMarkEntity);
    // What was explained as a whole before is taken back with any of it.
    if (words === "") await marks.delete({ projectId, number, step: of.step === "Check" ? step : In([step, of.step]) });
    else
      await marks.upsert({ projectId, number, step, words, markedBy: me.id, markedAt: new Date() }, [
        "projectId",
        "number",
        "step",
      ]);
  });
}

/** Codes of projects whose period was issued and is not locked, or that were to issue it and did not. */
async function notLocked(manager: EntityManager, number: number): Promise<string[]> {
  const rows = (await manager.query(
    `select p.code from project p join figures f on f.project_id = p.id and f.revision = p.revision
     where json_value(f.summary, '$.baseline') is not null and p.id not in (select project_id from project_closing)
       and p.id not in (select project_id from period_lock where number = ? and reopened_at is null) order by p.code`,
    [number],
  )) as { code: string }[];
  return rows.map(({ code }) => code);
}

const NAMED = 6;

/**
 * Opens the next period; it begins on the day after the one before it, which is to be locked everywhere unless said
 * otherwise.
 * @param tell tells those concerned, in the same transaction
 */
export async function openNextPeriod(
  database: DataSource,
  tell: (manager: EntityManager, opened: ReportingPeriodEntity) => Promise<void>,
  next: { readonly dataDate: string; readonly issueBy: string; readonly anyway?: boolean | undefined },
): Promise<void> {
  const { dataDate, issueBy } = next;
  await inTransaction(database, async (manager) => {
    const [former] = await manager
      .getRepository(ReportingPeriodEntity)
      .find({ order: { number: "DESC" }, take: 1, lock: { mode: "pessimistic_write" } });
    if (former !== undefined && dataDate <= former.dataDate)
      throw new Failure(
        "invalid",
        `The data date must lie after ${dateWords(former.dataDate)}, the one of period ${former.number}.`,
      );
    if (issueBy.slice(0, 10) < dataDate)
      throw new Failure("invalid", "Reports are issued on the data date or after it.");
    const open = former === undefined || next.anyway === true ? [] : await notLocked(manager, former.number);
    if (open.length > 0)
      throw new Failure(
        "invalid",
        `Period ${former!.number} is not locked for ${open.slice(0, NAMED).join(", ")}${open.length > NAMED ? ` and ${open.length - NAMED} more` : ""}. Lock it first, or open the next one anyway and leave them behind.`,
      );
    const fromDate = former === undefined ? `${dataDate.slice(0, 8)}01` : dayAfter(former.dataDate);
    const opened = { number: (former?.number ?? 0) + 1, fromDate, dataDate, issueBy };
    await manager.getRepository(ReportingPeriodEntity).insert(opened);
    await tell(manager, opened);
    await manager.getRepository(PlannedPeriodEntity).delete({ dataDate: LessThanOrEqual(dataDate) });
  });
}
