import { randomUUID } from "node:crypto";
import type { Me, OutsideLine, OutsideTargets } from "@chronometra/contract";
import { dateWords, formatHours, type Change, type Plan } from "@chronometra/core";
import { In, Not, type DataSource, type EntityManager } from "typeorm";
import { lockedTo } from "../../project/locks.ts";
import { storeChanges } from "../../plan/changeService.ts";
import { loadPlan } from "../../plan/stored/planStore.ts";
import { writeProject } from "../../plan/writeProjects.ts";
import { assertMayEdit, findProject } from "../../project/projectAccess.ts";
import { mayEdit } from "../../project/reach.ts";
import { ProjectEntity } from "../../project/projectEntity.ts";
import { inTransaction } from "../../shared/database.ts";
import { Failure, orNotFound } from "../../shared/failure.ts";
import { assertAccepted } from "../report/sendReport.ts";
import { MINUTES_OF_A_DAY, minutesOn } from "../report/sendReport.ts";
import { postedCost } from "./costs.ts";
import { everyone, saidKey, takers } from "./matchLines.ts";
import { OutsideLineEntity, OutsideMatchEntity } from "./outsideEntities.ts";

/** Lines that are someone's to decide: of projects they may change, and those whose project nobody knows. */
export async function openLines(database: DataSource, me: Me): Promise<OutsideLine[]> {
  const projects = new Map(
    (await database.getRepository(ProjectEntity).find()).map((project) => [project.id, project]),
  );
  const rows = await database
    .getRepository(OutsideLineEntity)
    .find({ where: { state: Not("posted") }, order: { date: "ASC", reference: "ASC" } });
  const corrected = rows.flatMap(({ corrects }) => (corrects === null ? [] : [corrects]));
  const bases = new Map(
    (corrected.length === 0 ? [] : await database.getRepository(OutsideLineEntity).findBy({ id: In(corrected) })).map(
      (row) => [row.id, row],
    ),
  );
  const shown: OutsideLine[] = [];
  for (const row of rows) {
    const was = row.corrects === null ? null : (bases.get(row.corrects) ?? null);
    // A correction belongs where the line that it corrects has been matched to meanwhile.
    const { projectId } = was ?? row;
    const project = projectId === null ? null : (projects.get(projectId) ?? null);
    if (project !== null && !mayEdit(me, project)) continue;
    const plan = project === null ? null : await loadPlan(database.manager, project);
    shown.push({ ...belongs(was ?? row, project, plan), ...toldOf(row, was) });
  }
  return shown;
}

/** Where a line belongs, by name as far as that is known. */
function belongs(
  { activityId, personId }: OutsideLineEntity,
  project: ProjectEntity | null,
  plan: Plan | null,
): Pick<OutsideLine, "project" | "activity" | "person" | "currency"> {
  const thing = (id: string | null, rows: ReadonlyMap<string, { readonly name: string }> | undefined) =>
    id === null ? null : { id, name: rows?.get(id)?.name ?? id };
  return {
    project: project === null ? null : { id: project.id, code: project.code, name: project.head.name },
    activity: thing(activityId, plan?.activities),
    person: thing(personId, plan?.people),
    currency: project?.head.currency ?? null,
  };
}

/**
 * What a line says.
 * @param was the line that it corrects, if any
 */
const toldOf = (row: OutsideLineEntity, was: OutsideLineEntity | null) => ({
  id: row.id,
  kind: row.kind,
  source: row.source,
  state: row.state,
  said: { project: row.saidProject, activity: row.saidActivity, person: row.saidPerson },
  date: row.date,
  amount: row.amount,
  minutes: row.minutes,
  category: row.category,
  reference: row.reference,
  note: row.note,
  why: row.why,
  was:
    was === null
      ? null
      : { amount: was.amount, minutes: was.minutes, category: was.category, posted: was.state === "posted" },
});

/** What lines can be matched to by someone. */
export async function targets(database: DataSource, me: Me): Promise<OutsideTargets> {
  const found: OutsideTargets = [];
  for (const project of (await database.getRepository(ProjectEntity).find({ order: { code: "ASC" } })).filter((each) =>
    mayEdit(me, each),
  )) {
    const plan = await loadPlan(database.manager, project);
    const categories = [
      ...new Set([
        ...[...plan.categories.values()].map(({ name }) => name),
        ...[...plan.costs.values()].map(({ category }) => category),
      ]),
    ].sort();
    found.push({
      id: project.id,
      code: project.code,
      name: project.head.name,
      currency: project.head.currency,
      minorDigits: project.head.minorDigits ?? 2,
      activities: takers(plan),
      people: everyone(plan),
      categories,
    });
  }
  return found;
}

async function openLine(manager: EntityManager, me: Me, id: string): Promise<OutsideLineEntity> {
  const line = orNotFound(
    await manager.getRepository(OutsideLineEntity).findOne({ where: { id }, lock: { mode: "pessimistic_write" } }),
    "line",
  );
  if (line.state === "posted") throw new Failure("conflict", "This line has been posted already.");
  // A correction is whose the line is that it corrects.
  const of =
    line.corrects === null
      ? line
      : await manager.getRepository(OutsideLineEntity).findOneByOrFail({ id: line.corrects });
  if (of.projectId !== null) assertMayEdit(me, await findProject(manager, of.projectId));
  return line;
}

/** Matches a line by hand, and those that say the same with it where that is to be remembered. */
export const matchByHand = (
  database: DataSource,
  me: Me,
  id: string,
  to: { project: string; activity: string; person?: string | undefined; remember: boolean },
): Promise<void> =>
  inTransaction(database, async (manager) => {
    const line = await openLine(manager, me, id);
    if (line.corrects !== null)
      throw new Failure("invalid", "This line corrects another one and belongs where that belongs; match the other.");
    const project = await findProject(manager, to.project);
    assertMayEdit(me, project);
    const plan = await loadPlan(manager, project);
    if (!takers(plan).some((each) => each.id === to.activity))
      throw new Failure("invalid", "That activity takes neither time nor cost: it is a summary, parked, or gone.");
    if (line.kind === "time" && !plan.people.has(to.person ?? ""))
      throw new Failure("invalid", "Select whose time it is.");
    const match = {
      projectId: project.id,
      activityId: to.activity,
      personId: line.kind === "time" ? to.person! : null,
    };
    const matched = { ...match, state: "matched" as const, why: null, decidedBy: me.id };
    await manager.getRepository(OutsideLineEntity).update({ id }, matched);
    if (!to.remember) return;
    const said = saidKey(line.kind, {
      project: line.saidProject,
      activity: line.saidActivity,
      person: line.saidPerson,
    });
    await manager.getRepository(OutsideMatchEntity).upsert({ kind: line.kind, said, ...match }, ["kind", "said"]);
    for (const other of await manager
      .getRepository(OutsideLineEntity)
      .findBy({ kind: line.kind, state: "unmatched" })) {
      if (
        saidKey(other.kind, { project: other.saidProject, activity: other.saidActivity, person: other.saidPerson }) ===
        said
      )
        await manager.getRepository(OutsideLineEntity).update({ id: other.id }, matched);
    }
  });

/** Matched lines of those ids, locked where asked; a failure where one is not matched. */
export async function matchedLines(
  manager: EntityManager,
  ids: readonly string[],
  lock: boolean,
): Promise<OutsideLineEntity[]> {
  const rows = await manager.getRepository(OutsideLineEntity).find({
    where: { id: In([...new Set(ids)]) },
    order: { date: "ASC", reference: "ASC" },
    ...(lock ? { lock: { mode: "pessimistic_write" as const } } : {}),
  });
  if (rows.length < new Set(ids).size)
    throw new Failure("notFound", "A line is not there any more; load the page again.");
  const bad = rows.find(({ state }) => state !== "matched");
  if (bad !== undefined)
    throw new Failure(
      "conflict",
      bad.state === "posted"
        ? "A line among these has been posted already; load the page again."
        : `The line ${bad.reference || bad.saidActivity} of ${dateWords(bad.date)} is not matched yet.`,
    );
  return rows;
}

/** Lines by their project, in the order in which projects are locked. */
export const byProject = (rows: readonly OutsideLineEntity[]): [string, OutsideLineEntity[]][] =>
  [...new Set(rows.map(({ projectId }) => projectId!))]
    .sort()
    .map((id) => [id, rows.filter(({ projectId }) => projectId === id)]);

/** A day has 24 hours over all projects, whichever system tells of it. */
export async function assertDaysHold(manager: EntityManager, rows: readonly OutsideLineEntity[]): Promise<void> {
  const days = new Map(
    rows.flatMap((row) => (row.kind === "time" ? [[`${row.personId} ${row.date}`, row] as const] : [])),
  );
  for (const { personId, saidPerson, date } of days.values()) {
    const minutes = await minutesOn(manager, personId!, date);
    if (minutes > MINUTES_OF_A_DAY)
      throw new Failure(
        "invalid",
        `${saidPerson} would have ${formatHours(minutes)} on ${dateWords(date)}, and a day has 24; set aside what is told twice. Nothing was posted.`,
      );
  }
}

type Worked = Pick<OutsideLineEntity, "activityId" | "personId" | "saidPerson" | "date">;

/**
 * What the desk refuses of time, other systems cannot tell either: days before the project, and more taken back than
 * was accepted.
 */
export async function assertBookable(
  manager: EntityManager,
  project: ProjectEntity,
  { activityId, personId, saidPerson, date }: Worked,
  minutes: number,
): Promise<void> {
  if (date < project.head.start)
    throw new Failure(
      "invalid",
      `${saidPerson}, ${dateWords(date)}: ${project.head.name} begins on ${dateWords(project.head.start)}, and no time is booked before. Nothing was posted.`,
    );
  if (minutes < 0)
    await assertAccepted(manager, personId!, { project: project.id, activity: activityId!, date }, -minutes);
}

/** Sets lines aside with a reason, or takes them up again. */
export const setAside = (database: DataSource, me: Me, ids: readonly string[], why: string | null): Promise<void> =>
  inTransaction(database, async (manager) => {
    for (const id of [...new Set(ids)].sort()) {
      const line = await openLine(manager, me, id);
      const state =
        why !== null
          ? "aside"
          : line.corrects !== null
            ? "correction"
            : line.activityId === null
              ? "unmatched"
              : "matched";
      await manager.getRepository(OutsideLineEntity).update({ id: line.id }, { state, why, decidedBy: me.id });
    }
  });

/** Enters a cost by hand: posted at once. */
export async function enterCost(
  database: DataSource,
  me: Me,
  cost: { project: string; activity: string; date: string; amountMinor: number; category: string; reference: string },
): Promise<void> {
  const key = `hand-${randomUUID()}`;
  const changesOf = async (manager: EntityManager): Promise<Change[]> => [
    postedCost(key, cost, await lockedTo(manager, cost.project)),
  ];
  await writeProject(
    database,
    me,
    cost.project,
    async (writing, project) => {
      const plan = await writing.plan(project);
      const name = plan.activities.get(cost.activity)?.name ?? cost.activity;
      const changes = await changesOf(writing.manager);
      await storeChanges(writing, project, { changes, through: "system", label: `Cost of ${name}`.slice(0, 200) });
    },
    () => changesOf(database.manager),
  );
}
