import fc from "fast-check";
import { schedulePlan } from "../../network/schedule.ts";
import { networks, planOf } from "../../testing/plans.ts";
import { applyChanges } from "../applyChanges.ts";
import { changeSchema } from "../change.ts";
import { brokenChains, parkRows, wakeRows } from "./parking.ts";
import { fromBundle, toBundle, type Plan } from "../plan.ts";
import { PLAN_TABLES } from "../tables.ts";
import type { Link } from "../schema.ts";

const day = (id: string, parent?: string) => ({
  id,
  name: id.toUpperCase(),
  durationMinutes: 480,
  ...(parent === undefined ? {} : { parent }),
});
const plan = (links: Link[]): Plan =>
  fromBundle(
    planOf(
      [day("a"), { id: "S", name: "S", kind: "summary" }, day("x", "S"), day("y", "S"), day("b"), day("c")],
      links,
    ),
  );
const keys = (): (() => string) => {
  let n = 0;
  return () => `k${++n}`;
};
const told = (of: Plan, ids: string[]): unknown[] =>
  brokenChains(of, ids).map(({ link, through, by }) => [link, through.join(), by.join()]);
const laidOut = (of: Plan): unknown => PLAN_TABLES.map((table) => [...of[table]].sort());

describe("chains that parking would break", () => {
  it.each<[string, Link[], unknown[]]>([
    [
      "one after another: their lags together",
      [
        { from: "a", to: "x", lagMinutes: 60 },
        { from: "x", to: "b", lagMinutes: 30 },
      ],
      [[{ from: "a", to: "b", lagMinutes: 90 }, "x", "x"]],
    ],
    [
      "ends of the first and of the last decide the kind",
      [
        { from: "a", to: "x", type: "SS" },
        { from: "x", to: "b", type: "FF" },
      ],
      [[{ from: "a", to: "b", type: "SF" }, "x", "x"]],
    ],
    [
      "met at the finish and left at the start, it says nothing",
      [
        { from: "a", to: "x", type: "FF" },
        { from: "x", to: "b", type: "SS" },
      ],
      [],
    ],
    [
      "by the clock only where all lags are",
      [
        { from: "a", to: "x", lagMinutes: 60, lagIn: "elapsed" },
        { from: "x", to: "b" },
      ],
      [[{ from: "a", to: "b", lagMinutes: 60, lagIn: "elapsed" }, "x", "x"]],
    ],
    [
      "what a link says already is not told again",
      [
        { from: "a", to: "x" },
        { from: "x", to: "b" },
        { from: "a", to: "b", lagMinutes: 5 },
      ],
      [],
    ],
    [
      "every end that is reached",
      [
        { from: "a", to: "x" },
        { from: "x", to: "b" },
        { from: "x", to: "c" },
      ],
      [
        [{ from: "a", to: "b" }, "x", "x"],
        [{ from: "a", to: "c" }, "x", "x"],
      ],
    ],
    ["nothing behind it: nothing broken", [{ from: "a", to: "x" }], []],
  ])("%s", (_what, links, chains) => expect(told(plan(links), ["x"])).toEqual(chains));

  it("lead through all that lies below a branch, and of several the longest counts", () => {
    const of = plan([
      { from: "a", to: "x" },
      { from: "x", to: "y", lagMinutes: 480 },
      { from: "y", to: "b" },
      { from: "a", to: "y" },
    ]);
    expect(told(of, ["S"])).toEqual([[{ from: "a", to: "b", lagMinutes: 480 }, "x,y", "S"]]);
  });
});

describe("parking and waking", () => {
  const of = plan([
    { from: "a", to: "x" },
    { from: "x", to: "y" },
    { from: "y", to: "b" },
  ]);
  const order = (from: Plan): string[] => {
    const bundle = toBundle(from);
    const { rows } = schedulePlan(bundle);
    return bundle.activities.flatMap(({ id }, i) =>
      rows[i] == null || id === "S" ? [] : [`${id}${Math.round(rows[i]!.start / 1440)}`],
    );
  };

  it("without carrying, what came after starts anew; carried across, it stays behind what came before", () => {
    const only = applyChanges(of, parkRows(of, ["S"], { carried: false, newKey: keys() })).plan;
    const across = applyChanges(of, parkRows(of, ["S"], { carried: true, newKey: keys() })).plan;
    const first = order(of)[0]!.slice(1);
    expect([order(only), order(across)]).toEqual([
      [`a${first}`, `b${first}`, `c${first}`],
      [`a${first}`, `b${Number(first) + 1}`, `c${first}`],
    ]);
    expect(laidOut(applyChanges(across, wakeRows(across, ["S"], keys())).plan)).toEqual(laidOut(of));
  });

  it("woken one by one, the logic stays carried across what is still parked", () => {
    const parked = applyChanges(of, parkRows(of, ["x", "y"], { carried: true, newKey: keys() })).plan;
    const half = applyChanges(
      parked,
      wakeRows(parked, ["y"], () => "again"),
    ).plan;
    expect([...half.carried]).toEqual([["again", { by: ["x"] }]]);
    expect(half.links.get("again")).toEqual({ from: "a", to: "y" });
    expect(laidOut(applyChanges(half, wakeRows(half, ["x"], keys())).plan)).toEqual(laidOut(of));
  });

  it("laws: carrying makes no loop, keeps every order between what counts that parking alone would lose, and waking restores exactly", () => {
    fc.assert(
      fc.property(
        networks({ calendars: ["std"] }),
        fc.uniqueArray(fc.nat(13), { minLength: 1, maxLength: 4 }),
        (bundle, picks) => {
          const from = fromBundle(bundle);
          const ids = [...from.activities.keys()].filter((_id, i) => picks.includes(i));
          if (ids.length === 0) return;
          const changes = parkRows(from, ids, { carried: true, newKey: keys() });
          for (const change of changes) expect(changeSchema.safeParse(change).error).toBeUndefined();
          const across = applyChanges(from, changes).plan;
          expect(() => schedulePlan(toBundle(across))).not.toThrow();
          expect(
            brokenChains(
              applyChanges(
                across,
                ids.map((activity) => ({ type: "setParked", activity, parked: false }) as const),
              ).plan,
              ids,
            ),
          ).toEqual([]);
          expect(laidOut(applyChanges(across, wakeRows(across, ids, keys())).plan)).toEqual(laidOut(from));
          expect(laidOut(applyChanges(across, applyChanges(from, changes).inverse!).plan)).toEqual(laidOut(from));
        },
      ),
      { numRuns: 300 },
    );
  });
});
