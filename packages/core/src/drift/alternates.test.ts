import { applyChanges } from "../plan/applyChanges.ts";
import { arrange } from "../plan/acts/arrange.ts";
import { checkWholePlan } from "../plan/check/checkOwnTables.ts";
import { compareAlternates, liveAlternate, makeAlternates } from "./alternates.ts";
import { meetingsOf } from "../plan/acts/meetings.ts";
import { fromBundle, toBundle, type Plan } from "../plan/plan.ts";
import { removePerson } from "../plan/acts/staffing.ts";
import { planOf } from "../testing/plans.ts";

const DAY = 480;
let keys = 0;
const newKey = (): string => `k${++keys}`;

/** Survey, then cross by a bored or a laid pipe, then open. */
const crossing = (): Plan =>
  fromBundle(
    planOf(
      [
        { id: "survey", name: "Survey", durationMinutes: 2 * DAY },
        { id: "bore", name: "Bore", durationMinutes: 3 * DAY },
        { id: "lay", name: "Lay", kind: "summary" },
        { id: "trench", name: "Trench", parent: "lay", durationMinutes: 5 * DAY },
        { id: "open", name: "Open", kind: "milestone" },
      ],
      [
        { from: "survey", to: "bore" },
        { from: "survey", to: "trench" },
        { from: "bore", to: "open" },
        { from: "trench", to: "open" },
      ],
      {
        people: [
          { id: "ann", name: "Ann", rates: [{ from: "2026-01-01", perHourMinor: 6000 }] },
          { id: "bo", name: "Bo", rates: [{ from: "2026-01-01", perHourMinor: 3000 }] },
        ],
        assignments: [
          { activity: "bore", person: "ann", plannedMinutes: 3 * DAY },
          { activity: "trench", person: "bo", plannedMinutes: 5 * DAY },
          { activity: "trench", person: "ann", plannedMinutes: DAY },
        ],
        costs: [{ id: "rig", activity: "bore", category: "plant", plannedMinor: 500_000 }],
      },
    ),
  );

const apply = (plan: Plan, changes: Parameters<typeof applyChanges>[1]): Plan => applyChanges(plan, changes).plan;
const withWays = (): Plan =>
  apply(crossing(), makeAlternates(crossing(), "cross", "Crossing", ["bore", "lay"], newKey));

describe("alternates", () => {
  it("keep the first way live and park the others, with what lies below", () => {
    const plan = withWays();
    expect(checkWholePlan(plan)).toEqual([]);
    expect([plan.activities.get("bore")!.parked, plan.activities.get("lay")!.parked]).toEqual([undefined, true]);
  });

  it("are compared without switching: finish, budget and hours of each (worked by hand)", () => {
    const plan = withWays();
    // Monday 2 March: survey to Tuesday; the bore to Friday 6th, the trench to Tuesday 10th. 24 h at 60 and 5000 of
    // plant; 40 h at 30 and 8 h at 60.
    expect(compareAlternates(plan, "cross")).toEqual([
      {
        activity: "bore",
        name: "Bore",
        live: true,
        finish: "2026-03-06",
        finishDays: 0,
        budgetMinor: 644_000,
        load: [{ person: "Ann", minutes: 1440 }],
        fault: null,
      },
      {
        activity: "lay",
        name: "Lay",
        live: false,
        finish: "2026-03-10",
        finishDays: 2,
        budgetMinor: 168_000,
        load: [
          { person: "Bo", minutes: 2400 },
          { person: "Ann", minutes: 480 },
        ],
        fault: null,
      },
    ]);
  });

  it("switch and switch back to the same plan", () => {
    const plan = withWays();
    const other = apply(plan, liveAlternate(plan, "cross", "lay", newKey));
    expect(checkWholePlan(other)).toEqual([]);
    expect([other.activities.get("bore")!.parked, other.activities.get("lay")!.parked]).toEqual([true, undefined]);
    expect(toBundle(apply(other, liveAlternate(other, "cross", "bore", newKey)))).toEqual(toBundle(plan));
    expect(liveAlternate(plan, "cross", "bore", newKey)).toEqual([]);
  });

  it("cannot be left by work with time on it, and comparing says so", () => {
    const plan = withWays();
    const begun = apply({ ...plan, project: { ...plan.project, dataDate: "2026-03-04" } }, [
      { type: "reportProgress", activity: "bore", actualStart: "2026-03-04" },
    ]);
    expect(compareAlternates(begun, "cross").map(({ live, fault }) => [live, fault])).toEqual([
      [true, null],
      [false, '"Bore" is parked but has actual dates; wake it, or finish or stop the work instead'],
    ]);
    expect(checkWholePlan(apply(begun, liveAlternate(begun, "cross", "lay", newKey)))[0]!.message).toMatch(/parked/);
  });

  it("two live ways, one way in two groups and a way that is gone are refused by name", () => {
    const plan = withWays();
    expect(checkWholePlan(apply(plan, [{ type: "setParked", activity: "lay", parked: false }]))[0]!.message).toBe(
      'of the ways of "Crossing" one may be live; "Bore" and "Lay" are',
    );
    expect(
      checkWholePlan(
        apply(plan, [
          {
            type: "addRow",
            table: "alternates",
            key: "again",
            row: { id: "again", name: "Again", members: ["bore", "trench"] },
          },
        ]),
      )[0]!.message,
    ).toBe('"Bore" is one way of "Crossing" already');
    expect(
      checkWholePlan(
        apply(plan, [{ type: "editRow", table: "alternates", key: "cross", set: { members: ["bore", "ghost"] } }]),
      )[0]!.message,
    ).toMatch(/no activity "ghost"/);
  });

  it("a way that is removed leaves the group, and a group of one goes", () => {
    const plan = withWays();
    const gone = apply(plan, arrange(plan, { verb: "remove", ids: ["lay"] }));
    expect(gone.alternates.size).toBe(0);
    expect(checkWholePlan(gone)).toEqual([]);
  });
});

describe("meetings", () => {
  const meeting = {
    id: "m",
    name: "Toolbox talk",
    activity: "survey",
    date: "2026-03-02",
    weeklyUntil: "2026-03-16",
    minutes: 30,
    people: ["ann", "bo"],
  };
  const plan = apply(crossing(), [
    { type: "addRow", table: "meetings", key: "m", row: meeting },
    {
      type: "addRow",
      table: "meetings",
      key: "once",
      row: { id: "once", name: "Kick-off", activity: "survey", date: "2026-03-03", minutes: 60, people: ["ann"] },
    },
  ]);

  it("are held weekly on their day until they end, or once", () => {
    expect(
      meetingsOf(plan, "ann", "2026-03-01", "2026-03-31").map(({ date, meeting: { id } }) => `${date} ${id}`),
    ).toEqual(["2026-03-02 m", "2026-03-03 once", "2026-03-09 m", "2026-03-16 m"]);
    expect(meetingsOf(plan, "bo", "2026-03-03", "2026-03-08")).toEqual([]);
  });

  it("lose who leaves, and go with their activity", () => {
    const without = apply(plan, removePerson(plan, "bo").slice(0, -1));
    expect(without.meetings.get("m")!.people).toEqual(["ann"]);
    expect(apply(plan, arrange(plan, { verb: "remove", ids: ["survey"] })).meetings.size).toBe(0);
    expect(
      checkWholePlan(
        apply(plan, [
          {
            type: "addRow",
            table: "meetings",
            key: "bad",
            row: { ...meeting, id: "bad", activity: "lay", people: ["zed"] },
          },
        ]),
      ).map(({ message }) => message),
    ).toEqual([
      'the meeting "Toolbox talk" needs an activity that takes time',
      'there is no person "zed" for the meeting "Toolbox talk"',
    ]);
  });
});
