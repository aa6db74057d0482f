import { bridgeOf, causeWords } from "./driftWords.ts";

const cause = (days: number, group: Parameters<typeof causeWords>[0]["group"] = "work", kind: Parameters<typeof causeWords>[0]["kind"] = "activity") => ({ group, kind, id: "x", name: "Pour", days });

describe("the drift ledger in words", () => {
  it.each([
    [cause(2), "More to do in Pour: 2 d later"],
    [cause(-1.5), "Less to do in Pour: 1.5 d earlier"],
    [cause(3, "calendars", "person"), "Leave or calendar of Pour: 3 d later"],
    [cause(3, "progress", "project"), "Pour: 3 d later"],
    [cause(-4, "scope"), "Added, taken out or parked: Pour: 4 d earlier"],
  ])("%j", (given, words) => {
    expect(causeWords(given)).toBe(words);
  });

  it("is a bridge whose end is the sum of its parts", () => {
    const { bars, least, most } = bridgeOf([cause(3), cause(-5), cause(1)]);
    expect([bars.map(({ from, to }) => [from, to]), least, most]).toEqual([[[0, 3], [3, -2], [-2, -1]], -2, 3]);
    expect(bridgeOf([])).toEqual({ bars: [], least: 0, most: 0 });
  });
});
