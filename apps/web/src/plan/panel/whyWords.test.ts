import type { LinkedTo } from "@chronometra/core";
import { holdWords, linkWords, reasonWords } from "./whyWords.ts";

const link = (rest: Partial<LinkedTo> = {}): LinkedTo => ({
  id: "d",
  name: "Dig",
  type: "FS",
  lagMinutes: 0,
  elapsed: false,
  calendar: "Yard week",
  dayMinutes: 480,
  on: "2026-03-06",
  ...rest,
});

describe("why, in words", () => {
  it("a link says whose end it waits for, by how much, and in which calendar", () => {
    expect(linkWords(link())).toBe("after Dig, which finishes 6 Mar 2026");
    expect(linkWords(link({ lagMinutes: 960 }))).toBe(
      "after Dig, which finishes 6 Mar 2026, + 2 d, in the calendar Yard week",
    );
    expect(linkWords(link({ type: "SS", lagMinutes: -240 }))).toBe(
      "not before Dig starts, 6 Mar 2026, − 0.5 d, in the calendar Yard week",
    );
    expect(linkWords(link({ type: "FF", lagMinutes: 2880, elapsed: true }))).toBe(
      "to finish no earlier than Dig, 6 Mar 2026, + 2 d by the clock",
    );
    expect(linkWords(link({ type: "SF" }))).toBe("to finish no earlier than Dig starts, 6 Mar 2026");
    expect(holdWords(link({ lagMinutes: 60 }))).toBe("Dig starts after it, + 1 h, in the calendar Yard week");
  });

  it("a date says what it is, a wish with its reason", () => {
    expect(reasonWords({ kind: "projectStart", date: "2026-03-02", decides: true })).toBe(
      "the project starts 2 Mar 2026",
    );
    expect(reasonWords({ kind: "nothingLeft", date: "2026-03-13", decides: true })).toBe(
      "nothing of it remains and it was not reported finished: it counts as finishing by the data date, 13 Mar 2026",
    );
    expect(reasonWords({ kind: "dataDate", date: "2026-03-13", decides: true })).toBe(
      "what remains lies after the data date, 13 Mar 2026",
    );
    expect(
      reasonWords({ kind: "wish", type: "startNotBefore", date: "2026-03-20", reason: "crane", decides: true }),
    ).toBe("wished not to start before 20 Mar 2026: “crane”");
    expect(reasonWords({ kind: "actual", date: "2026-03-04", decides: true })).toBe("it happened on 4 Mar 2026");
  });
});
