import fc from "fast-check";
import { schedulePlan } from "../network/schedule.ts";
import { applyChanges } from "../plan/applyChanges.ts";
import { fromBundle, toBundle, type Plan } from "../plan/plan.ts";
import type { Activity, PlanBundle } from "../plan/schema.ts";
import { planOf } from "../testing/plans.ts";
import { formatDate } from "../time/instant.ts";
import { acceptReports, type Ending } from "./acceptReports.ts";
import { holdWindows } from "./holdWindow.ts";
import type { ReportContent } from "./report.ts";

const HOUR = 60;
const DAY = 8 * HOUR;
const people = ["ann", "bo", "cy"].map((id) => ({ id, name: id.charAt(0).toUpperCase() + id.slice(1) }));

/** Three people on one piece of work from Monday 2 March 2026, a week each unless said otherwise; the data date is the Friday before. */
const three = (
  hours: Partial<Record<string, number>> = {},
  work: Partial<Activity> = { driver: "effort" },
  extra: Partial<PlanBundle> = {},
): Plan =>
  fromBundle(
    planOf(
      [
        { id: "lay", name: "Lay cable", ...work },
        { id: "lit", name: "Lit", kind: "milestone" },
      ],
      [{ from: "lay", to: "lit" }],
      {
        people,
        assignments: people.map(({ id: person }) => ({
          activity: "lay",
          person,
          plannedMinutes: (hours[person] ?? 40) * HOUR,
        })),
        ...extra,
        project: { ...planOf([]).project, dataDate: "2026-02-27", ...extra.project },
      },
    ),
  );

const report = (personId: string, date: string, what: Partial<ReportContent>): ReportContent => ({
  id: `${personId}${date}${JSON.stringify(what)}`,
  activityId: "lay",
  personId,
  date,
  leaveUntil: null,
  minutes: null,
  percent: null,
  remainingMinutes: null,
  note: "",
  ...what,
});
const hours = (personId: string, date: string, amount: number, what: Partial<ReportContent> = {}): ReportContent =>
  report(personId, date, { minutes: amount * HOUR, ...what });

const STAGED: NonNullable<Activity["credit"]> = {
  rule: "stages",
  stages: ["Drawn", "Laid", "Tested"].map((name, i) => ({ name, credit: i * 40 })),
  stage: "Drawn",
};

const finishOf = (plan: Plan, id = "lay"): string =>
  formatDate(schedulePlan(toBundle(plan)).rows[[...plan.activities.keys()].indexOf(id)]!.finishDay);

function ordersOf<T>(list: readonly T[]): T[][] {
  return list.length < 2
    ? [[...list]]
    : list.flatMap((first, i) => ordersOf([...list.slice(0, i), ...list.slice(i + 1)]).map((rest) => [first, ...rest]));
}

/** Accepts reports one by one; gives the plan after each. */
function oneByOne(plan: Plan, reports: readonly ReportContent[], ending: Ending = "all"): Plan[] {
  const endings = new Map(reports.map(({ id }) => [id, ending]));
  const plans: Plan[] = [];
  let at = plan;
  reports.forEach((one, i) =>
    plans.push(
      (at = applyChanges(at, acceptReports(at, [one], { earlier: reports.slice(0, i), endings }).changes).plan),
    ),
  );
  return plans;
}

/** What is left of people's work says nothing of what is finished. */
const facts = (plan: Plan) => {
  const lay = plan.activities.get("lay")!;
  return {
    finish: finishOf(plan),
    lit: finishOf(plan, "lit"),
    lay,
    people: lay.actualFinish === undefined ? [...plan.assignments.values()] : [],
  };
};

/** Holds after every order of arrival, one by one and all at once as the days go. */
function inAllOrders(plan: Plan, reports: readonly ReportContent[], ending: Ending = "all") {
  const ends = ordersOf(reports).map((order) => facts(oneByOne(plan, order, ending).at(-1)!));
  for (const end of ends) expect(end).toEqual(ends[0]);
  const byDay = [...reports].sort((a, b) => (a.date < b.date ? -1 : 1));
  const atOnce = applyChanges(
    plan,
    acceptReports(plan, byDay, { endings: new Map(reports.map(({ id }) => [id, ending])) }).changes,
  ).plan;
  expect(facts(atOnce)).toEqual(ends[0]);
  return ends[0]!;
}

const onMonday = [hours("ann", "2026-03-02", 8), hours("bo", "2026-03-02", 8)];

describe("whatever order reports come in", () => {
  it("the first time booked begins the activity", () => {
    const { lay, finish } = inAllOrders(three(), [
      ...onMonday,
      hours("ann", "2026-03-03", 8),
      hours("cy", "2026-03-02", 8),
    ]);
    expect([lay!.actualStart, finish]).toEqual(["2026-03-02", "2026-03-06"]);
  });

  it("a late starter who is not last moves nobody, at no moment", () => {
    const plan = three({ cy: 24 });
    const late = [...onMonday, hours("cy", "2026-03-03", 8)];
    for (const order of ordersOf(late))
      expect(oneByOne(plan, order).map((each) => finishOf(each))).toEqual(["2026-03-06", "2026-03-06", "2026-03-06"]);
    expect(inAllOrders(plan, late)).toMatchObject({ finish: "2026-03-06", lay: { actualStart: "2026-03-02" } });
  });

  it("a late starter who is last moves the finish by as much, and the others by nothing", () => {
    const late = [...onMonday, hours("cy", "2026-03-03", 8)];
    expect(inAllOrders(three(), late)).toMatchObject({
      finish: "2026-03-09",
      lit: "2026-03-09",
      people: [{ restart: "2026-03-03" }, { restart: "2026-03-03" }, { restart: "2026-03-04" }],
    });
    for (const order of ordersOf(late))
      for (const plan of oneByOne(three(), order)) expect(plan.activities.get("lay")!.actualStart).toBe("2026-03-02");
  });

  it("where all begin late, the first of them begins the activity once all have reported", () => {
    const late = [hours("ann", "2026-03-04", 8), hours("bo", "2026-03-03", 8), hours("cy", "2026-03-05", 8)];
    expect(inAllOrders(three(), late)).toMatchObject({ lay: { actualStart: "2026-03-03" }, finish: "2026-03-11" });
    const { assumed } = acceptReports(three(), late.slice(0, 1));
    expect(assumed).toEqual([{ activity: "lay", name: "Lay cable", start: "2026-03-02", people: ["Bo", "Cy"] }]);
    expect(acceptReports(three(), [...onMonday, ...late]).assumed).toEqual([]);
  });

  it("those on leave at the start are not taken to have begun", () => {
    const away = three(
      {},
      { driver: "effort" },
      {
        calendars: [
          ...planOf([]).calendars,
          { id: "away", name: "Away", base: "std", exceptions: [{ from: "2026-03-02", to: "2026-03-04", shifts: [] }] },
        ],
        people: people.map((person) => (person.id === "ann" ? person : { ...person, calendar: "away" })),
      },
    );
    expect(acceptReports(away, [hours("ann", "2026-03-03", 8)])).toMatchObject({
      assumed: [],
      changes: [{ type: "postTime" }, { actualStart: "2026-03-03" }, {}],
    });
  });

  it("work that was to begin in the middle of a day keeps its minute", () => {
    const plan = fromBundle(
      planOf(
        [
          { id: "dig", name: "Dig", durationMinutes: 4 * HOUR },
          { id: "lay", name: "Lay", driver: "effort" },
        ],
        [{ from: "dig", to: "lay" }],
        {
          people,
          assignments: people.map(({ id: person }) => ({ activity: "lay", person, plannedMinutes: 40 * HOUR })),
        },
      ),
    );
    const { finish } = schedulePlan(toBundle(plan)).rows[1]!;
    const dated = applyChanges(plan, [{ type: "setDataDate", date: "2026-02-27" }]).plan;
    const after = oneByOne(dated, [hours("cy", "2026-03-04", 1, { remainingMinutes: 60 })]).at(-1)!;
    expect(after.activities.get("lay")!.actualStart).toBe("2026-03-02T13:00");
    expect(schedulePlan(toBundle(after)).rows[1]!.finish).toBe(finish);
  });

  it("leave booked later moves what remains of its person's work alone", () => {
    const away = report("cy", "2026-03-03", { activityId: "", leaveUntil: "2026-03-05" });
    expect(inAllOrders(three(), [...onMonday, away, hours("cy", "2026-03-02", 8)]).finish).toBe("2026-03-11");
    expect(inAllOrders(three({ cy: 16 }), [...onMonday, away, hours("cy", "2026-03-02", 8)]).finish).toBe("2026-03-06");
  });

  it("work beyond the finish extends it", () => {
    const reports = [
      hours("ann", "2026-03-02", 8, { percent: 100 }),
      hours("bo", "2026-03-05", 4),
      hours("cy", "2026-03-03", 4),
    ];
    expect(inAllOrders(three(), reports).lay).toMatchObject({
      actualStart: "2026-03-02",
      actualFinish: "2026-03-05",
      percent: 100,
    });
  });

  it("hours that someone says remain stand against earlier days that come late, and move the finish by what was raised", () => {
    const reports = [
      hours("bo", "2026-03-02", 8),
      hours("bo", "2026-03-03", 8, { remainingMinutes: 40 * HOUR }),
      hours("ann", "2026-03-02", 8),
      hours("cy", "2026-03-02", 8),
    ];
    expect(inAllOrders(three(), reports)).toMatchObject({
      finish: "2026-03-10",
      people: [{ remainingMinutes: 32 * HOUR }, { remainingMinutes: 40 * HOUR }, { remainingMinutes: 32 * HOUR }],
    });
  });

  it("the percent of the latest day stands, and an earlier one reopens nothing", () => {
    expect(
      inAllOrders(three(), [report("ann", "2026-03-03", { percent: 40 }), report("bo", "2026-03-02", { percent: 20 })])
        .lay.percent,
    ).toBe(40);
    expect(
      inAllOrders(three(), [report("ann", "2026-03-04", { percent: 100 }), report("bo", "2026-03-02", { percent: 20 })])
        .lay,
    ).toMatchObject({ percent: 100, actualFinish: "2026-03-04" });
  });

  it("somebody's 100% ends only their own work while others have hours; the last of them ends the activity", () => {
    const plan = three({}, { driver: "effort", percent: 30, actualStart: "2026-02-27" });
    const [ann, bo, cy] = [
      hours("ann", "2026-03-03", 8, { percent: 100 }),
      hours("bo", "2026-03-04", 8, { percent: 100 }),
      report("cy", "2026-03-05", { percent: 100 }),
    ];
    expect(inAllOrders(plan, [ann, bo], "own")).toMatchObject({
      lay: { percent: 30 },
      people: [{ remainingMinutes: 0 }, { remainingMinutes: 0 }, { plannedMinutes: 40 * HOUR }],
    });
    expect(inAllOrders(plan, [ann, bo, cy], "own").lay).toMatchObject({ percent: 100, actualFinish: "2026-03-05" });
    expect(inAllOrders(plan, [ann], "all").lay).toMatchObject({ percent: 100, actualFinish: "2026-03-03" });
    expect(acceptReports(plan, [ann, bo]).asked).toEqual([
      {
        report: ann.id,
        activity: "lay",
        name: "Lay cable",
        person: "Ann",
        others: [
          { person: "Bo", leftMinutes: 28 * HOUR },
          { person: "Cy", leftMinutes: 28 * HOUR },
        ],
        answer: null,
      },
      {
        report: bo.id,
        activity: "lay",
        name: "Lay cable",
        person: "Bo",
        others: [{ person: "Cy", leftMinutes: 28 * HOUR }],
        answer: null,
      },
    ]);
    // Without an answer nobody else's work is ended.
    expect(
      applyChanges(plan, acceptReports(plan, [ann]).changes).plan.activities.get("lay")!.actualFinish,
    ).toBeUndefined();
    expect(acceptReports(three({ bo: 0, cy: 0 }), [ann]).asked).toEqual([]);
  });

  it("a held window keeps its finish, and tells who has more than fits", () => {
    const reports = [...onMonday, hours("cy", "2026-03-04", 8)];
    for (const order of ordersOf(reports)) {
      const before = three();
      const after = oneByOne(before, order).at(-1)!;
      const { changes, windows } = holdWindows(before, after, ["lay"], new Set(["lay"]));
      expect(finishOf(applyChanges(after, changes).plan)).toBe("2026-03-06");
      expect(windows[0]!.load.filter(({ leftMinutes, roomMinutes }) => leftMinutes > roomMinutes)).toEqual([
        { person: "Cy", leftMinutes: 32 * HOUR, roomMinutes: 2 * DAY },
      ]);
    }
  });

  it("the stage of the latest day stands; one that earns anything begins the activity", () => {
    const plan = three({}, { driver: "effort", credit: STAGED });
    const said = [
      report("ann", "2026-03-04", { stage: "Tested" }),
      report("bo", "2026-03-03", { stage: "Laid" }),
      report("cy", "2026-03-02", { stage: "Drawn" }),
    ];
    expect(inAllOrders(plan, said)).toMatchObject({ lay: { credit: { stage: "Tested" } } });
    const nothing = [report("ann", "2026-03-02", { stage: "Drawn" }), report("bo", "2026-03-03", { stage: "Painted" })];
    expect(acceptReports(plan, nothing).changes).toEqual([]);
    expect(acceptReports(three(), said).changes).toEqual([]);
  });

  it("law: hours of any people on any days, with stages or without, come to the same", () => {
    const one = fc.record({
      stage: fc.constantFrom(null, "Drawn", "Laid", "Tested"),
      person: fc.constantFrom("ann", "bo", "cy"),
      day: fc.integer({ min: 2, max: 13 }),
      amount: fc.integer({ min: 1, max: 10 }),
      left: fc.option(fc.integer({ min: 0, max: 60 }), { nil: null }),
    });
    fc.assert(
      fc.property(
        fc
          .uniqueArray(one, { minLength: 1, maxLength: 4, selector: ({ person, day }) => `${person}${day}` })
          // Of two who say a stage of the same day, whoever is accepted last is right: one a day says one.
          .map((said) =>
            said.map((each, i) =>
              said.findIndex(({ day }) => day === each.day) === i ? each : { ...each, stage: null },
            ),
          ),
        fc.constantFrom<Partial<Activity>>(
          { driver: "effort" },
          { windowPolicy: "drift", durationMinutes: 2400 },
          { durationMinutes: 2400 },
          { driver: "effort", credit: STAGED },
        ),
        (said, work) => {
          const reports = said.map(({ person, day, amount, left, stage }) =>
            hours(person, `2026-03-${String(day).padStart(2, "0")}`, amount, {
              remainingMinutes: left === null ? null : left * HOUR,
              stage,
            }),
          );
          inAllOrders(three({ ann: 100, bo: 100, cy: 100 }, work), reports);
        },
      ),
    );
  });
});

/** The window of the trade's facts (common practice, no source): 63 working days from 1 October to 31 December 2015, three people evenly to the last day. */
describe("a quarter that three people share, as reports come in", () => {
  const calendars = [
    {
      ...planOf([]).calendars[0]!,
      exceptions: ["2015-11-26", "2015-11-27", "2015-12-25"].map((day) => ({ from: day, to: day, shifts: [] })),
    },
  ];
  const quarter = three(
    { ann: 63 * 8, bo: 63 * 8, cy: 63 * 8 },
    { driver: "effort" },
    { calendars, project: { ...planOf([]).project, start: "2015-10-01", dataDate: "2015-09-30" } },
  );

  it("whoever begins a day late ends on 1 January, and with three days of leave on 5 January: not before, whichever is told first", () => {
    expect(finishOf(quarter)).toBe("2015-12-31");
    const late = hours("bo", "2015-10-02", 8);
    const away = report("cy", "2015-11-03", { activityId: "", leaveUntil: "2015-11-05" });
    const begun = [hours("ann", "2015-10-01", 8), hours("cy", "2015-10-01", 8)];
    expect(inAllOrders(quarter, [late, ...begun]).finish).toBe("2016-01-01");
    expect(inAllOrders(quarter, [late, away, ...begun]).finish).toBe("2016-01-05");
    expect(oneByOne(quarter, [late]).map((plan) => finishOf(plan))).toEqual(["2016-01-01"]);
  });
});
