import { datesAhead } from "./datesAhead.ts";

const dates = (...given: Parameters<typeof datesAhead>): string[] =>
  datesAhead(...given).map(({ dataDate }) => dataDate);

describe("reporting dates ahead", () => {
  it("fall on the last Friday of each month", () => {
    expect(dates("2026-11-27", "month", 4)).toEqual(["2026-12-25", "2027-01-29", "2027-02-26", "2027-03-26"]);
    expect(dates("2026-11-20", "month", 1)).toEqual(["2026-11-27"]);
  });

  it("fall on Fridays, a week or four apart", () => {
    expect(dates("2026-11-27", "week", 2)).toEqual(["2026-12-04", "2026-12-11"]);
    expect(dates("2026-11-27", "fourWeeks", 2)).toEqual(["2026-12-25", "2027-01-22"]);
    expect(dates("2026-11-25", "week", 1)).toEqual(["2026-12-04"]);
  });

  it("are issued by noon four days later", () => {
    expect(datesAhead("2026-11-27", "week", 1)[0]!.issueBy).toBe("2026-12-08T12:00");
  });
});
