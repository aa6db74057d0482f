import { addBusinessDays, differenceInBusinessDays, isWeekend } from "date-fns";
import fc from "fast-check";
import { schedulePlan } from "../network/schedule.ts";
import { checkWholePlan } from "../plan/check/checkOwnTables.ts";
import { fromBundle, toBundle, type Plan } from "../plan/plan.ts";
import type { PlanBundle } from "../plan/schema.ts";
import { networks, planOf } from "../testing/plans.ts";
import { finishDayOf, formatDate, parseDate } from "../time/instant.ts";
import { beginAnew, type TakenAlong } from "./beginAnew.ts";
import { branchAsPlan } from "./branchAsPlan.ts";
import { joined } from "./joined.ts";
import { movedTo } from "./movedTo.ts";
import { repeated } from "./repeated.ts";
import { startForFinish } from "./startForFinish.ts";

const ALL: TakenAlong = { people: "people", costs: true, risks: true, deadlines: true };
const DAY = 480;

const finishOf = (plan: Plan): string | null => {
  const { finish } = schedulePlan(toBundle(plan));
  return finish === null ? null : formatDate(finishDayOf(finish));
};

/** A pier in two sections: driven, then decked; a survey before, an opening after. */
const PIER: PlanBundle = planOf(
  [
    {
      id: "survey",
      name: "Survey",
      durationMinutes: 2 * DAY,
      percent: 100,
      actualStart: "2026-03-02",
      actualFinish: "2026-03-04",
    },
    { id: "section", name: "Section", kind: "summary" },
    {
      id: "drive",
      name: "Drive",
      parent: "section",
      durationMinutes: 3 * DAY,
      owner: "ann",
      actualStart: "2026-03-05",
    },
    { id: "deck", name: "Deck", parent: "section", driver: "effort" },
    {
      id: "open",
      name: "Open",
      kind: "milestone",
      deadline: "2026-03-31",
      wish: { type: "startNotBefore", date: "2026-03-16" },
      credit: { rule: "steps", steps: [{ name: "Rope cut", weight: 1, doneOn: "2026-03-20" }] },
    },
  ],
  [
    { from: "survey", to: "drive" },
    { from: "drive", to: "deck" },
    { from: "deck", to: "open" },
  ],
  {
    project: { dataDate: "2026-03-10" } as never,
    people: [
      { id: "ann", name: "Ann", role: "Diver", rates: [{ from: "2026-01-01", perHourMinor: 5000 }] },
      { id: "bob", name: "Bob", role: "Diver" },
      { id: "cy", name: "Cy" },
    ],
    assignments: [
      { activity: "drive", person: "ann", plannedMinutes: 3 * DAY, remainingMinutes: 100 },
      { activity: "deck", person: "bob", plannedMinutes: 4 * DAY },
      { activity: "deck", person: "cy", plannedMinutes: DAY },
    ],
    costs: [{ id: "k1", activity: "deck", category: "Timber", plannedMinor: 70_000 }],
    timeEntries: [{ activity: "survey", person: "ann", date: "2026-03-02", minutes: 480, state: "posted" }],
  },
);
const pier = (): Plan => {
  const plan = fromBundle(PIER);
  return {
    ...plan,
    ranges: new Map([["drive", { low: 80, likely: 100, high: 150 }]]),
    risks: new Map([
      [
        "r",
        {
          id: "r",
          name: "Ice",
          probability: 0.2,
          effects: [{ activity: "drive", minutes: { low: 0, likely: 60, high: 90 } }],
        },
      ],
    ]),
    meetings: new Map([
      [
        "m",
        {
          id: "m",
          name: "Weekly",
          activity: "drive",
          date: "2026-03-05",
          weeklyUntil: "2026-03-26",
          minutes: 60,
          people: ["ann"],
        },
      ],
    ]),
    notes: new Map([["deck", { priority: "high", checks: [{ id: "t", text: "Tide table", done: true }] }]]),
    blocks: new Map([["deck", { by: "no crane", since: "2026-03-09", saidBy: "Ann" }]]),
  };
};

describe("a plan begun anew", () => {
  it("leaves all that happened behind, and keeps what was meant", () => {
    const anew = beginAnew(pier(), ALL);
    expect(checkWholePlan(anew)).toEqual([]);
    expect(anew.project.dataDate).toBeUndefined();
    expect([anew.timeEntries.size, anew.actualCosts.size, anew.baselines.size, anew.blocks.size]).toEqual([0, 0, 0, 0]);
    expect(anew.activities.get("survey")).toEqual({ id: "survey", name: "Survey", durationMinutes: 2 * DAY });
    expect(anew.activities.get("open")!.credit).toEqual({ rule: "steps", steps: [{ name: "Rope cut", weight: 1 }] });
    expect([...anew.assignments.values()][0]).toEqual({ activity: "drive", person: "ann", plannedMinutes: 3 * DAY });
    expect([anew.costs.size, anew.risks.size, anew.ranges.size, anew.meetings.size]).toEqual([1, 1, 1, 1]);
    expect(anew.notes.get("deck")).toEqual({ priority: "high", checks: [{ id: "t", text: "Tide table" }] });
  });

  it("puts roles in the place of people, whose work and rates stay", () => {
    const anew = beginAnew(pier(), { ...ALL, people: "roles" });
    expect(checkWholePlan(anew)).toEqual([]);
    expect([...anew.people.values()].map(({ id, name }) => [id, name])).toEqual([
      ["role-diver", "Diver"],
      ["role-diver-2", "Diver 2"],
      ["role-someone", "Someone"],
    ]);
    expect(anew.people.get("role-diver")!.rates).toEqual([{ from: "2026-01-01", perHourMinor: 5000 }]);
    expect([...anew.placeholders.keys()]).toEqual([...anew.people.keys()]);
    expect(anew.activities.get("drive")!.owner).toBe("role-diver");
    expect(anew.meetings.size).toBe(0);
  });

  it("makes durations of hours where nobody comes along, so that the dates stay", () => {
    const bare = beginAnew(pier(), { people: "none", costs: false, risks: false, deadlines: false });
    expect(checkWholePlan(bare)).toEqual([]);
    expect([bare.people.size, bare.assignments.size, bare.costs.size, bare.risks.size]).toEqual([0, 0, 0, 0]);
    expect(bare.activities.get("deck")).toEqual({
      id: "deck",
      name: "Deck",
      parent: "section",
      durationMinutes: 4 * DAY,
    });
    expect(bare.activities.get("open")!.deadline).toBeUndefined();
    expect(finishOf(bare)).toBe(finishOf(beginAnew(pier(), ALL)));
  });
});

describe("dates that move with the start", () => {
  // date-fns counts business days of five a week, as the standard calendar here does.
  const day = (date: string): Date => new Date(`${date}T00:00:00`);
  const iso = (date: Date): string =>
    [date.getFullYear(), date.getMonth() + 1, date.getDate()].map((n) => String(n).padStart(2, "0")).join("-");
  const days = fc.integer({ min: 12_000, max: 16_000 }).map((n) => formatDate(n as never));

  it("lie as many worked days after it as before, as date-fns counts them", () => {
    fc.assert(
      fc.property(days, fc.integer({ min: 0, max: 400 }), days, (from, on, to) => {
        const worked = iso(addBusinessDays(isWeekend(day(from)) ? addBusinessDays(day(from), 1) : day(from), on));
        const bundle = planOf([
          {
            id: "a",
            name: "A",
            durationMinutes: DAY,
            deadline: worked,
            wish: { type: "startNotBefore", date: worked },
          },
        ]);
        const plan = fromBundle({ ...bundle, project: { ...bundle.project, start: from } });
        const { deadline, wish } = movedTo(plan, to).activities.get("a")!;
        const first = isWeekend(day(to)) ? addBusinessDays(day(to), 1) : day(to);
        expect(wish!.date).toBe(deadline);
        expect(differenceInBusinessDays(day(deadline!), first)).toBe(on);
      }),
    );
  });

  it("come back to where they were by the way back, and never onto a day off", () => {
    fc.assert(
      fc.property(networks({ calendars: ["std"] }), days, (bundle, to) => {
        const plan = fromBundle(bundle);
        const there = movedTo(plan, to);
        for (const { wish, deadline } of there.activities.values())
          for (const date of [wish?.date, deadline]) if (date !== undefined) expect(isWeekend(day(date))).toBe(false);
        const back = movedTo(there, plan.project.start);
        expect(movedTo(back, to)).toEqual(there);
      }),
      { numRuns: 60 },
    );
  });

  it("keep the weekday of weekly meetings, and leave and rates where they are", () => {
    const moved = movedTo(beginAnew(pier(), ALL), "2026-06-03");
    const { date, weeklyUntil } = [...moved.meetings.values()][0]!;
    expect([day(date).getDay(), day(weeklyUntil!).getDay()]).toEqual([4, 4]);
    expect(moved.people).toEqual(fromBundle(PIER).people);
    expect(moved.calendars).toEqual(fromBundle(PIER).calendars);
  });

  it("that would lie outside the calendar are refused by name", () => {
    expect(() => movedTo(beginAnew(pier(), ALL), "2099-12-25")).toThrow(/“Open”/);
  });
});

describe("going back from a finish", () => {
  it("finds the last start that keeps it, as trying every day does", () => {
    const plan = beginAnew(pier(), { ...ALL, deadlines: false });
    for (const finish of ["2026-04-30", "2026-05-03", "2026-07-17"]) {
      const found = startForFinish(plan, finish, "2026-03-02");
      let best = "";
      for (let n = parseDate("2026-03-02")!; n <= parseDate(finish)!; n++) {
        const start = formatDate(n);
        if (finishOf(movedTo(plan, start))! <= finish) best = start;
      }
      expect(found).toEqual({ start: best });
    }
  });

  it("says the earliest finish where it cannot be kept", () => {
    const plan = beginAnew(pier(), ALL);
    const earliest = finishOf(movedTo(plan, "2026-05-04"))!;
    expect(startForFinish(plan, "2026-05-06", "2026-05-04")).toEqual({ earliestFinish: earliest });
    expect(startForFinish(plan, earliest, "2026-05-04")).toMatchObject({ start: expect.any(String) });
  });

  it("holds for random plans: in time from there, too late a month on", () => {
    fc.assert(
      fc.property(networks({ calendars: ["std", "seven"] }), (bundle) => {
        const plan = beginAnew(fromBundle(bundle), { ...ALL, deadlines: false });
        const wanted = "2027-06-30";
        const found = startForFinish(plan, wanted, "2026-01-01");
        if ("earliestFinish" in found) return expect(found.earliestFinish > wanted).toBe(true);
        const finish = finishOf(movedTo(plan, found.start));
        expect(finish === null || finish <= wanted).toBe(true);
      }),
      { numRuns: 60 },
    );
  });
});

describe("a branch that stands several times", () => {
  const three = (inTurn: boolean) => repeated(beginAnew(pier(), ALL), { activity: "section", times: 3, inTurn });

  it("is copied with its work, people, costs, risks and links, side by side", () => {
    const plan = three(false);
    expect(checkWholePlan(plan)).toEqual([]);
    expect([...plan.activities.values()].map(({ name }) => name)).toEqual([
      "Survey",
      "Section 1",
      "Drive",
      "Deck",
      "Section 2",
      "Drive",
      "Deck",
      "Section 3",
      "Drive",
      "Deck",
      "Open",
    ]);
    expect([plan.assignments.size, plan.costs.size, plan.ranges.size, plan.meetings.size]).toEqual([9, 3, 3, 3]);
    expect(plan.risks.get("r")!.effects.map(({ activity }) => activity)).toEqual(["drive", "drive-2", "drive-3"]);
    expect(plan.links.size).toBe(9);
    expect(finishOf(plan)).toBe(finishOf(beginAnew(pier(), ALL)));
  });

  it("comes one after the other where it is to: later by what each takes", () => {
    const plan = three(true);
    expect(checkWholePlan(plan)).toEqual([]);
    const one = schedulePlan(toBundle(beginAnew(pier(), ALL)));
    const all = schedulePlan(toBundle(plan));
    const at = (schedule: typeof one, bundle: PlanBundle, id: string) =>
      schedule.rows[bundle.activities.findIndex((row) => row.id === id)]!;
    const bundle = toBundle(plan);
    const calendar = all.calendars.get("std");
    const worked = (from: number, to: number): number =>
      calendar.indexAt(to as never) - calendar.indexAt(from as never);
    const alone = toBundle(beginAnew(pier(), ALL));
    const each = worked(at(one, alone, "drive").start, at(one, alone, "deck").finish);
    expect(worked(at(all, bundle, "drive").start, at(all, bundle, "deck-3").finish)).toBe(3 * each);
  });

  it("comes in turn by a milestone where several ends meet several beginnings, not by each to each", () => {
    const wide = fromBundle(
      planOf([
        { id: "bay", name: "Bay", kind: "summary" },
        ...["a", "b", "c"].map((id) => ({ id, name: id, parent: "bay", durationMinutes: DAY })),
        { id: "last", name: "Last", durationMinutes: DAY },
      ]),
    );
    const plan = repeated(wide, { activity: "bay", times: 3, inTurn: true });
    expect(checkWholePlan(plan)).toEqual([]);
    expect([...plan.activities.values()].map(({ name }) => name)).toEqual([
      ...["Bay 1", "a", "b", "c", "Bay 1 complete", "Bay 2", "a", "b", "c", "Bay 2 complete", "Bay 3", "a", "b", "c"],
      "Last",
    ]);
    expect(plan.links.size).toBe(12);
    expect(finishOf(plan)).toBe("2026-03-04");
  });

  it("once is as it was; of a row that is not there too", () => {
    const plan = beginAnew(pier(), ALL);
    expect(repeated(plan, { activity: "section", times: 1, inTurn: true })).toBe(plan);
    expect(repeated(plan, { activity: "gone", times: 4, inTurn: true })).toBe(plan);
  });

  it("holds whatever the plan: nothing is lost, and it can be scheduled", () => {
    fc.assert(
      fc.property(networks({ calendars: ["std"] }), fc.integer({ min: 2, max: 4 }), (bundle, times) => {
        const plan = beginAnew(fromBundle(bundle), ALL);
        const root = [...plan.activities.keys()][0]!;
        const next = repeated(plan, { activity: root, times, inTurn: false });
        expect(checkWholePlan(next)).toEqual([]);
        expect(next.activities.size).toBe(
          plan.activities.size + (times - 1) * branchAsPlan(plan, root).activities.size,
        );
        schedulePlan(toBundle(next));
      }),
      { numRuns: 60 },
    );
  });
});

describe("plans put together", () => {
  const head = { code: "W", name: "Waterfront", currency: "EUR", start: "2026-05-04" };
  it("follow one another, each a branch; what they have in common is there once", () => {
    const part = beginAnew(pier(), { ...ALL, people: "roles" });
    const plan = joined(head, [
      { name: "North", plan: part },
      { name: "South", plan: part },
    ]);
    expect(checkWholePlan(plan)).toEqual([]);
    expect(plan.people.size).toBe(3);
    expect(plan.calendars.size).toBe(3);
    const tops = [...plan.activities.values()].filter(({ parent }) => parent === undefined);
    expect(tops.map(({ name, kind }) => [name, kind])).toEqual([
      ["North", "summary"],
      ["North complete", "milestone"],
      ["South", "summary"],
    ]);
    const bundle = toBundle(plan);
    const schedule = schedulePlan(bundle);
    const at = (name: string) => schedule.rows[bundle.activities.findIndex((row) => row.name === name)]!;
    expect(at("North complete").finish).toBeLessThanOrEqual(at("South").start);
    expect(at("North").finish).toBeLessThanOrEqual(at("South").start);
    // Its wish lies as far from its own beginning as in the other part.
    const opens = bundle.activities.filter(({ name }) => name === "Open");
    expect(opens[0]!.wish!.date < opens[1]!.wish!.date).toBe(true);
  });

  it("keep calendars of one id and another week apart", () => {
    const one = beginAnew(fromBundle(planOf([{ id: "a", name: "A", durationMinutes: DAY }])), ALL);
    const other = beginAnew(
      fromBundle({
        ...planOf([{ id: "a", name: "A", durationMinutes: DAY }]),
        calendars: [{ id: "std", name: "Standard", week: { sat: [["08:00", "16:00"]] } }],
      }),
      ALL,
    );
    const plan = joined(head, [
      { name: "Weekdays", plan: one },
      { name: "Saturdays", plan: other },
    ]);
    expect(checkWholePlan(plan)).toEqual([]);
    const last = [...plan.activities.values()].at(-1)!;
    expect(plan.calendars.get(last.calendar!)!.week).toEqual({ sat: [["08:00", "16:00"]] });
    expect(finishOf(plan)).toBe("2026-05-09");
  });
});

describe("a branch as a plan of its own", () => {
  it("has its rows and what hangs on them, and no link to the outside", () => {
    const plan = branchAsPlan(beginAnew(pier(), ALL), "section");
    expect(checkWholePlan(plan)).toEqual([]);
    expect([...plan.activities.keys()]).toEqual(["section", "drive", "deck"]);
    expect([...plan.links.values()]).toEqual([{ from: "drive", to: "deck" }]);
    expect([...plan.people.keys()]).toEqual(["ann", "bob", "cy"]);
    expect([plan.assignments.size, plan.risks.size]).toEqual([3, 1]);
  });
});
