import type { Me, PeriodBar, Summary } from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";
import { FiguresEntity } from "../look/figuresEntity.ts";
import type { Reporter } from "../look/summarise.ts";
import { lockProjectFor } from "../portfolio/projectAccess.ts";
import { dayAfter } from "../shared/clock.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";
import { IssuedPeriodEntity, ReportingPeriodEntity, SettingEntity } from "./cycleEntities.ts";

/** The name of the organisation whose portfolio this is. */
export async function organisationName(database: DataSource): Promise<string> {
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

/** Names of those with work in a period who have reported nothing of it. */
export function missingReporters(projectId: string, people: readonly Reporter[], period: ReportingPeriodEntity | null, reporters: ReadonlySet<string>): string[] {
  if (period === null) return [];
  return people.filter(({ id, from }) => from <= period.dataDate && !reporters.has(`${projectId}\0${id}`)).map(({ name }) => name);
}

/** Of every project: who has work in it, and of its newest figures whether it is measured and as of when. */
async function standings(database: DataSource): Promise<{ id: string; people: Reporter[]; measured: boolean; dataDate: string | null }[]> {
  const rows = (await database.query(
    `select p.id, f.people, json_value(f.summary, '$.baseline') as baseline, json_value(f.summary, '$.dataDate') as dataDate
     from project p join figures f on f.project_id = p.id and f.revision = p.revision`,
  )) as { id: string; people: string; baseline: string | null; dataDate: string | null }[];
  return rows.map(({ id, people, baseline, dataDate }) => ({ id, people: JSON.parse(people) as Reporter[], measured: baseline !== null, dataDate }));
}

const counted = (count: number, one: string, many: string): string => (count === 1 ? `1 ${one}` : `${count} ${many}`);

export async function periodBar(database: DataSource): Promise<PeriodBar> {
  const [period, organisation] = await Promise.all([openPeriod(database), organisationName(database)]);
  if (period === null) return { number: null, dataDate: null, issueBy: null, organisation, steps: [] };
  const projects = await standings(database);
  const reporters = await reportersIn(database, period);
  const missing = new Set(projects.flatMap(({ id, people }) => missingReporters(id, people, period, reporters)));
  const expected = new Set(projects.flatMap(({ people }) => people.filter(({ from }) => from <= period.dataDate).map(({ name }) => name)));
  const [{ waiting }] = (await database.query("select count(*) as waiting from report where state = 'submitted'")) as [{ waiting: string }];
  const behind = projects.filter(({ measured, dataDate }) => measured && (dataDate ?? "") < period.dataDate).length;
  const measured = projects.filter((project) => project.measured).length;
  const issued = await database.getRepository(IssuedPeriodEntity).countBy({ number: period.number });
  return {
    number: period.number,
    dataDate: period.dataDate,
    issueBy: period.issueBy,
    organisation,
    steps: [
      { name: "Collect", open: missing.size, words: missing.size === 0 ? "all have reported" : `${missing.size} of ${expected.size} missing`, link: "/?show=missing" },
      { name: "Review", open: Number(waiting), words: Number(waiting) === 0 ? "nothing waits" : counted(Number(waiting), "report", "reports"), link: "/time" },
      { name: "Recalculate", open: behind, words: behind === 0 ? "up to date" : `${counted(behind, "project", "projects")} behind`, link: "/?show=behind" },
      { name: "Issue", open: measured - issued, words: measured - issued <= 0 ? "all issued" : `${issued} of ${measured} issued`, link: "/?show=unissued" },
    ],
  };
}

/** Freezes a project's figures as those of the open period. */
export async function issuePeriod(database: DataSource, me: Me, projectId: string, at = new Date()): Promise<void> {
  await inTransaction(database, async (manager) => {
    const project = await lockProjectFor(manager, projectId, me);
    const period = await openPeriod(manager);
    if (period === null) throw new Failure("invalid", "No reporting period is open.");
    if (await manager.getRepository(IssuedPeriodEntity).existsBy({ projectId, number: period.number })) {
      throw new Failure("conflict", `Period ${period.number} has been issued for this project already.`);
    }
    const figures = await manager.getRepository(FiguresEntity).findOneByOrFail({ projectId, revision: project.revision });
    const dataDate = (JSON.parse(figures.summary) as Summary).dataDate;
    if (dataDate !== period.dataDate) {
      throw new Failure("invalid", `The project's data date is ${dataDate ?? "not set"}; move it to ${period.dataDate}, the period's, before issuing.`);
    }
    await manager.getRepository(IssuedPeriodEntity).insert({ projectId, number: period.number, dataDate, revision: project.revision, issuedBy: me.id, issuedAt: at, summary: figures.summary });
  });
}

/** Opens the next period; it begins on the day after the one before it. */
export async function openNextPeriod(database: DataSource, dataDate: string, issueBy: string): Promise<void> {
  await inTransaction(database, async (manager) => {
    const [former] = await manager.getRepository(ReportingPeriodEntity).find({ order: { number: "DESC" }, take: 1, lock: { mode: "pessimistic_write" } });
    if (former !== undefined && dataDate <= former.dataDate) throw new Failure("invalid", `The data date must lie after ${former.dataDate}, the one of period ${former.number}.`);
    if (issueBy.slice(0, 10) < dataDate) throw new Failure("invalid", "Reports are issued on the data date or after it.");
    const fromDate = former === undefined ? `${dataDate.slice(0, 8)}01` : dayAfter(former.dataDate);
    await manager.getRepository(ReportingPeriodEntity).insert({ number: (former?.number ?? 0) + 1, fromDate, dataDate, issueBy });
  });
}
