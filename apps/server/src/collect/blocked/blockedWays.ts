import type { Blocked, Me } from "@chronometra/contract";
import { type Plan } from "@chronometra/core";
import { In, type DataSource } from "typeorm";
import { loadPlan } from "../../plan/stored/planStore.ts";
import { mayEdit, maySee } from "../../project/reach.ts";
import { ProjectEntity } from "../../project/projectEntity.ts";
import { Failure } from "../../shared/failure.ts";
import { onThread } from "../../shared/workers.ts";
import type { Line } from "./blockedWorker.ts";

interface Known {
  readonly project: ProjectEntity;
  readonly plan: Plan;
}

const MOST_DAYS = 250;

/** Plans that someone sees with something blocked in them, and those that they wait for. */
async function plansWithBlocks(database: DataSource, me: Me): Promise<Map<string, Known>> {
  const rows = (await database.query("select distinct project_id as id from plan_row where table_name = 'blocks'")) as {
    id: string;
  }[];
  const known = new Map<string, Known>();
  const add = async (ids: readonly string[]): Promise<void> => {
    const missing = ids.filter((id) => !known.has(id));
    if (missing.length === 0) return;
    for (const project of await database.getRepository(ProjectEntity).findBy({ id: In(missing) })) {
      if (!maySee(me, project)) continue;
      known.set(project.id, { project, plan: await loadPlan(database.manager, project) });
    }
  };
  await add(rows.map(({ id }) => id));
  await add(
    [...known.values()].flatMap(({ plan }) =>
      [...plan.blocks.values()].flatMap(({ on }) => (on === undefined ? [] : [on.project])),
    ),
  );
  return known;
}

/**
 * Everything that someone sees and that is marked as blocked, with its causes and its victims if it stays so for some
 * working days more.
 */
export async function blockedEverywhere(database: DataSource, me: Me, daysText: string): Promise<Blocked> {
  const days = Number(daysText);
  if (!Number.isInteger(days) || days < 1 || days > MOST_DAYS)
    throw new Failure("invalid", `Say for how many working days, 1 to ${MOST_DAYS}.`);
  const plans = await plansWithBlocks(database, me);
  const found = await onThread<Line[]>("blocked", "collect/blocked/blockedWorker", {
    days,
    plans: [...plans.values()].map(({ project, plan }) => ({ id: project.id, name: project.head.name, plan })),
  });
  const blocks = found.map((line) => ({ ...line, mayEdit: mayEdit(me, plans.get(line.project)!.project) }));
  return {
    days,
    blocks: blocks.sort((a, b) => b.deadlines.length - a.deadlines.length || (a.since < b.since ? -1 : 1)),
  };
}
