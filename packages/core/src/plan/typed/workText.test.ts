import { planOf } from "../../testing/plans.ts";
import { applyChanges } from "../applyChanges.ts";
import { fromBundle, type Plan } from "../plan.ts";
import { readWork, workTexts } from "./workText.ts";

const people = [
  { id: "ama", name: "Amadou Diallo" },
  { id: "bri", name: "Brigid Moss" },
  { id: "bra", name: "Brian Moss" },
  { id: "x1", name: "Crane 2" },
  { id: "ann", name: "Ann Lee", role: "diver" },
  { id: "lee", name: "Ann Lee", role: "welder" },
];
const plan = (
  assignments: {
    activity: string;
    person: string;
    plannedMinutes: number;
    unitsPercent?: number;
    remainingMinutes?: number;
    restart?: string;
  }[] = [],
): Plan =>
  fromBundle(
    planOf(
      [
        { id: "A", name: "Dig", durationMinutes: 960 },
        { id: "B", name: "Pour" },
      ],
      [],
      { people, assignments },
    ),
  );

let n = 0;
const read = (from: Plan, text: string) => readWork(from, "A", text, () => `k${n++}`);
/** The text of the activity once what was typed is taken in. */
function typed(text: string, from = plan()): string {
  const answer = read(from, text);
  if ("fault" in answer) return answer.fault;
  return workTexts(applyChanges(from, answer.changes).plan).get("A") ?? "";
}

describe("who works on an activity, in words", () => {
  it.each([
    ["Amadou Diallo 16h", "Amadou Diallo 16h"],
    ["amadou 16", "Amadou Diallo 16h"],
    ["diallo 2d", "Amadou Diallo 16h"],
    ["Amadou 1:30; Brigid 8h at 50%", "Amadou Diallo 1.5h; Brigid Moss 8h at 50%"],
    ["Amadou 8h from 2026-05-04", "Amadou Diallo 8h from 4 May 2026"],
    ["Amadou 8h from 4 May", "Amadou Diallo 8h from 4 May 2026"],
    ["Amadou at 50%", "Amadou Diallo 8h at 50%"],
    ["Amadou", "Amadou Diallo 16h"],
    ["#x1 7m", "“Crane 2” 0:07"],
    ["“crane 2” 7m; Ann Lee (diver) 1h", "“Crane 2” 0:07; Ann Lee (diver) 1h"],
    ["ann lee (w", "Ann Lee (welder) 16h"],
    ["", ""],
  ])("%j is read as %j", (text, said) => expect(typed(text)).toBe(said));

  it.each([
    ["Zeno 4h", /nobody called “Zeno”/],
    ["Moss 4h", /could be Brigid Moss, Brian Moss; write which/],
    ["Ann Lee 4h", /could be Ann Lee \(diver\), Ann Lee \(welder\); write which/],
    ["#nobody", /nobody called “#nobody”/],
    ["Amadou 4h at 0%", /no share of someone's time/],
    ["Amadou 8h from 2026-02-30", /is no date/],
  ])("%j is refused in words", (text, fault) => expect(typed(text)).toMatch(fault));

  it("typing again what stands there changes nothing", () => {
    const from = plan([
      { activity: "A", person: "ama", plannedMinutes: 967, unitsPercent: 12.5, restart: "2026-03-04" },
      { activity: "A", person: "x1", plannedMinutes: 60 },
    ]);
    expect(read(from, workTexts(from).get("A")!)).toEqual({ changes: [] });
  });

  it("what is not said stays: remaining hours of someone whose hours change", () => {
    const from = plan([
      { activity: "A", person: "ama", plannedMinutes: 600, remainingMinutes: 60 },
      { activity: "B", person: "bri", plannedMinutes: 60 },
    ]);
    const answer = read(from, "Amadou 20h");
    expect(answer).toEqual({
      changes: [{ type: "editRow", table: "assignments", key: "1", set: { plannedMinutes: 1200 } }],
    });
    expect(read(from, "Brigid 1h")).toMatchObject({
      changes: [
        { type: "removeRow", table: "assignments", key: "1" },
        { type: "addRow", row: { person: "bri", plannedMinutes: 60 } },
      ],
    });
  });
});
