import { localMinute } from "../time/instant.ts";
import fc from "fast-check";
import { schedulePlan } from "../network/schedule.ts";
import { computePlan } from "../analyse.ts";
import { livedPlans } from "../testing/livedPlans.ts";
import type { Activity, Credit, Link, PlanBundle } from "../plan/schema.ts";
import type { ActivityRange, Risk } from "../plan/ownTables.ts";
import { networks, planOf } from "../testing/plans.ts";
import { blocksOf, chancesOf, simulate } from "./chances.ts";
import { prepare, type RangeClass } from "./prepare.ts";
import { normalBelow, randomOf, triangularAt, type ThreePoints } from "./random.ts";
import { simulateBlock } from "./simulate.ts";

const RUNS = 4000;
const DAY = 480;

const work = (id: string, days = 10, rest: Partial<Activity> = {}): Activity => ({
  id,
  name: id,
  durationMinutes: days * DAY,
  ...rest,
});
const chainOf = (n: number): PlanBundle =>
  planOf(
    Array.from({ length: n }, (_, i) => work(`w${i}`)),
    Array.from({ length: n - 1 }, (_, i): Link => ({ from: `w${i}`, to: `w${i + 1}` })),
  );

function prepared(
  plan: PlanBundle,
  {
    ranges = {},
    risks = [],
    otherwise = "exact",
    correlation = 0,
  }: { ranges?: Record<string, ActivityRange>; risks?: Risk[]; otherwise?: RangeClass; correlation?: number } = {},
) {
  return prepare({ plan, ranges: new Map(Object.entries(ranges)), risks, otherwise, correlation });
}

/** Lengths of the whole project run by run, in days of work. */
function lengths(p: ReturnType<typeof prepared>, runs = RUNS, seed = 7): number[] {
  const start = p.calendar.indexAt(p.schedule.rows[0]!.start);
  return simulate(p, seed, runs).flatMap(({ finish }) =>
    [...finish].map((at) => (p.calendar.indexAt(localMinute(at)) - start) / DAY),
  );
}

const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;
const deviation = (values: readonly number[]): number =>
  Math.sqrt(mean(values.map((value) => (value - mean(values)) ** 2)));
/** Mean and variance of a triangular distribution (any handbook of statistics, such as NIST/SEMATECH e-Handbook). */
const meanOf = ({ low, likely, high }: ThreePoints): number => (low + likely + high) / 3;
const varianceOf = ({ low: a, likely: b, high: c }: ThreePoints): number =>
  (a * a + b * b + c * c - a * b - a * c - b * c) / 18;
const below = ({ low, likely, high }: ThreePoints, x: number): number =>
  x <= low
    ? 0
    : x >= high
      ? 1
      : x < likely
        ? (x - low) ** 2 / ((high - low) * (likely - low))
        : 1 - (high - x) ** 2 / ((high - low) * (high - likely));

const RANGE = { low: 80, likely: 100, high: 150 };
/** The same in days, of ten. */
const IN_DAYS = { low: 8, likely: 10, high: 15 };
// What is stated: four standard errors of so many runs, beside rounding to whole minutes.
const tolerance = (sd: number): number => (4 * sd) / Math.sqrt(RUNS) + 0.01;

describe("a plan in which nothing is uncertain", () => {
  const RULES: Credit[] = [
    { rule: "reported" },
    { rule: "zeroHundred" },
    { rule: "startFinish", startCredit: 40 },
    { rule: "units", unitsTotal: 8, unitsDone: 3 },
    {
      rule: "steps",
      steps: [
        { name: "a", weight: 1, doneOn: "2026-03-05" },
        { name: "b", weight: 2 },
      ],
    },
    { rule: "levelOfEffort" },
  ];

  it("finishes and costs in every run what it says: its finish, and its bottom-up estimate whatever the rules of credit", () => {
    let told = 0;
    fc.assert(
      fc.property(livedPlans, fc.array(fc.nat(RULES.length - 1), { minLength: 14, maxLength: 14 }), (lived, rules) => {
        fc.pre(lived.project.dataDate !== undefined && lived.baselines !== undefined);
        const plan: PlanBundle = {
          ...lived,
          activities: lived.activities.map((activity, i) =>
            activity.kind === "milestone" ? activity : { ...activity, credit: RULES[rules[i]!]! },
          ),
          people: [{ id: "p", name: "P", rates: [{ from: "2026-01-01", perHourMinor: 6100 }] }],
          costs: lived.activities
            .filter(({ kind }) => kind !== "milestone")
            .flatMap(({ id }, i) =>
              (["even", "start", "finish"] as const).map((timing) => ({
                id: `${timing}${i}`,
                activity: id,
                category: "c",
                plannedMinor: 1000 + i,
                timing,
              })),
            ),
          timeEntries: (lived.assignments ?? []).flatMap(({ activity, person }) =>
            lived.activities.find(({ id }) => id === activity)!.parked === true
              ? []
              : [
                  { activity, person, date: "2026-03-10", minutes: 60, state: "posted" as const },
                  { activity, person, date: "2026-03-20", minutes: 90, state: "posted" as const },
                ],
          ),
        };
        const { schedule, performance } = computePlan(plan);
        fc.pre(schedule.finish !== null);
        const { finish, cost } = simulateBlock(prepared(plan), 3, 0, 2);
        expect([...finish]).toEqual([schedule.finish, schedule.finish]);
        // Rows that have left the plan have a budget and no cost.
        for (const each of cost) expect(each).toBeCloseTo(performance!.project.eacBottomUp, 6);
        told++;
      }),
      { numRuns: 200 },
    );
    expect(told).toBeGreaterThan(30);
  });
});

describe("draws", () => {
  it("come again for a seed and run, differ between runs, and lie evenly", () => {
    const take = (seed: number, run: number): number[] =>
      Array.from(
        { length: 5 },
        (
          (random) => () =>
            random()
        )(randomOf(seed, run)),
      );
    expect(take(1, 2)).toEqual(take(1, 2));
    expect(take(1, 2)).not.toEqual(take(1, 3));
    expect(take(1, 2)).not.toEqual(take(2, 2));
    // Chi-square over 50 bins of 50 000 draws, first numbers of neighbouring streams: 99.9% of fair ones lie below 85.4.
    const bins = new Array<number>(50).fill(0);
    for (let run = 0; run < 50_000; run++) bins[Math.floor(randomOf(42, run)() * 50)]!++;
    expect(bins.reduce((sum, n) => sum + (n - 1000) ** 2 / 1000, 0)).toBeLessThan(85.4);
  });

  it("a share of a triangular distribution is below the value that is given for it", () => {
    fc.assert(
      fc.property(
        fc.tuple(
          fc.double({ min: 0, max: 10, noNaN: true }),
          fc.double({ min: 0.1, max: 10, noNaN: true }),
          fc.double({ min: 0.1, max: 10, noNaN: true }),
        ),
        fc.double({ min: 0.001, max: 0.999, noNaN: true }),
        ([low, a, b], share) => {
          const points = { low, likely: low + a, high: low + a + b };
          expect(below(points, triangularAt(points, share))).toBeCloseTo(share, 9);
        },
      ),
    );
    expect(triangularAt({ low: 3, likely: 3, high: 3 }, 0.4)).toBe(3);
  });

  it("the normal distribution is that of the tables (NIST/SEMATECH e-Handbook, 1.3.6.7.1)", () => {
    for (const [x, share] of [
      [0, 0.5],
      [1, 0.84134],
      [1.96, 0.975],
      [-1.645, 0.04998],
      [3, 0.99865],
    ] as const)
      expect(normalBelow(x)).toBeCloseTo(share, 4);
  });
});

describe("a simulation against closed forms", () => {
  it("of one activity is its own distribution: mean, spread, and the chance of a deadline", () => {
    const plan = planOf([work("w0", 10, { deadline: "2026-03-16" })]);
    const p = prepared(plan, { ranges: { w0: RANGE } });
    const drawn = lengths(p);
    const sd = Math.sqrt(varianceOf(IN_DAYS));
    expect(Math.abs(mean(drawn) - meanOf(IN_DAYS))).toBeLessThan(tolerance(sd));
    expect(Math.abs(deviation(drawn) - sd)).toBeLessThan(tolerance(sd));
    // Monday 16 March closes the eleventh working day.
    const [deadline] = chancesOf(p, simulate(p, 7, RUNS)).deadlines;
    expect(Math.abs(deadline!.chance - below(IN_DAYS, 11))).toBeLessThan(4 * Math.sqrt(0.25 / RUNS));
  });

  it("of a single chain: means and variances add up, and the sum of many is normal", () => {
    const n = 25;
    const drawn = lengths(
      prepared(chainOf(n), { ranges: Object.fromEntries(Array.from({ length: n }, (_, i) => [`w${i}`, RANGE])) }),
    ).sort((a, b) => a - b);
    const sd = Math.sqrt(n * varianceOf(IN_DAYS));
    expect(Math.abs(mean(drawn) - n * meanOf(IN_DAYS))).toBeLessThan(tolerance(sd));
    expect(Math.abs(deviation(drawn) - sd)).toBeLessThan(tolerance(sd));
    // The 80th percentile of the normal distribution lies 0.8416 deviations up; an error of a tenth of one is allowed.
    expect(Math.abs(drawn[Math.ceil(0.8 * RUNS) - 1]! - (n * meanOf(IN_DAYS) + 0.8416 * sd))).toBeLessThan(0.1 * sd);
  });

  it("of two merging chains: the later one decides, at F(x) squared, and each is critical as often", () => {
    const plan = planOf(
      [work("a"), work("b"), { id: "m", name: "m", kind: "milestone", deadline: "2026-03-16" }],
      [
        { from: "a", to: "m" },
        { from: "b", to: "m" },
      ],
    );
    const p = prepared(plan, { ranges: { a: RANGE, b: RANGE } });
    const drawn = lengths(p);
    // E max = high - the integral of F squared, by the midpoint rule over 10 000 steps.
    const steps = 10_000;
    const width = (IN_DAYS.high - IN_DAYS.low) / steps;
    const expected =
      IN_DAYS.high -
      Array.from({ length: steps }, (_, i) => below(IN_DAYS, IN_DAYS.low + (i + 0.5) * width) ** 2 * width).reduce(
        (sum, each) => sum + each,
        0,
      );
    expect(Math.abs(mean(drawn) - expected)).toBeLessThan(tolerance(Math.sqrt(varianceOf(IN_DAYS))));
    const { deadlines, activities } = chancesOf(p, simulate(p, 7, RUNS));
    expect(Math.abs(deadlines[0]!.chance - below(IN_DAYS, 11) ** 2)).toBeLessThan(4 * Math.sqrt(0.25 / RUNS));
    for (const { criticality, sensitivity } of activities) {
      expect(Math.abs(criticality - 0.5)).toBeLessThan(4 * Math.sqrt(0.25 / RUNS) + 0.005);
      expect(sensitivity).toBeGreaterThan(0.4);
    }
  });

  it("of durations that move as one: deviations add up, not variances", () => {
    const n = 9;
    const ranges = Object.fromEntries(Array.from({ length: n }, (_, i) => [`w${i}`, RANGE]));
    const sd = Math.sqrt(varianceOf(IN_DAYS));
    expect(Math.abs(deviation(lengths(prepared(chainOf(n), { ranges, correlation: 1 }))) - n * sd)).toBeLessThan(
      n * tolerance(sd),
    );
    const half = deviation(lengths(prepared(chainOf(n), { ranges, correlation: 0.5 })));
    expect([half > 1.5 * 3 * sd, half < 0.95 * n * sd]).toEqual([true, true]);
  });

  it("of a risk: it comes about as often as was said, adds what was said, and costs what was said", () => {
    const risk: Risk = {
      id: "r",
      name: "Storm",
      probability: 0.3,
      effects: [{ activity: "w0", minutes: { low: 5 * DAY, likely: 5 * DAY, high: 5 * DAY } }],
      costMinor: { low: 1000, likely: 1000, high: 1000 },
    };
    const p = prepared(planOf([work("w0")]), { risks: [risk] });
    const drawn = lengths(p);
    expect(new Set(drawn)).toEqual(new Set([10, 15]));
    const share = drawn.filter((days) => days === 15).length / RUNS;
    expect(Math.abs(share - 0.3)).toBeLessThan(4 * Math.sqrt(0.21 / RUNS));
    const chances = chancesOf(p, simulate(p, 7, RUNS));
    expect([chances.cost.planned, chances.cost.p50, chances.cost.p80, chances.both.correlation]).toEqual([
      0,
      0,
      1000,
      expect.closeTo(1, 9),
    ]);
    expect(chances.both.chance).toBeCloseTo(1 - share, 9);
  });

  it("of people's cost, which grows with the duration of their work", () => {
    const plan = planOf([work("w0")], [], {
      people: [{ id: "p", name: "P", rates: [{ from: "2026-01-01", perHourMinor: 6000 }] }],
      assignments: [{ activity: "w0", person: "p", plannedMinutes: 4800 }],
      costs: [{ id: "c", activity: "w0", category: "steel", plannedMinor: 100_000 }],
    });
    const p = prepared(plan, { ranges: { w0: RANGE } });
    const costs = simulate(p, 7, RUNS).flatMap(({ cost }) => [...cost]);
    const perDay = 48_000;
    expect(Math.abs(mean(costs) - (100_000 + meanOf(IN_DAYS) * perDay))).toBeLessThan(
      perDay * tolerance(Math.sqrt(varianceOf(IN_DAYS))),
    );
  });

  it("of work that its people decide, which takes as much longer as they do", () => {
    const plan = planOf([work("w0", 10, { driver: "effort" })], [], {
      people: [{ id: "p", name: "P" }],
      assignments: [{ activity: "w0", person: "p", plannedMinutes: 4800 }],
    });
    const drawn = lengths(prepared(plan, { ranges: { w0: RANGE } }));
    expect(Math.abs(mean(drawn) - meanOf(IN_DAYS))).toBeLessThan(tolerance(Math.sqrt(varianceOf(IN_DAYS))));
  });
});

describe("whatever is simulated", () => {
  it("without ranges and risks, every run is the plan", () => {
    fc.assert(
      fc.property(networks({ calendars: ["std", "seven", "nights"] }), (plan) => {
        const { finish } = schedulePlan(plan);
        expect(new Set(simulateBlock(prepared(plan), 1, 0, 3).finish)).toEqual(new Set([finish]));
      }),
      { numRuns: 60 },
    );
  });

  it("the same seed gives the same answer, block by block, whoever computes which and in what order", () => {
    const p = prepared(chainOf(5), { otherwise: "wide", correlation: 0.3 });
    const inOrder = simulate(p, 11, 1000);
    const apart = Array.from({ length: blocksOf(1000) }, (_, i) => i)
      .reverse()
      .map((block) => simulateBlock(prepared(chainOf(5), { otherwise: "wide", correlation: 0.3 }), 11, block))
      .reverse();
    expect(chancesOf(p, apart)).toEqual(chancesOf(p, inOrder));
    expect(chancesOf(p, simulate(p, 12, 1000))).not.toEqual(chancesOf(p, inOrder));
  });

  it("runs add up, percentiles rise, chances and correlations stay within their bounds", () => {
    fc.assert(
      fc.property(
        networks({ calendars: ["std", "seven"] }),
        fc.integer(),
        fc.constantFrom<RangeClass>("narrow", "usual", "wide"),
        (plan, seed, otherwise) => {
          const p = prepared(plan, { otherwise, correlation: 0.2 });
          const chances = chancesOf(p, simulate(p, seed, 120));
          const { finish, finishes, costs, activities } = chances;
          expect([
            chances.runs,
            finishes.reduce((sum, { runs }) => sum + runs, 0),
            costs.reduce((sum, { runs }) => sum + runs, 0),
          ]).toEqual([120, 120, 120]);
          expect([finish.p10, finish.p50, finish.p80, finish.p90]).toEqual(
            [finish.p10, finish.p50, finish.p80, finish.p90].sort(),
          );
          for (const { criticality, sensitivity } of activities)
            expect([
              criticality >= 0 && criticality <= 1,
              sensitivity === null || Math.abs(sensitivity) <= 1 + 1e-9,
            ]).toEqual([true, true]);
        },
      ),
      { numRuns: 40 },
    );
  });

  it("finished work does not vary any more, nor does a risk that bears on nothing open", () => {
    const plan = planOf(
      [work("a", 5, { actualStart: "2026-03-02", actualFinish: "2026-03-06" }), work("b", 5)],
      [{ from: "a", to: "b" }],
      {
        project: {
          code: "P",
          name: "P",
          currency: "EUR",
          start: "2026-03-02",
          calendar: "std",
          dataDate: "2026-03-06",
        },
      },
    );
    const p = prepared(plan, {
      otherwise: "wide",
      risks: [
        {
          id: "r",
          name: "R",
          probability: 1,
          effects: [{ activity: "a", minutes: { low: 480, likely: 480, high: 480 } }],
        },
      ],
    });
    expect([p.nodes.length, p.risks[0]!.effects]).toEqual([1, []]);
  });
});
