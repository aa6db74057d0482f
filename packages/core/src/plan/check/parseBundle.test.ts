import { planOf } from "../../testing/plans.ts";
import { parseBundle } from "./parseBundle.ts";
import { formatProblem } from "../problem.ts";
import type { PlanBundle } from "../schema.ts";

const GOOD: PlanBundle = planOf(
  [
    { id: "S", name: "S", kind: "summary" },
    { id: "A", name: "A", parent: "S", durationMinutes: 480 },
    { id: "B", name: "B", durationMinutes: 480 },
  ],
  [{ from: "A", to: "B" }],
  {
    project: { code: "P", name: "P", currency: "EUR", start: "2026-03-02", calendar: "std", dataDate: "2026-03-13" },
    people: [{ id: "ann", name: "Ann", rates: [{ from: "2026-01-01", perHourMinor: 1 }] }],
    assignments: [{ activity: "A", person: "ann", plannedMinutes: 60 }],
    costs: [{ id: "c", activity: "A", category: "x", plannedMinor: -5 }],
    baselines: [
      {
        number: 1,
        approvedOn: "2026-03-01",
        approvedBy: "x",
        reason: "y",
        activities: [
          {
            id: "A",
            start: "2026-03-02T08:00",
            finish: "2026-03-02T17:00",
            durationMinutes: 480,
            evenMinor: 1,
            startMinor: 0,
            finishMinor: 0,
            minutes: 60,
          },
        ],
      },
    ],
    timeEntries: [{ activity: "A", person: "ann", date: "2026-03-03", minutes: 60, state: "posted" }],
    actualCosts: [{ activity: "A", date: "2026-03-03", amountMinor: 5 }],
  },
);

/** A copy of a good bundle with one thing in it changed. */
function spoiled(change: (bundle: Record<string, never>) => void): unknown {
  const copy = JSON.parse(JSON.stringify(GOOD)) as Record<string, never>;
  change(copy);
  return copy;
}

const lines = (input: unknown): string[] => {
  const parsed = parseBundle(input);
  return parsed.ok ? [] : parsed.problems.map(formatProblem);
};

/** The change to one row of a table, or to the table where no place is given. */
const set =
  (path: string, value: unknown) =>
  (bundle: Record<string, unknown>): void => {
    const parts = path.split(".");
    const last = parts.pop()!;
    const owner = parts.reduce<Record<string, unknown>>((at, part) => at[part] as Record<string, unknown>, bundle);
    if (value === undefined) delete owner[last];
    else owner[last] = value;
  };

describe("a plan bundle", () => {
  it("that is good is taken as it is, and any string is an id", () => {
    expect(parseBundle(GOOD)).toEqual({ ok: true, bundle: GOOD, file: null });
    const odd = planOf(
      ["10", "__proto__", "constructor", "a b", "ü", "x".repeat(64)].map((id) => ({
        id,
        name: id,
        durationMinutes: 60,
      })),
      [{ from: "__proto__", to: "10" }],
    );
    expect(parseBundle(JSON.parse(JSON.stringify(odd)))).toMatchObject({ ok: true });
  });

  it.each<[string, string, unknown, string]>([
    ["another format", "format", "other", "bundle format: must be"],
    ["a later version", "version", 3, "bundle version: must be"],
    ["no project", "project", undefined, "project"],
    ["no start", "project.start", undefined, "project start"],
    ["a start that is no date", "project.start", "2026-02-30", "project start: must be a date"],
    ["a start before 1990", "project.start", "1989-12-31", "project start: must be a date"],
    ["a currency in words", "project.currency", "euro", "project currency: must be a currency code"],
    ["an unknown calendar", "project.calendar", "nowhere", 'project P calendar: there is no calendar "nowhere"'],
    ["an unknown field", "project.colour", "red", "project colour: is not a field of this format"],
    ["an unknown field of a row", "activities.1.colour", "red", "activities A colour: is not a field of this format"],
    ["null where a field may be left out", "activities.1.deadline", null, "activities A deadline"],
    ["an empty id", "activities.1.id", "", "activities"],
    ["an id of 65 characters", "activities.2.id", "x".repeat(65), "activities"],
    ["a number as an id", "activities.1.id", 5, "activities #2 id"],
    ["an id that stands twice", "activities.2.id", "A", "activities A id: stands more than once"],
    ["an unknown parent", "activities.1.parent", "Z", 'activities A parent: there is no activity "Z"'],
    ["a parent that is no summary", "activities.2.parent", "A", 'activities B parent: "A" is no summary'],
    ["a summary below itself", "activities.0.parent", "S", "activities S parent: lies below itself"],
    ["an unknown kind", "activities.1.kind", "epic", "activities A kind: must be"],
    [
      "a duration of 0",
      "activities.1.durationMinutes",
      0,
      "activities A durationMinutes: a duration of 0 is refused; make it a milestone",
    ],
    ["a negative duration", "activities.1.durationMinutes", -1, "activities A durationMinutes: must be at least 0"],
    ["half a minute", "activities.1.durationMinutes", 0.5, "activities A durationMinutes"],
    ["percent over 100", "activities.1.percent", 101, "activities A percent: must be at most 100"],
    [
      "a finish without its start",
      "activities.1.actualFinish",
      "2026-03-04",
      "activities A actualFinish: has an actual finish but no actual start",
    ],
    ["a duration on a summary", "activities.0.durationMinutes", 60, "activities S durationMinutes: a summary rolls up"],
    [
      "a wish on a summary",
      "activities.0.wish",
      { type: "startOn", date: "2026-03-03" },
      "activities S wish: a summary rolls up",
    ],
    ["a wish of no known type", "activities.1.wish", { type: "asap", date: "2026-03-03" }, "activities A wish.type"],
    ["a wish on no date", "activities.1.wish", { type: "startOn", date: "soon" }, "activities A wish.date"],
    ["a rule without what it needs", "activities.1.credit", { rule: "startFinish" }, "activities A credit.startCredit"],
    [
      "steps without weight",
      "activities.1.credit",
      { rule: "steps", steps: [{ name: "a", weight: 0 }] },
      "activities A credit.steps",
    ],
    ["units of none", "activities.1.credit", { rule: "units", unitsTotal: 0 }, "activities A credit.unitsTotal"],
    [
      "a stage that is none",
      "activities.1.credit",
      { rule: "stages", stages: [{ name: "a", credit: 1 }], stage: "b" },
      "activities A credit.stage",
    ],
    ["apportioned to nothing", "activities.1.credit", { rule: "apportioned" }, "activities A credit.to"],
    [
      "apportioned to itself",
      "activities.1.credit",
      { rule: "apportioned", to: "A" },
      "activities A credit.to: what it is apportioned to rests on itself: A -> A",
    ],
    [
      "parked with actual dates",
      "activities.1",
      { id: "A", name: "A", durationMinutes: 480, parked: true, actualStart: "2026-03-03" },
      "activities A parked: is parked but has actual dates",
    ],
    ["a link to nowhere", "links.0.to", "Z", 'links A -> Z to: there is no activity "Z"'],
    ["a link to a summary", "links.0.to", "S", 'links A -> S to: "S" is a summary'],
    ["a link of no known type", "links.0.type", "XX", "links A -> B type"],
    ["an unknown person", "assignments.0.person", "bob", 'assignments A / bob person: there is no person "bob"'],
    ["an assignment to a summary", "assignments.0.activity", "S", 'assignments S / ann activity: "S" is a summary'],
    ["negative planned minutes", "assignments.0.plannedMinutes", -1, "assignments A / ann plannedMinutes"],
    ["no percent of time", "assignments.0.unitsPercent", 0, "assignments A / ann unitsPercent"],
    [
      "rates out of order",
      "people.0.rates",
      [
        { from: "2026-02-01", perHourMinor: 1 },
        { from: "2026-01-01", perHourMinor: 2 },
      ],
      "people ann rates[1].from",
    ],
    ["a state of time that is none", "timeEntries.0.state", "maybe", "timeEntries"],
    [
      "a baseline row that ends before it starts",
      "baselines.0.activities.0.finish",
      "2026-03-01T17:00",
      "baselines 1 / A finish",
    ],
    [
      "a baseline row with a date for an instant",
      "baselines.0.activities.0.start",
      "2026-03-02",
      "baselines 1 / A start",
    ],
    ["a shift that ends before it begins", "calendars.0.week.mon", [["12:00", "08:00"]], "calendars std week.mon"],
    ["a time that is none", "calendars.0.week.mon", [["08:00", "25:00"]], "calendars std week.mon"],
  ])("with %s is refused, naming table, row and field", (_what, path, value, wanted) => {
    expect(lines(spoiled(set(path, value)))).toEqual(expect.arrayContaining([expect.stringContaining(wanted)]));
  });

  it.each<[unknown]>([[null], [5], ["text"], [[]], [{}]])("%j is none", (input) => {
    expect(lines(input).length).toBeGreaterThan(0);
  });

  it("progress without a data date is refused, percent 0 apart", () => {
    const without = (field: string, value: unknown): string[] =>
      lines(
        spoiled((bundle) => {
          set("project.dataDate", undefined)(bundle);
          set(`activities.1.${field}`, value)(bundle);
        }),
      );
    expect(without("percent", 0)).toEqual([]);
    for (const [field, value] of [
      ["percent", 1],
      ["actualStart", "2026-03-03"],
      ["remainingMinutes", 5],
    ] as const)
      expect(without(field, value)).toEqual([
        expect.stringContaining(`activities A ${field}: progress needs a data date`),
      ]);
  });

  it("amounts, rates and entries may be negative", () => {
    expect(
      lines(
        spoiled((bundle) => {
          set("people.0.rates.0.perHourMinor", -7)(bundle);
          set("timeEntries.0.minutes", -30)(bundle);
          set("actualCosts.0.amountMinor", -1)(bundle);
        }),
      ),
    ).toEqual([]);
  });

  it("an own __proto__ is an unknown field like any other", () => {
    const input = JSON.parse(
      JSON.stringify(GOOD).replace('"id":"A"', '"id":"A","__proto__":{"polluted":true}'),
    ) as unknown;
    expect(lines(input)).toEqual([
      expect.stringContaining("activities A __proto__: is not a field of this format; remove it"),
    ]);
    expect(({} as Record<string, unknown>)["polluted"]).toBeUndefined();
  });

  it("says each problem once, in one line, whatever is in the names", () => {
    const found = lines(
      spoiled((bundle) => {
        set("activities.1.id", "A\nB")(bundle);
        set("links", [])(bundle);
        set("assignments", [])(bundle);
        set("costs", [])(bundle);
        set("timeEntries", [])(bundle);
        set("actualCosts", [])(bundle);
        set("activities.1.percent", 500)(bundle);
      }),
    );
    expect(found).toHaveLength(1);
    expect(found[0]).not.toContain("\n");
  });
});
