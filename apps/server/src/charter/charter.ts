import {
  HOUSE_WORDS,
  PROJECT_STATE_WORDS,
  WORDED,
  wordFor,
  type Charter,
  type CharterView,
  type Me,
  type OwnWords,
  type Worded,
  type ProjectState,
  type WriteCharter,
} from "@chronometra/contract";
import { PRIORITIES } from "@chronometra/core";
import { In, type DataSource, type EntityManager } from "typeorm";
import { accountNames, managersOf } from "../access/accounts.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { writeProject } from "../plan/writeProjects.ts";
import { findProject, isClosed } from "../project/projectAccess.ts";
import { mayEdit } from "../project/reach.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { Failure } from "../shared/failure.ts";
import { isNews } from "../shared/seen.ts";
import { CharterLogEntity, ProjectCharterEntity } from "./charterEntities.ts";

const LOG_SHOWN = 50;

/** What is said of a project that nobody has written of. */
export const EMPTY_CHARTER: Charter = {
  state: "running",
  sponsor: "",
  organisation: "",
  kind: "",
  purpose: "",
  assumptions: "",
  constraints: "",
  words: {},
  benefits: {},
  deliverables: {},
};

/** The charter of a project as it stands. */
export async function readCharter(manager: DataSource | EntityManager, projectId: string): Promise<Charter> {
  const found = await manager.getRepository(ProjectCharterEntity).findOneBy({ projectId });
  if (found === null) return EMPTY_CHARTER;
  return { ...EMPTY_CHARTER, ...(JSON.parse(found.content) as Partial<Charter>), state: found.state };
}

/** What each of some projects calls states and priorities, where it has words of its own for them. */
export async function ownWordsOf(
  database: DataSource,
  projects: readonly string[],
): Promise<ReadonlyMap<string, OwnWords>> {
  const found = await database.getRepository(ProjectCharterEntity).findBy({ projectId: In(projects) });
  return new Map(
    found.map(({ projectId, content }) => [projectId, (JSON.parse(content) as Partial<Charter>).words ?? {}]),
  );
}

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
    charter: await readCharter(database, id),
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
  words: "Word",
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
  if (field === "words") return `“${HOUSE_WORDS[written.id]}” is called “${written.value ?? HOUSE_WORDS[written.id]}”`;
  if (field === "state") return `State: ${PROJECT_STATE_WORDS[written.was]}, now ${PROJECT_STATE_WORDS[written.value]}`;
  return written.value === "" ? `${FIELD_WORDS[field]} cleared` : `${FIELD_WORDS[field]}: ${shortened(written.value)}`;
}

const PRIORITY_WORDS: readonly Worded[] = PRIORITIES;

/** No two states are called alike, and no two priorities. */
function assertOwnAlone(words: OwnWords, of: Worded, value: string | null): void {
  const isPriority = (each: Worded): boolean => PRIORITY_WORDS.includes(each);
  const other = WORDED.find(
    (each) =>
      each !== of &&
      isPriority(each) === isPriority(of) &&
      wordFor(words, each).toLowerCase() === (value ?? HOUSE_WORDS[of]).toLowerCase(),
  );
  if (other !== undefined)
    throw new Failure("invalid", `“${HOUSE_WORDS[other]}” is called so already; give each a word of its own.`);
}

/**
 * A charter with one thing written into it.
 * @throws {Failure} conflict, where it does not say any more what the writer saw
 */
function withWritten(charter: Charter, written: WriteCharter): Charter {
  const { field } = written;
  const isRow = field === "benefits" || field === "deliverables" || field === "words";
  const now = isRow ? ((charter[field] as Record<string, unknown>)[written.id] ?? null) : charter[field];
  if (!isNews(now, written, FIELD_WORDS[field])) return charter;
  if (!isRow) return { ...charter, [field]: written.value };
  if (field === "words") assertOwnAlone(charter.words, written.id, written.value);
  const rows: Record<string, unknown> = { ...charter[field] };
  if (written.value === null) delete rows[written.id];
  else rows[written.id] = written.value;
  return { ...charter, [field]: rows };
}

async function storeCharter(manager: EntityManager, projectId: string, charter: Charter): Promise<void> {
  const { state, ...content } = charter;
  const row = { projectId, state, content: JSON.stringify(content) };
  await manager.getRepository(ProjectCharterEntity).upsert(row, ["projectId"]);
}

/** Says how a project stands as such, whatever it stood as. */
export async function setState(
  manager: EntityManager,
  me: Me,
  project: Pick<ProjectEntity, "id">,
  state: ProjectState,
): Promise<void> {
  const charter = await readCharter(manager, project.id);
  if (charter.state === state) return;
  await storeCharter(manager, project.id, { ...charter, state });
  await noteInLog(manager, project, me, wordsOf({ field: "state", was: charter.state, value: state }));
}

/** Writes one thing into a charter. */
export async function writeCharter(
  database: DataSource,
  me: Me,
  id: string,
  written: WriteCharter,
): Promise<CharterView> {
  await writeProject(database, me, id, async ({ manager }, project) => {
    const charter = await readCharter(manager, project.id);
    const next = withWritten(charter, written);
    if (next === charter) return;
    await storeCharter(manager, project.id, next);
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

/** A charter as another project begins with it: what was meant, without what came of it. */
export async function meantOf(manager: DataSource | EntityManager, projectId: string): Promise<Charter> {
  const { benefits, deliverables, ...said } = await readCharter(manager, projectId);
  const each = <T>(rows: Readonly<Record<string, T>>, to: (row: T) => T): Record<string, T> =>
    Object.fromEntries(Object.entries(rows).map(([id, row]) => [id, to(row)]));
  return {
    ...said,
    state: EMPTY_CHARTER.state,
    benefits: each(benefits, (row) => ({ ...row, by: null, money: [], measured: [] })),
    deliverables: each(deliverables, (row) => ({ ...row, accepted: null })),
  };
}

/** The charter that a project begins with. */
export async function beginCharter(
  manager: EntityManager,
  me: Me,
  project: Pick<ProjectEntity, "id">,
  charter: Charter,
): Promise<void> {
  await storeCharter(manager, project.id, charter);
  await noteInLog(manager, project, me, "Charter as it was begun with");
}
