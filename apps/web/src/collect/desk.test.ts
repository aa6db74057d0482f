import type { DeskActivity } from "@chronometra/contract";
import { byDue, dueGroup } from "./desk/dueGroups.ts";
import { readTime } from "./readTime.ts";
import { reportWords } from "./reportWords.ts";

describe("time as it is typed on the desk", () => {
  it.each<[string, number, string]>([
    ["1.5h", 90, ""],
    ["1,5 h", 90, ""],
    ["1:30", 90, ""],
    ["90m", 90, ""],
    ["2", 120, ""],
    ["2 drawings for leaf B", 120, "drawings for leaf B"],
    ["0.5h drawings", 30, "drawings"],
    ["1h 2 people came", 60, "2 people came"],
    ["24h", 1440, ""],
    ["1.5h, a note", 90, "a note"],
    ["2, drawings", 120, "drawings"],
    ["1,5", 90, ""],
    ["1h 30m", 90, ""],
    ["1h30m survey", 90, "survey"],
    ["2h, 3m deep", 120, "3m deep"],
    ["90m: dig", 90, "dig"],
  ])("%j", (text, minutes, note) => {
    expect(readTime(text)).toEqual({ minutes, note });
  });

  it.each<[string, RegExp]>([
    ["a while", /is no time/],
    ["", /is no time/],
    ["h", /is no time/],
    ["-1h", /is no time/],
    ["0", /above 0/],
    ["0:00", /above 0/],
    ["25h", /24 hours/],
    ["1:75", /is no time/],
    ["3d", /is no time/],
    ["2h 1.5h", /two times/],
    ["2h 30m 1h", /two times/],
  ])("%j is none, and it is said why", (text, words) => {
    expect(readTime(text)).toEqual({ fault: expect.stringMatching(words) });
  });
});

describe("more than a day, typed without a unit", () => {
  it("is offered as minutes, with its note", () => {
    expect(readTime("90")).toEqual({ fault: expect.stringMatching(/90 minutes/), offer: "90m" });
    expect(readTime("45 drawings")).toEqual({ fault: expect.any(String), offer: "45m, drawings" });
    expect(readTime((readTime("45 drawings") as { offer: string }).offer)).toEqual({ minutes: 45, note: "drawings" });
    expect(readTime("2000")).toEqual({ fault: "A day has 24 hours." });
  });

  it("takes no time where that takes back what was booked", () => {
    expect([readTime("0h gone", "none too"), readTime("0h 30m", "none too")]).toEqual([
      { minutes: 0, note: "gone" },
      { minutes: 30, note: "" },
    ]);
  });
});

describe("when something is due, in plain words", () => {
  // 24 November 2026 is a Tuesday; its week ends on Sunday the 29th.
  const TODAY = "2026-11-24";
  it.each([
    ["2026-11-23", "Overdue"],
    ["2026-11-24", "Due today"],
    ["2026-11-25", "Due this week"],
    ["2026-11-29", "Due this week"],
    ["2026-11-30", "Due next week"],
    ["2026-12-06", "Due next week"],
    ["2026-12-07", "Under way, due later"],
  ])("%s is %s", (finish, group) => {
    expect(dueGroup({ start: "2026-11-01", finish, state: "inProgress" }, TODAY)).toBe(group);
  });

  it("what has not begun and is not to begin yet is coming up", () => {
    expect(dueGroup({ start: "2026-12-01", finish: "2026-12-20", state: "notStarted" }, TODAY)).toBe("Coming up");
    expect(dueGroup({ start: "2026-11-20", finish: "2026-12-20", state: "notStarted" }, TODAY)).toBe(
      "Under way, due later",
    );
  });

  it("groups stand in order, the earliest first in each, and empty ones are left out", () => {
    const activity = (name: string, finish: string) =>
      ({ name, start: "2026-11-01", finish, state: "inProgress" }) as DeskActivity;
    const groups = byDue(
      [activity("c", "2026-12-30"), activity("b", "2026-11-20"), activity("a", "2026-11-10")],
      TODAY,
    );
    expect(groups.map(({ group, activities }) => [group, activities.map(({ name }) => name)])).toEqual([
      ["Overdue", ["a", "b"]],
      ["Under way, due later", ["c"]],
    ]);
  });
});

it("a report says what it reports", () => {
  expect([
    reportWords({ leaveUntil: null, minutes: 210, percent: 60, remainingMinutes: 720, stage: "Painted" }),
    reportWords({ leaveUntil: null, minutes: null, percent: 0, remainingMinutes: null, stage: null }),
  ]).toEqual(["3.5 h, at “Painted”, 60% done, 12 h remaining", "0% done"]);
});
