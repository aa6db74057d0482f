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
import { mayEdit } from "../project/projectAccess.ts";
import { qualityLimitsOf } from "./qualityLimits.ts";
import { CycleMarkEntity, PeriodLockEntity } from "./cycleEntities.ts";
import { reachedSince } from "./owing.ts";
import { missingReporters, openPeriod, organisationName, reportersIn, thresholdsOf } from "./cycleService.ts";

interface Row {
  readonly id: string;
  readonly code: string;
  readonly head: string;
  readonly managerId: string;
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
    `select p.id, p.code, p.head, p.manager_id as managerId, f.people,
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

/** Where projects stand in the open period; of a single one where it is named. */
export async function standingsOf(
  database: DataSource,
  me: Pick<Me, "id" | "roles">,
  only: string | null = null,
): Promise<Cycle> {
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
  const projects = rows.map((row): ProjectCycle => {
    const manager = names.get(row.managerId) ?? "";
    const closed = Number(row.closed) === 1;
    const summary = JSON.parse(row.summary) as LineSummary;
    const takesPart = summary.baseline !== null && !closed && period !== null;
    const own = locks.filter(({ projectId }) => projectId === row.id);
    const lock = own.findLast((each) => each.number === number);
    const locked = lock !== undefined && lock.reopenedAt === null;
    const issued =
      row.issuedAt !== null && (lock === undefined || lock.reopenedAt === null || row.issuedAt > lock.reopenedAt);
    const mark = (step: string) => {
      const found = marks.find((each) => each.projectId === row.id && each.step === step);
      return found === undefined
        ? null
        : { words: found.words, by: names.get(found.markedBy) ?? "", at: found.markedAt.toISOString() };
    };
    const people = JSON.parse(row.people) as Reporter[];
    const missing = takesPart && period !== null ? missingReporters(row.id, people, period, reporters) : [];
    const unreminded = missing.filter(({ id }) => reach.has(id) && reach.get(id) === null);
    const named = (some: readonly Reporter[]): Someone[] => some.map(({ id, name }) => ({ id, name }));
    const waiting = Number(row.waiting);
    const [findings, checked] = [findingsOf(summary, limits), mark("Check")];
    const broken = brokenLimits(
      brokenRules(standingOf(summary, row.issuedDrift), thresholds),
      (rule) => mark(`Explain ${rule}`) ?? mark("Explain"),
    );
    const unexplained = broken.filter(({ explanation }) => explanation === null).length;
    const behind = period !== null && (summary.dataDate ?? "") < period.dataDate;
    const step = (name: CycleStep, open: number, words: string, waitsFor: readonly string[]) => ({
      name,
      open: takesPart ? open : 0,
      words: takesPart ? (open > 0 ? words : "done") : "–",
      waitsFor: takesPart && open > 0 ? [...waitsFor] : [],
    });
    const controllers = "a controller";
    return {
      id: row.id,
      code: row.code,
      name: (JSON.parse(row.head) as ProjectHead).name,
      manager,
      mayEdit: mayEdit(me as Me, { managerId: row.managerId }),
      takesPart,
      closed,
      steps: [
        step(
          "Collect",
          missing.length,
          `${missing.length} missing`,
          missing.map(({ name }) => name),
        ),
        step("Chase", unreminded.length, `${unreminded.length} to remind`, [controllers]),
        // What waits is decided whether its project takes part or not.
        {
          name: "Review",
          open: waiting,
          words: waiting > 0 ? `${waiting} waiting` : takesPart ? "done" : "–",
          waitsFor: waiting > 0 ? [manager] : [],
        },
        step("Recalculate", behind ? 1 : 0, "behind", [manager]),
        step("Check", checked === null ? 1 : 0, findings.length === 0 ? "to check" : `${findings.length} to look at`, [
          manager,
        ]),
        step("Explain", unexplained, `${unexplained} to explain`, [manager]),
        step("Issue", issued ? 0 : 1, "to issue", [manager]),
        step("Lock", locked ? 0 : 1, "to lock", [controllers]),
      ],
      missing: named(missing),
      unreminded: named(unreminded),
      findings,
      broken,
      checked,
      issued,
      locked,
      lockedWord:
        !locked || lock.word === null
          ? null
          : { words: lock.word, by: names.get(lock.lockedBy) ?? "", at: lock.lockedAt.toISOString() },
      reopened: own
        .flatMap((each) =>
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
        )
        .reverse(),
    };
  });
  return {
    number: period?.number ?? null,
    dataDate: period?.dataDate ?? null,
    issueBy: period?.issueBy ?? null,
    projects,
  };
}

const LINKS: Readonly<Record<CycleStep, string>> = {
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

export async function periodBar(database: DataSource): Promise<PeriodBar> {
  const [organisation, { number, dataDate, issueBy, projects }] = await Promise.all([
    organisationName(database),
    standingsOf(database, { id: "", roles: [] }),
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
