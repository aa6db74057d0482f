import type { ReportsEffect } from "@chronometra/contract";
import { acceptSums } from "./acceptSums.ts";

type Effect = ReportsEffect[number]["effect"];
type Deadline = Effect["deadlines"][number];
type State = NonNullable<Deadline["after"]>["state"];

const NOTHING: Effect = {
  currency: "EUR",
  minorDigits: 2,
  finish: null,
  milestones: [],
  deadlines: [],
  float: [],
  changed: [],
  cost: null,
  performance: null,
} as unknown as Effect;
const cost = (actual: number, estimate: number, later = 0): Effect["cost"] => ({
  actualBefore: 1_000,
  actualAfter: 1_000 + actual,
  laterBefore: 500,
  laterAfter: 500 + later,
  laterBy: null,
  estimateBefore: 50_000,
  estimateAfter: 50_000 + estimate,
});
const finish = (days: number): Effect["finish"] =>
  ({ id: "", name: "Works", from: "2026-03-02", to: "2026-03-09", days }) as Effect["finish"];
const deadline = (before: State, after: State): Deadline =>
  ({ before: { state: before }, after: { state: after } }) as Deadline;
const on = (project: string, effect: Partial<Effect>): ReportsEffect[number] =>
  ({
    project,
    projectName: project,
    effect: { ...NOTHING, ...effect },
    windows: [],
    asked: [],
    assumed: [],
  }) as unknown as ReportsEffect[number];

describe("what accepting comes to in all", () => {
  it("hours of every report, cost by currency, each with its own digits", () => {
    const effects = [
      on("A", { cost: cost(6_000, 0) }),
      on("B", { cost: cost(1_250, -2_000) }),
      on("C", { currency: "JPY", minorDigits: 0, cost: cost(9_000, 4_000) }),
      on("D", { currency: "KWD", minorDigits: 3, cost: cost(7_500, 999) }),
    ];
    expect(acceptSums([{ minutes: 90 }, { minutes: null }, { minutes: 30 }], effects)).toEqual([
      "2 h",
      "73 EUR more spent",
      "20 EUR less at completion",
      "9\u00a0000 JPY more spent",
      "4\u00a0000 JPY more at completion",
      "8 KWD more spent",
    ]);
  });

  it("time that is taken back", () =>
    expect(acceptSums([{ minutes: -90 }], [on("A", { cost: cost(-9_000, 0) })])).toEqual([
      "1.5 h taken back",
      "90 EUR less spent",
    ]));

  it("what counts only once the data date passes its day", () =>
    expect(acceptSums([{ minutes: 60 }], [on("A", { cost: cost(0, 0, 6_000) })])).toEqual([
      "1 h",
      "60 EUR more once the data date passes it",
    ]));

  it("projects that finish later and earlier, and deadlines that break and did not before", () => {
    const effects = [
      on("A", {
        finish: finish(3),
        deadlines: [
          deadline("safe", "willBreach"),
          deadline("willBreach", "breached"),
          deadline("tight", "metLate"),
          deadline("safe", "tight"),
        ],
      }),
      on("B", { finish: finish(0.1) }),
      on("C", { finish: finish(-2) }),
      on("D", { finish: finish(0) }),
      on("E", {}),
    ];
    expect(acceptSums([{ minutes: null }], effects)).toEqual([
      "2 projects finish later",
      "1 project finishes earlier",
      "2 deadlines break",
    ]);
  });

  it("nothing where nothing moves", () => expect(acceptSums([{ minutes: null }], [on("A", {})])).toEqual([]));
});
