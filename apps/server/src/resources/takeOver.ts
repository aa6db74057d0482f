import type { Me, TakeOver } from "@chronometra/contract";
import { type Change, type Plan } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { storeChanges } from "../plan/changeService.ts";
import { writeProjects } from "../plan/writeProjects.ts";
import { orNotFound } from "../shared/failure.ts";
import { houseMoney, registerRows, type House, type RegisterRow } from "./registerRows.ts";
import { changesInto, effectsOf, LABELS } from "./register.ts";

/** The changes that take rows of the register over into a plan. */
function takenOver(plan: Plan, rows: readonly RegisterRow[], house: House, wanted: TakeOver["rows"]): Change[] {
  const changes: Change[] = [];
  const seen = new Set<string>();
  for (const { table, id } of wanted) {
    const row = orNotFound(
      rows.find((each) => each.table === table && each.row.id === id),
      `${LABELS[table].toLowerCase()} of that name in the register`,
    );
    for (const change of changesInto(plan, rows, row, house)) {
      const key = JSON.stringify(change);
      if (!seen.has(key)) changes.push(change);
      seen.add(key);
    }
  }
  return changes;
}

/** What taking rows over would move in a project. */
export async function takeOverEffect(database: DataSource, project: string, { rows: wanted }: TakeOver) {
  const [house, rows] = [await houseMoney(database), await registerRows(database)];
  return effectsOf(database, [project], (plan) => takenOver(plan, rows, house, wanted));
}

/** Takes rows of the register over into a project; gives the revision, for undoing. */
export async function takeOver(
  database: DataSource,
  me: Me,
  id: string,
  { rows: wanted }: TakeOver,
): Promise<{ project: string; revision: number }[]> {
  return writeProjects(
    database,
    me,
    [id],
    async (writing) => {
      const project = await writing.editable(id);
      const [house, rows] = [await houseMoney(writing.manager), await registerRows(writing.manager)];
      const changes = takenOver(await writing.plan(project), rows, house, wanted);
      if (changes.length === 0) return [];
      const label = `From the register: ${wanted.length} taken over`;
      return [
        {
          project: id,
          revision: (await storeChanges(writing, project, { changes, label, through: "register" })).result.revision,
        },
      ];
    },
    async (plan) => takenOver(plan, await registerRows(database.manager), await houseMoney(database), wanted),
  );
}
