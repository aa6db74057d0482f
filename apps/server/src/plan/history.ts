import {
  HISTORY_LENGTH,
  type ActivityHistory,
  type History,
  type HistoryEntry,
  type Me,
  type TakeBack,
  type Through,
} from "@chronometra/contract";
import {
  differenceLines,
  problemInWords,
  PlanProblems,
  type Change,
  type DifferenceLine,
  type Plan,
  type PlanTable,
  type Problem,
} from "@chronometra/core";
import { Between, IsNull, Not, Raw, type DataSource, type EntityManager, type FindOperator } from "typeorm";
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

const LINES_SHOWN = 500;

/** What of a history is asked for. */
export interface HistoryPart {
  /** Between two states. */
  readonly from: string | null;
  readonly to: string | null;
  /** What speaks of something, by its id. */
  readonly about: string | null;
  /** What wrote a field, `activities/A/deadline`. */
  readonly path: string | null;
  /** By an account. */
  readonly by: string | null;
  readonly through: string | null;
  /** Older than a revision. */
  readonly before: number | null;
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

const entryOf = (
  list: ChangeListEntity,
  names: ReadonlyMap<string, string>,
  gone: ReadonlySet<number>,
  line: DifferenceLine | null = null,
) => ({
  line,
  revision: list.revision,
  at: list.at.toISOString(),
  by: names.get(list.accountId) ?? "",
  label: list.label,
  through: list.through,
  changes: (JSON.parse(list.changes) as Change[]).length,
  undoes: list.undoes,
  takenBack: gone.has(list.revision),
});

/** Lists of changes that were stored, newest first. */
export async function historyOf(database: DataSource, project: ProjectEntity, part: HistoryPart): Promise<History> {
  const { from, to, about, path, by, through, before } = part;
  const after = from === null ? 0 : await revisionOf(database, project, from);
  const until = to === null ? project.revision : await revisionOf(database, project, to);
  const holds = (text: string): FindOperator<string> =>
    Raw((column) => `instr(${column}, :text) > 0`, { text: JSON.stringify(text) });
  const lists = await database.getRepository(ChangeListEntity).find({
    where: {
      projectId: project.id,
      revision: Between(after + 1, before === null ? until : Math.min(until, before - 1)),
      ...(about === null ? {} : { changes: holds(about) }),
      ...(path === null ? {} : { touched: holds(path) }),
      ...(by === null ? {} : { accountId: by }),
      ...(through === null ? {} : { through: through as Through }),
    },
    order: { revision: "DESC" },
    take: HISTORY_LENGTH,
  });
  const [names, gone] = [await accountNames(database), await takenBack(database.manager, project.id)];
  if (path === null) return lists.map((list) => entryOf(list, names, gone));
  const plan = await loadPlan(database.manager, project);
  return lists.map((list) => {
    const line = linesOf(plan, list).find((each) => each.path === path);
    return entryOf(list, names, gone, line ?? null);
  });
}

/** Who has changed a plan. */
export async function historyPeople(
  database: DataSource,
  { id }: ProjectEntity,
): Promise<{ id: string; name: string }[]> {
  return (await database.query(
    "select a.id, a.name from account a where a.id in (select distinct c.account_id from change_list c where c.project_id = ?) order by a.name",
    [id],
  )) as { id: string; name: string }[];
}

async function listAt(manager: EntityManager, projectId: string, revision: number): Promise<ChangeListEntity> {
  const list = await manager.getRepository(ChangeListEntity).findOneBy({ projectId, revision });
  if (list === null) throw new Failure("notFound", `There is no change ${revision} in this project.`);
  return list;
}

/** A plan as it stands now, with rows that are gone as a list itself knew them. */
function planAround(plan: Plan, list: ChangeListEntity): Plan {
  const were = list.inverse ?? list.were;
  const inverse = were === null ? [] : (JSON.parse(were) as Change[]);
  const known: Partial<Record<PlanTable, Map<string, unknown>>> = {};
  for (const change of [...inverse, ...(JSON.parse(list.changes) as Change[])]) {
    if (change.type !== "addRow" || plan[change.table].has(change.key)) continue;
    (known[change.table] ??= new Map<string, unknown>(plan[change.table])).set(change.key, change.row);
  }
  return { ...plan, ...known } as Plan;
}

/** What a list made of each field that it wrote. */
function linesOf(plan: Plan, list: ChangeListEntity): DifferenceLine[] {
  const were = list.inverse ?? list.were;
  return differenceLines(
    JSON.parse(list.changes) as Change[],
    were === null ? null : (JSON.parse(were) as Change[]),
    planAround(plan, list),
  );
}

const ACTIVITY_LISTS = 60;

/** What became of an activity, the newest lists first that are older than a revision. */
export async function activityHistory(
  database: DataSource,
  project: ProjectEntity,
  activity: string,
  before: number | null,
): Promise<ActivityHistory> {
  const plan = await loadPlan(database.manager, project);
  // Who works on it is written by the key of that row.
  const keys = [...plan.assignments].flatMap(([key, row]) => (row.activity === activity ? [key] : []));
  const lists = await database
    .getRepository(ChangeListEntity)
    .createQueryBuilder("list")
    .where("list.project_id = :project and list.revision < :before", {
      project: project.id,
      before: before ?? project.revision + 1,
    })
    .andWhere(
      `(instr(list.changes, :activity) > 0${keys.map((_, i) => ` or instr(list.touched, :key${i}) > 0`).join("")})`,
      {
        activity: JSON.stringify(activity),
        ...Object.fromEntries(keys.map((key, i) => [`key${i}`, `"assignments/${key}/`])),
      },
    )
    .orderBy("list.revision", "DESC")
    .limit(ACTIVITY_LISTS)
    .getMany();
  const [names, gone] = [await accountNames(database), await takenBack(database.manager, project.id)];
  return {
    lists: lists.flatMap((list) => {
      const lines = linesOf(plan, list).filter(({ of }) => of.includes(activity));
      const { revision, at, by, label, through, takenBack } = entryOf(list, names, gone);
      return lines.length === 0 ? [] : [{ revision, at, by, label, through, takenBack, lines }];
    }),
    older: lists.length < ACTIVITY_LISTS ? null : lists.at(-1)!.revision,
  };
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
  const lines = linesOf(plan, list);
  return {
    ...entryOf(list, await accountNames(manager), await takenBack(manager, project.id)),
    lines: lines.slice(0, LINES_SHOWN),
    total: lines.length,
    takeBack: mayEdit(me, project) ? await takingBack(manager, project, plan, revision) : null,
  };
}
