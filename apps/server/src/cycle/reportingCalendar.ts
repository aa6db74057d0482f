import type { ReportingCalendar } from "@chronometra/contract";
import { dateWords, dayAfter } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { inTransaction } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";
import { PlannedPeriodEntity, ReportingPeriodEntity } from "./cycleEntities.ts";

async function countsBy(database: DataSource, query: string): Promise<Map<number, number>> {
  return new Map(
    ((await database.query(query)) as { number: number; count: string }[]).map(({ number, count }) => [
      number,
      Number(count),
    ]),
  );
}

/** Periods that were, the open one and those to come, oldest first. */
export async function reportingCalendar(database: DataSource): Promise<ReportingCalendar> {
  const [were, planned, issued, locked] = await Promise.all([
    database.getRepository(ReportingPeriodEntity).find({ order: { number: "ASC" } }),
    database.getRepository(PlannedPeriodEntity).find({ order: { dataDate: "ASC" } }),
    countsBy(database, "select number, count(distinct project_id) as count from issued_period group by number"),
    countsBy(
      database,
      "select number, count(distinct project_id) as count from period_lock where reopened_at is null group by number",
    ),
  ]);
  const last = were.at(-1);
  const periods: ReportingCalendar["periods"] = were.map(({ number, fromDate, dataDate, issueBy }) => ({
    number,
    from: fromDate,
    dataDate,
    issueBy,
    state: number === last?.number ? "open" : "past",
    issued: issued.get(number) ?? 0,
    locked: locked.get(number) ?? 0,
  }));
  for (const { dataDate, issueBy } of planned) {
    const before = periods.at(-1);
    periods.push({
      number: (before?.number ?? 0) + 1,
      from: before === undefined ? `${dataDate.slice(0, 8)}01` : dayAfter(before.dataDate),
      dataDate,
      issueBy,
      state: "planned",
      issued: 0,
      locked: 0,
    });
  }
  return { periods };
}

/** Writes the periods to come: they follow the open one and each other. */
export async function planPeriods(
  database: DataSource,
  periods: readonly { dataDate: string; issueBy: string }[],
): Promise<void> {
  await inTransaction(database, async (manager) => {
    const [open] = await manager
      .getRepository(ReportingPeriodEntity)
      .find({ order: { number: "DESC" }, take: 1, lock: { mode: "pessimistic_write" } });
    let after = open?.dataDate ?? "";
    for (const { dataDate, issueBy } of periods) {
      if (dataDate <= after)
        throw new Failure(
          "invalid",
          `The data date ${dateWords(dataDate)} must lie after ${dateWords(after)}, the one before it.`,
        );
      if (issueBy.slice(0, 10) < dataDate)
        throw new Failure(
          "invalid",
          `Reports of ${dateWords(dataDate)} are issued on that day or after it, not on ${dateWords(issueBy)}.`,
        );
      after = dataDate;
    }
    await manager.getRepository(PlannedPeriodEntity).createQueryBuilder().delete().execute();
    if (periods.length > 0) await manager.getRepository(PlannedPeriodEntity).insert([...periods]);
  });
}
