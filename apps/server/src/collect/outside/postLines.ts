import type { Me } from "@chronometra/contract";
import { type Change, type Plan } from "@chronometra/core";
import { In, type DataSource, type EntityManager } from "typeorm";
import { lockedTo } from "../../project/locks.ts";
import { storeChanges } from "../../plan/changeService.ts";
import { writeProjects } from "../../plan/writeProjects.ts";
import { ReportEntity } from "../kept/reportEntity.ts";
import { costChange, minorIn } from "./costs.ts";
import { OutsideLineEntity } from "./outsideEntities.ts";
import { matchedLines, byProject, assertDaysHold, assertBookable } from "./lines.ts";

/** Lines of time by activity, person and day, with what they take back together; where they take nothing back, 0. */
function byDay(rows: readonly OutsideLineEntity[]): { line: OutsideLineEntity; minutes: number }[] {
  const days = new Map<string, { line: OutsideLineEntity; minutes: number }>();
  for (const line of rows) {
    if (line.kind !== "time") continue;
    const key = JSON.stringify([line.activityId, line.personId, line.date]);
    days.set(key, { line, minutes: (days.get(key)?.minutes ?? 0) + Math.min(0, line.minutes!) });
  }
  return [...days.values()];
}

/** The changes that post the costs among a project's lines. */
async function costsOf(
  manager: EntityManager,
  id: string,
  plan: Plan,
  own: readonly OutsideLineEntity[],
): Promise<Change[]> {
  const closedTo = await lockedTo(manager, id);
  return own.flatMap((row) => (row.kind === "cost" ? [costChange(row, minorIn(plan, row.amount!), closedTo)] : []));
}

/** A line of time as a report that waits to be reviewed. */
const reportOf = (line: OutsideLineEntity, projectId: string) => ({
  id: line.id,
  projectId,
  activityId: line.activityId!,
  personId: line.personId!,
  date: line.date,
  leaveUntil: null,
  minutes: line.minutes,
  percent: null,
  remainingMinutes: null,
  stage: null,
  note: [line.note, line.source]
    .filter((words) => words !== "")
    .join(", ")
    .slice(0, 1000),
  state: "submitted" as const,
  sentAt: new Date(),
  decidedBy: null,
  word: null,
});

/** Posts matched costs, and sends matched time to be reviewed like any report; all or none. */
export async function postLines(
  database: DataSource,
  me: Me,
  ids: readonly string[],
): Promise<{ costs: number; reports: number }> {
  const looked = byProject(await matchedLines(database.manager, ids, false));
  return writeProjects(
    database,
    me,
    looked.map(([project]) => project),
    async (writing) => {
      const { manager } = writing;
      const rows = await matchedLines(manager, ids, true);
      for (const [projectId, own] of byProject(rows)) {
        const project = await writing.editable(projectId);
        for (const { line, minutes } of byDay(own)) await assertBookable(manager, project, line, minutes);
        const changes = await costsOf(manager, projectId, await writing.plan(project), own);
        const { source } = own.find(({ kind }) => kind === "cost") ?? own[0]!;
        const label = `Posted ${changes.length === 1 ? "a cost" : `${changes.length} costs`} of ${source}`;
        if (changes.length > 0)
          await storeChanges(writing, project, { changes, label: label.slice(0, 200), through: "system" });
        const reports = own.flatMap((line) => (line.kind === "time" ? [reportOf(line, projectId)] : []));
        if (reports.length > 0) await manager.getRepository(ReportEntity).insert(reports);
      }
      await assertDaysHold(manager, rows);
      await manager
        .getRepository(OutsideLineEntity)
        .update({ id: In(rows.map(({ id }) => id)) }, { state: "posted", decidedBy: me.id });
      const costs = rows.filter(({ kind }) => kind === "cost").length;
      return { costs, reports: rows.length - costs };
    },
    (plan, { id }) => costsOf(database.manager, id, plan, looked.find(([project]) => project === id)?.[1] ?? []),
  );
}
