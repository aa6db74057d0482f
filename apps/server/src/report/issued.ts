import { createHash } from "node:crypto";
import type { IssuedLine, IssuedReport, ReportContent } from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { PeriodLockEntity } from "../cycle/cycleEntities.ts";
import { orNotFound } from "../shared/failure.ts";
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

type Kept = Omit<IssuedReportEntity, "content">;

/** Reports that were issued of something, the newest first, with whether they hold and why not. */
export async function issuedLines(database: DataSource | EntityManager, subjectId: string): Promise<IssuedLine[]> {
  const rows: Kept[] = await database.getRepository(IssuedReportEntity).find({
    select: {
      subjectId: true,
      number: true,
      edition: true,
      dataDate: true,
      issuedBy: true,
      issuedAt: true,
      digest: true,
    },
    where: { subjectId },
    order: { number: "DESC", edition: "DESC" },
  });
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
  const row = orNotFound(
    await database.getRepository(IssuedReportEntity).findOneBy({ subjectId, number, edition }),
    "report of that period",
  );
  return { content: JSON.parse(row.content) as ReportContent, whole: digestOf(row.content) === row.digest };
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
