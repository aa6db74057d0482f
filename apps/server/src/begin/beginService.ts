import { randomUUID } from "node:crypto";
import type { BeginAsked, BeginEffectAsked, BegunEffect, Charter, Me, RepeatAsked } from "@chronometra/contract";
import {
  applyChanges,
  fillPlaceholder,
  planByHand,
  planOfSteps,
  PlanProblems,
  type Person,
  type Plan,
} from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { beginCharter, EMPTY_CHARTER, meantOf } from "../charter/charter.ts";
import { beginLife, lifeOf } from "../gates/gateLife.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { changesInto } from "../resources/register.ts";
import { houseMoney, registerRows } from "../resources/registerRows.ts";
import { todayOf } from "../shared/clock.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { inAwaited } from "../shared/workers.ts";
import type { ReadPart, Wanted } from "./assemble.ts";
import { createProject } from "./createProject.ts";
import { findTemplate } from "./templates.ts";
import type { Put } from "./worker.ts";
import { findSeen } from "../project/reach.ts";
import { copyDocuments } from "../documents/copyDocuments.ts";
import { type Place } from "../documents/documents.ts";

/** A part with what is known of where it comes from. */
interface Sourced extends ReadPart {
  readonly asks: readonly RepeatAsked[];
  readonly charter: Charter | null;
  readonly lifeCycle: string | null;
  /** The project or template whose documents go along; `null` for none. */
  readonly documentsOf: string | null;
}

type Part = BeginEffectAsked["parts"][number];

/** What went along when a template was made is all that it has. */
async function templatePart(
  database: DataSource,
  id: string,
  { times }: Part,
  along: BeginAsked["along"],
): Promise<Sourced> {
  const { name, plan, repeats, charter, lifeCycle } = await findTemplate(database, id);
  return {
    name,
    plan,
    branch: null,
    repeats: repeats.map(({ activity, inTurn }) => ({ activity, inTurn, times: times[activity] ?? 1 })),
    along: { ...along, people: along.people === "none" ? "none" : "people" },
    asks: repeats,
    charter: along.charter ? charter : null,
    lifeCycle: along.charter ? lifeCycle : null,
    documentsOf: along.documents ? id : null,
  };
}

async function projectPart(
  database: DataSource,
  me: Me,
  { project: id, branch }: { readonly project: string; readonly branch: string | null },
  along: BeginAsked["along"],
): Promise<Sourced> {
  const project = await findSeen(database, me, id);
  const plan = await loadPlan(database.manager, project);
  const isChartered = along.charter && branch === null;
  const row = branch === null ? undefined : orNotFound(plan.activities.get(branch), "branch of that plan any more");
  return {
    name: row?.name ?? project.head.name,
    plan,
    branch,
    repeats: [],
    along,
    asks: [],
    charter: isChartered ? await meantOf(database.manager, id) : null,
    lifeCycle: isChartered ? ((await lifeOf(database.manager, id))?.id ?? null) : null,
    documentsOf: along.documents ? id : null,
  };
}

/** What is said here and now is all there is of it. */
const saidPart = (name: string, plan: Plan): Sourced => ({
  ...{ name, plan, branch: null, repeats: [], asks: [], charter: null, lifeCycle: null, documentsOf: null },
  along: { people: "people", costs: true, risks: true, deadlines: true },
});

/** Where steps begin before they are moved to the dates that are wished for. */
const SOME_DAY = "2024-01-01";

function partFrom(
  database: DataSource,
  me: Me,
  part: Part,
  along: BeginAsked["along"],
  name: string,
): Promise<Sourced> | Sourced {
  const { source } = part;
  if ("template" in source) return templatePart(database, source.template, part, along);
  if ("project" in source) return projectPart(database, me, source, along);
  const head = { code: "-", name, currency: source.currency };
  if ("steps" in source) return saidPart("steps", planOfSteps({ ...head, start: SOME_DAY }, source.steps));
  const plan = planByHand(head, source.stages, source.milestones);
  if ("fault" in plan) throw new Failure("invalid", plan.fault);
  return saidPart("stages kept by hand", plan);
}

const sourcesOf = (
  database: DataSource,
  me: Me,
  { parts, along }: BeginEffectAsked,
  name: string,
): Promise<Sourced[]> => Promise.all(parts.map((part) => partFrom(database, me, part, along, name)));

/** Puts the plan together; throws why it cannot be. */
async function put(wanted: Wanted): Promise<Extract<Put, { plan: Plan }>> {
  const made = await inAwaited<Put>("begin/worker", wanted);
  if ("problems" in made) throw new PlanProblems(made.problems);
  if ("why" in made) throw new Failure("invalid", made.why);
  return made;
}

const wantedOf = (
  me: Me,
  parts: readonly Sourced[],
  { date }: BeginEffectAsked,
  code: string,
  name: string,
): Wanted => ({
  parts: parts.map(({ name: called, plan, branch, repeats, along: { people, costs, risks, deadlines } }) => ({
    ...{ name: called, plan, branch, repeats },
    along: { people, costs, risks, deadlines },
  })),
  ...{ code, name, date },
  notBefore: todayOf(me),
});

/** What a project begun with others would be; nothing is stored. */
export async function beginEffect(database: DataSource, me: Me, asked: BeginEffectAsked): Promise<BegunEffect> {
  const parts = await sourcesOf(database, me, asked, "The project");
  const { outline } = await put(wantedOf(me, parts, asked, "-", "-"));
  return {
    ...outline,
    repeats: parts.flatMap(({ asks, plan }, part) =>
      asks.map(({ activity, ask }) => ({ part, activity, name: plan.activities.get(activity)?.name ?? "", ask })),
    ),
  };
}

/** Refuses who would work on one activity twice, in two roles. */
function assertOnce(plan: Plan, role: string, person: Person): void {
  const works = (who: string): string[] =>
    [...plan.assignments.values()].flatMap((row) => (row.person === who ? [row.activity] : []));
  const own = new Set(works(person.id));
  const twice = works(role).find((activity) => own.has(activity));
  if (twice !== undefined)
    throw new Failure(
      "invalid",
      `${person.name} would work on “${plan.activities.get(twice)!.name}” twice; give “${plan.people.get(role)!.name}” to someone else, or keep it open.`,
    );
}

/** The plan with people of the register in the place of roles. */
async function withPeople(manager: EntityManager, plan: Plan, roles: BeginAsked["roles"]): Promise<Plan> {
  const [house, rows] = [await houseMoney(manager), await registerRows(manager)];
  return Object.entries(roles).reduce((next, [role, id]) => {
    if (!next.placeholders.has(role))
      throw new Failure("invalid", "A role that was given to someone is not in the plan; look at it anew.");
    const person = orNotFound(
      rows.find(({ table, row }) => table === "people" && row.id === id),
      "person of that name in the register",
    );
    assertOnce(next, role, person.row as Person);
    const taken = applyChanges(next, changesInto(next, rows, person, house)).plan;
    return applyChanges(taken, fillPlaceholder(taken, role, id)).plan;
  }, plan);
}

/** A charter with what was said at once of what the project is for. */
function withSaid(charter: Charter | null, { purpose = "", deliverables = [] }: BeginAsked): Charter | null {
  if (purpose === "" && deliverables.length === 0) return charter;
  const own = charter ?? EMPTY_CHARTER;
  const rows: Charter["deliverables"] = { ...own.deliverables };
  for (const name of deliverables) rows[randomUUID()] = { name, owner: "", makes: [], accepted: null };
  return { ...own, ...(purpose === "" ? {} : { purpose }), deliverables: rows };
}

/**
 * Gives a project that was begun the documents of those that it was begun with: theirs as such, and, of a single one
 * whose rows kept their names, those of its activities and deliverables.
 */
async function beginDocuments(
  manager: EntityManager,
  me: Me,
  to: { readonly id: string; readonly plan: Plan; readonly charter: Charter | null },
  parts: readonly Sourced[],
): Promise<void> {
  for (const { documentsOf, branch } of parts) {
    if (documentsOf === null) continue;
    const isThere = ({ about, aboutId }: Place): boolean =>
      about === "project"
        ? branch === null
        : parts.length === 1 &&
          (about === "activity"
            ? to.plan.activities.has(aboutId)
            : about === "deliverable" && to.charter?.deliverables[aboutId] !== undefined);
    await copyDocuments(manager, me, { from: documentsOf, to: to.id, isThere });
  }
}

/** Begins a project with others; gives its id. */
export async function begin(database: DataSource, me: Me, asked: BeginAsked): Promise<{ project: string }> {
  const parts = await sourcesOf(database, me, asked, asked.name);
  const { plan } = await put(wantedOf(me, parts, asked, asked.code, asked.name));
  const [first] = parts as [Sourced, ...Sourced[]];
  return inTransaction(database, async (manager) => {
    const project = await createProject(manager, me, {
      plan: await withPeople(manager, plan, asked.roles),
      programmeId: asked.programme,
      managerId: me.id,
      label: `Begun with ${parts.map(({ name }) => name).join(", ")}`.slice(0, 200),
    });
    const charter = withSaid(parts.length === 1 ? first.charter : null, asked);
    if (charter !== null) await beginCharter(manager, me, project, charter);
    await beginDocuments(manager, me, { id: project.id, plan, charter }, parts);
    if (parts.length === 1 && first.lifeCycle !== null) await beginLife(manager, project.id, first.lifeCycle);
    return { project: project.id };
  });
}
