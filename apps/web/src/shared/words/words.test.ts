import {
  countWords,
  dateWords,
  driftTone,
  driftWords,
  indexTone,
  marginWords,
  money,
  percentWords,
  ratioWords,
  readDate,
  shortDateWords,
  timeLeftWords,
  varianceTone,
  varianceWords,
} from "./words.ts";

describe("what a number means in words", () => {
  it.each([
    [12, "12 d late"],
    [-3, "3 d early"],
    [0, "on the day"],
    [2.5, "2.5 d late"],
    [0.04, "on the day"],
    [-0.06, "0.1 d early"],
    [null, "–"],
  ])("a drift of %p days", (days, words) => {
    expect(driftWords(days)).toBe(words);
  });

  it("a drift that is shown as none is neither good nor bad news", () => {
    expect([driftTone(0.04), driftTone(-0.04), driftTone(1), driftTone(-1), driftTone(null)]).toEqual([
      "plain",
      "plain",
      "adverse",
      "favourable",
      "plain",
    ]);
  });

  it("money is whole units of the currency, a variance says which way", () => {
    expect([money(123_456_789, 2), money(-49, 2), money(1234, 0), money(null, 2)]).toEqual([
      "1\u00a0234\u00a0568",
      "0",
      "1\u00a0234",
      "–",
    ]);
    expect([
      varianceWords(-420_000, 2, "over", "under"),
      varianceWords(90_000, 2, "over", "under"),
      varianceWords(3, 2, "over", "under"),
      varianceWords(null, 2, "over", "under"),
    ]).toEqual(["4\u00a0200 over", "900 under", "even", "–"]);
    expect([varianceTone(-1), varianceTone(1), varianceTone(0), varianceTone(null)]).toEqual([
      "adverse",
      "favourable",
      "plain",
      "plain",
    ]);
  });

  it("an index of 1 is on plan, below 1 adverse, above 1 favourable, for cost and schedule alike (common practice, no source)", () => {
    expect([indexTone(0.9), indexTone(0.997), indexTone(1), indexTone(1.004), indexTone(1.1), indexTone(null)]).toEqual(
      ["adverse", "adverse", "plain", "favourable", "favourable", "plain"],
    );
    expect([
      ratioWords(0.9),
      ratioWords(0.997),
      ratioWords(0.9997),
      ratioWords(1),
      ratioWords(1.0041),
      ratioWords(null),
      percentWords(0.425),
      percentWords(null),
    ]).toEqual(["0.90", "0.997", "1.00", "1.00", "1.004", "–", "43%", "–"]);
  });

  it("margins, counts and time left", () => {
    expect([marginWords(5), marginWords(-3.25), marginWords(0)]).toEqual(["5 d in hand", "3.3 d short", "0 d in hand"]);
    expect([countWords(1, "person", "people"), countWords(1200, "row", "rows")]).toEqual([
      "1 person",
      "1\u00a0200 rows",
    ]);
    const noon = new Date("2026-11-24T12:00");
    expect([
      timeLeftWords(new Date("2026-11-26T18:30"), noon),
      timeLeftWords(new Date("2026-11-24T15:00"), noon),
      timeLeftWords(new Date("2026-11-23T09:00"), noon),
    ]).toEqual(["2 d 6 h", "3 h", "1 d 3 h over"]);
  });
});

describe("dates", () => {
  it("are shown as 24 Nov 2026", () => {
    expect([dateWords("2026-11-24"), dateWords("2027-01-05"), dateWords(null), shortDateWords("2026-11-24")]).toEqual([
      "24 Nov 2026",
      "5 Jan 2027",
      "–",
      "24 Nov",
    ]);
  });

  it.each<[string, string | null]>([
    ["2026-11-24", "2026-11-24"],
    ["2026-1-5", "2026-01-05"],
    ["24 Nov 2026", "2026-11-24"],
    ["24 november 2026", "2026-11-24"],
    ["24nov", "2025-11-24"],
    ["5. Jan. 2027", "2027-01-05"],
    [" 24 Nov ", "2025-11-24"],
    ["2026-02-30", null],
    ["31 Apr 2026", null],
    ["24/11/2026", null],
    ["11-24", null],
    ["Nov 24", null],
    ["", null],
    ["soon", null],
    ["24 Xyz 2026", null],
  ])("%j is read as %p; what could be read in two ways is not read", (text, date) => {
    expect(readDate(text, "2025")).toBe(date);
  });
});
