import fc from "fast-check";
import { analyse } from "../analyse.ts";
import type { Activity } from "./schema.ts";
import { networks, planOf } from "../testing/plans.ts";
import { applyChanges, pathsMeet, valueAtPath } from "./applyChanges.ts";
import { planBefore, type StoredChanges } from "./differences/before.ts";
import { changeSchema, type Change } from "./change.ts";
import { checkPlan } from "./check/checkPlan.ts";
import { parseBundle } from "./check/parseBundle.ts";
import { fromBundle, toBundle, type Plan } from "./plan.ts";
import { PLAN_TABLES } from "./tables.ts";

/** A plan with its rows in order, for comparing two to the letter; own values are looked up by activity: theirs says nothing. */
const laidOut = (plan: Plan): unknown => ({
  project: plan.project,
  ...Object.fromEntries(PLAN_TABLES.map((table) => [table, [...plan[table]]])),
  ownValues: [...plan.ownValues].sort(([a], [b]) => (a < b ? -1 : 1)),
});

const DATES = ["2026-03-02", "2026-03-06", "2026-03-14", "2026-04-01"];
const date = fc.constantFrom(...DATES);

/** What a change is made of: numbers that pick rows, and values. */
interface Seed {
  readonly kind: number;
  readonly a: number;
  readonly b: number;
  readonly minutes: number;
  readonly date: string;
  readonly clear: boolean;
}

const seeds = fc.array(
  fc.record({
    kind: fc.nat(17),
    a: fc.nat(),
    b: fc.nat(),
    minutes: fc.integer({ min: 1, max: 5000 }),
    date,
    clear: fc.boolean(),
  }),
  { minLength: 1, maxLength: 12 },
);

const pick = <T>(items: readonly T[], n: number): T | undefined => items[n % Math.max(1, items.length)];

/** A change that names rows which are there, so that most of them can be applied. */
function changeFrom(plan: Plan, { kind, a, b, minutes, date: day, clear }: Seed, n: number): Change | null {
  const activity = pick([...plan.activities.keys()], a);
  if (activity === undefined) return null;
  const other = pick([...plan.activities.keys()], b)!;
  const id = `new${n}`;
  switch (kind) {
    case 0:
      return { type: "setDuration", activity, minutes: clear ? null : minutes };
    case 1:
      return { type: "setDeadline", activity, date: clear ? null : day };
    case 2:
      return { type: "setWish", activity, wish: clear ? null : { type: "startNotBefore", date: day, reason: "r" } };
    case 3:
      return { type: "setName", activity, name: `${activity} ${minutes}` };
    case 4:
      return {
        type: "reportProgress",
        activity,
        percent: clear ? null : minutes % 101,
        remainingMinutes: minutes % 2 === 0 ? null : minutes,
        ...(b % 3 === 0 ? { actualStart: clear ? null : day } : {}),
      };
    case 5:
      return { type: "setParked", activity, parked: !clear };
    case 6: {
      const row: Activity = { id, name: id, durationMinutes: minutes };
      return { type: "addRow", table: "activities", key: id, row, ...(clear ? { before: other } : {}) };
    }
    case 7:
      return {
        type: "addRow",
        table: "links",
        key: id,
        row: { from: activity, to: other, lagMinutes: minutes },
        ...(clear && plan.links.size > 0 ? { before: pick([...plan.links.keys()], b)! } : {}),
      };
    case 8: {
      const key = pick([...plan.links.keys()], a);
      return key === undefined ? null : { type: "removeRow", table: "links", key };
    }
    case 9:
      return { type: "removeRow", table: "activities", key: activity };
    case 10:
      return { type: "setDataDate", date: clear ? null : day };
    case 11:
      return {
        type: "setProject",
        set: { name: `P${minutes}`, criticalFloatMinutes: minutes, ...(clear ? {} : { tightDays: 3 }) },
      };
    default:
      return tableChangeFrom(plan, { kind, a, b, minutes, date: day, clear }, activity, id);
  }
}

/** The same for what rewrites and adds rows of the other tables. */
function tableChangeFrom(
  plan: Plan,
  { kind, a, b, minutes, date: day, clear }: Seed,
  activity: string,
  id: string,
): Change | null {
  switch (kind) {
    case 12:
      return {
        type: "setWorking",
        activity,
        calendar: clear ? null : "seven",
        driver: minutes % 2 === 0 ? "effort" : null,
        windowPolicy: b % 2 === 0 ? "drift" : null,
      };
    case 13: {
      const key = pick([...plan.links.keys()], a);
      return key === undefined
        ? null
        : {
            type: "editRow",
            table: "links",
            key,
            set: { lagMinutes: clear ? null : minutes, ...(b % 2 === 0 ? { type: "SS" } : {}) },
          };
    }
    case 14:
      return plan.fields.size === 0
        ? { type: "addRow", table: "fields", key: id, row: { id, name: id, type: "number" } }
        : { type: "setOwnValue", activity, field: pick([...plan.fields.keys()], b)!, value: clear ? null : minutes };
    case 15:
      return {
        type: "addRow",
        table: "costs",
        key: id,
        row: { id, activity, category: "Hire", plannedMinor: minutes, ...(clear ? { timing: "finish" } : {}) },
      };
    case 16:
      return {
        type: "addRow",
        table: "calendars",
        key: id,
        row: { id, name: id, base: "std", exceptions: [{ from: day, to: day, shifts: [] }] },
      };
    default: {
      const key = pick([...plan.calendars.keys()], b)!;
      return {
        type: "editRow",
        table: "calendars",
        key,
        set: { name: `C${minutes}`, exceptions: clear ? null : [{ from: day, to: day, shifts: [["09:00", "12:00"]] }] },
      };
    }
  }
}

/** Counts what was added, so that every new row has an id of its own. */
let made = 0;

function someChanges(plan: Plan, list: readonly Seed[]): { changes: Change[]; after: Plan } {
  const changes: Change[] = [];
  let after = plan;
  list.forEach((seed) => {
    const change = changeFrom(after, seed, made++);
    if (change === null) return;
    after = applyChanges(after, [change]).plan;
    changes.push(change);
  });
  return { changes, after };
}

/** Posted time, which no change leads back behind. */
const posted = (plan: Plan, n: number): Change[] => {
  const activity = [...plan.activities.values()].find(({ kind }) => kind === undefined || kind === "work");
  return activity === undefined
    ? []
    : [
        {
          type: "postTime",
          key: `time${n}`,
          entry: { activity: activity.id, person: "p", date: DATES[0]!, minutes: 60, state: "posted", costMinor: 0 },
        } as never,
      ];
};

describe("a plan as it was", () => {
  it("is what it was before any of the lists that were stored since, posted time among them (law)", () => {
    fc.assert(
      fc.property(networks({ calendars: ["std"] }), fc.array(seeds, { maxLength: 5 }), (bundle, lists) => {
        const stages: Plan[] = [fromBundle(bundle)];
        const stored: StoredChanges[] = [];
        for (const [n, list] of lists.entries()) {
          const changes = [...someChanges(stages.at(-1)!, list).changes, ...posted(stages.at(-1)!, n)];
          const { plan, inverse, were, touched } = applyChanges(stages.at(-1)!, changes);
          stages.push(plan);
          stored.unshift({ touched, were: inverse ?? were });
        }
        const now = stages.at(-1)!;
        for (const [back, plan] of stages.toReversed().entries())
          expect(laidOut(planBefore(now, stored.slice(0, back)))).toEqual(laidOut(plan));
      }),
      { numRuns: 60 },
    );
  });
});

describe("a list of changes", () => {
  it("undo restores exactly, rows and their order, and redo does again what was done", () => {
    fc.assert(
      fc.property(networks({ calendars: ["std"] }), seeds, (bundle, list) => {
        const plan = fromBundle(bundle);
        const before = laidOut(plan);
        const { changes } = someChanges(plan, list);
        const applied = applyChanges(plan, changes);
        const undone = applyChanges(applied.plan, applied.inverse!);
        expect(laidOut(undone.plan)).toEqual(before);
        expect(laidOut(applyChanges(undone.plan, undone.inverse!).plan)).toEqual(laidOut(applied.plan));
        // The plan given stays as it was.
        expect(laidOut(plan)).toEqual(before);
      }),
      { numRuns: 400 },
    );
  });

  it("all at once or one after another comes to the same, and every change and inverse passes its own schema", () => {
    fc.assert(
      fc.property(networks({ calendars: ["std"] }), seeds, (bundle, list) => {
        const plan = fromBundle(bundle);
        const { changes, after } = someChanges(plan, list);
        const applied = applyChanges(plan, changes);
        expect(laidOut(applied.plan)).toEqual(laidOut(after));
        for (const change of [...changes, ...applied.inverse!])
          expect(changeSchema.safeParse(JSON.parse(JSON.stringify(change))).error).toBeUndefined();
      }),
    );
  });

  it("after any edits, undone and redone at random, the plan computes as its bundle does", () => {
    fc.assert(
      fc.property(
        networks({ calendars: ["std", "seven"] }),
        fc.array(seeds, { maxLength: 6 }),
        fc.infiniteStream(fc.boolean()),
        (bundle, lists, turns) => {
          let plan = fromBundle(bundle);
          const undo: (readonly Change[])[] = [];
          for (const list of lists) {
            const { changes } = someChanges(plan, list);
            const applied = applyChanges(plan, changes);
            const problems = checkPlan(toBundle(applied.plan));
            if (problems.length > 0) continue;
            plan = applied.plan;
            undo.push(applied.inverse!);
            if (turns.next().value as boolean) plan = applyChanges(plan, undo.pop()!).plan;
          }
          const printed = (p: Plan): string => {
            try {
              return JSON.stringify(analyse(toBundle(p)));
            } catch (error) {
              return String(error);
            }
          };
          const reread = parseBundle(JSON.parse(JSON.stringify(toBundle(plan))));
          if (reread.ok)
            expect(JSON.stringify(analyseOr(reread.bundle))).toBe(JSON.stringify(analyseOr(toBundle(plan))));
          expect(printed(plan)).toBe(printed(fromBundle(toBundle(plan))));
        },
      ),
      { numRuns: 150 },
    );
  });

  const analyseOr = (bundle: Parameters<typeof analyse>[0]): unknown => {
    try {
      return analyse(bundle);
    } catch (error) {
      return String(error);
    }
  };

  it("fields of a row are written one by one: what remains out stays, what is null is cleared", () => {
    const plan = fromBundle(planOf([{ id: "A", name: "A", durationMinutes: 60, percent: 10, remainingMinutes: 30 }]));
    const applied = applyChanges(plan, [
      { type: "reportProgress", activity: "A", percent: null, actualStart: "2026-03-03" },
    ]);
    expect(applied.plan.activities.get("A")).toEqual({
      id: "A",
      name: "A",
      durationMinutes: 60,
      remainingMinutes: 30,
      actualStart: "2026-03-03",
    });
    expect(applied.inverse).toEqual([{ type: "reportProgress", activity: "A", percent: 10, actualStart: null }]);
    expect(applied.touched).toEqual(["activities/A/percent", "activities/A/actualStart"]);
  });

  it("posted time and a baseline cannot be undone, and so neither can a list that holds one", () => {
    const plan = fromBundle(
      planOf([{ id: "A", name: "A", durationMinutes: 60 }], [], { people: [{ id: "p", name: "P" }] }),
    );
    const posting: Change = {
      type: "postTime",
      key: "t1",
      entry: { activity: "A", person: "p", date: "2026-03-03", minutes: 60, state: "posted" },
    };
    const applied = applyChanges(plan, [{ type: "setName", activity: "A", name: "B" }, posting]);
    expect(applied.inverse).toBeNull();
    expect(applied.plan.timeEntries.size).toBe(1);
    expect(() => applyChanges(applied.plan, [posting])).toThrow(/is there already/);
  });

  it.each<[string, Change]>([
    ["an activity that is not there", { type: "setName", activity: "ghost", name: "x" }],
    ["a row that is not there", { type: "removeRow", table: "links", key: "9" }],
  ])("%s is refused by name", (_what, change) => {
    expect(() => applyChanges(fromBundle(planOf([])), [change])).toThrow(/is not in the plan any more/);
  });

  it("paths of two writers meet where one is the other or lies within it", () => {
    expect([
      pathsMeet("activities/A/percent", "activities/A/percent"),
      pathsMeet("activities/A", "activities/A/percent"),
      pathsMeet("activities/A/percent", "activities/A/name"),
      pathsMeet("activities/A", "activities/AB"),
    ]).toEqual([true, true, false, false]);
    const plan = fromBundle(planOf([{ id: "A/b", name: "slashed", percent: 5 }]));
    expect([
      valueAtPath(plan, "activities/A/b/percent"),
      valueAtPath(plan, "project/name"),
      valueAtPath(plan, "activities/none/percent"),
    ]).toEqual([5, "Plan", undefined]);
  });
});
