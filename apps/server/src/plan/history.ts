import type { History, HistoryEntry, Me, TakeBack } from "@chronometra/contract";
import {
  namesIn,
  oneInWords,
  problemInWords,
  PlanProblems,
  type Change,
  type Naming,
  type Plan,
  type PlanTable,
  type Problem,
} from "@chronometra/core";
import { Between, IsNull, Not, Raw, type DataSource, type EntityManager } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { assertNotClosed } from "../project/projectAccess.ts";
import { mayEdit } from "../project/reach.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { Failure } from "../shared/failure.ts";
import { tryChanges, type ChangeOrder } from "./changeService.ts";
import { ChangeListEntity } from "./stored/planEntities.ts";
import { loadPlan } from "./stored/planStore.ts";
import { effectOn } from "./prepare.ts";
import { revisionOf } from "./revisions.ts";

const HISTORY_LENGTH = 200;
const CHANGES_SHOWN = 200;

/** What of a history is asked for: between two states, and what speaks of something. */
export interface HistoryPart {
  readonly from: string | null;
  readonly to: string | null;
  readonly about: string | null;
}

/** Revisions whose lists were taken back, and not done again. */
async function takenBack(manager: EntityManager, projectId: string): Promise<Set<number>> {
  const turns = await manager.getRepository(ChangeListEntity).find({
    select: { revision: true, undoes: true },
    where: { projectId, undoes: Not(IsNull()) },
    order: { revision: "DESC" },
  });
  const gone = new Set<number>();
  for (const { revision, undoes } of turns) if (!gone.has(revision)) gone.add(undoes!);
  return gone;
}

const entryOf = (list: ChangeListEntity, names: ReadonlyMap<string, string>, gone: ReadonlySet<number>) => ({
  revision: list.revision,
  at: list.at.toISOString(),
  by: names.get(list.accountId) ?? "",
  label: list.label,
  changes: (JSON.parse(list.changes) as Change[]).length,
  undoes: list.undoes,
  takenBack: gone.has(list.revision),
});

/** Lists of changes that were stored, newest first. */
export async function historyOf(database: DataSource, project: ProjectEntity, part: HistoryPart): Promise<History> {
  const { from, to, about } = part;
  const after = from === null ? 0 : await revisionOf(database, project, from);
  const until = to === null ? project.revision : await revisionOf(database, project, to);
  const speaks = (column: string): string => `instr(${column}, :about) > 0`;
  const lists = await database.getRepository(ChangeListEntity).find({
    where: {
      projectId: project.id,
      revision: Between(after + 1, until),
      ...(about === null ? {} : { changes: Raw(speaks, { about: JSON.stringify(about) }) }),
    },
    order: { revision: "DESC" },
    take: HISTORY_LENGTH,
  });
  const [names, gone] = [await accountNames(database), await takenBack(database.manager, project.id)];
  return lists.map((list) => entryOf(list, names, gone));
}

async function listAt(manager: EntityManager, projectId: string, revision: number): Promise<ChangeListEntity> {
  const list = await manager.getRepository(ChangeListEntity).findOneBy({ projectId, revision });
  if (list === null) throw new Failure("notFound", `There is no change ${revision} in this project.`);
  return list;
}

/** Names as they stand now, and of rows that are gone as a list itself knew them. */
function namesAround(plan: Plan, list: ChangeListEntity): Naming {
  const inverse = list.inverse === null ? [] : (JSON.parse(list.inverse) as Change[]);
  const known: Partial<Record<PlanTable, Map<string, unknown>>> = {};
  for (const change of [...inverse, ...(JSON.parse(list.changes) as Change[])]) {
    if (change.type !== "addRow" || plan[change.table].has(change.key)) continue;
    (known[change.table] ??= new Map<string, unknown>(plan[change.table])).set(change.key, change.row);
  }
  return namesIn({ ...plan, ...known } as Plan);
}

/** What taking a list back is called; of one that took another back, that this is done again, and so on. */
function turnedLabel({ label, undoes }: ChangeListEntity): string {
  if (undoes === null) return `Undid: ${label}`;
  return `${label.startsWith("Undid: ") ? "Redid" : "Undid"}: ${label.replace(/^(Undid|Redid): /, "")}`;
}

/** The stored list of a revision turned round, with what was written since as what must not be lost. */
export async function inverseOf(
  manager: EntityManager,
  project: ProjectEntity,
  revision: number,
): Promise<ChangeOrder> {
  const list = await listAt(manager, project.id, revision);
  if ((await takenBack(manager, project.id)).has(revision))
    throw new Failure("conflict", `"${list.label}" was undone already.`);
  if (list.inverse === null)
    throw new Failure(
      "invalid",
      `"${list.label}" cannot be undone: posted time and baselines stay; correct them by a new entry.`,
    );
  const label = turnedLabel(list);
  return {
    changes: JSON.parse(list.inverse) as Change[],
    seen: revision,
    label: label.slice(0, 200),
    undoes: revision,
  };
}

const refused = (why: string): TakeBack => ({ effect: null, why, restsOn: [] });

/** What taking a list back would move, or why it cannot be. */
async function takingBack(
  manager: EntityManager,
  project: ProjectEntity,
  plan: Plan,
  revision: number,
): Promise<TakeBack> {
  let changes: readonly Change[] = [];
  const resting = ([problem]: readonly Problem[]): TakeBack =>
    refused(`What came later rests on it. ${problemInWords(problem!, plan, changes).said}.`);
  try {
    await assertNotClosed(manager, project);
    const order = await inverseOf(manager, project, revision);
    changes = order.changes;
    await tryChanges(manager, project, plan, order);
    return { effect: await effectOn({ id: project.id, plan }, changes), why: null, restsOn: [] };
  } catch (error) {
    if (error instanceof PlanProblems) return resting(error.problems);
    if (!(error instanceof Failure)) throw error;
    const { clashes = [], problems = [] } = error.details;
    if (problems.length > 0) return resting(problems);
    if (clashes.length === 0) return refused(error.message);
    return {
      ...refused("It was changed again since."),
      restsOn: clashes.map(({ what, by, at }) => ({ what, by, at })),
    };
  }
}

/** One stored list: what it did, in words, and for whoever may change the plan, what taking it back would move. */
export async function historyEntry(
  database: DataSource,
  me: Me,
  project: ProjectEntity,
  revision: number,
): Promise<HistoryEntry> {
  const { manager } = database;
  const [list, plan] = [await listAt(manager, project.id, revision), await loadPlan(manager, project)];
  const nameOf = namesAround(plan, list);
  const changes = JSON.parse(list.changes) as Change[];
  return {
    ...entryOf(list, await accountNames(manager), await takenBack(manager, project.id)),
    what: changes.slice(0, CHANGES_SHOWN).map((change) => oneInWords(change, nameOf)),
    takeBack: mayEdit(me, project) ? await takingBack(manager, project, plan, revision) : null,
  };
}
