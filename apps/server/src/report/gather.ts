import {
  standingOf,
  lineSummaryOf,
  type DriftLedgerView,
  type Load,
  type Me,
  type ProjectCycle,
  type ProjectGates,
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
import { In, IsNull, MoreThan, Not, type DataSource } from "typeorm";
import { ApprovalEntity } from "../approve/kept/approveEntities.ts";
import { WhatIfEntity } from "../approve/kept/whatIfEntities.ts";
import { driftOf } from "../approve/compareStates.ts";
import { reservesOf } from "../approve/reserves.ts";
import {
  IssuedPlanEntity,
  PlannedPeriodEntity,
  type IssuedPeriodEntity,
  type ReportingPeriodEntity,
} from "../cycle/cycleEntities.ts";
import { organisationName } from "../cycle/cycleService.ts";
import { thresholdsOf } from "../cycle/limits/thresholds.ts";
import { issuedPeriods } from "../cycle/issued.ts";
import { brokenLimits, standingsOf } from "../cycle/standings.ts";
import { viewGates } from "../gates/projectGates.ts";
import { milestoneTrend, type ForecastTrend } from "../dates/milestoneTrend.ts";
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

/** What of a project ratings and texts of the open period's report begin with, as of one revision of its plan. */
export interface Known {
  readonly organisation: string;
  readonly project: ProjectEntity;
  readonly revision: number;
  readonly plan: Plan;
  readonly period: ReportingPeriodEntity;
  /** The last day of the period to come. */
  readonly until: string;
  readonly before: {
    readonly number: number;
    readonly dataDate: string;
    readonly issuedAt: Date;
    readonly summary: Summary;
  } | null;
  readonly past: readonly IssuedPeriodEntity[];
  readonly of: PeriodOfPlan;
  readonly cycle: ProjectCycle;
  readonly requests: readonly WhatIfEntity[];
  readonly approvals: readonly ApprovalEntity[];
  readonly reserves: Reserves;
  readonly gates: ProjectGates;
  /** Weeks ahead, and whoever of the project's people has work in them. */
  readonly load: Load;
  readonly facts: ReportFacts;
}

/** All that a project's report is made of. */
export interface Gathered extends Known {
  readonly trend: ForecastTrend;
  /** Why the finish moved since the report before; a text where that cannot be told. */
  readonly drift: DriftLedgerView | string | null;
  readonly quality: QualityView;
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
    : {
        number: last.number,
        dataDate: last.dataDate,
        issuedAt: last.issuedAt,
        summary: JSON.parse(last.summary) as Summary,
      };
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

type Person = Load["people"][number];

/** In which weeks someone has more work than time; whoever stands for a role has none. */
export const weeksOver = ({ capacity, demand, placeholder }: Person): boolean[] =>
  demand.map((minutes, i) => minutes > (placeholder ? 0 : capacity[i]!));

const namesOver = ({ people }: Load, placeholders: boolean): string[] =>
  people.flatMap((person) =>
    person.placeholder === placeholders && weeksOver(person).includes(true) ? [person.name] : [],
  );

function factsOf(gathered: Omit<Known, "facts">, broken: ReportFacts["broken"]): ReportFacts {
  const { of, before, cycle, requests, reserves, load } = gathered;
  const { summary } = of;
  return {
    currency: summary.currency,
    minorDigits: summary.minorDigits,
    isApproved: summary.baseline !== null,
    finish: summary.finish,
    approvedFinish: summary.baselineFinish,
    drift: summary.drift,
    finishBefore: before?.summary.finish ?? null,
    // Against another approved finish drifts cannot be compared.
    moved:
      summary.drift === null ||
      before?.summary.drift == null ||
      before.summary.baselineFinish !== summary.baselineFinish
        ? null
        : summary.drift - before.summary.drift,
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
      overloaded: namesOver(load, false),
      unfilled: namesOver(load, true),
    },
    broken,
  };
}

/** What waits for a decision in a project, and what is set aside in it. */
async function askedIn(database: DataSource, me: Me, { id }: ProjectEntity) {
  const [requests, approvals, reserves, gates] = await Promise.all([
    database.getRepository(WhatIfEntity).find({
      where: { projectId: id, state: In(["asked", "approved", "sentBack"]), request: Not(IsNull()) },
      order: { request: "ASC" },
    }),
    database.getRepository(ApprovalEntity).findBy({ projectId: id, state: "asked" }),
    reservesOf(database, me, id),
    viewGates(database, me, id),
  ]);
  return { requests, approvals, reserves, gates };
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

/** The plan as it was issued with the newest of some periods, as text. */
async function planIssued(database: DataSource, past: readonly IssuedPeriodEntity[]): Promise<string | null> {
  const last = past.at(-1);
  if (last === undefined) return null;
  const { projectId, number, edition } = last;
  return (await database.getRepository(IssuedPlanEntity).findOneBy({ projectId, number, edition }))?.content ?? null;
}

/** Gathers what ratings and texts begin with; nothing is stored. */
export async function gatherKnown(
  database: DataSource,
  me: Me,
  project: ProjectEntity,
  period: ReportingPeriodEntity,
): Promise<Known> {
  const plan = await loadPlan(database.manager, project);
  const { revision } = project;
  const { past, points, locked, until, before } = await pastOf(database, project, period);
  const issuedBefore = await planIssued(database, past);
  const asked = { issued: points, lockedTo: locked, before: issuedBefore, since: before?.dataDate ?? null, until };
  const [of, standing, waits, load, organisation, thresholds] = await Promise.all([
    overPlan("periodOfPlan", { id: project.id, plan }, asked),
    standingsOf(database, me, project.id),
    askedIn(database, me, project),
    loadFrom(database, firstMondayAfter(period.dataDate), WEEKS_AHEAD),
    organisationName(database),
    thresholdsOf(database),
  ]);
  const workers = new Set(of.workers);
  const rules = brokenRules(
    standingOf(lineSummaryOf(of.summary), before?.summary.drift ?? null),
    thresholds(project.programmeId),
  );
  const words = brokenLimits(rules, () => null);
  const all: Omit<Known, "facts"> = {
    ...{ organisation, project, revision, plan, period, until, before, past, of, ...waits },
    cycle: standing.projects[0]!,
    load: { weeks: load.weeks, people: load.people.filter(({ id }) => workers.has(id)) },
  };
  const broken = rules.map((rule, i) => ({ ...rule, words: words[i]!.words }));
  return { ...all, facts: factsOf(all, broken) };
}

/** Gathers a project's report of a period whole; nothing is stored. */
export async function gather(
  database: DataSource,
  me: Me,
  project: ProjectEntity,
  period: ReportingPeriodEntity,
  signal: AbortSignal,
): Promise<Gathered> {
  const known = await gatherKnown(database, me, project, period);
  const [drift, quality] = await Promise.all([
    driftSince(database, project, known.before, signal),
    qualityOf(database, me, project),
  ]);
  return { ...known, drift, quality, trend: milestoneTrend(known.of.summary, known.past) };
}
