import fc from "fast-check";
import { networks, planOf } from "../../testing/plans.ts";
import { applyChanges } from "../applyChanges.ts";
import { differencesTo } from "./difference.ts";
import { longestAscending, type RowDifference } from "./tableDifferences.ts";
import { fromBundle, toBundle } from "../plan.ts";
import type { Activity, PlanBundle } from "../schema.ts";

const keys = (): (() => string) => {
  let n = 0;
  return () => `k${++n}`;
};
const between = (from: PlanBundle, to: PlanBundle): RowDifference[] => differencesTo(fromBundle(from), to, keys());
const said = (rows: readonly RowDifference[]): string[] =>
  rows.map(
    ({ table, what, name, fields }) =>
      `${what} ${table} ${name}${what === "changed" ? `: ${fields.map(({ field, from, to }) => `${field} ${JSON.stringify(from)} -> ${JSON.stringify(to)}`).join(", ")}` : ""}`,
  );
const taken = (from: PlanBundle, rows: readonly RowDifference[]): PlanBundle =>
  toBundle(
    applyChanges(
      fromBundle(from),
      rows.flatMap(({ changes }) => changes),
    ).plan,
  );

const day = (id: string, more: Partial<Activity> = {}): Activity => ({
  id,
  name: id.toUpperCase(),
  durationMinutes: 480,
  ...more,
});
const base = planOf(
  [{ id: "s", name: "S", kind: "summary" }, day("a", { parent: "s" }), day("b", { parent: "s" }), day("c")],
  [{ from: "a", to: "b" }],
  { people: [{ id: "p", name: "Pia" }], assignments: [{ activity: "a", person: "p", plannedMinutes: 60 }] },
);
const file = (change: (bundle: PlanBundle) => void): PlanBundle => {
  const copy = structuredClone(base);
  change(copy);
  return copy;
};

describe("what a file says differently from its plan", () => {
  it("is nothing for the plan itself, also where what is understood anyway is written down", () => {
    expect(between(base, structuredClone(base))).toEqual([]);
    expect(
      between(
        base,
        file(
          (f) =>
            void Object.assign(f.activities[1]!, {
              kind: "work",
              driver: "duration",
              parked: false,
              credit: { rule: "reported" },
            }),
        ),
      ),
    ).toEqual([]);
    expect(
      between(
        base,
        file((f) => void Object.assign(f.links![0]!, { type: "FS", lagMinutes: 0 })),
      ),
    ).toEqual([]);
  });

  it("is told row by row and field by field", () => {
    const to = file((f) => {
      Object.assign(f.activities[1]!, { name: "Dredge", durationMinutes: 960, deadline: "2026-04-01", owner: "p" });
      f.activities.splice(3, 0, day("n", { parent: "s" }));
      f.links!.push({ from: "b", to: "n", type: "SS" });
      f.assignments![0]!.plannedMinutes = 90;
      f.project = { ...f.project, name: "Renamed", dataDate: "2026-03-04" };
    });
    expect(said(between(base, to))).toEqual([
      'changed project Plan: name "Plan" -> "Renamed", dataDate null -> "2026-03-04"',
      "added activities N",
      'changed activities A: name "A" -> "Dredge", durationMinutes 480 -> 960, deadline null -> "2026-04-01", owner null -> "p"',
      "added links B -> N",
      "changed assignments A / Pia: plannedMinutes 60 -> 90",
    ]);
    expect(taken(base, between(base, to))).toEqual(toBundle(fromBundle(to)));
  });

  it("a row put elsewhere is told as moved, and only that row", () => {
    const order = file((f) => void f.activities.push(...f.activities.splice(1, 1)));
    expect(said(between(base, order))).toEqual(['changed activities A: place null -> "last"']);
    const up = file((f) => void (f.activities[3] = { ...f.activities[3]!, parent: "s" }));
    expect(said(between(base, up))).toEqual(['changed activities C: parent null -> "S"']);
  });

  it("rows that are gone are removed with what hangs on them", () => {
    const to = file((f) => {
      f.activities = f.activities.filter(({ id }) => id !== "a");
      f.links = [];
      f.assignments = [];
      f.people = [];
    });
    expect(said(between(base, to))).toEqual([
      "removed links A -> B",
      "removed assignments A / Pia",
      "removed activities A",
      "removed people Pia",
    ]);
    expect(taken(base, between(base, to))).toEqual(toBundle(fromBundle(to)));
  });

  it("taken over whole, any plan becomes any other, order included", () => {
    const sorted = (bundle: PlanBundle): unknown => ({
      ...bundle,
      links: [...(bundle.links ?? [])]
        .map((link) =>
          JSON.stringify({ lagMinutes: 0, lagIn: "successor", ...link }, ["from", "to", "type", "lagMinutes", "lagIn"]),
        )
        .sort(),
    });
    fc.assert(
      fc.property(
        networks({ calendars: ["std", "seven"] }),
        networks({ calendars: ["std"], capped: true }),
        fc.infiniteStream(fc.nat(99)),
        (from, wanted, mix) => {
          const activities = [...wanted.activities]
            .map((row) => ({ row, at: mix.next().value as number }))
            .sort((a, b) => a.at - b.at)
            .map(({ row }) => row);
          const to = toBundle(fromBundle({ ...wanted, activities }));
          expect(sorted(taken(from, between(from, to)))).toEqual(sorted(to));
        },
      ),
      { numRuns: 200 },
    );
  });
});

describe("what a file says differently from its plan, which went on meanwhile", () => {
  const since = (now: PlanBundle, brought: PlanBundle): RowDifference[] =>
    differencesTo(fromBundle(now), brought, keys(), base);

  it("is what the file changed, beside what others did", () => {
    const now = file((plan) => {
      plan.activities[2]!.name = "Cast";
      plan.activities[1]!.deadline = "2026-04-01";
      plan.activities.push(day("late"));
      plan.links!.push({ from: "b", to: "late" });
    });
    const brought = file((f) => void (f.activities[1]!.durationMinutes = 960));
    expect(said(since(now, brought))).toEqual(["changed activities A: durationMinutes 480 -> 960"]);
    expect(since(now, brought)[0]!.both).toBe(false);
    expect(
      taken(now, since(now, brought)).activities.map(({ name, durationMinutes, deadline }) => [
        name,
        durationMinutes,
        deadline,
      ]),
    ).toEqual([
      ["S", undefined, undefined],
      ["A", 960, "2026-04-01"],
      ["Cast", 480, undefined],
      ["C", 480, undefined],
      ["LATE", 480, undefined],
    ]);
  });

  it("says where both changed the same, with what it was, what it is and what the file has", () => {
    const now = file((plan) => void Object.assign(plan.activities[1]!, { durationMinutes: 240, name: "Dig" }));
    const brought = file((f) => void Object.assign(f.activities[1]!, { durationMinutes: 960, deadline: "2026-04-01" }));
    expect(since(now, brought)).toEqual([
      expect.objectContaining({
        both: true,
        fields: [
          { field: "durationMinutes", from: 240, to: 960, then: 480 },
          { field: "deadline", from: null, to: "2026-04-01" },
        ],
      }),
    ]);
    expect(taken(now, since(now, brought)).activities[1]!.name).toBe("Dig");
  });

  it("says where one removed what the other changed", () => {
    const without = file((plan) => {
      plan.activities = plan.activities.filter(({ id }) => id !== "c");
      plan.links = [];
    });
    const renamed = file((plan) => void (plan.activities[3]!.name = "Cast"));
    expect(since(without, renamed).map(({ what, name, both }) => [what, name, both])).toEqual([
      ["added", "Cast", true],
    ]);
    expect(since(renamed, without).map(({ what, name, both }) => [what, name, both])).toEqual([
      ["removed", "A -> B", false],
      ["removed", "Cast", true],
    ]);
    expect(since(without, base)).toEqual([]);
  });

  it("is nothing for a file that was not touched, whatever became of the plan", () => {
    fc.assert(
      fc.property(
        networks({ calendars: ["std", "seven"] }),
        networks({ calendars: ["std"], capped: true }),
        (was, now) => {
          expect(differencesTo(fromBundle(now), was, keys(), was)).toEqual([]);
          const read = differencesTo(fromBundle(was), now, keys(), was);
          expect(read).toEqual(between(was, now));
          expect(read.some(({ both }) => both)).toBe(false);
        },
      ),
      { numRuns: 200 },
    );
  });

  it("puts back nothing that others did, unless it says that both did", () => {
    const lengths = fc.array(fc.constantFrom(60, 120, 480), { minLength: 12, maxLength: 12 });
    const names = fc.array(fc.constantFrom("x", "y"), { minLength: 12, maxLength: 12 });
    const written = (plan: PlanBundle, minutes: readonly number[], called: readonly string[]): PlanBundle => ({
      ...plan,
      activities: plan.activities.map((row, i) => ({
        ...row,
        name: called[i % 12]!,
        ...(row.durationMinutes === undefined ? {} : { durationMinutes: minutes[i % 12]! }),
      })),
    });
    fc.assert(
      fc.property(
        networks({ calendars: ["std"] }),
        fc.tuple(lengths, lengths, lengths),
        fc.tuple(names, names, names),
        (plan, [l1, l2, l3], [n1, n2, n3]) => {
          const [was, now, brought] = [written(plan, l1, n1), written(plan, l2, n2), written(plan, l3, n3)];
          const rows = differencesTo(fromBundle(now), brought, keys(), was);
          const after = taken(
            now,
            rows.filter(({ both }) => !both),
          );
          after.activities.forEach((row, i) => {
            for (const field of ["name", "durationMinutes"] as const)
              if (now.activities[i]![field] !== was.activities[i]![field])
                expect(row[field]).toBe(now.activities[i]![field]);
              else if (!rows.some(({ key, both }) => both && key === `activities/${row.id}`))
                expect(row[field]).toBe(brought.activities[i]![field]);
          });
        },
      ),
    );
  });
});

describe("a longest ascending run", () => {
  it("is ascending, and no run is longer, against trying all of them", () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.nat(30), { maxLength: 9 }), (numbers) => {
        const kept = [...longestAscending(numbers)].sort((a, b) => a - b).map((i) => numbers[i]!);
        expect(kept).toEqual([...kept].sort((a, b) => a - b));
        let most = 0;
        for (let mask = 0; mask < 1 << numbers.length; mask++) {
          const run = numbers.filter((_n, i) => mask & (1 << i));
          if (run.every((value, i) => i === 0 || run[i - 1]! < value)) most = Math.max(most, run.length);
        }
        expect(kept).toHaveLength(most);
      }),
    );
  });
});
