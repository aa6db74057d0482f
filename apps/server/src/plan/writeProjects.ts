import type { Me } from "@chronometra/contract";
import type { Plan } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { assertMayEdit, assertNotClosed } from "../project/projectAccess.ts";
import { ProjectEntity } from "../project/projectEntity.ts";
import { inTransaction, isLockWait } from "../shared/database.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { inTurn } from "../shared/turns.ts";
import { askingOnce } from "./held/overPlan.ts";
import { loadPlan, rememberPlan } from "./stored/planStore.ts";
import { prepareAhead, type ChangesOf, type PlanAsOf } from "./prepare.ts";
import { tellWritten } from "./written.ts";

/** How long a writer waits for a project that another server is writing. */
const LOCK_WAIT_SECONDS = 2;

/**
 * Projects while they are written: their rows are locked, and what is read of them is as of that lock. Plans that the
 * transaction made stay here until it is carried out; undone, they were never anywhere else.
 */
export class Writing {
  private readonly plans = new Map<string, Plan>();

  /**
   * @param locked the projects asked for, by id
   * @param ahead plans that were read before the lock, by project: those of the locked revision need not be read again
   */
  constructor(
    readonly manager: EntityManager,
    readonly me: Me,
    private readonly locked: ReadonlyMap<string, ProjectEntity>,
    ahead: ReadonlyMap<string, PlanAsOf | undefined>,
  ) {
    for (const [id, project] of locked) {
      const read = ahead.get(id);
      if (read?.revision === project.revision) this.plans.set(id, read.plan);
    }
  }

  /** A project that was asked for. Throws a Failure where there is none of that id. */
  project(id: string): ProjectEntity {
    return orNotFound(this.locked.get(id), "project of that address");
  }

  /** A project that was asked for, if this person may change it and it is not closed. */
  async editable(id: string): Promise<ProjectEntity> {
    const project = this.project(id);
    assertMayEdit(this.me, project);
    await assertNotClosed(this.manager, project);
    return project;
  }

  /** The plan of a project as this transaction has it. */
  async plan({ id }: { readonly id: string }): Promise<Plan> {
    const project = this.project(id);
    const known = this.plans.get(id);
    if (known !== undefined) return known;
    const { revision } = project;
    const plan = await loadPlan(this.manager, project);
    if (project.revision !== revision)
      throw new Error(`project ${id} was read at revision ${project.revision} while locked at ${revision}`);
    this.plans.set(id, plan);
    return plan;
  }

  /** Notes what the transaction made of a project's plan; its row was raised to that revision already. */
  made(project: ProjectEntity, plan: Plan): void {
    this.plans.set(project.id, plan);
  }

  /** After the transaction: the newest plans are at hand for the next call. */
  remember(): void {
    for (const [id, plan] of this.plans) rememberPlan(id, this.locked.get(id)!.revision, plan);
  }
}

/** Locks projects in the order of their ids, so that no two writers wait for each other. */
async function lock(manager: EntityManager, ids: readonly string[]): Promise<Map<string, ProjectEntity>> {
  const found = new Map<string, ProjectEntity>();
  for (const id of ids) {
    const rows = (await manager.query(`select id from project where id = ? for update wait ${LOCK_WAIT_SECONDS}`, [
      id,
    ])) as unknown[];
    if (rows.length > 0) found.set(id, await manager.getRepository(ProjectEntity).findOneByOrFail({ id }));
  }
  return found;
}

/**
 * The one way in which plans are written: locks the projects in one order, does the work in one transaction in which
 * each statement sees what is committed, and only once that is carried out keeps the plans at hand and tells open
 * pages. Who writes the same project on this server waits in turn, without holding a connection.
 * @param ids of the projects that may be written; one that does not exist is found missing when it is asked for
 * @param changesOf the changes that `work` will store in each, where they are known before anything is locked: all that
 *   goes with them is worked out by then, in the same turn
 * @throws {Failure} `busy` where another writer holds one of them for too long
 */
export async function writeProjects<T>(
  database: DataSource,
  me: Me,
  ids: readonly string[],
  work: (writing: Writing) => Promise<T>,
  changesOf?: ChangesOf,
): Promise<T> {
  const ordered = [...new Set(ids)].sort();
  const inOneAct = async (): Promise<{ result: T; writing: Writing }> => {
    const ahead = new Map(
      changesOf === undefined
        ? []
        : await Promise.all(ordered.map(async (id) => [id, await prepareAhead(database, id, changesOf)] as const)),
    );
    return inTransaction(database, async (manager) => {
      const locked = await lock(manager, ordered).catch((error: unknown) => {
        throw isLockWait(error) ? new Failure("busy") : error;
      });
      const writing = new Writing(manager, me, locked, ahead);
      return { result: await work(writing), writing };
    });
  };
  const { result, writing } = await inTurn(database, ordered, () => askingOnce(inOneAct));
  writing.remember();
  tellWritten(database, ordered);
  return result;
}

/** Writes one project that this person may change; the rest as for several. */
export const writeProject = <T>(
  database: DataSource,
  me: Me,
  id: string,
  work: (writing: Writing, project: ProjectEntity) => Promise<T>,
  changesOf?: ChangesOf,
): Promise<T> =>
  writeProjects(database, me, [id], async (writing) => work(writing, await writing.editable(id)), changesOf);
