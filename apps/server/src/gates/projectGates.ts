import type { Gate, GateDue, Me, ProjectGates, Stage, WriteGates } from "@chronometra/contract";
import { dateWords } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { accountNames, deciders } from "../access/accounts.ts";
import { noteInLog } from "../charter/charter.ts";
import { writeProjects } from "../plan/writeProjects.ts";
import { assertMayEdit, assertNotClosed, findProject, isClosed } from "../project/projectAccess.ts";
import { holdsIn, mayEdit, type Placed } from "../project/reach.ts";
import { todayOf } from "../shared/clock.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { isNews } from "../shared/seen.ts";
import { LifeCycleEntity } from "./gateEntities.ts";
import { factsOf, type ProjectFacts } from "./gateFacts.ts";
import {
  dayOfGate,
  eventsOf,
  heldOf,
  lastEvent,
  lifeOf,
  passedBy,
  saidOf,
  stageOf,
  storeLife,
  type Life,
  type SaidOfGate,
} from "./gateLife.ts";
import { findLifeCycle } from "./lifeCycles.ts";

/** The day on which a gate is due, what its milestone was approved for, and whether it is past. */
function dueOn(due: GateDue | null, { summary }: ProjectFacts, today: string, isOpen: boolean): Gate["dueOn"] {
  const day = dayOfGate(due, summary.milestones);
  return day === null ? null : { ...day, overdue: isOpen && day.date < today };
}

const mayConfirm = (me: Me, project: Placed): boolean =>
  mayEdit(me, project) || holdsIn(me, "approver", project.programmeId);

/** Why someone who approves may not decide what is asked; `null` where they may, or hold no such role. */
function whyNotDecide(me: Me, askedBy: string, decider: { id: string; name: string } | null): string | null {
  if (askedBy === me.id) return "You asked for it yourself; somebody else decides.";
  return decider === null || decider.id === me.id ? null : `${decider.name} decides it.`;
}

interface Gathered {
  readonly life: Life;
  readonly known: ProjectFacts;
  readonly events: ProjectGates["events"];
  readonly names: ReadonlyMap<string, string>;
  readonly today: string;
}

function gateOf(stage: Stage, { life, known, events, names, today }: Gathered): Gate {
  const said = saidOf(life, stage.id);
  const isOver = life.passed.includes(stage.id);
  const passed = isOver ? passedBy(events, stage.id) : null;
  return {
    stage: stage.id,
    name: stage.name,
    gate: stage.gate,
    standing: isOver ? "passed" : stageOf(life)?.id === stage.id ? "here" : "ahead",
    due: said.due,
    dueOn: dueOn(said.due, known, today, !isOver),
    decider: said.decider === null ? null : { id: said.decider, name: names.get(said.decider) ?? "" },
    conditions: passed?.conditions ?? heldOf(stage, said, known),
    passed,
  };
}

/** The stages a project goes through and their gates. */
export async function viewGates(database: DataSource, me: Me, id: string): Promise<ProjectGates> {
  const project = await findProject(database, id);
  const { manager } = database;
  const [life, names, cycles, approvers, known, closed, last] = await Promise.all([
    lifeOf(manager, id),
    accountNames(database),
    database.getRepository(LifeCycleEntity).find({ select: { id: true, kind: true }, order: { kind: "ASC" } }),
    deciders(database, project),
    factsOf(manager, project),
    isClosed(database, project),
    lastEvent(manager, id),
  ]);
  const events = await eventsOf(manager, id, names);
  const gathered = { known, events, names, today: todayOf(me) };
  const gates = life === null ? [] : life.cycle.stages.map((stage) => gateOf(stage, { life, ...gathered }));
  const asked = last?.act === "asked" ? events[0]! : null;
  const decider = gates.find(({ stage }) => stage === asked?.stage)?.decider ?? null;
  const decides = holdsIn(me, "approver", project.programmeId);
  const whyNot = asked === null || !decides ? null : whyNotDecide(me, last!.accountId, decider);
  return {
    lifeCycle: life === null ? null : { id: life.id, kind: life.cycle.kind },
    lifeCycles: cycles,
    gates,
    asked,
    events,
    milestones: known.summary.milestones.map(({ id: milestone, name }) => ({ id: milestone, name })),
    deciders: approvers,
    mayEdit: mayEdit(me, project) && !closed,
    mayConfirm: mayConfirm(me, project) && !closed,
    mayDecide: asked !== null && decides && whyNot === null && !closed,
    whyNot,
  };
}

/** Gives a project another life cycle, or none. What was passed in one counts again where it lives by it again. */
async function writeLifeOf(
  manager: EntityManager,
  id: string,
  written: Extract<WriteGates, { field: "lifeCycle" }>,
): Promise<string | null> {
  const life = await lifeOf(manager, id);
  if (!isNews(life?.id ?? null, written, "The life cycle")) return null;
  if ((await lastEvent(manager, id))?.act === "asked")
    throw new Failure(
      "invalid",
      "A gate waits for a decision; withdraw it, or have it decided, before. Nothing was changed.",
    );
  if (written.value === null) {
    await manager.query("delete from project_life where project_id = ?", [id]);
    return "Uses no life cycle";
  }
  const cycle = orNotFound(await findLifeCycle(manager, written.value, "stays"), "life cycle of that kind");
  const events = await eventsOf(manager, id, new Map());
  const passed = cycle.stages.flatMap(({ id: stage }) => (passedBy(events, stage) === null ? [] : [stage]));
  await storeLife(manager, id, { id: written.value, passed, said: life?.said ?? {} });
  return `Uses the life cycle “${cycle.kind}”`;
}

const dueWords = (due: GateDue | null): string =>
  due === null ? "has no day" : "date" in due ? `is due ${dateWords(due.date)}` : "is due with a milestone";

type WrittenGate = Exclude<WriteGates, { field: "lifeCycle" }>;

/** What a write makes of what is said of a gate, and how it is told; `null` where it says nothing new. */
type Said = { readonly said: Partial<SaidOfGate>; readonly words: string } | null;

async function decidedBy(
  manager: EntityManager,
  project: Placed,
  { gate }: Stage,
  said: SaidOfGate,
  written: Extract<WrittenGate, { field: "decider" }>,
): Promise<Said> {
  if (!isNews(said.decider, written, `Who decides “${gate}”`)) return null;
  const who = (await deciders(manager, project)).find((each) => each.id === written.value);
  if (written.value !== null && who === undefined)
    throw new Failure("invalid", "Whoever is to decide is no approver of this project. Nothing was changed.");
  return { said: { decider: written.value }, words: `“${gate}” is decided by ${who?.name ?? "any approver"}` };
}

function confirmedBy(
  me: Me,
  { conditions }: Stage,
  { confirmed }: SaidOfGate,
  written: Extract<WrittenGate, { field: "confirmed" }>,
): Said {
  const condition = conditions.find((each) => each.id === written.condition);
  if (condition?.kind !== "confirmed")
    throw new Failure("invalid", "That is nothing to be confirmed by a person. Nothing was changed.");
  if (!isNews(condition.id in confirmed, written, `“${condition.text}”`)) return null;
  const { [condition.id]: _was, ...others } = confirmed;
  const words = `${me.name}, ${dateWords(todayOf(me))}`;
  return {
    said: { confirmed: written.value ? { ...others, [condition.id]: { words } } : others },
    words: `“${condition.text}” ${written.value ? "confirmed" : "no longer confirmed"}`,
  };
}

/** Writes when a gate is due, who decides, or that a condition is confirmed; gives it in words. */
async function writeGate(
  manager: EntityManager,
  me: Me,
  project: ProjectEntity,
  written: WrittenGate,
): Promise<string | null> {
  const { id } = project;
  const life = orNotFound(await lifeOf(manager, id, "stays"), "life cycle of this project");
  const stage = orNotFound(
    life.cycle.stages.find((each) => each.id === written.stage),
    "stage of that name any more",
  );
  if (life.passed.includes(stage.id))
    throw new Failure("invalid", `“${stage.gate}” is passed; what was said of it stays as it was.`);
  const said = saidOf(life, stage.id);
  const due = (value: GateDue | null): Said => ({ said: { due: value }, words: `“${stage.gate}” ${dueWords(value)}` });
  const next =
    written.field === "decider"
      ? await decidedBy(manager, project, stage, said, written)
      : written.field === "confirmed"
        ? confirmedBy(me, stage, said, written)
        : isNews(said.due, written, `When “${stage.gate}” is due`)
          ? due(written.value)
          : null;
  if (next === null) return null;
  await storeLife(manager, id, { ...life, said: { ...life.said, [stage.id]: { ...said, ...next.said } } });
  return next.words;
}

/** Writes one thing of a project's gates. */
export async function writeGates(database: DataSource, me: Me, id: string, written: WriteGates): Promise<ProjectGates> {
  await writeProjects(database, me, [id], async (writing) => {
    const { manager } = writing;
    const project = writing.project(id);
    if (written.field !== "confirmed" || !mayConfirm(me, project)) assertMayEdit(me, project);
    await assertNotClosed(manager, project);
    const words =
      written.field === "lifeCycle"
        ? await writeLifeOf(manager, id, written)
        : await writeGate(manager, me, project, written);
    if (words !== null) await noteInLog(manager, project, me, words);
  });
  return viewGates(database, me, id);
}
