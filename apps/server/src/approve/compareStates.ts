import { MessageChannel } from "node:worker_threads";
import { STATE_NAME, type ComparisonView, type DriftLedgerView, type OnceFrozenView } from "@chronometra/contract";
import { toBundle, type DriftLedger, type FrozenLogic, type Plan, type PlanBundle } from "@chronometra/core";
import { In, IsNull, Not, type DataSource } from "typeorm";
import { IssuedPlanEntity } from "../cycle/cycleEntities.ts";
import { issuedPeriods } from "../cycle/issued.ts";
import { overPlans } from "../plan/held/overPlan.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { inAwaited } from "../shared/workers.ts";
import { dayOf, installationZone } from "../shared/clock.ts";
import { ApprovalEntity, BaselineEntity, BaselinePlanEntity } from "./kept/approveEntities.ts";
import { findApproval, planAsked } from "./approveService.ts";
import type { APPROVE_WORKS } from "./works/approveWorks.ts";
import type { StateSource } from "./works/compared.ts";
import { WhatIfEntity } from "./kept/whatIfEntities.ts";
import { findWhatIf } from "./whatIfService.ts";
import { aloneOnBaseline, tried } from "./mergeWhatIf.ts";
import { planAt } from "./then/planThen.ts";
import { ChangeListEntity } from "../plan/stored/planEntities.ts";

const overPlan = overPlans<typeof APPROVE_WORKS>();

type Named = ComparisonView["states"][number];

async function statesOf(database: DataSource, project: ProjectEntity, plan: Plan): Promise<Named[]> {
  const periods = (await issuedPeriods(database, project.id)).reverse();
  const whatIfs = await database
    .getRepository(WhatIfEntity)
    .find({ where: { projectId: project.id, state: In(["open", "sentBack", "asked"]) }, order: { madeAt: "DESC" } });
  const asked = await database
    .getRepository(ApprovalEntity)
    .find({ where: { projectId: project.id, state: "asked", revision: Not(IsNull()) } });
  return [
    { name: "plan", words: "the plan as it is now", on: plan.project.dataDate ?? null },
    ...asked.map(({ id, askedAt }) => ({
      name: `asked-${id}`,
      words: "the plan as approval was asked for",
      on: dayOf({ timeZone: installationZone() }, askedAt),
    })),
    ...whatIfs
      .filter(({ state }) => state === "asked")
      .map(({ id, request }) => ({
        name: `request-${id}`,
        words: `change request ${request} alone, as it would be approved`,
        on: null,
      })),
    ...whatIfs.map(({ id, name }) => ({ name: `whatif-${id}`, words: `what if: ${name}`, on: null })),
    ...periods.map(({ number, dataDate }) => ({
      name: `period-${number}`,
      words: `period ${number} as issued`,
      on: dataDate,
    })),
    ...[...plan.baselines.values()]
      .map(({ number, approvedOn }) => ({ name: `baseline-${number}`, words: `baseline ${number}`, on: approvedOn }))
      .reverse(),
  ];
}

/** A plan as it was at a revision, by its name. */
async function stateAt(database: DataSource, project: ProjectEntity, revision: number): Promise<Named> {
  const list = await database.getRepository(ChangeListEntity).findOneBy({ projectId: project.id, revision });
  const { at } = orNotFound(list, `revision ${revision} in this project`);
  const words = `the plan at revision ${revision}`;
  return { name: `revision-${revision}`, words, on: dayOf({ timeZone: installationZone() }, at) };
}

/** A state of a plan that is known whole: as it is, as it was issued or approved, or as it would be. */
async function wholeNamed(database: DataSource, project: ProjectEntity, name: string): Promise<PlanBundle> {
  if (!STATE_NAME.test(name)) throw new Failure("invalid", `"${name}" is no state of a plan; name plan or period-1.`);
  const [kind, text] = name.split("-");
  if (kind === "revision") return toBundle(await planAt(database.manager, project, Number(text)));
  if (kind === "baseline") {
    const kept = await database
      .getRepository(BaselinePlanEntity)
      .findOneBy({ projectId: project.id, number: Number(text) });
    return JSON.parse(
      orNotFound(kept, "plan behind that baseline; it was approved elsewhere, or before plans were kept").content,
    ) as PlanBundle;
  }
  if (kind === "plan") return toBundle(await loadPlan(database.manager, project));
  if (kind === "asked")
    return orNotFound(
      await planAsked(database.manager, await findApproval(database, name.slice("asked-".length))),
      "plan behind that request; it was decided meanwhile",
    );
  if (kind === "request") {
    const alone = await aloneOnBaseline(
      database.manager,
      await loadPlan(database.manager, project),
      await findWhatIf(database, name.slice("request-".length)),
    );
    if ("fault" in alone) throw new Failure("invalid", `It cannot be approved by itself. ${alone.fault}`);
    return alone.plan;
  }
  if (kind === "whatif") {
    const { after, fault } = await tried(database, await findWhatIf(database, name.slice("whatif-".length)));
    if (after === null)
      throw new Failure("invalid", `This what-if does not fit the live plan any more: ${fault}. Merge it first.`);
    return toBundle(after);
  }
  const issued = await database
    .getRepository(IssuedPlanEntity)
    .findOne({ where: { projectId: project.id, number: Number(text) }, order: { edition: "DESC" } });
  return JSON.parse(
    orNotFound(issued, "plan of that period; plans are kept from the first period that is issued with this version on")
      .content,
  ) as PlanBundle;
}

interface DriftAsked {
  readonly from: string;
  readonly to: string;
  /** An activity, or `finish` for the project's. */
  readonly target: string;
}

/**
 * Why a date moved between two whole states.
 * @param onShare told the share that is done, 0 to 1
 * @param signal ends the work
 */
export async function driftOf(
  database: DataSource,
  project: ProjectEntity,
  { from, to, target }: DriftAsked,
  onShare: (share: number) => void,
  signal: AbortSignal,
): Promise<DriftLedgerView> {
  const [before, after] = [await wholeNamed(database, project, from), await wholeNamed(database, project, to)];
  const { port1, port2 } = new MessageChannel();
  port1.on("message", onShare);
  const working = inAwaited<DriftLedger | { fault: string }>(
    "approve/works/driftWorker",
    { before, after, target: target === "finish" ? null : target, port: port2 },
    { transferList: [port2], signal },
  );
  const ledger = await working.finally(() => port1.close());
  if ("fault" in ledger) throw new Failure("invalid", `One of the two states cannot be computed: ${ledger.fault}`);
  return { ...ledger, causes: [...ledger.causes] };
}

/** What freezing a state that is known whole would make of the figures. */
export async function frozenAs(database: DataSource, project: ProjectEntity, name: string): Promise<OnceFrozenView> {
  const plan = await loadPlan(database.manager, project);
  const after = await wholeNamed(database, project, name.replace(/^request-/, "whatif-"));
  const frozen = name.startsWith("request-") ? await wholeNamed(database, project, name) : null;
  const found = await overPlan("onceFrozenAs", { id: project.id, plan }, { after, frozen });
  if (found === null) return null;
  const { currency, minorDigits = 2, dataDate } = after.project;
  return { ...found, past: [...found.past], currency, minorDigits, dataDate: dataDate! };
}

async function sourceNamed(
  database: DataSource,
  project: ProjectEntity,
  plan: Plan,
  name: string,
): Promise<StateSource> {
  const [kind, text] = name.split("-");
  if (kind === "plan") return "live";
  if (kind !== "baseline") return { whole: await wholeNamed(database, project, name) };
  const number = Number(text);
  const baseline = orNotFound(plan.baselines.get(String(number)), "baseline of that number");
  const row = await database.getRepository(BaselineEntity).findOneByOrFail({ projectId: project.id, number });
  const kept = await database.getRepository(BaselinePlanEntity).findOneBy({ projectId: project.id, number });
  const { activities } = kept === null ? { activities: [] } : (JSON.parse(kept.content) as PlanBundle);
  return {
    baseline,
    frozen: JSON.parse(row.content) as FrozenLogic,
    names: new Map(activities.map((activity) => [activity.id, activity.name])),
  };
}

/** Two states of a project's plan compared, with all that there are to choose from. */
export async function compareProject(
  database: DataSource,
  project: ProjectEntity,
  from: string,
  to: string,
): Promise<ComparisonView> {
  for (const name of [from, to])
    if (!STATE_NAME.test(name))
      throw new Failure("invalid", `"${name}" is no state of a plan; name plan, baseline-1 or period-1.`);
  const plan = await loadPlan(database.manager, project);
  const states = await statesOf(database, project, plan);
  for (const name of [from, to])
    if (name.startsWith("revision-")) states.push(await stateAt(database, project, Number(name.split("-")[1])));
  const named = (name: string): Named =>
    orNotFound(
      states.find((state) => state.name === name),
      `state "${name}"`,
    );
  const ends = { from: named(from), to: named(to) };
  // What a request alone would freeze has the names of then, and is told against the plan behind the baseline, which
  // has them too.
  const source = async (name: string): Promise<StateSource> =>
    to.startsWith("request-") && name.startsWith("baseline-")
      ? { whole: await wholeNamed(database, project, name) }
      : sourceNamed(database, project, plan, name);
  const found = await overPlan(
    "compared",
    { id: project.id, plan },
    { from: await source(from), to: await source(to) },
  );
  const { currency, minorDigits = 2 } = plan.project;
  return { currency, minorDigits, states, ...ends, ...found };
}
