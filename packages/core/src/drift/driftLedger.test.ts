import fc from "fast-check";
import type { Activity, Link, PlanBundle } from "../plan/schema.ts";
import { networks, planOf, STANDARD } from "../testing/plans.ts";
import { LiveDates } from "../network/liveDates.ts";
import { schedulePlan } from "../network/schedule.ts";
import { DATA_DATE, livedPlans } from "../testing/livedPlans.ts";
import { compileCalendars } from "../plan/compileCalendars.ts";
import { epochDay, formatDate, parseDate } from "../time/instant.ts";
import { asForecast } from "./asForecast.ts";
import { driftLedger } from "./driftLedger.ts";

const DAY = 480;

/** Survey, dig and pour in a row, and a milestone; Bo digs by effort. Monday 2 March 2026. */
const base = (): PlanBundle =>
  planOf(
    [
      { id: "survey", name: "Survey", durationMinutes: 2 * DAY },
      { id: "dig", name: "Dig", driver: "effort" },
      { id: "pour", name: "Pour", durationMinutes: 3 * DAY },
      { id: "open", name: "Open", kind: "milestone" },
    ],
    [
      { from: "survey", to: "dig" },
      { from: "dig", to: "pour" },
      { from: "pour", to: "open" },
    ],
    { people: [{ id: "bo", name: "Bo" }], assignments: [{ activity: "dig", person: "bo", plannedMinutes: 5 * DAY }] },
  );

const edited = (plan: PlanBundle, id: string, fields: Partial<Activity>): PlanBundle => ({
  ...plan,
  activities: plan.activities.map((row) => (row.id === id ? { ...row, ...fields } : row)),
});
const told = (before: PlanBundle, after: PlanBundle, target: string | null = "open") => {
  const { days, causes } = driftLedger(before, after, target);
  return { days, causes: causes.map(({ group, name, days: own }) => [group, name, own]) };
};

describe("the drift ledger (cases worked by hand)", () => {
  it("names what took longer, who was away, what came in between and what was wished, each with its days", () => {
    const before = base();
    let after = edited(before, "pour", { durationMinutes: 5 * DAY });
    after = {
      ...after,
      calendars: [
        ...after.calendars,
        {
          id: "leave-bo",
          name: "Bo’s days",
          base: "std",
          exceptions: [{ from: "2026-03-05", to: "2026-03-06", shifts: [] }],
        },
      ],
      people: [{ id: "bo", name: "Bo", calendar: "leave-bo" }],
    };
    after = {
      ...after,
      activities: [...after.activities, { id: "cure", name: "Cure", durationMinutes: 4 * DAY }],
      links: [
        ...(after.links ?? []).filter(({ to }) => to !== "open"),
        { from: "pour", to: "cure" },
        { from: "cure", to: "open" },
      ],
    };
    after = edited(after, "survey", { wish: { type: "startNotBefore", date: "2026-03-03" } });
    expect(told(before, after)).toEqual({
      days: 9,
      causes: [
        ["work", "Pour", 2],
        ["calendars", "Bo", 2],
        ["wishes", "Survey", 1],
        ["scope", "Cure", 4],
      ],
    });
  });

  const dated = (plan: PlanBundle, dataDate: string): PlanBundle => ({
    ...plan,
    project: { ...plan.project, dataDate },
  });
  const causesOf = (before: PlanBundle, after: PlanBundle, target: string | null = "open") =>
    driftLedger(before, after, target).causes.map(({ name, days, alone, expected, came }) => ({
      name,
      days,
      alone,
      expected: expected && [expected.what, expected.finish, expected.leftDays],
      came: came && [came.what, came.finish, came.leftDays],
    }));

  it("blames no time for passing: what was forecast and came so moves nothing", () => {
    const before = dated(base(), "2026-03-02");
    // Survey on Monday and Tuesday, then three days of digging until Friday.
    let after = dated(
      edited(before, "survey", { actualStart: "2026-03-02", actualFinish: "2026-03-03" }),
      "2026-03-06",
    );
    after = {
      ...edited(after, "dig", { actualStart: "2026-03-04" }),
      assignments: [{ activity: "dig", person: "bo", plannedMinutes: 5 * DAY, remainingMinutes: 2 * DAY }],
    };
    expect(
      driftLedger({ ...before, project: { ...before.project, dataDate: "2026-03-01" } }, after, "open"),
    ).toMatchObject({ days: 0, causes: [] });
  });

  it("says of each activity what was expected, what came, and what that moved", () => {
    const before = dated(base(), "2026-03-01");
    // Begun on Tuesday instead of Monday, with a day still to go on Friday: from then on five days of digging.
    const after = dated(edited(before, "survey", { actualStart: "2026-03-03", remainingMinutes: DAY }), "2026-03-06");
    expect(causesOf(before, after)).toEqual([
      // What is left of the digging waits for it until Monday evening: a day.
      {
        name: "Survey",
        days: 1,
        alone: 1,
        expected: ["finished", "2026-03-03", 0],
        came: ["underWay", "2026-03-09", 1],
      },
      // It was to be three days in.
      { name: "Dig", days: 3, alone: 3, expected: ["underWay", "2026-03-10", 2], came: ["notBegun", "2026-03-16", 5] },
    ]);
    const late = dated(before, "2026-03-03");
    expect(causesOf(before, late)).toEqual([
      {
        name: "Survey",
        days: 2,
        alone: 2,
        expected: ["finished", "2026-03-03", 0],
        came: ["notBegun", "2026-03-05", 2],
      },
    ]);
  });

  it("tells of two chains that are both late what the second would have moved by itself", () => {
    const chains = planOf(
      [
        { id: "a", name: "A", durationMinutes: 5 * DAY },
        { id: "b", name: "B", durationMinutes: 5 * DAY },
        { id: "end", name: "End", kind: "milestone" },
      ],
      [
        { from: "a", to: "end" },
        { from: "b", to: "end" },
      ],
    );
    const before = dated(chains, "2026-03-01");
    const after = dated(
      {
        ...before,
        activities: before.activities.map((row) =>
          row.kind === "milestone"
            ? row
            : { ...row, actualStart: "2026-03-02", remainingMinutes: row.id === "a" ? 14 * DAY : 12 * DAY },
        ),
      },
      "2026-03-06",
    );
    expect(causesOf(before, after, null).map(({ name, days, alone }) => [name, days, alone])).toEqual([
      ["A", 14, 14],
      ["B", 0, 12],
    ]);
  });

  it("credits what came early, and says nothing of a delay that was made up for", () => {
    const before = dated(base(), "2026-03-01");
    let after = dated(
      edited(before, "survey", { actualStart: "2026-03-02", actualFinish: "2026-03-05" }),
      "2026-03-06",
    );
    after = {
      ...edited(after, "dig", { actualStart: "2026-03-06" }),
      assignments: [{ activity: "dig", person: "bo", plannedMinutes: 5 * DAY, remainingMinutes: DAY }],
    };
    // Of the digging a day is left where two were to be, though it was begun two days late.
    expect(causesOf(before, after)).toEqual([
      {
        name: "Dig",
        days: -1,
        alone: -1,
        expected: ["underWay", "2026-03-10", 2],
        came: ["underWay", "2026-03-09", 1],
      },
    ]);
  });

  it("names the reason of a wish", () => {
    const after = edited(base(), "survey", {
      wish: { type: "startNotBefore", date: "2026-03-04", reason: "the crane comes late" },
    });
    expect(driftLedger(base(), after, "open").causes.map(({ group, days, reason }) => [group, days, reason])).toEqual([
      ["wishes", 2, "the crane comes late"],
    ]);
  });

  it("takes what was reported as a change where the data date went back or away", () => {
    const before = dated(edited(base(), "survey", { actualStart: "2026-03-02", percent: 50 }), "2026-03-04");
    expect(
      driftLedger(
        before,
        dated(edited(base(), "survey", { actualStart: "2026-03-02", percent: 50 }), "2026-03-03"),
        "open",
      ).causes.map(({ group, name, days }) => [group, name, days]),
    ).toEqual([["progress", "the data date", -1]]);
  });

  it("tells forth and back of different groups both, and a new link by what it leads to", () => {
    const before = base();
    const longer = edited(before, "survey", { durationMinutes: 5 * DAY });
    const after = { ...longer, links: (longer.links ?? []).filter(({ to }) => to !== "dig") };
    expect(told(before, after)).toEqual({
      days: -2,
      causes: [
        ["work", "Survey", 3],
        ["logic", "Dig", -5],
      ],
    });
  });

  it("of what did not move says nothing; of a date that is gone neither", () => {
    expect(told(base(), edited(base(), "survey", { name: "Sounding" }))).toEqual({ days: 0, causes: [] });
    expect(
      driftLedger(
        base(),
        { ...base(), activities: base().activities.slice(0, 3), links: base().links!.slice(0, 2) },
        "open",
      ),
    ).toEqual({ from: "2026-03-13", to: null, days: 0, causes: [] });
  });

  it("of two rows that came between in a chain, the last one brings the days of both; one that was bypassed takes its own away", () => {
    const before = base();
    const chain: PlanBundle = {
      ...before,
      activities: [
        ...before.activities,
        { id: "cure", name: "Cure", durationMinutes: 4 * DAY },
        { id: "strike", name: "Strike", durationMinutes: DAY },
      ],
      links: [
        ...before.links!.slice(0, 2),
        { from: "pour", to: "cure" },
        { from: "cure", to: "strike" },
        { from: "strike", to: "open" },
      ],
    };
    expect(told(before, chain)).toEqual({ days: 5, causes: [["scope", "Strike", 5]] });
    expect(told(chain, { ...before, activities: before.activities })).toEqual({
      days: -5,
      causes: [["scope", "Strike", -5]],
    });
  });

  it("parking a branch is one cause, and so is taking it out", () => {
    const before = planOf(
      [
        { id: "s", name: "Yard", kind: "summary" },
        { id: "a", name: "Cut", parent: "s", durationMinutes: 4 * DAY },
        { id: "b", name: "Fit", durationMinutes: DAY },
      ],
      [{ from: "a", to: "b" }],
    );
    expect(told(before, edited(before, "s", { parked: true }), null).causes).toEqual([["scope", "Yard", -4]]);
    expect(told(before, { ...before, activities: before.activities.slice(2), links: [] }, null).causes).toEqual([
      ["scope", "Cut", -4],
    ]);
  });
});

describe("a plan brought to a later data date as it forecast itself", () => {
  const finishes = (plan: PlanBundle): (number | null)[] => schedulePlan(plan).rows.map((row) => row?.finish ?? null);

  it("keeps every finish, whatever the links, for work that lasts as long as it says", () => {
    fc.assert(
      // A milestone that falls on a time off in its own calendar, from another or by an elapsed lag, is moved to the next by any data
      // date before it: here none does.
      fc.property(
        fc.constantFrom("std", "seven", "nights").chain((calendar) => networks({ calendars: [calendar] })),
        fc.integer({ min: 0, max: 40 }),
        (any, days) => {
          const plan = { ...any, links: (any.links ?? []).map(({ lagIn: _in, ...link }) => link) };
          const forecast = asForecast(plan, schedulePlan(plan), formatDate(epochDay(parseDate("2026-03-01")! + days)));
          expect(finishes(forecast.plan)).toEqual(finishes(plan));
          // And once more, from what is under way by then.
          const again = asForecast(
            forecast.plan,
            schedulePlan(forecast.plan),
            formatDate(epochDay(parseDate("2026-03-01")! + days + 5)),
          );
          expect(finishes(again.plan)).toEqual(finishes(plan));
        },
      ),
      { numRuns: 300 },
    );
  });

  it("keeps the finish of what people decide, part time and on leave, to the minutes that rounding takes", () => {
    const people = [
      { id: "ann", name: "Ann" },
      { id: "bo", name: "Bo", calendar: "away" },
    ];
    const away = {
      id: "away",
      name: "Away",
      base: "std",
      exceptions: [{ from: "2026-03-05", to: "2026-03-06", shifts: [] }],
    };
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 4000 }),
        fc.integer({ min: 1, max: 4000 }),
        fc.integer({ min: 20, max: 150 }),
        fc.constantFrom("effort" as const, "drift" as const),
        fc.integer({ min: 0, max: 30 }),
        (a, b, units, by, days) => {
          const plan = planOf(
            [
              {
                id: "x",
                name: "X",
                durationMinutes: 960,
                ...(by === "effort" ? { driver: "effort" as const } : { windowPolicy: "drift" as const }),
              },
              { id: "y", name: "Y", durationMinutes: 480 },
            ],
            [{ from: "x", to: "y" }],
            {
              calendars: [STANDARD, away],
              people,
              assignments: [
                { activity: "x", person: "ann", plannedMinutes: a, unitsPercent: units },
                { activity: "x", person: "bo", plannedMinutes: b },
              ],
            },
          );
          const forecast = asForecast(plan, schedulePlan(plan), formatDate(epochDay(parseDate("2026-03-01")! + days)));
          const calendar = compileCalendars(plan.calendars).set.get("std");
          const [was, is] = [plan, forecast.plan].map((each) => calendar.indexAt(schedulePlan(each).finish!));
          expect(Math.abs(was! - is!)).toBeLessThanOrEqual(3);
        },
      ),
    );
  });
});

describe("dates that change with single activities", () => {
  it("are those that are computed anew, whatever is rewritten and in whatever order", () => {
    fc.assert(
      fc.property(
        networks({ calendars: ["std", "seven"], capped: true }),
        fc.array(
          fc.record({
            at: fc.nat(13),
            minutes: fc.integer({ min: 1, max: 5000 }),
            day: fc.integer({ min: 1, max: 28 }),
            what: fc.constantFrom("length", "wish", "begun", "done"),
          }),
          { maxLength: 8 },
        ),
        (plan, edits) => {
          const based = { ...plan, project: { ...plan.project, dataDate: "2026-03-10" } };
          const live = new LiveDates(based, compileCalendars(based.calendars).set);
          let activities = based.activities;
          for (const { at, minutes, day, what } of edits) {
            const row = activities[at];
            if (row === undefined) continue;
            const date = `2026-03-${String(day).padStart(2, "0")}`;
            const milestone = row.kind === "milestone";
            const next: Activity =
              what === "wish"
                ? { ...row, wish: { type: "startNotBefore", date } }
                : milestone
                  ? { ...row, actualStart: date }
                  : what === "length"
                    ? { ...row, durationMinutes: minutes }
                    : what === "begun"
                      ? { ...row, actualStart: date, remainingMinutes: minutes }
                      : { ...row, actualStart: date, actualFinish: date };
            activities = activities.map((each) => (each.id === row.id ? next : each));
            expect(live.rewrite(next, [])).toBe(true);
          }
          const schedule = schedulePlan({ ...based, activities });
          expect(live.finishOf(null)).toBe(schedule.finish);
          activities.forEach(({ id }, i) => expect([id, live.finishOf(id)]).toEqual([id, schedule.rows[i]!.finish]));
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe("laws of the drift ledger", () => {
  it("the parts add up to the whole also where time has passed and progress came otherwise; nothing remains untold", () => {
    fc.assert(
      fc.property(livedPlans, fc.integer({ min: 0, max: 20 }), (after, days) => {
        fc.pre(after.project.dataDate !== undefined);
        const { dataDate: _d, ...project } = after.project;
        const before: PlanBundle = {
          ...after,
          project: days === 0 ? project : { ...project, dataDate: formatDate(epochDay(parseDate(DATA_DATE)! - days)) },
          activities: after.activities.map(
            ({ actualStart: _s, actualFinish: _f, percent: _p, dropped: _x, ...rest }) => rest,
          ),
        };
        const ledger = driftLedger(before, after, null);
        expect(Math.abs(ledger.causes.reduce((sum, { days: own }) => sum + own, 0) - ledger.days)).toBeLessThan(1e-9);
        expect(ledger.causes.filter(({ name }) => name === "what cannot be told apart")).toEqual([]);
      }),
      { numRuns: 300 },
    );
  });

  const changed = fc.array(
    fc.record({
      at: fc.nat(13),
      minutes: fc.integer({ min: 1, max: 5000 }),
      calendar: fc.constantFrom("std", "seven", "nights"),
      parked: fc.boolean(),
      drop: fc.boolean(),
    }),
    { maxLength: 5 },
  );

  it("the parts add up to the whole, whatever was changed", () => {
    fc.assert(
      fc.property(
        networks({ calendars: ["std", "seven"] }),
        changed,
        fc.array(fc.nat(23), { maxLength: 4 }),
        (before, edits, dropped) => {
          let activities: Activity[] = [...before.activities];
          for (const { at, minutes, calendar, parked, drop } of edits) {
            const row = activities[at];
            if (row === undefined) continue;
            if (drop && activities.length > 1) activities = activities.filter(({ id }) => id !== row.id);
            else
              activities = activities.map((each) =>
                each.id !== row.id
                  ? each
                  : {
                      ...each,
                      calendar,
                      ...(each.kind === "milestone" ? {} : { durationMinutes: minutes }),
                      ...(parked ? { parked } : {}),
                    },
              );
          }
          const ids = new Set(activities.map(({ id }) => id));
          const links: Link[] = (before.links ?? []).filter(
            (link, i) => ids.has(link.from) && ids.has(link.to) && !dropped.includes(i),
          );
          const ledger = driftLedger(
            before,
            {
              ...before,
              activities,
              links,
              calendars: before.calendars.map((each) =>
                each.id === "std"
                  ? { ...STANDARD, exceptions: [{ from: "2026-03-09", to: "2026-03-10", shifts: [] }] }
                  : each,
              ),
            },
            null,
          );
          expect(Math.abs(ledger.causes.reduce((sum, { days }) => sum + days, 0) - ledger.days)).toBeLessThan(1e-9);
          expect(ledger.causes.every(({ name }) => name !== "what cannot be told apart")).toBe(true);
        },
      ),
      { numRuns: 300 },
    );
  });
});
