import { computePlan } from "../analyse.ts";
import type { Activity, Link, PlanBundle } from "../plan/schema.ts";
import { planOf } from "../testing/plans.ts";
import { formatInstant, parseDate } from "../time/instant.ts";
import { lengthened, runPathTest } from "./checks/criticalPathTest.ts";
import type { PastPeriod } from "./ground/finding.ts";
import { groundOf } from "./ground/ground.ts";
import { measureQuality, type QualityOptions } from "./measureQuality.ts";

const work = (id: string, rest: Partial<Activity> = {}): Activity => ({
  id,
  name: `Work ${id}`,
  durationMinutes: 960,
  owner: "p",
  ...rest,
});
const PEOPLE = { people: [{ id: "p", name: "Pia" }] };
const staffed = (...ids: string[]) => ids.map((activity) => ({ activity, person: "p", plannedMinutes: 960 }));

function qualityOf(plan: PlanBundle, options?: QualityOptions) {
  const { schedule, baseline } = computePlan(plan);
  return measureQuality(plan, schedule, baseline?.content ?? null, options);
}

/** What a finding names, by id with its words. */
function named(plan: PlanBundle, key: string, options?: QualityOptions): [string, string][] {
  const { offences } = qualityOf(plan, options).findings.find(({ finding }) => finding.key === key)!;
  return offences.map((each) => [plan.activities[each.at]!.id, each.words()]);
}

const chain = (): PlanBundle =>
  planOf(
    [work("a"), work("b"), { id: "m", name: "Done", kind: "milestone" }],
    [
      { from: "a", to: "b" },
      { from: "b", to: "m" },
    ],
    { ...PEOPLE, assignments: staffed("a", "b") },
  );

describe("the verdict", () => {
  it("of a plan that keeps every check is fit, with no reason and nothing to mend", () => {
    expect(qualityOf(chain()).verdict).toEqual({ fitness: "fit", reasons: [], best: null });
  });

  it("names what falls short and how many rows of it would do", () => {
    const plan = { ...chain(), assignments: staffed("a") };
    expect(qualityOf(plan).verdict).toEqual({
      fitness: "mend",
      reasons: [{ check: 10, grave: false, words: "No people or costs: 1 of 2 (50%), none allowed" }],
      best: {
        check: 10,
        rows: 1,
        words: "No people or costs: say who does 1 of them, or what they cost, and the check holds",
      },
    });
  });

  it("is not fit where float is negative, whatever else holds; the grave reason and its mend come first", () => {
    const plan = chain();
    const late = {
      ...plan,
      activities: plan.activities.map((each) => (each.id === "m" ? { ...each, deadline: "2026-03-03" } : each)),
      assignments: staffed("a"),
    };
    const { verdict } = qualityOf(late);
    expect([verdict.fitness, verdict.reasons.map(({ check, grave }) => [check, grave]), verdict.best?.check]).toEqual([
      "unfit",
      [
        [7, true],
        [10, false],
      ],
      7,
    ]);
  });

  it("takes limits set in the place of the published ones, and not for the test that holds or not", () => {
    const plan = { ...chain(), assignments: staffed("a") };
    expect(qualityOf(plan, { limits: { 10: 0.5, 12: 0 } }).verdict.fitness).toBe("fit");
  });

  it("says that work without a duration has no dates", () => {
    const plan = chain();
    const { durationMinutes: _, ...undated } = work("x");
    expect(qualityOf({ ...plan, activities: [...plan.activities, undated] }).verdict).toMatchObject({
      fitness: "mend",
      reasons: [{ check: null, words: "1 without a duration, so without dates" }],
    });
  });
});

describe("the critical path test", () => {
  it("moves the finish as far as the work is made longer, and says to when", () => {
    const plan = chain();
    const test = runPathTest(groundOf(plan, computePlan(plan).schedule, null))!;
    expect([test.tested.activity.id, test.movedMinutes, formatInstant(test.finish)]).toEqual([
      "a",
      600 * 480,
      "2028-06-22T17:00",
    ]);
  });

  it("is the same plan as one with the longer work written into it, begun or not, by its duration or by its people", () => {
    for (const [rest, dataDate] of [
      [{}, undefined],
      [{ actualStart: "2026-03-02", percent: 50 }, "2026-03-02"],
      [{ driver: "effort" }, undefined],
    ] as const) {
      const bare = chain();
      const plan = {
        ...bare,
        project: { ...bare.project, ...(dataDate === undefined ? {} : { dataDate }) },
        activities: bare.activities.map((each) => (each.id === "a" ? { ...each, ...rest } : each)),
      };
      const ground = groundOf(plan, computePlan(plan).schedule, null);
      const test = runPathTest(ground)!;
      expect([test.tested.activity.id, computePlan(lengthened(ground, test)).schedule.finish]).toEqual([
        "a",
        test.finish,
      ]);
    }
  });

  it("does not hold where a finish wish decides the finish", () => {
    const plan = planOf([work("a", { wish: { type: "finishNotBefore", date: "2027-03-05", reason: "season" } })], [], {
      ...PEOPLE,
      assignments: staffed("a"),
    });
    const { checks, verdict } = qualityOf(plan);
    expect([checks[11]!.passes, checks[11]!.offences[0]!.words(), verdict.fitness]).toEqual([
      false,
      "600 d longer, finish 337 d later",
      "unfit",
    ]);
  });

  it("is null where dates would run outside the horizon", () => {
    const plan = planOf([work("a", { wish: { type: "startNotBefore", date: "2098-01-01" } })]);
    expect(qualityOf(plan).checks[11]).toMatchObject({ passes: null, offences: [] });
  });
});

describe("where an impossible date is mended", () => {
  it("is where it stands: the start, the finish or the wish", () => {
    const late = { actualStart: "2026-03-02" };
    const plan = planOf(
      [
        work("a", { actualStart: "2026-03-12" }),
        work("b", { ...late, actualFinish: "2026-03-12" }),
        work("c", { wish: { type: "startNotBefore", date: "2026-03-04" } }),
        work("d", late),
      ],
      [],
      {
        project: {
          code: "P",
          name: "P",
          currency: "EUR",
          start: "2026-03-02",
          calendar: "std",
          dataDate: "2026-03-11",
        },
      },
    );
    expect(qualityOf(plan).checks[8]!.offences.map(({ at, mend }) => [plan.activities[at]!.id, mend])).toEqual([
      ["a", "began"],
      ["b", "ended"],
      ["c", "wish"],
    ]);
  });
});

describe("findings about the plan", () => {
  const links = (type: Link["type"]): PlanBundle =>
    planOf([work("a"), work("b")], [{ from: "a", to: "b", type: type! }]);

  it("name work whose start, or whose finish, nothing decides", () => {
    expect(named(links("FF"), "danglingStarts")).toEqual([["b", "nothing decides its start"]]);
    expect(named(links("SS"), "danglingFinishes")).toEqual([["a", "nothing waits for its finish"]]);
    expect(named(links("FS"), "danglingStarts")).toEqual([]);
  });

  it("name what was begun before what it waits for, in the words of the link", () => {
    const plan = planOf(
      [work("a"), work("b", { actualStart: "2026-03-03", percent: 10 })],
      [{ from: "a", to: "b", lagMinutes: 480 }],
      {
        project: {
          code: "P",
          name: "P",
          currency: "EUR",
          start: "2026-03-02",
          calendar: "std",
          dataDate: "2026-03-04",
        },
      },
    );
    expect(named(plan, "outOfSequence")).toEqual([["b", "should be: starts 1 d after Work a finishes"]]);
  });

  it("do not name what was begun on the day on which what it waits for was finished", () => {
    const plan = planOf(
      [
        work("a", { actualStart: "2026-03-02", actualFinish: "2026-03-04" }),
        work("b", { actualStart: "2026-03-04" }),
        work("c", { actualStart: "2026-03-03" }),
      ],
      [
        { from: "a", to: "b" },
        { from: "a", to: "c" },
      ],
      {
        project: {
          code: "P",
          name: "P",
          currency: "EUR",
          start: "2026-03-02",
          calendar: "std",
          dataDate: "2026-03-04",
        },
      },
    );
    expect(named(plan, "outOfSequence")).toEqual([["c", "should be: starts after Work a finishes"]]);
  });

  it("name links from level of effort, wishes without a reason, and where many links meet", () => {
    const many = Array.from({ length: 9 }, (_, i) => work(`w${i}`));
    const plan = planOf(
      [
        { id: "l", name: "Watch", kind: "levelOfEffort" },
        work("b", { wish: { type: "startNotBefore", date: "2026-03-09", reason: " " } }),
        ...many,
      ],
      [{ from: "l", to: "b" }, ...many.map(({ id }) => ({ from: id, to: "b" }))],
    );
    expect(named(plan, "linksFromLevelOfEffort")).toEqual([["b", "waits for Watch"]]);
    expect(named(plan, "wishesWithoutReason")).toEqual([["b", "wished for 9 Mar 2026"]]);
    expect(named(plan, "manyLinks")).toEqual([["b", "9 links into it"]]);
  });

  it("name work without an owner, and people without hours", () => {
    const { owner: _, ...nobody } = work("a");
    const plan = planOf([nobody, work("b")], [], {
      ...PEOPLE,
      assignments: [{ activity: "b", person: "p", plannedMinutes: 0 }],
    });
    expect(named(plan, "noOwner")).toEqual([["a", "no owner"]]);
    expect(named(plan, "noEstimate")).toEqual([["b", "people, but no hours"]]);
  });
});

describe("findings about reporting", () => {
  const at = (dataDate: string, activity: Partial<Activity>, extra: Partial<PlanBundle> = {}): PlanBundle =>
    planOf([work("a", { durationMinutes: 4800, actualStart: "2026-03-02", ...activity })], [], {
      ...PEOPLE,
      assignments: staffed("a"),
      ...extra,
      project: { code: "P", name: "P", currency: "EUR", start: "2026-03-02", calendar: "std", dataDate },
    });
  const past = (number: number, date: string, activity: Partial<Activity>): PastPeriod => ({
    number,
    dataDay: parseDate(date)!,
    activities: new Map([["a", work("a", { durationMinutes: 4800, actualStart: "2026-03-02", ...activity })]]),
  });
  const hours = (date: string, minutes = 480) => [
    { activity: "a", person: "p", date, minutes, state: "posted" as const },
  ];

  it("name percent that went back", () => {
    expect(
      named(at("2026-03-20", { percent: 30 }), "percentFell", { periods: [past(2, "2026-03-13", { percent: 50 })] }),
    ).toEqual([["a", "50% in period 2, 30% now"]]);
  });

  it("name work of which nothing remains and which nobody says is finished", () => {
    expect(named(at("2026-03-20", { percent: 100 }), "nothingLeft")).toEqual([["a", "100%, no work remaining"]]);
    expect(named(at("2026-03-20", { percent: 60, remainingMinutes: 0 }), "nothingLeft")).toEqual([
      ["a", "60%, no work remaining"],
    ]);
    for (const open of [
      { percent: 99 },
      { percent: 100, actualFinish: "2026-03-19" },
      { percent: 100, remainingMinutes: 60 },
    ])
      expect(named(at("2026-03-20", open), "nothingLeft")).toEqual([]);
  });

  it("name work that is nearly done for three periods, and not for two", () => {
    const periods = [past(2, "2026-03-20", { percent: 92 }), past(1, "2026-03-13", { percent: 90 })];
    expect(named(at("2026-03-27", { percent: 95 }), "nearlyDone", { periods })).toEqual([
      ["a", "95%, since period 1 at the latest"],
    ]);
    expect(named(at("2026-03-27", { percent: 95 }), "nearlyDone", { periods: periods.slice(0, 1) })).toEqual([]);
  });

  it("name hours without progress and progress without hours, since the last period", () => {
    const periods = [past(1, "2026-03-13", { percent: 20 })];
    expect(
      named(at("2026-03-20", { percent: 20 }, { timeEntries: hours("2026-03-17") }), "hoursWithoutProgress", {
        periods,
      }),
    ).toEqual([["a", "8 h since period 1, no progress"]]);
    expect(
      named(at("2026-03-20", { percent: 40 }, { timeEntries: hours("2026-03-12") }), "progressWithoutHours", {
        periods,
      }),
    ).toEqual([["a", "from 20% to 40% since period 1, no hours"]]);
    expect(
      named(at("2026-03-20", { percent: 40 }, { timeEntries: hours("2026-03-17") }), "progressWithoutHours", {
        periods,
      }),
    ).toEqual([]);
  });

  it("name what remains and never shrinks", () => {
    const periods = [
      past(2, "2026-03-20", { remainingMinutes: 960 }),
      past(1, "2026-03-13", { remainingMinutes: 960 }),
    ];
    expect(named(at("2026-03-27", { remainingMinutes: 1440 }), "neverShrinks", { periods })).toEqual([
      ["a", "3 d remaining, 2 d in period 1"],
    ]);
    expect(named(at("2026-03-27", { remainingMinutes: 480 }), "neverShrinks", { periods })).toEqual([]);
  });

  it("name work of which nothing was heard for longer than may be", () => {
    const plan = at("2026-03-27", {}, { timeEntries: hours("2026-03-11") });
    expect(named(plan, "noUpdate")).toEqual([["a", "nothing since 2026-03-11"]]);
    expect(named(plan, "noUpdate", { silentDays: 16 })).toEqual([]);
    expect(
      named(at("2026-03-27", { percent: 60 }), "noUpdate", { periods: [past(1, "2026-03-20", { percent: 20 })] }),
    ).toEqual([]);
  });

  it("name costs and time after the finish", () => {
    const plan = at(
      "2026-03-27",
      { actualFinish: "2026-03-12" },
      { actualCosts: [{ activity: "a", date: "2026-03-13", amountMinor: 100 }] },
    );
    expect(named(plan, "afterFinish")).toEqual([["a", "finished 12 Mar 2026, booked on 13 Mar 2026"]]);
  });
});
