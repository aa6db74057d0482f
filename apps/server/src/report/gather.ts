import {
  standingOf,
  lineSummaryOf,
  type DriftLedgerView,
  type Load,
  type Me,
  type MilestoneTrend,
  type ProjectCycle,
  type QualityView,
  type Reserves,
  type Summary,
} from "@chronometra/contract";
import {
  addDays,
  brokenRules,
  epochDay,
  formatDate,
  mondayOf,
  parseDate,
  type Plan,
  type ReportFacts,
} from "@chronometra/core";
import { In, MoreThan, type DataSource } from "typeorm";
import { ApprovalEntity } from "../approve/kept/approveEntities.ts";
import { WhatIfEntity } from "../approve/kept/whatIfEntities.ts";
import { driftOf } from "../approve/compareStates.ts";
import { reservesOf } from "../approve/reserves.ts";
import { PlannedPeriodEntity, type IssuedPeriodEntity, type ReportingPeriodEntity } from "../cycle/cycleEntities.ts";
import { organisationName, thresholdsOf } from "../cycle/cycleService.ts";
import { issuedPeriods } from "../cycle/issued.ts";
import { brokenLimits, standingsOf } from "../cycle/standings.ts";
import { milestoneTrend } from "../dates/milestoneTrend.ts";
import { loadFrom } from "../load/people.ts";
import { overPlans } from "../plan/held/overPlan.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { lockedTo } from "../project/locks.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { qualityOf } from "../quality/qualityOf.ts";
import { Failure } from "../shared/failure.ts";
import type { PeriodOfPlan, REPORT_WORKS } from "./reportWorks.ts";

const overPlan = overPlans<typeof REPORT_WORKS>();

const WEEKS_AHEAD = 4;
const MONTH_DAYS = 30;

/** All that a project's report of the open period is made of, as of one revision of its plan. */
export interface Gathered {
  readonly organisation: string;
  readonly project: ProjectEntity;
  readonly revision: number;
  readonly plan: Plan;
  readonly period: ReportingPeriodEntity;
  /** The last day of the period to come. */
  readonly until: string;
  readonly before: { readonly number: number; readonly dataDate: string; readonly summary: Summary } | null;
  readonly of: PeriodOfPlan;
  readonly trend: MilestoneTrend;
  /** Why the finish moved since the report before; a text where that cannot be told. */
  readonly drift: DriftLedgerView | string | null;
  readonly quality: QualityView;
  readonly cycle: ProjectCycle;
  readonly requests: readonly WhatIfEntity[];
  readonly approvals: readonly ApprovalEntity[];
  readonly waiting: number;
  readonly reserves: Reserves;
  /** Weeks ahead, and whoever of the project's people has work in them. */
  readonly load: Load;
  readonly facts: ReportFacts;
}

/** What several reports made in one go have in common. */
export interface InCommon {
  load?: Promise<Load>;
}

/** The last day of the period after the open one: as planned, or as long as the open one. */
async function nextDataDate(database: DataSource, { fromDate, dataDate }: ReportingPeriodEntity): Promise<string> {
  const [planned] = await database
    .getRepository(PlannedPeriodEntity)
    .find({ where: { dataDate: MoreThan(dataDate) }, order: { dataDate: "ASC" }, take: 1 });
  if (planned !== undefined) return planned.dataDate;
  const last = parseDate(dataDate)!;
  const days = Math.max(1, Math.min(MONTH_DAYS, last - parseDate(fromDate)! + 1));
  return formatDate(epochDay(last + days));
}

const WEEK_DAYS = 7;
/** The first whole week that lies ahead of a data date begins on this day. */
const firstMondayAfter = (date: string): string => formatDate(addDays(mondayOf(parseDate(date)!), WEEK_DAYS));

const beforeOf = (issued: readonly IssuedPeriodEntity[], { number }: ReportingPeriodEntity): Gathered["before"] => {
  const last = issued.findLast((each) => each.number < number);
  return last === undefined
    ? null
    : { number: last.number, dataDate: last.dataDate, summary: JSON.parse(last.summary) as Summary };
};

/** Why the finish moved since a period that was issued. */
async function driftSince(
  database: DataSource,
  project: ProjectEntity,
  before: Gathered["before"],
  signal: AbortSignal,
): Promise<Gathered["drift"]> {
  if (before === null) return null;
  try {
    const asked = { from: `period-${before.number}`, to: "plan", target: "finish" };
    return await driftOf(database, project, asked, () => undefined, signal);
  } catch (error) {
    if (error instanceof Failure) return error.message;
    throw error;
  }
}

/** Whether someone has more work than time in a week. */
export const isOver = (capacity: number, demand: number): boolean => demand > capacity;

function factsOf(gathered: Omit<Gathered, "facts">, broken: ReportFacts["broken"]): ReportFacts {
  const { of, before, cycle, requests, reserves, load } = gathered;
  const { summary } = of;
  return {
    currency: summary.currency,
    minorDigits: summary.minorDigits,
    isApproved: summary.baseline !== null,
    finish: summary.finish,
    approvedFinish: summary.baselineFinish,
    drift: summary.drift,
    moved: summary.drift === null || before?.summary.drift == null ? null : summary.drift - before.summary.drift,
    since: before?.number ?? null,
    figures: summary.figures,
    deadlines: summary.deadlines,
    milestones: summary.milestones,
    done: summary.done,
    activities: summary.activities,
    unbaselined: summary.unbaselined,
    dropped: summary.dropped?.count ?? 0,
    requestsWaiting: requests.filter(({ state }) => state === "asked").length,
    risks: { ...of.risks, contingencyMinor: reserves.balances.contingency, blocked: of.blocked.length },
    people: {
      missing: cycle.missing.map(({ name }) => name),
      overloaded: load.people.flatMap(({ name, capacity, demand }) =>
        demand.some((minutes, i) => isOver(capacity[i]!, minutes)) ? [name] : [],
      ),
    },
    broken,
  };
}

/** What waits for a decision in a project, and what is set aside in it. */
async function askedIn(database: DataSource, me: Me, { id }: ProjectEntity) {
  const [requests, approvals, reserves, [{ waiting }]] = await Promise.all([
    database.getRepository(WhatIfEntity).find({
      where: { projectId: id, state: In(["asked", "approved", "sentBack"]) },
      order: { request: "ASC" },
    }),
    database.getRepository(ApprovalEntity).findBy({ projectId: id, state: "asked" }),
    reservesOf(database, me, id),
    database.query("select count(*) as waiting from report where project_id = ? and state = 'submitted'", [
      id,
    ]) as Promise<[{ waiting: string }]>,
  ]);
  return { requests, approvals, reserves, waiting: Number(waiting) };
}

/** What was issued of a project before a period, up to when it is locked, and up to when one looks ahead. */
async function pastOf(database: DataSource, { id }: ProjectEntity, period: ReportingPeriodEntity) {
  const [issued, locked, until] = await Promise.all([
    issuedPeriods(database, id),
    lockedTo(database, id),
    nextDataDate(database, period),
  ]);
  const past = issued.filter(({ number }) => number < period.number);
  const points = past.map(({ dataDate, summary }) => ({ dataDate, figures: (JSON.parse(summary) as Summary).figures }));
  return { past, points, locked, until, before: beforeOf(past, period) };
}

/** Gathers a project's report of a period; nothing is stored. */
export async function gather(
  database: DataSource,
  me: Me,
  project: ProjectEntity,
  period: ReportingPeriodEntity,
  { signal, common = {} }: { readonly signal: AbortSignal; readonly common?: InCommon },
): Promise<Gathered> {
  const plan = await loadPlan(database.manager, project);
  const { revision } = project;
  const { past, points, locked, until, before } = await pastOf(database, project, period);
  const asked = { issued: points, lockedTo: locked, since: before?.dataDate ?? null, until };
  common.load ??= loadFrom(database, firstMondayAfter(period.dataDate), WEEKS_AHEAD);
  const [of, drift, quality, standing, waits, load, organisation, thresholds] = await Promise.all([
    overPlan("periodOfPlan", { id: project.id, plan }, asked),
    driftSince(database, project, before, signal),
    qualityOf(database, me, project),
    standingsOf(database, me, project.id),
    askedIn(database, me, project),
    common.load,
    organisationName(database),
    thresholdsOf(database),
  ]);
  const workers = new Set(of.workers);
  const rules = brokenRules(standingOf(lineSummaryOf(of.summary), before?.summary.drift ?? null), thresholds);
  const words = brokenLimits(rules, () => null);
  const all: Omit<Gathered, "facts"> = {
    ...{ organisation, project, revision, plan, period, until, before, of, drift, quality, ...waits },
    trend: milestoneTrend(of.summary, past),
    cycle: standing.projects[0]!,
    load: { weeks: load.weeks, people: load.people.filter(({ id }) => workers.has(id)) },
  };
  const broken = rules.map((rule, i) => ({ ...rule, words: words[i]!.words }));
  return { ...all, facts: factsOf(all, broken) };
}
