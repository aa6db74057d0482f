import { createHash } from "node:crypto";
import type { IssuedLine, IssuedReport, ReportContent } from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { IssuedPeriodEntity, PeriodLockEntity } from "../cycle/cycleEntities.ts";
import { organisationName } from "../cycle/cycleService.ts";
import { findProject } from "../project/projectAccess.ts";
import { orNotFound } from "../shared/failure.ts";
import { formerContent } from "./compose/formerContent.ts";
import { IssuedReportEntity } from "./reportEntities.ts";

/** The digest that a report is issued with: SHA-256 of its text, in hexadecimal digits. */
export const digestOf = (content: string): string => createHash("sha256").update(content, "utf8").digest("hex");

/** Stores a report as it is issued. */
export async function storeIssued(
  manager: EntityManager,
  content: ReportContent,
  of: { readonly subjectId: string; readonly edition: number; readonly issuedBy: string; readonly issuedAt: Date },
): Promise<void> {
  const text = JSON.stringify(content);
  await manager.getRepository(IssuedReportEntity).insert({
    ...of,
    number: content.period,
    dataDate: content.dataDate,
    content: text,
    digest: digestOf(text),
  });
}

type Kept = Pick<IssuedPeriodEntity, "number" | "edition" | "dataDate" | "issuedBy" | "issuedAt"> & {
  readonly digest: string;
};

/** What was issued of something: reports, and the figures of periods that were issued before reports were kept. */
async function allKept(database: DataSource | EntityManager, subjectId: string): Promise<Kept[]> {
  const reports = await database.getRepository(IssuedReportEntity).find({
    select: { number: true, edition: true, dataDate: true, issuedBy: true, issuedAt: true, digest: true },
    where: { subjectId },
  });
  const known = new Set(reports.map(({ number, edition }) => `${number} ${edition}`));
  const periods = await database.getRepository(IssuedPeriodEntity).find({
    select: { number: true, edition: true, dataDate: true, issuedBy: true, issuedAt: true },
    where: { projectId: subjectId },
  });
  const former = periods.filter(({ number, edition }) => !known.has(`${number} ${edition}`));
  return [...reports, ...former.map((period) => ({ ...period, digest: "" }))].sort(
    (a, b) => b.number - a.number || b.edition - a.edition,
  );
}

/** Reports that were issued of something, the newest first, with whether they hold and why not. */
export async function issuedLines(database: DataSource | EntityManager, subjectId: string): Promise<IssuedLine[]> {
  const rows = await allKept(database, subjectId);
  const [names, locks] = await Promise.all([
    accountNames(database),
    database.getRepository(PeriodLockEntity).findBy({ projectId: subjectId }),
  ]);
  return rows.map(({ number, edition, dataDate, issuedBy, issuedAt, digest }, i) => {
    const reopened = locks.find(
      (lock) => lock.number === number && lock.reopenedAt !== null && lock.reopenedAt >= issuedAt,
    );
    return {
      number,
      edition,
      dataDate,
      by: names.get(issuedBy) ?? "",
      at: issuedAt.toISOString(),
      digest,
      holds: rows[i - 1]?.number !== number && reopened === undefined,
      reopened: reopened?.reason ?? null,
    };
  });
}

/** The content of a report that was issued, with whether it still has its digest. */
export async function issuedContent(
  database: DataSource | EntityManager,
  subjectId: string,
  number: number,
  edition: number,
): Promise<{ content: ReportContent; whole: boolean }> {
  const row = await database.getRepository(IssuedReportEntity).findOneBy({ subjectId, number, edition });
  if (row === null) return { content: await formerReport(database, subjectId, number, edition), whole: true };
  return { content: JSON.parse(row.content) as ReportContent, whole: digestOf(row.content) === row.digest };
}

async function formerReport(
  database: DataSource | EntityManager,
  projectId: string,
  number: number,
  edition: number,
): Promise<ReportContent> {
  const found = await database.getRepository(IssuedPeriodEntity).findOneBy({ projectId, number, edition });
  const period = orNotFound(found, "report of that period");
  const project = await findProject(database, projectId);
  const names = await accountNames(database);
  const manager = names.get(project.managerId) ?? "";
  return formerContent({ period, project, organisation: await organisationName(database), manager });
}

/** One report that was issued, with its neighbours and editions. */
export async function issuedReport(
  database: DataSource,
  subjectId: string,
  number: number,
  edition: number | null,
): Promise<IssuedReport> {
  const lines = await issuedLines(database, subjectId);
  const editions = lines.filter((line) => line.number === number);
  const line = orNotFound(
    edition === null ? editions[0] : editions.find((each) => each.edition === edition),
    "report of that period",
  );
  const numbers = [...new Set(lines.map((each) => each.number))];
  return {
    line,
    ...(await issuedContent(database, subjectId, number, line.edition)),
    before: numbers.find((each) => each < number) ?? null,
    after: numbers.findLast((each) => each > number) ?? null,
    numbers,
    editions,
  };
}

/** The newest report of something before a period; `null` where there is none. */
export async function reportBefore(
  database: DataSource | EntityManager,
  subjectId: string,
  number: number,
): Promise<ReportContent | null> {
  const [row] = (await database.query(
    "select content from issued_report where subject_id = ? and number < ? order by number desc, edition desc limit 1",
    [subjectId, number],
  )) as { content: string }[];
  return row === undefined ? null : (JSON.parse(row.content) as ReportContent);
}
