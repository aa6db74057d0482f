import type { ComparisonView } from "@chronometra/contract";
import { openOf, parseDate } from "@chronometra/core";
import { comparedShapes, scaleOf } from "./compare/compareLanes.ts";
import { budgetParts, differsIn, finishWords, isShown, summaryWords, type ComparedRow } from "./words/comparedWords.ts";

const at = (date: string): number => openOf(parseDate(date)!);
const state = (
  start: string,
  finish: string,
  more: Partial<NonNullable<ComparedRow["from"]>> = {},
): NonNullable<ComparedRow["from"]> => ({
  startDate: start,
  finishDate: finish,
  start: at(start),
  finish: at(finish) + 1440,
  durationMinutes: 480,
  minutes: 60,
  budgetMinor: 1000,
  deadline: null,
  parked: false,
  ...more,
});
const row = (more: Partial<ComparedRow>): ComparedRow => ({
  id: "a",
  name: "Dig",
  path: "Lock",
  milestone: false,
  what: "changed",
  from: state("2026-03-02", "2026-03-03"),
  to: state("2026-03-02", "2026-03-03"),
  startDays: 0,
  finishDays: 0,
  logicAdded: [],
  logicDropped: [],
  ...more,
});

const VIEW: ComparisonView = {
  currency: "EUR",
  minorDigits: 2,
  dayMinutes: 480,
  states: [],
  from: { name: "baseline-1", words: "baseline 1", on: null },
  to: { name: "plan", words: "the plan", on: null },
  rows: [],
  finish: { from: "2026-03-04", to: "2026-03-09", days: 3 },
  budgetMinor: { from: 100_000, to: 101_000 },
  minutes: { from: 600, to: 900 },
  alike: 4,
};

describe("a comparison in words", () => {
  it("tells finish, cost, hours and what became of the activities", () => {
    const view = { ...VIEW, rows: [row({ what: "added", from: null }), row({}), row({ id: "b" })] };
    expect(summaryWords(view)).toEqual([
      "The finish moves from 4 Mar 2026 to 9 Mar 2026, 3 d later.",
      "The planned cost goes from 1\u00a0000 to 1\u00a0010 EUR, 10 more.",
      "Of that 10 more by added work (1 activity).",
      "The work is 5 hours more.",
      "Of the activities 1 added, 2 changed; 4 stand alike in both.",
    ]);
  });

  it("says what a budget's difference is made of: parked work, other rates for the same hours, the rest", () => {
    const plain = state("2026-03-02", "2026-03-03");
    const rows = [
      row({ what: "parked", to: { ...plain, parked: true } }),
      row({ what: "dropped", to: null }),
      row({ what: "woken", from: { ...plain, parked: true, budgetMinor: 500 } }),
      row({ to: { ...plain, budgetMinor: 1_512 } }),
      row({ to: { ...plain, budgetMinor: 1_600, minutes: 90 } }),
      row({ finishDays: 2 }),
    ];
    const parts = budgetParts(rows);
    expect(parts.map(({ words, minor, count }) => [words, minor, count])).toEqual([
      ["parked work, which counts in no BAC", -1_000, 1],
      ["work that has left the plan", -1_000, 1],
      ["woken work", 1_000, 1],
      ["work whose hours are the same, by other rates or costs", 512, 1],
      ["other hours and costs", 600, 1],
    ]);
    expect(summaryWords({ ...VIEW, rows, budgetMinor: { from: 5_000, to: 5_112 } })[2]).toMatch(
      /^Of that 10 less by parked work, which counts in no BAC \(1 activity\), .*, 5 more by work whose hours are the same/,
    );
    expect(summaryWords({ ...VIEW, rows: rows.slice(1, 3), budgetMinor: { from: 5, to: 5 } })[2]).toBe(
      "In it 10 less by work that has left the plan (1 activity), 10 more by woken work (1 activity).",
    );
  });

  it("tells the times of day where a date moves within itself", () => {
    const within = row({
      finishDays: -1,
      from: { ...state("2026-03-02", "2026-03-03"), finish: at("2026-03-03") + 1020 },
      to: { ...state("2026-03-02", "2026-03-03"), finish: at("2026-03-03") + 480 },
    });
    expect([
      finishWords(within),
      finishWords(row({})),
      finishWords(row({ to: state("2026-03-02", "2026-03-09"), finishDays: 4 })),
      finishWords(row({ from: null })),
    ]).toEqual(["3 Mar 2026, 17:00 → 08:00", "3 Mar 2026", "3 Mar 2026 → 9 Mar 2026", "– → 3 Mar 2026"]);
    expect(summaryWords({ ...VIEW, finish: { from: "2026-03-03", to: "2026-03-03", days: -1 } })[0]).toBe(
      "The finish moves within 3 Mar 2026, 1 d earlier.",
    );
  });

  it("says what stays, and where there is nothing to compare", () => {
    const same = {
      ...VIEW,
      finish: { from: "2026-03-04", to: "2026-03-04", days: 0 },
      budgetMinor: { from: 5, to: 5 },
      minutes: { from: 5, to: 5 },
    };
    expect(summaryWords(same)).toEqual([
      "The finish stays at 4 Mar 2026.",
      "The planned cost stays at 0 EUR.",
      "No activity differs.",
    ]);
    expect(summaryWords({ ...same, finish: { from: null, to: "2026-03-04", days: null } })[0]).toBe(
      "One of the two has no dates.",
    );
    expect(summaryWords({ ...same, rows: [row({})], alike: 1 }).at(-1)).toBe(
      "Of the activities 1 changed; one stands alike in both.",
    );
  });
});

describe("in which ways a row differs", () => {
  it.each<[string, Partial<ComparedRow>, string[], string[]]>([
    ["later", { finishDays: 2 }, ["dates"], ["", "changed", "later", "dates"]],
    ["earlier", { finishDays: -1 }, ["dates"], ["", "changed", "earlier", "dates"]],
    [
      "duration and budget",
      { to: state("2026-03-02", "2026-03-03", { durationMinutes: 960, budgetMinor: 2 }) },
      ["duration", "budget"],
      ["", "changed", "duration", "budget"],
    ],
    ["logic", { logicAdded: ["Pour"] }, ["logic"], ["", "changed", "logic"]],
    [
      "a deadline",
      { to: state("2026-03-02", "2026-03-03", { deadline: "2026-04-01" }) },
      ["deadline"],
      ["", "changed", "deadline"],
    ],
    ["added", { what: "added", from: null, finishDays: null }, [], ["", "added"]],
  ])("%s", (_what, more, ways, filters) => {
    expect([...differsIn(row(more))]).toEqual(ways);
    expect(
      ["", "changed", "added", "later", "earlier", "dates", "duration", "budget", "logic", "deadline"]
        .filter((filter) => isShown(row(more), filter))
        .sort(),
    ).toEqual([...filters].sort());
  });
});

describe("the lane of a compared activity", () => {
  const rows = [row({ to: state("2026-03-05", "2026-03-06"), finishDays: 3 })];
  const scale = scaleOf(rows, 200)!;

  it("has then as a bracket, now as a band, and a wedge between their finishes, all within its width", () => {
    const { bracket, band, wedge } = comparedShapes(rows[0]!, scale);
    expect(wedge).toEqual({ from: bracket![1], to: band![1], late: true });
    for (const [from, to] of [bracket!, band!]) expect([from >= 0, to <= 200, from < to]).toEqual([true, true, true]);
  });

  it("has only what there is: nothing then for what was added, nothing now for what was dropped or parked", () => {
    expect(comparedShapes(row({ what: "added", from: null }), scale)).toMatchObject({ bracket: null, wedge: null });
    expect(comparedShapes(row({ what: "dropped", to: null }), scale)).toMatchObject({ band: null, wedge: null });
    expect(
      comparedShapes(row({ what: "parked", to: state("2026-03-02", "2026-03-03", { parked: true }) }), scale),
    ).toMatchObject({ band: null });
    expect(comparedShapes(row({ milestone: true }), scale)).toMatchObject({
      band: null,
      pennants: { now: expect.any(Number) as number },
    });
    expect(scaleOf([row({ from: null, to: null })], 200)).toBeNull();
  });
});
