import { askedIn, chancePercent, chanceWords, rangeWords, readRange } from "./chanceWords.ts";

describe("ranges as they are typed", () => {
  it.each<[string, ReturnType<typeof readRange>]>([
    ["90 100 135", { low: 90, likely: 100, high: 135 }],
    ["90%, 110%, 150%", { low: 90, likely: 110, high: 150 }],
    ["80-140", { low: 80, likely: 100, high: 140 }],
    ["Wide", { low: 80, likely: 100, high: 200 }],
    ["100 90 120", null],
    ["90", null],
    ["0 100 120", null],
    ["soon", null],
    ["", null],
  ])("%j", (text, range) => expect(readRange(text)).toEqual(range));
});

describe("ranges as they are read", () => {
  it("are the name of their class where they are one", () =>
    expect([rangeWords({ low: 80, likely: 100, high: 200 }), rangeWords({ low: 80, likely: 110, high: 200 })]).toEqual([
      "wide",
      "80 110 200",
    ]));
});

describe("chances in words", () => {
  it("never say all or none where one run says otherwise", () => {
    expect([0, 0.0004, 0.34, 0.9996, 1].map(chanceWords)).toEqual([
      "in no run",
      "in under 1 of 100",
      "in 34 of 100",
      "in over 99 of 100",
      "in all runs",
    ]);
    expect([0, 0.0004, 0.34, 0.9996, 1].map(chancePercent)).toEqual(["0%", "<1%", "34%", ">99%", "100%"]);
  });
});

describe("what an address asks for", () => {
  it("is taken where it makes sense, and is what it is otherwise where not", () => {
    expect(askedIn(new URLSearchParams("runs=500&seed=9&together=50&otherwise=wide"))).toEqual({
      runs: 500,
      seed: 9,
      correlation: 0.5,
      otherwise: "wide",
    });
    expect(askedIn(new URLSearchParams("runs=5&seed=-1&together=x&otherwise=huge"))).toEqual({
      runs: 2000,
      seed: 1,
      correlation: 0.2,
      otherwise: "usual",
    });
  });
});
