import { randomUUID } from "node:crypto";
import type { Me } from "@chronometra/contract";
import {
  type ActivityNote,
  checkOwnTables,
  fromBundle,
  PlanProblems,
  type OwnField,
  type OwnValues,
  type Plan,
  type PlanBundle,
} from "@chronometra/core";
import type { EntityManager } from "typeorm";
import { insertBaseline } from "../approve/approveService.ts";
import { ChangeListEntity } from "../plan/stored/planEntities.ts";
import { storeDifference } from "../plan/stored/planStore.ts";
import { orTaken } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";
import { keepRows } from "../plan/stored/keepRows.ts";
import { rowsOfAll } from "../plan/prepare.ts";
import { ProgrammeEntity, ProjectEntity } from "../project/projectEntity.ts";
import { assertMayBeginIn } from "../project/projectAccess.ts";

/** What a plan begins with that the open format leaves out. */
export interface Beside {
  readonly fields: readonly OwnField[];
  /** By the id of the activity. */
  readonly ownValues: Readonly<Record<string, OwnValues>>;
  /** How activities are described, by their id. */
  readonly notes: Readonly<Record<string, ActivityNote>>;
  /** People who stand for a role until someone is named. */
  readonly placeholders: readonly string[];
}

/** What of a project that lived elsewhere is not made here; its lists of changes are stored by whoever brings it. */
export interface Lived {
  readonly id: string;
  readonly revision: number;
  /** The text of each baseline as it was frozen, by its number. */
  readonly baselines: ReadonlyMap<number, string>;
}

export interface NewProject {
  readonly plan: Plan;
  readonly programmeId: string | null;
  readonly managerId: string;
  readonly label: string;
  readonly lived?: Lived;
}

/**
 * A checked bundle as a plan, with what is known besides.
 * @throws {PlanProblems} where the two do not go together
 */
export function planWith(bundle: PlanBundle, beside: Beside | undefined): Plan {
  const plan = fromBundle(bundle);
  if (beside === undefined) return plan;
  const whole: Plan = {
    ...plan,
    fields: new Map(beside.fields.map((field) => [field.id, field])),
    ownValues: new Map(Object.entries(beside.ownValues)),
    notes: new Map(Object.entries(beside.notes)),
    placeholders: new Map(beside.placeholders.map((person) => [person, { person }])),
  };
  const problems = checkOwnTables(whole);
  if (problems.length > 0) throw new PlanProblems(problems);
  return whole;
}

function taken(code: string): Failure {
  const message = `A project with the code "${code}" exists already; give this one another.`;
  return new Failure("conflict", message, { problems: [{ table: "project", row: code, field: "code", message }] });
}

/** The first list of changes of a project that begins here. */
const begun = (manager: EntityManager, me: Me, projectId: string, label: string): Promise<unknown> =>
  manager.getRepository(ChangeListEntity).insert({
    ...{ projectId, revision: 1, accountId: me.id, label },
    ...{ changes: "[]", inverse: null, touched: "[]", undoes: null },
  });

/**
 * Stores a checked plan as a new project, with its figures: at revision 1, or as old as it is where it lived elsewhere.
 * Throws a Failure for a code that is taken.
 */
export async function createProject(manager: EntityManager, me: Me, wanted: NewProject): Promise<ProjectEntity> {
  const { plan, lived } = wanted;
  assertMayBeginIn(me, wanted.programmeId);
  const { id, revision } = lived ?? { id: randomUUID(), revision: 1 };
  const rows = await rowsOfAll({ id, plan }, revision);
  const { code } = plan.project;
  if (await manager.getRepository(ProjectEntity).existsBy({ code })) throw taken(code);
  if (
    wanted.programmeId !== null &&
    !(await manager.getRepository(ProgrammeEntity).existsBy({ id: wanted.programmeId }))
  )
    throw new Failure("invalid", "There is no such programme.");
  const project = manager.getRepository(ProjectEntity).create({
    id,
    programmeId: wanted.programmeId,
    managerId: wanted.managerId,
    code,
    revision,
    keptRevision: revision,
    head: plan.project,
  });
  await orTaken(manager.getRepository(ProjectEntity).insert(project), () => taken(code));
  await storeDifference(manager, project.id, null, plan);
  for (const baseline of plan.baselines.values())
    await insertBaseline(manager, id, baseline, plan, lived?.baselines.get(baseline.number));
  if (lived === undefined) await begun(manager, me, id, wanted.label);
  await keepRows(manager, project.id, rows);
  return project;
}
