import {
  PROJECT_STATE_WORDS,
  type Charter,
  type CharterView,
  type Me,
  type ProjectState,
  type WriteCharter,
} from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";
import { accountNames, managersOf } from "../access/accounts.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { writeProject } from "../plan/writeProjects.ts";
import { findProject, isClosed, mayEdit } from "../project/projectAccess.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { Failure } from "../shared/failure.ts";
import { CharterLogEntity, ProjectCharterEntity } from "./charterEntities.ts";

const LOG_SHOWN = 50;

/** What is said of a project that nobody has written of. */
const EMPTY: Charter = {
  state: "running",
  sponsor: "",
  organisation: "",
  kind: "",
  purpose: "",
  assumptions: "",
  constraints: "",
  benefits: {},
  deliverables: {},
};

async function charterOf(manager: DataSource | EntityManager, projectId: string): Promise<Charter> {
  const found = await manager.getRepository(ProjectCharterEntity).findOneBy({ projectId });
  if (found === null) return EMPTY;
  return { ...EMPTY, ...(JSON.parse(found.content) as Partial<Charter>), state: found.state };
}

/** How a project stands as such. */
export const stateOf = async (database: DataSource, projectId: string): Promise<ProjectState> =>
  (await charterOf(database, projectId)).state;

/** A project as such: its head, who answers for it, and its charter. */
export async function viewCharter(database: DataSource, me: Me, id: string): Promise<CharterView> {
  const project = await findProject(database, id);
  const plan = await loadPlan(database.manager, project);
  const names = await accountNames(database);
  const log = await database
    .getRepository(CharterLogEntity)
    .find({ where: { projectId: id }, order: { id: "DESC" }, take: LOG_SHOWN });
  const closed = await isClosed(database, project);
  return {
    id,
    revision: project.revision,
    head: plan.project,
    manager: { id: project.managerId, name: names.get(project.managerId) ?? "" },
    managers: await managersOf(database),
    calendars: [...plan.calendars.values()].map(({ id: calendar, name }) => ({ id: calendar, name })),
    activities: [...plan.activities.values()].flatMap(({ id: activity, name, kind }) =>
      kind === "summary" ? [] : [{ id: activity, name }],
    ),
    mayEdit: mayEdit(me, project) && !closed,
    mayHandOver: mayEdit(me, project) && !closed,
    closed,
    booked:
      plan.baselines.size > 0 ||
      plan.actualCosts.size > 0 ||
      [...plan.timeEntries.values()].some(({ state }) => state === "posted"),
    charter: await charterOf(database, id),
    log: log.map(({ at, accountId, what }) => ({ at: at.toISOString(), by: names.get(accountId) ?? "", what })),
  };
}

const FIELD_WORDS: Readonly<Record<WriteCharter["field"], string>> = {
  state: "State",
  sponsor: "Sponsor",
  organisation: "Organisation",
  kind: "Kind",
  purpose: "Purpose",
  assumptions: "Assumptions",
  constraints: "Constraints",
  benefits: "Benefit",
  deliverables: "Deliverable",
};
const LONGEST_TOLD = 200;
const shortened = (text: string): string => (text.length > LONGEST_TOLD ? `${text.slice(0, LONGEST_TOLD)}…` : text);

/** What was written, in one line. */
function wordsOf(written: WriteCharter): string {
  const { field } = written;
  if (field === "benefits" || field === "deliverables") {
    const { was, value } = written;
    const name = (row: typeof value): string => (row === null ? "" : "what" in row ? row.what : row.name);
    const verb = was === null ? "added" : value === null ? "removed" : "changed";
    return `${FIELD_WORDS[field]} “${shortened(name(value ?? was))}” ${verb}`;
  }
  if (field === "state") return `State: ${PROJECT_STATE_WORDS[written.was]}, now ${PROJECT_STATE_WORDS[written.value]}`;
  return written.value === "" ? `${FIELD_WORDS[field]} cleared` : `${FIELD_WORDS[field]}: ${shortened(written.value)}`;
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/**
 * A charter with one thing written into it.
 * @throws {Failure} conflict, where it does not say any more what the writer saw
 */
function withWritten(charter: Charter, written: WriteCharter): Charter {
  const { field } = written;
  const isRow = field === "benefits" || field === "deliverables";
  const now = isRow ? (charter[field][written.id] ?? null) : charter[field];
  // Said twice is said once.
  if (same(now, written.value)) return charter;
  if (!same(now, written.was))
    throw new Failure(
      "conflict",
      `${FIELD_WORDS[field]} was changed by someone else meanwhile. Nothing was written; look at what stands there now.`,
    );
  if (!isRow) return { ...charter, [field]: written.value };
  const { [written.id]: _was, ...rest } = charter[field];
  const rows = written.value === null ? rest : { ...charter[field], [written.id]: written.value };
  return { ...charter, [field]: rows };
}

/** Writes one thing into a charter. */
export async function writeCharter(
  database: DataSource,
  me: Me,
  id: string,
  written: WriteCharter,
): Promise<CharterView> {
  await writeProject(database, me, id, async ({ manager }, project) => {
    const charter = await charterOf(manager, project.id);
    const next = withWritten(charter, written);
    if (next === charter) return;
    const { state, ...content } = next;
    const row = { projectId: project.id, state, content: JSON.stringify(content) };
    await manager.getRepository(ProjectCharterEntity).upsert(row, ["projectId"]);
    await noteInLog(manager, project, me, wordsOf(written));
  });
  return viewCharter(database, me, id);
}

export async function noteInLog(
  manager: EntityManager,
  project: Pick<ProjectEntity, "id">,
  me: Me,
  what: string,
): Promise<void> {
  await manager
    .getRepository(CharterLogEntity)
    .insert({ projectId: project.id, at: new Date(), accountId: me.id, what: what.slice(0, 1000) });
}
