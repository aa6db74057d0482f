import type { CycleStep, Me } from "@chronometra/contract";
import { dateWords, dayAfter } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { AccountEntity } from "../access/accountEntity.ts";
import { todayHere } from "../shared/clock.ts";
import type { Telling } from "../tell/post.ts";
import { tellStanding } from "../tell/standing.ts";
import type { ReportingPeriodEntity } from "./cycleEntities.ts";
import { LINKS, standingsByManager } from "./standings.ts";
import { settleReminders } from "../tell/reminders.ts";

/** Who manages projects that take part in the cycle: approved, and not closed. */
const MANAGERS = `select distinct p.manager_id as manager from project p join figures f on f.project_id = p.id and f.revision = p.revision
  where json_value(f.summary, '$.baseline') is not null and p.id not in (select project_id from project_closing)`;

/** Tells managers of projects that take part, and controllers, that a period is open; whoever opened it knows. */
export async function tellOpened(
  manager: EntityManager,
  post: Telling,
  me: Me,
  { number, dataDate, issueBy }: ReportingPeriodEntity,
): Promise<void> {
  const rows = (await manager.query(MANAGERS)) as { manager: string }[];
  const managers = new Set(rows.map((row) => row.manager));
  const accounts = await manager.getRepository(AccountEntity).find();
  await post.put(
    manager,
    accounts
      .filter(({ id, roles }) => id !== me.id && (managers.has(id) || roles.includes("controller")))
      .map((to) => ({
        ...{ to, from: me, kind: "period" as const, link: "/cycle" },
        subject: `Period ${number} is open`,
        body: `It reports up to ${dateWords(dataDate)}; reports are issued by ${momentIn(issueBy)}.`,
      })),
  );
}

/** A local `YYYY-MM-DDTHH:MM` in words. */
const momentIn = (local: string): string => `${dateWords(local.slice(0, 10))}, ${local.slice(11)}`;

type Standings = NonNullable<Awaited<ReturnType<typeof standingsByManager>>>["projects"];

/** What of a step is open, in lines, by the manager of each project. */
function openIn(projects: Standings, step: CycleStep): Map<string, string[]> {
  const waits = new Map<string, string[]>();
  for (const { by, code, steps } of projects) {
    const { open, words } = steps.find(({ name }) => name === step)!;
    if (open > 0) waits.set(by, [...(waits.get(by) ?? []), `${code}: ${words}`]);
  }
  return waits;
}

const NOBODY: ReadonlyMap<string, string[]> = new Map();

/**
 * Tells managers once what the open period still wants of them, until it is done: from its data date on what is to be
 * explained, from the day before it is due what is not issued. It is counted as the cycle counts it.
 */
export async function tellCycle(
  database: DataSource,
  post: Telling,
  at = new Date(),
  today = todayHere(),
): Promise<void> {
  const standing = await standingsByManager(database);
  const period = standing?.period ?? { number: 0, dataDate: "9999-12-31", issueBy: "9999-12-30T00:00" };
  const projects = standing?.projects ?? [];
  const issueOn = period.issueBy.slice(0, 10);
  await tellStanding(
    database,
    post,
    { name: "explain", subject: "Broken limits are to be explained", link: LINKS.Explain, act: "Explain" },
    today < period.dataDate ? NOBODY : openIn(projects, "Explain"),
    at,
  );
  const owing = new Set(projects.flatMap(({ missing }) => missing.map(({ id }) => id)));
  await settleReminders(database, owing, at);
  const due = `Period ${period.number} is due on ${dateWords(issueOn)}`;
  await tellStanding(
    database,
    post,
    { name: "due", subject: due, link: LINKS.Issue, act: "Issue" },
    dayAfter(today) < issueOn ? NOBODY : openIn(projects, "Issue"),
    at,
  );
}
