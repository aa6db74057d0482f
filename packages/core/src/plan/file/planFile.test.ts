import { Ajv2020 } from "ajv/dist/2020.js";
import addFormats from "ajv-formats";
import fc from "fast-check";
import { z } from "zod";
import { analyse } from "../../analyse.ts";
import { networks, planOf } from "../../testing/plans.ts";
import { planFileJsonSchema } from "../check/jsonSchema.ts";
import { parseBundle, planIn } from "../check/parseBundle.ts";
import { fromBundle, toBundle, type Plan } from "../plan.ts";
import { formatProblem } from "../problem.ts";
import { OWN_TABLES } from "../tables.ts";
import { fromPlanFile, toPlanFile, type PlanFile } from "./planFile.ts";

const ajv = new Ajv2020({ allErrors: true, strict: false });
addFormats.default(ajv);
const validate = ajv.compile(planFileJsonSchema(z.unknown()));

const stored = (file: PlanFile): PlanFile => JSON.parse(JSON.stringify(file)) as PlanFile;
const map = <T>(rows: Record<string, T>): ReadonlyMap<string, T> => new Map(Object.entries(rows));

const base = fromBundle(
  planOf(
    [
      { id: "S", name: "S", kind: "summary" },
      { id: "A", name: "A", parent: "S", durationMinutes: 480 },
      { id: "B", name: "B", durationMinutes: 480, parked: true },
      { id: "C", name: "C", durationMinutes: 960 },
      { id: "__proto__", name: "M", kind: "milestone" },
    ],
    [{ from: "A", to: "C" }],
    {
      people: [{ id: "ann", name: "Ann" }],
      assignments: [{ activity: "A", person: "ann", plannedMinutes: 60 }],
      actualCosts: [{ activity: "A", date: "2026-03-03", amountMinor: 5 }],
    },
  ),
);
/** A plan with something in every table that is kept besides version 1. */
const plan: Plan = {
  ...base,
  links: map({ "carried-1": [...base.links.values()][0]! }),
  fields: map({ zone: { id: "zone", name: "Zone", type: "choice", choices: ["North"] } }),
  ownValues: map({ A: { zone: "North" } }),
  teams: map({ crew: { id: "crew", name: "Crew", members: ["ann"] } }),
  categories: map({ steel: { id: "steel", name: "Steel" } }),
  placeholders: map({ ann: { person: "ann" } }),
  carried: map({ "carried-1": { by: ["B"] } }),
  blocks: map({ A: { by: "crane", since: "2026-03-03", saidBy: "Ann" } }),
  promises: map({ C: { consequence: "The road stays shut", to: "Town" } }),
  notes: map({ A: { description: "Deep", checks: [{ id: "1", text: "Pump", done: true as const }] } }),
  ranges: map({ A: { low: 80, likely: 100, high: 150 } }),
  risks: map({
    rain: {
      id: "rain",
      name: "Rain",
      probability: 0.2,
      effects: [{ activity: "C", minutes: { low: 0, likely: 60, high: 90 } }],
    },
  }),
  meetings: map({ m: { id: "m", name: "Look", activity: "A", date: "2026-03-04", minutes: 60, people: ["ann"] } }),
  alternates: map({ w: { id: "w", name: "Ways", members: ["A", "B"] } }),
  timeboxes: map({ t: { id: "t", name: "Fortnight", first: "2026-03-09", last: "2026-03-20", branch: "S" } }),
  boxed: map({ A: { box: "t", rank: 1 } }),
  gathered: map({ C: { milestone: "__proto__" } }),
};
const file = toPlanFile(plan);

const problemsOf = (input: unknown): string[] => {
  const parsed = parseBundle(input);
  return parsed.ok ? [] : parsed.problems.map(formatProblem);
};

describe("a plan leaves whole", () => {
  it("and comes back with every row of every table under its key", () => {
    expect(OWN_TABLES.filter((table) => plan[table].size === 0)).toEqual([]);
    const parsed = parseBundle(stored(file));
    expect(problemsOf(stored(file))).toEqual([]);
    expect(parsed.ok && planIn(parsed)).toEqual(plan);
    expect(parsed.ok && parsed.bundle).toEqual(toBundle(plan));
    expect([validate(stored(file)), validate.errors]).toEqual([true, null]);
  });

  it("and so does every plan of version 1, with the same figures", () => {
    fc.assert(
      fc.property(networks({ calendars: ["std", "nights"], capped: true }), (bundle) => {
        const whole = fromBundle(bundle);
        const parsed = parseBundle(stored(toPlanFile(whole)));
        if (!parsed.ok) throw new Error(parsed.problems.map(formatProblem).join("\n"));
        expect(planIn(parsed)).toEqual(whole);
        expect(analyse(parsed.bundle, { baseline: "frozen" })).toEqual(analyse(bundle, { baseline: "frozen" }));
        expect(validate(stored(toPlanFile(whole)))).toBe(true);
      }),
      { numRuns: 50 },
    );
  });

  it("the bound of a timebox stands with the timebox and is computed with", () => {
    expect(file.activities.find(({ id }) => id === "A")).not.toHaveProperty("wish");
    const parsed = parseBundle(file);
    const starts = parsed.ok && analyse(parsed.bundle).schedule.activities["A"]!.startDate;
    expect(starts).toBe("2026-03-09");
  });

  it("rows that say no key are counted, and take none that another says", () => {
    const links = [
      { from: "A", to: "C" },
      { id: "1", from: "C", to: "__proto__" },
      { from: "A", to: "__proto__" },
    ];
    const { carried: _carried, ...rest } = file;
    expect([...fromPlanFile({ ...rest, links }).links.keys()]).toEqual(["2", "1", "3"]);
  });
});

describe("a file of version 2 that is wrong is refused in words", () => {
  it.each<[string, Partial<Record<keyof PlanFile | "colour", unknown>>, string[]]>([
    [
      "an unknown field",
      { colour: "red" },
      ["bundle colour: is not a field of this format; remove it or correct its name"],
    ],
    [
      "a row twice",
      { notes: [...file.notes!, ...file.notes!], risks: [...file.risks!, ...file.risks!] },
      [
        "notes A activity: stands more than once in this table; each stands there once",
        "risks rain id: stands more than once in this table; each stands there once",
      ],
    ],
    [
      "an activity that is not there",
      { ranges: [{ ...file.ranges![0]!, activity: "Z" }] },
      ['ranges Z: there is no activity "Z"'],
    ],
    [
      "a range that falls",
      { ranges: [{ activity: "A", low: 5, likely: 4, high: 6 }] },
      [expect.stringContaining("ranges A: the least comes before the likeliest, and that before the most") as never],
    ],
    [
      "a field of a row that is none",
      { teams: [{ ...file.teams![0]!, size: 3 }] },
      ["teams crew size: is not a field of this format; remove it or correct its name"],
    ],
    [
      "work that begins otherwise than its timebox says",
      {
        activities: file.activities.map((row) =>
          row.id === "A" ? { ...row, wish: { type: "finishOn", date: "2026-03-11" } } : row,
        ),
      },
      [expect.stringContaining("which says when it begins") as never],
    ],
    ["a later version", { version: 3 }, [expect.stringContaining("version") as never]],
  ])("%s", (_what, change, problems) => {
    expect(problemsOf(stored({ ...file, ...change } as PlanFile))).toEqual(problems);
  });
});
