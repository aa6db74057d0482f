import { aloneWords, bridgeOf, causeWords, progressWords } from "./driftWords.ts";

type Cause = Parameters<typeof bridgeOf>[0][number];
const cause = (
  days: number,
  group: Cause["group"] = "work",
  kind: Cause["kind"] = "activity",
  rest: Partial<Cause> = {},
): Cause => ({
  group,
  kind,
  id: "x",
  name: "Pour",
  days,
  alone: null,
  expected: null,
  came: null,
  reason: null,
  ...rest,
});
const state = (what: "finished" | "underWay" | "notBegun", start: string, finish: string, leftDays = 0) => ({
  what,
  start,
  finish,
  leftDays,
});

describe("the drift ledger in words", () => {
  it.each([
    [cause(2), "More to do in Pour"],
    [cause(-1.5), "Less to do in Pour"],
    [cause(3, "calendars", "person"), "Leave or calendar of Pour"],
    [cause(3, "progress", "project", { name: "rounding" }), "Rounding"],
    [cause(-4, "scope"), "Added, removed or parked: Pour"],
    [
      cause(2, "wishes", "activity", { reason: "the crane comes late" }),
      "Another date wish for Pour: the crane comes late",
    ],
    [
      cause(2, "progress", "activity", {
        expected: state("finished", "2026-11-02", "2026-11-12"),
        came: state("underWay", "2026-11-03", "2026-12-01", 8),
      }),
      "Pour: was to finish 12 Nov 2026; 8 d remaining",
    ],
  ])("%j", (given, words) => {
    expect(causeWords(given)).toBe(words);
  });

  it.each([
    [
      state("finished", "2026-11-02", "2026-11-12"),
      state("notBegun", "2026-11-30", "2026-12-10", 9),
      "was to finish 12 Nov 2026; not begun",
    ],
    [
      state("underWay", "2026-11-03", "2026-12-03", 4),
      state("notBegun", "2026-11-30", "2026-12-10", 9),
      "was to begin 3 Nov 2026; not begun",
    ],
    [
      state("underWay", "2026-11-03", "2026-12-03", 4),
      state("underWay", "2026-11-03", "2026-12-10", 9.04),
      "was to have 4 d remaining; 9 d remaining",
    ],
    [
      state("underWay", "2026-11-03", "2026-12-03", 4),
      state("finished", "2026-11-03", "2026-11-20"),
      "was to finish 3 Dec 2026; finished 20 Nov 2026",
    ],
    [
      state("notBegun", "2026-12-09", "2026-12-20", 8),
      state("underWay", "2026-11-24", "2026-12-14", 5),
      "was to begin 9 Dec 2026; begun 24 Nov 2026, 5 d remaining",
    ],
    [
      state("notBegun", "2026-12-09", "2026-12-20", 8),
      state("finished", "2026-11-24", "2026-11-26"),
      "was to begin 9 Dec 2026; finished 26 Nov 2026",
    ],
  ])("says what was expected and what came", (expected, came, words) => {
    expect(progressWords(expected, came)).toBe(words);
  });

  it("says what a cause would have moved by itself, where that is something else", () => {
    expect(
      [
        [3, 3],
        [3, null],
        [0, 14],
        [3, 0],
        [3, -2],
      ].map(([days, alone]) => aloneWords({ days: days!, alone: alone ?? null })),
    ).toEqual([null, null, "by itself 14 d later", "by itself nothing", "by itself 2 d earlier"]);
  });

  it("is a bridge whose end is the sum of its parts", () => {
    const { bars, least, most } = bridgeOf([cause(3), cause(-5), cause(1)]);
    expect([bars.map(({ from, to }) => [from, to]), least, most]).toEqual([
      [
        [0, 3],
        [3, -2],
        [-2, -1],
      ],
      -2,
      3,
    ]);
    expect(bridgeOf([])).toEqual({ bars: [], least: 0, most: 0 });
  });
});
