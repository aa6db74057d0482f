import type { EffectView, FileChanges, ImportAnswers, Me } from "@chronometra/contract";
import {
  differencesTo,
  PlanProblems,
  type Change,
  type Plan,
  type PlanBundle,
  type RowDifference,
} from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { storeChanges } from "../plan/changeService.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { writeProject } from "../plan/writeProjects.ts";
import { effectOn } from "../plan/prepare.ts";
import { assertMayEdit, findProject } from "../project/projectAccess.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { exportedAt } from "./exportedPlans.ts";
import { ImportDraftEntity } from "./importEntities.ts";
import type { Understood } from "./understand.ts";

interface Brought {
  readonly draft: ImportDraftEntity;
  readonly projectId: string;
  readonly bundle: PlanBundle;
  /** The plan that the file was made from, where it says which and it is still kept. */
  readonly base: { readonly at: Date; readonly revision: number; readonly plan: PlanBundle } | null;
}

async function broughtFor(manager: EntityManager, me: Me, id: string): Promise<Brought> {
  const draft = orNotFound(
    await manager.getRepository(ImportDraftEntity).findOneBy({ id, accountId: me.id }),
    "file of yours being imported",
  );
  const { changesTo } = JSON.parse(draft.answers) as ImportAnswers;
  if (changesTo === undefined) throw new Failure("invalid", "Say first which project the file is to bring changes to.");
  const understood = draft.understood === null ? null : (JSON.parse(draft.understood) as Understood);
  if (understood?.bundle == null)
    throw new Failure("invalid", "The file has errors; nothing can be taken over until they are mended.");
  const { bundle, madeFrom: revision } = understood;
  const base = revision === undefined ? null : await exportedAt(manager, changesTo, revision);
  return { draft, projectId: changesTo, bundle, base: base === null ? null : { ...base, revision: revision! } };
}

/** What a file changes in a plan. The project's code names it everywhere, and no file changes that. */
function differences(plan: Plan, { draft, bundle, base }: Brought): RowDifference[] {
  let made = 0;
  // The same file gives the same keys each time, so that what was ticked is what is taken over.
  return differencesTo(
    plan,
    { ...bundle, project: { ...bundle.project, code: plan.project.code } },
    () => `x-${draft.id.slice(0, 8)}-${++made}`,
    base?.plan ?? null,
  );
}

export async function viewFileChanges(database: DataSource, me: Me, id: string): Promise<FileChanges> {
  const brought = await broughtFor(database.manager, me, id);
  const project = await findProject(database, brought.projectId);
  assertMayEdit(me, project);
  const rows = differences(await loadPlan(database.manager, project), brought);
  const madeFrom =
    brought.base === null ? null : { revision: brought.base.revision, at: brought.base.at.toISOString() };
  return {
    project: { id: project.id, code: project.code, name: project.head.name },
    revision: project.revision,
    madeFrom,
    rows: rows.map(({ changes: _changes, ...row }) => ({ ...row, fields: [...row.fields] })),
  };
}

function tickedChanges(
  project: ProjectEntity,
  plan: Plan,
  brought: Brought,
  { revision, keys }: { revision: number; keys: readonly string[] },
): Change[] {
  if (project.revision !== revision)
    throw new Failure("conflict", "The plan was changed since you looked at these rows; look again.");
  const ticked = new Set(keys);
  const changes = differences(plan, brought).flatMap((row) => (ticked.has(row.key) ? row.changes : []));
  if (changes.length === 0) throw new Failure("invalid", "None of these rows differs from the plan any more.");
  return changes;
}

/** A row may rest on another that was not ticked: that is said in those words. */
async function ofTicked<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof PlanProblems)) throw error;
    throw new Failure(
      "invalid",
      `These rows cannot be taken over by themselves: ${error.problems[0]!.said}. Select what they rest on too, or mend the file.`,
      { problems: error.problems },
    );
  }
}

/** What taking rows over would move; stores nothing. */
export async function fileChangesEffect(
  database: DataSource,
  me: Me,
  id: string,
  ticked: { revision: number; keys: readonly string[] },
): Promise<EffectView> {
  const brought = await broughtFor(database.manager, me, id);
  const project = await findProject(database, brought.projectId);
  assertMayEdit(me, project);
  const plan = await loadPlan(database.manager, project);
  const changes = tickedChanges(project, plan, brought, ticked);
  return ofTicked(() => effectOn({ id: project.id, plan }, changes));
}

/** Takes rows of a file over as one list of changes; the file is done with then. */
export async function takeFileChanges(
  database: DataSource,
  me: Me,
  id: string,
  ticked: { revision: number; keys: readonly string[] },
) {
  const { projectId } = await broughtFor(database.manager, me, id);
  return writeProject(
    database,
    me,
    projectId,
    async (writing, project) => {
      const { manager } = writing;
      const brought = await broughtFor(manager, me, id);
      const plan = await writing.plan(project);
      const changes = tickedChanges(project, plan, brought, ticked);
      const label = `Taken over from ${brought.draft.fileName}: ${ticked.keys.length} rows`.slice(0, 200);
      const { revision, undoable, merged } = (
        await ofTicked(() => storeChanges(writing, project, { changes, label, through: "file" }))
      ).result;
      await manager
        .getRepository(ImportDraftEntity)
        .update({ id }, { state: "stored", storedAs: project.id, source: null, understood: null });
      return { project: project.id, revision, undoable, merged };
    },
    async (plan, project) => tickedChanges(project, plan, await broughtFor(database.manager, me, id), ticked),
  );
}
