import type { Cycle, Owing, PeriodBar, Portfolio } from "@chronometra/contract";
import { freezePlan, type PlanBundle } from "@chronometra/core";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

// Two people of one name, one without an account, a role nobody fills, work in two projects, one project that is not approved.

let world: TestWorld;
let ines: Caller;
let tomas: Caller;

function plan(code: string, people: string[], approved = true): PlanBundle {
  const bare = smallPlan({
    project: { code, name: `Project ${code}`, dataDate: "2026-03-06" } as never,
    people: [
      { id: "ann", name: "Ann" },
      { id: "ann2", name: "Ann" },
      { id: "bo", name: "Bo" },
      { id: "role", name: "A mason" },
    ],
    assignments: people.map((person) => ({ activity: "dig", person, plannedMinutes: 480 })),
  });
  return approved
    ? {
        ...bare,
        baselines: [{ number: 1, approvedOn: "2026-03-01", approvedBy: "x", reason: "y", ...freezePlan(bare) }],
      }
    : bare;
}

const bar = async () => (await ines.get("/api/period")).body as PeriodBar;
const step = async (name: string) => (await bar()).steps.find((each) => each.name === name)!;
const owing = async (by = ines) => (await by.get("/api/period/owing")).body as Owing;

/** The same number wherever it is told. */
async function missing(): Promise<number> {
  const [{ open }, { projects }, { projects: lines }, { people }] = [
    await step("Collect"),
    (await ines.get("/api/cycle")).body as Cycle,
    (await ines.get("/api/portfolio")).body as Portfolio,
    await owing(),
  ];
  const distinct = (lists: { id: string }[][]): number => new Set(lists.flat().map(({ id }) => id)).size;
  expect([
    distinct(projects.map((project) => project.missing)),
    distinct(lines.map((line) => line.missing)),
    people.length,
  ]).toEqual([open, open, open]);
  for (const { id, missing: some } of projects)
    expect(
      people
        .filter(({ projects: on }) => on.some((each) => each.id === id))
        .map((each) => each.id)
        .sort(),
    ).toEqual(some.map((each) => each.id).sort());
  expect(people.filter(({ canBeReached, remindedAt }) => canBeReached && remindedAt === null)).toHaveLength(
    (await step("Chase")).open,
  );
  return open;
}

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
  tomas = await world.caller("tomas", ["projectManager"]);
});
afterAll(() => world.drop());

describe("who owes a report of the period", () => {
  it("nobody while no project takes part: nothing is done then, and the period is not over", async () => {
    await world.openPeriod(1, "2026-03-01", "2026-03-06");
    await world.addProject(tomas.me, plan("A-0", ["ann"], false));
    const { steps, over } = await bar();
    expect([over, steps.map(({ open, done, words }) => [open, done, words])]).toEqual([
      false,
      steps.map(() => [0, false, "no project yet"]),
    ]);
    expect(await missing()).toBe(0);
  });

  it("people, not names and not projects: two Anns are two, one in two projects is one, a role nobody fills is none", async () => {
    const first = await world.addProject(tomas.me, plan("A-1", ["ann", "ann2", "role"]));
    await world.addProject(ines.me, plan("A-2", ["ann", "bo"]));
    const { revision } = (await tomas.get(`/api/projects/${first}/plan`)).body as { revision: number };
    expect(
      (
        await tomas.send("post", `/api/projects/${first}/changes`, {
          revision,
          changes: [{ type: "addRow", table: "placeholders", key: "role", row: { person: "role" } }],
        })
      ).status,
    ).toBe(200);
    expect(await missing()).toBe(3);
    expect(
      (await owing()).people.map(({ id, canBeReached, projects, weeks }) => [
        id,
        canBeReached,
        projects.map(({ code }) => code),
        weeks,
      ]),
    ).toEqual([
      ["ann", false, ["A-1", "A-2"], ["2026-03-02"]],
      ["ann2", false, ["A-1"], ["2026-03-02"]],
      ["bo", false, ["A-2"], ["2026-03-02"]],
    ]);
  });

  it("to be reminded are those who have an account; reminding all of them leaves none", async () => {
    const ann = await world.caller("annie", ["contributor"], "ann");
    await world.caller("bob", ["contributor"], "bo");
    expect([await missing(), (await step("Chase")).open]).toEqual([3, 2]);
    const all = (await owing()).people.map(({ id }) => id);
    const { body } = await ines.send("post", "/api/period/reminders", { people: all, words: "Please report." });
    expect(body).toEqual({ sent: 2, failed: [{ to: "Ann", why: "has no account here" }] });
    expect([await missing(), (await step("Chase")).open, (await step("Chase")).words]).toEqual([3, 0, "done"]);
    const mail = ((await ann.get("/api/mail")).body as { subject: string; body: string }[])[0]!;
    expect([mail.subject, mail.body]).toEqual([
      "Your time of period 1",
      expect.stringMatching(/A-1 Project A-1, A-2 Project A-2/),
    ]);
  });

  it("a manager reminds those who work in their projects, and sees whom else is waited for", async () => {
    expect((await owing(tomas)).people.map(({ id, mayRemind }) => [id, mayRemind])).toEqual([
      ["ann", true],
      ["ann2", true],
      ["bo", false],
    ]);
    expect((await tomas.send("post", "/api/period/reminders", { people: ["bo"], words: "Please." })).status).toBe(403);
  });

  it("whoever reports progress on one project owes what remains on the other", async () => {
    const ann = await world.caller("annette", ["contributor"], "ann");
    const { projects } = (await ines.get("/api/portfolio")).body as Portfolio;
    const [first, second] = ["A-1", "A-2"].map((code) => projects.find((line) => line.code === code)!.id);
    await ann.send("post", "/api/desk/reports", { project: second, activity: "dig", date: "2026-03-03", percent: 10 });
    expect(
      (await owing()).people.map(({ id, projects: on }) => [id, on.map(({ id: each }) => each === first)]),
    ).toEqual([
      ["ann", [true]],
      ["ann2", [true]],
      ["bo", [false]],
    ]);
    expect(await missing()).toBe(3);
    expect((await step("Review")).open).toBe(((await ines.get("/api/reports")).body as unknown[]).length);
  });

  it("after all is locked the period is over", async () => {
    await ines.send("post", "/api/reports/decision", {
      ids: ((await ines.get("/api/reports")).body as { id: string }[]).map(({ id }) => id),
      decision: "accept",
    });
    for (const { id, takesPart } of ((await ines.get("/api/cycle")).body as Cycle).projects)
      if (takesPart) expect((await ines.send("post", `/api/projects/${id}/lock`, { word: "known" })).status).toBe(200);
    expect((await bar()).over).toBe(true);
  });
});
