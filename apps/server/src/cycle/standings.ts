import {
  CYCLE_STEPS,
  standingOf,
  type BrokenLimit,
  type Cycle,
  type CycleStep,
  type Me,
  type PeriodBar,
  type LineSummary,
  type ProjectCycle,
  type Someone,
} from "@chronometra/contract";
import {
  type Broken,
  brokenRules,
  CHECKS,
  countWords,
  dayWords,
  failedChecks,
  fitnessOf,
  numberWords,
  type ProjectHead,
  type QualityLimits,
  ratioWords,
  type Thresholds,
} from "@chronometra/core";
import { IsNull, Not, type DataSource } from "typeorm";
import { AccountEntity } from "../access/accountEntity.ts";
import type { Reporter } from "../writers/summarise.ts";
import { LOOKERS, mayEdit, maySee } from "../project/reach.ts";
import { qualityLimitsOf } from "./limits/qualityLimits.ts";
import { CycleMarkEntity, PeriodLockEntity } from "./cycleEntities.ts";
import { reachedSince } from "./owing.ts";
import { missingReporters, openPeriod, organisationName, reportersIn } from "./cycleService.ts";
import { thresholdsOf } from "./limits/thresholds.ts";

interface Row {
  readonly id: string;
  readonly code: string;
  readonly head: string;
  readonly managerId: string;
  readonly programmeId: string | null;
  readonly people: string;
  /** A `LineSummary` of the contract, as text. */
  readonly summary: string;
  readonly issuedDrift: number | null;
  readonly waiting: string;
  readonly issuedAt: Date | null;
  readonly closed: number;
}

const rowsOf = (database: DataSource, number: number, only: string | null): Promise<Row[]> =>
  database.query(
    `select p.id, p.code, p.head, p.manager_id as managerId, p.programme_id as programmeId, f.people,
       f.line as summary,
       (select i.drift from issued_period i where i.project_id = p.id and i.number < ? order by i.number desc, i.edition desc limit 1) as issuedDrift,
       (select count(*) from report r where r.project_id = p.id and r.state = 'submitted') as waiting,
       (select max(i.issued_at) from issued_period i where i.project_id = p.id and i.number = ?) as issuedAt,
       exists (select 1 from project_closing c where c.project_id = p.id) as closed
     from project p join figures f on f.project_id = p.id and f.revision = p.revision
     where ? is null or p.id = ? order by p.code`,
    [number, number, only, only],
  );

const FITNESS_WORDS = { fit: "", mend: "fit with mends", unfit: "not fit to be trusted" } as const;

/** What the check step is to look at: checks of the plan that fail, work without dates or approval. */
function findingsOf({ unscheduled, unbaselined, quality }: LineSummary, limits: QualityLimits): string[] {
  const failed = quality === undefined ? [] : failedChecks(quality, limits);
  return [
    ...(failed.length > 0
      ? [
          `${FITNESS_WORDS[fitnessOf(failed, unscheduled)]}: ${failed.map((number) => CHECKS[number - 1]!.name.toLowerCase()).join(", ")}`,
        ]
      : []),
    ...(unscheduled > 0 ? [`${countWords(unscheduled, "activity has", "activities have")} no dates`] : []),
    ...(unbaselined > 0 ? [`${countWords(unbaselined, "activity is", "activities are")} in no baseline`] : []),
  ];
}

const BROKEN_WORDS: Record<keyof Thresholds, (value: number, limit: number) => string> = {
  spiBelow: (value, limit) => `SPI ${ratioWords(value)} is below ${numberWords(limit, 2)}`,
  cpiBelow: (value, limit) => `CPI ${ratioWords(value)} is below ${numberWords(limit, 2)}`,
  spitBelow: (value, limit) => `SPI(t) ${ratioWords(value)} is below ${numberWords(limit, 2)}`,
  driftOver: (value, limit) => `the finish is ${dayWords(value)} late, more than ${dayWords(limit)}`,
  movedOver: (value, limit) =>
    `the finish moved ${dayWords(value)} since the last period, more than ${dayWords(limit)}`,
  overrunOver: (value, limit) =>
    `the estimate at completion is ${numberWords(value)}% over the budget, more than ${numberWords(limit)}%`,
  deadlines: (value) => `${countWords(value, "deadline is", "deadlines are")} broken or will be`,
};

/** Which limits a project breaks, each in words and with its explanation. */
export const brokenLimits = (
  broken: readonly Broken[],
  explained: (rule: keyof Thresholds) => BrokenLimit["explanation"],
): BrokenLimit[] =>
  broken.map(({ rule, value, limit }) => ({
    rule,
    words: BROKEN_WORDS[rule](value, limit),
    explanation: explained(rule),
  }));

/** What is known of all projects in the open period. */
async function knownOf(database: DataSource, only: string | null) {
  const period = await openPeriod(database);
  const number = period?.number ?? 0;
  const [rows, reporters, reach, marks, locks, accounts, thresholds, limits] = await Promise.all([
    rowsOf(database, number, only),
    period === null ? new Set<string>() : reportersIn(database, period),
    reachedSince(database, period),
    database.getRepository(CycleMarkEntity).findBy({ number }),
    // Of those before, only what was opened again is told.
    database
      .getRepository(PeriodLockEntity)
      .find({ where: [{ number }, { reopenedAt: Not(IsNull()) }], order: { lockedAt: "ASC" } }),
    database.getRepository(AccountEntity).find({ select: { id: true, name: true } }),
    thresholdsOf(database),
    qualityLimitsOf(database),
  ]);
  const names = new Map(accounts.map(({ id, name }) => [id, name]));
  return { period, number, rows, reporters, reach, marks, locks, thresholds, limits, names };
}
type Known = Awaited<ReturnType<typeof knownOf>>;

/** Who said what of a project's step, and when; `null` where nobody did. */
function marked({ marks, names }: Known, projectId: string, step: string): ProjectCycle["checked"] {
  const found = marks.find((each) => each.projectId === projectId && each.step === step);
  return found === undefined
    ? null
    : { words: found.words, by: names.get(found.markedBy) ?? "", at: found.markedAt.toISOString() };
}

/** Whether a project's period is issued and locked, in which words, and which periods of it were opened again. */
function lockingOf({ locks, number, names }: Known, row: Row) {
  const own = locks.filter(({ projectId }) => projectId === row.id);
  const lock = own.findLast((each) => each.number === number);
  const locked = lock !== undefined && lock.reopenedAt === null;
  const issued =
    row.issuedAt !== null && (lock === undefined || lock.reopenedAt === null || row.issuedAt > lock.reopenedAt);
  const lockedWord =
    !locked || lock.word === null
      ? null
      : { words: lock.word, by: names.get(lock.lockedBy) ?? "", at: lock.lockedAt.toISOString() };
  const reopened = own.flatMap((each) =>
    each.reopenedAt === null
      ? []
      : [
          {
            number: each.number,
            by: names.get(each.reopenedBy ?? "") ?? "",
            at: each.reopenedAt.toISOString(),
            reason: each.reason ?? "",
          },
        ],
  );
  return { issued, locked, lockedWord, reopened: reopened.reverse() };
}

/** Who is missing in a project, and who of them was not reminded though they can be. */
function missingIn({ period, reporters, reach }: Known, row: Row, takesPart: boolean) {
  const people = JSON.parse(row.people) as Reporter[];
  const missing = takesPart && period !== null ? missingReporters(row.id, people, period, reporters) : [];
  const named = (some: readonly Reporter[]): Someone[] => some.map(({ id, name }) => ({ id, name }));
  const unreminded = missing.filter(({ id }) => reach.has(id) && reach.get(id) === null);
  return { missing: named(missing), unreminded: named(unreminded) };
}

/** What is open of a step, in words and for whom, where its project takes part. */
type Open = readonly [name: CycleStep, open: number, words: string, waitsFor: readonly string[]];

const stepsOf = (steps: readonly Open[], takesPart: boolean): ProjectCycle["steps"] =>
  steps.map(([name, open, words, waitsFor]) => {
    // What waits is decided whether its project takes part or not.
    const counts = takesPart || name === "Review";
    return {
      name,
      open: counts ? open : 0,
      words: counts && open > 0 ? words : takesPart ? "done" : "–",
      waitsFor: counts && open > 0 ? [...waitsFor] : [],
    };
  });

const CONTROLLERS = ["a controller"];

function projectCycle(known: Known, row: Row, me: Pick<Me, "id" | "roles" | "within">): ProjectCycle {
  const { period, names, limits, thresholds } = known;
  const manager = names.get(row.managerId) ?? "";
  const closed = Number(row.closed) === 1;
  const summary = JSON.parse(row.summary) as LineSummary;
  const takesPart = summary.baseline !== null && !closed && period !== null;
  const { missing, unreminded } = missingIn(known, row, takesPart);
  const locking = lockingOf(known, row);
  const waiting = Number(row.waiting);
  const [findings, checked] = [findingsOf(summary, limits), marked(known, row.id, "Check")];
  const broken = brokenLimits(
    brokenRules(standingOf(summary, row.issuedDrift), thresholds(row.programmeId)),
    (rule) => marked(known, row.id, `Explain ${rule}`) ?? marked(known, row.id, "Explain"),
  );
  const unexplained = broken.filter(({ explanation }) => explanation === null).length;
  const behind = period !== null && (summary.dataDate ?? "") < period.dataDate;
  const toCheck = findings.length === 0 ? "to check" : `${findings.length} to look at`;
  const steps: Open[] = [
    ["Collect", missing.length, `${missing.length} missing`, missing.map(({ name }) => name)],
    ["Chase", unreminded.length, `${unreminded.length} to remind`, CONTROLLERS],
    ["Review", waiting, `${waiting} waiting`, [manager]],
    ["Recalculate", behind ? 1 : 0, "behind", [manager]],
    ["Check", checked === null ? 1 : 0, toCheck, [manager]],
    ["Explain", unexplained, `${unexplained} to explain`, [manager]],
    ["Issue", locking.issued ? 0 : 1, "to issue", [manager]],
    ["Lock", locking.locked ? 0 : 1, "to lock", CONTROLLERS],
  ];
  return {
    id: row.id,
    code: row.code,
    name: (JSON.parse(row.head) as ProjectHead).name,
    manager,
    mayEdit: mayEdit(me, row),
    takesPart,
    closed,
    steps: stepsOf(steps, takesPart),
    missing,
    unreminded,
    findings,
    broken,
    checked,
    ...locking,
  };
}

/** Where the projects that someone sees stand in the open period; of a single one where it is named. */
export async function standingsOf(
  database: DataSource,
  me: Pick<Me, "id" | "roles" | "within">,
  only: string | null = null,
): Promise<Cycle> {
  const known = await knownOf(database, only);
  const { period, rows } = known;
  return {
    number: period?.number ?? null,
    dataDate: period?.dataDate ?? null,
    issueBy: period?.issueBy ?? null,
    projects: rows.filter((row) => maySee(me, row)).map((row) => projectCycle(known, row, me)),
  };
}

/** Where what is open of a step is done. */
export const LINKS: Readonly<Record<CycleStep, string>> = {
  Collect: "/cycle/missing",
  Chase: "/cycle/missing?show=unreminded",
  Review: "/time",
  Recalculate: "/cycle?step=Recalculate",
  Check: "/cycle?step=Check",
  Explain: "/cycle?step=Explain",
  Issue: "/cycle?step=Issue",
  Lock: "/cycle?step=Lock",
};

const distinct = (people: readonly Someone[]): number => new Set(people.map(({ id }) => id)).size;

/** What a step says of all projects together. People who are missing in several are one. */
function stepOfAll(name: CycleStep, projects: readonly ProjectCycle[]): PeriodBar["steps"][number] {
  const steps = projects.map((project) => project.steps.find((step) => step.name === name)!);
  const open =
    name === "Collect"
      ? distinct(projects.flatMap(({ missing }) => missing))
      : name === "Chase"
        ? distinct(projects.flatMap(({ unreminded }) => unreminded))
        : steps.reduce((sum, step) => sum + step.open, 0);
  const part = projects.filter(({ takesPart }) => takesPart);
  const through = part.filter((project) => project.steps.find((step) => step.name === name)!.open === 0).length;
  const words: Record<CycleStep, string> = {
    Collect: `${open} missing`,
    Chase: `${open} to remind`,
    Review: countWords(open, "report", "reports"),
    Recalculate: `${open} behind`,
    Check: `${open} to check`,
    Explain: `${open} to explain`,
    Issue: `${through} of ${part.length}`,
    Lock: `${through} of ${part.length}`,
  };
  const done = open === 0 && part.length > 0;
  return { name, open, done, words: done ? "done" : open === 0 ? "no project yet" : words[name], link: LINKS[name] };
}

const EVERYWHERE: Pick<Me, "id" | "roles"> = { id: "", roles: ["reader"] };

/** Where all projects stand in the open period, each with its manager's account; `null` where none is open. */
export async function standingsByManager(database: DataSource) {
  const known = await knownOf(database, null);
  const { period, rows } = known;
  if (period === null) return null;
  return { period, projects: rows.map((row) => ({ by: row.managerId, ...projectCycle(known, row, EVERYWHERE) })) };
}

/** Where the open period stands: for whoever looks into projects, in those; for others, in all together. */
export async function periodBar(database: DataSource, me: Me): Promise<PeriodBar> {
  const looks = LOOKERS.some((role) => me.roles.includes(role));
  const [organisation, { number, dataDate, issueBy, projects }] = await Promise.all([
    organisationName(database),
    standingsOf(database, looks ? me : EVERYWHERE),
  ]);
  const part = projects.filter(({ takesPart }) => takesPart);
  return {
    number,
    dataDate,
    issueBy,
    organisation,
    over: part.length > 0 && part.every(({ locked }) => locked),
    steps: number === null ? [] : CYCLE_STEPS.map((name) => stepOfAll(name, projects)),
  };
}
