import { lineSummaryOf, standingOf, type PerformanceView, type Summary } from "@chronometra/contract";
import { brokenRules, ratio, type Plan, minus, NO_SUMS, type Figures } from "@chronometra/core";
import { Not, type DataSource } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { CycleMarkEntity } from "../cycle/cycleEntities.ts";
import { openPeriod } from "../cycle/cycleService.ts";
import { thresholdsOf } from "../cycle/limits/thresholds.ts";
import { issuedPeriods } from "../cycle/issued.ts";
import { brokenLimits } from "../cycle/standings.ts";
import { isClosed } from "../project/projectAccess.ts";
import { overPlans } from "../plan/held/overPlan.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import type { DATES_WORKS } from "./datesWorks.ts";
import { SHARES } from "./parts.ts";

const overPlan = overPlans<typeof DATES_WORKS>();

type Period = PerformanceView["periods"][number];

/** Cumulative figures of each issued period and of now, with what came in each alone. */
function periodsOf(
  issued: readonly { number: number; dataDate: string; summary: string }[],
  now: Summary,
  explanations: ReadonlyMap<number, NonNullable<Period["explanation"]>>,
): Period[] {
  const points = [
    ...issued.map(({ number, dataDate, summary }) => ({
      number: number as number | null,
      dataDate,
      figures: (JSON.parse(summary) as Summary).figures,
    })),
    ...(now.dataDate === null ? [] : [{ number: null, dataDate: now.dataDate, figures: now.figures }]),
  ];
  let last: Pick<Figures, "pv" | "ev" | "ac"> = NO_SUMS;
  return points.flatMap(({ number, dataDate, figures }): Period[] => {
    if (figures === null) return [];
    const { pv, ev, ac, spi, cpi } = figures;
    const own = { pv: minus(pv, last.pv), ev: minus(ev, last.ev), ac: minus(ac, last.ac) };
    last = { pv, ev, ac };
    return [
      {
        number,
        dataDate,
        pv,
        ev,
        ac,
        spi,
        cpi,
        own: { ...own, spi: ratio(own.ev, own.pv), cpi: ratio(own.ev, own.ac) },
        explanation: number === null ? null : (explanations.get(number) ?? null),
      },
    ];
  });
}

type Told = NonNullable<Period["explanation"]>;

/** What was written of broken limits: by period, and of one rule in the open period. */
function explanationsIn(
  marks: readonly CycleMarkEntity[],
  names: ReadonlyMap<string, string>,
  open: number | undefined,
) {
  const present = ({ words, markedBy, markedAt }: CycleMarkEntity): Told => ({
    words,
    by: names.get(markedBy) ?? "",
    at: markedAt.toISOString(),
  });
  const byPeriod = new Map<number, Told>();
  for (const mark of marks) {
    const known = byPeriod.get(mark.number);
    const own = present(mark);
    byPeriod.set(mark.number, known === undefined ? own : { ...own, words: `${known.words}; ${own.words}` });
  }
  const ofRule = (rule: string): Told | null => {
    const mark = marks.find(
      ({ number, step }) => number === open && (step === `Explain ${rule}` || step === "Explain"),
    );
    return mark === undefined ? null : present(mark);
  };
  return { byPeriod, ofRule };
}

/** When the project may finish, and between which estimates its cost lies. */
function forecastOf({ finish, earnedSchedule, figures }: Summary): PerformanceView["forecast"] {
  const estimates =
    figures === null
      ? []
      : [figures.eac, figures.eacRemaining, figures.eacCpiSpi, figures.eacBottomUp].filter((each) => each !== null);
  return {
    finish,
    esFinish: earnedSchedule?.forecastFinish ?? null,
    least: estimates.length === 0 ? null : Math.min(...estimates),
    most: estimates.length === 0 ? null : Math.max(...estimates),
  };
}

/** A project's figures split, over the periods, and its earned schedule in every kind of period. */
export async function performanceOf(
  database: DataSource,
  project: ProjectEntity,
  plan: Plan,
  by: string,
): Promise<PerformanceView> {
  const { summary, parts, earnedSchedules } = await overPlan("performance", { id: project.id, plan }, by);
  const [issued, open, closed, marks, names, thresholds] = await Promise.all([
    issuedPeriods(database, project.id),
    openPeriod(database),
    isClosed(database, project),
    database.getRepository(CycleMarkEntity).findBy({ projectId: project.id, step: Not("Check") }),
    accountNames(database),
    thresholdsOf(database),
  ]);
  const explanations = explanationsIn(marks, names, open?.number);
  // As everywhere: a movement is told against the last period before the open one.
  const last = issued.findLast(({ number }) => open === null || number < open.number);
  const drift = last === undefined ? null : (JSON.parse(last.summary) as Summary).drift;
  return {
    currency: plan.project.currency,
    minorDigits: plan.project.minorDigits ?? 2,
    asOf: summary.dataDate,
    project: summary.figures,
    by,
    kinds: [
      ...Object.entries(SHARES).map(([id, { name }]) => ({ id, name })),
      ...[...plan.fields.values()].map(({ id, name }) => ({ id: `own:${id}`, name })),
    ],
    parts,
    earnedSchedules,
    periods: periodsOf(issued, summary, explanations.byPeriod),
    // Of a closed project nothing is asked any more.
    broken: closed
      ? []
      : brokenLimits(
          brokenRules(standingOf(lineSummaryOf(summary), drift), thresholds(project.programmeId)),
          explanations.ofRule,
        ),
    forecast: forecastOf(summary),
  };
}
