import type { Me, ReportsEffect } from "@chronometra/contract";
import type { Change, Plan } from "@chronometra/core";
import { In, type DataSource } from "typeorm";
import { lockedTo } from "../../project/locks.ts";
import { loadPlan } from "../../plan/stored/planStore.ts";
import { effectOn } from "../../plan/prepare.ts";
import { assertMayEdit, findProject } from "../../project/projectAccess.ts";
import { correctedLines, costCorrections, type Corrected } from "./corrections.ts";
import { costChange, minorIn } from "./costs.ts";
import { byProject, matchedLines } from "./lines.ts";
import { OutsideLineEntity } from "./outsideEntities.ts";

type Making = (plan: Plan, closedTo: string | null) => Change[];

/** What posts chosen costs, by project: those that are matched, or corrections of those that are posted. */
async function makingsOf(database: DataSource, ids: readonly string[]): Promise<[string, Making][]> {
  const rows = await database.getRepository(OutsideLineEntity).findBy({ id: In([...new Set(ids)]) });
  if (!rows.some(({ state }) => state === "correction")) {
    const matched = byProject(await matchedLines(database.manager, ids, false));
    return matched.map(([project, own]) => {
      const costs = own.filter(({ kind }) => kind === "cost");
      return [project, (plan, closedTo) => costs.map((row) => costChange(row, minorIn(plan, row.amount!), closedTo))];
    });
  }
  const byId = new Map<string, Corrected[]>();
  for (const each of await correctedLines(database.manager, ids, false))
    if (each.base.projectId !== null) byId.set(each.base.projectId, [...(byId.get(each.base.projectId) ?? []), each]);
  return [...byId].sort().map(([project, own]) => [project, (plan, closedTo) => costCorrections(plan, own, closedTo)]);
}

/** What posting costs, or accepting corrections of costs, would move in each project. */
export async function effectOfLines(database: DataSource, me: Me, ids: readonly string[]): Promise<ReportsEffect> {
  const effects: ReportsEffect = [];
  for (const [id, making] of await makingsOf(database, ids)) {
    const project = await findProject(database, id);
    assertMayEdit(me, project);
    const plan = await loadPlan(database.manager, project);
    const changes = making(plan, await lockedTo(database, id));
    effects.push({
      project: id,
      projectName: project.head.name,
      effect: await effectOn({ id, plan }, changes),
      windows: [],
      asked: [],
      assumed: [],
    });
  }
  return effects;
}
