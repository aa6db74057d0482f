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

export interface NewProject {
  readonly plan: Plan;
  readonly programmeId: string | null;
  readonly managerId: string;
  readonly label: string;
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

/**
 * Stores a checked plan as a new project at revision 1, with its figures. Throws a Failure for a code that is taken.
 */
export async function createProject(manager: EntityManager, me: Me, wanted: NewProject): Promise<ProjectEntity> {
  const { plan } = wanted;
  assertMayBeginIn(me, wanted.programmeId);
  const id = randomUUID();
  const rows = await rowsOfAll({ id, plan }, 1);
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
    revision: 1,
    keptRevision: 1,
    head: plan.project,
  });
  await orTaken(manager.getRepository(ProjectEntity).insert(project), () => taken(code));
  await storeDifference(manager, project.id, null, plan);
  for (const baseline of plan.baselines.values()) await insertBaseline(manager, project.id, baseline, plan);
  await manager.getRepository(ChangeListEntity).insert({
    projectId: project.id,
    revision: 1,
    accountId: me.id,
    label: wanted.label,
    changes: "[]",
    inverse: null,
    touched: "[]",
    undoes: null,
  });
  await keepRows(manager, project.id, rows);
  return project;
}
