import type { ActivityHistory, OwnPlan, OwnPlans } from "@chronometra/contract";
import ICAL from "ical.js";
import { smallPlan, TestWorld, type Caller } from "../../testing/testWorld.ts";

let world: TestWorld;
let tomas: Caller, ann: Caller, zed: Caller, dagny: Caller;
let project: string;

beforeAll(async () => {
  world = await TestWorld.open();
  tomas = await world.caller("tomas", ["projectManager"]);
  ann = await world.caller("ann", ["contributor"], "ann");
  zed = await world.caller("zed", ["contributor"], "zed");
  dagny = await world.caller("dagny", ["administrator"]);
});
afterAll(() => world.drop());
beforeEach(async () => {
  await world.database.query("delete from plan_row where table_name = 'assignments'");
  project = await world.addProject(tomas.me, smallPlan());
});

const plan = async (who: Caller): Promise<OwnPlan> => (await who.get(`/api/desk/plans/${project}`)).body as OwnPlan;
const history = (who: Caller, activity = "dig") => who.get(`/api/desk/plans/${project}/${activity}/history`);
const change = async (changes: object[]): Promise<void> => {
  const { revision } = (await tomas.get(`/api/projects/${project}/plan`)).body as { revision: number };
  const body = { revision, changes, label: "x" };
  expect((await tomas.send("post", `/api/projects/${project}/changes`, body)).status).toBe(200);
};

describe("the plans of whoever works in them", () => {
  it("are listed with what of one’s own is open, and read without what they cost", async () => {
    const [line] = (await ann.get("/api/desk/plans")).body as OwnPlans;
    expect(line).toMatchObject({ id: project, manager: "Tomas", open: 1, next: "2026-03-06", finish: "2026-03-11" });
    const { activities } = await plan(ann);
    expect(activities.map(({ id, parent, own, people }) => [id, parent, own, people])).toEqual([
      ["works", null, false, []],
      ["dig", "works", true, ["Ann"]],
      ["pour", "works", false, ["Bo"]],
      ["open", null, false, []],
    ]);
    expect(activities[3]).toMatchObject({ kind: "milestone", deadline: "2026-03-13", finish: "2026-03-11" });
    // 100 000 minor units of material, and rates of 6000 and 3000 an hour.
    expect(JSON.stringify(activities)).not.toMatch(/100000|6000|3000|EUR/);
  });

  it("are not there for whoever has no work in them, and for the manager as for those who work", async () => {
    for (const who of [zed, dagny]) {
      expect((await who.get("/api/desk/plans")).body).toEqual([]);
      expect((await who.get(`/api/desk/plans/${project}`)).status).toBe(404);
      expect((await history(who)).status).toBe(404);
    }
    expect((await plan(tomas)).activities).toHaveLength(4);
  });

  it("tell what became of one’s own work, but nothing of money, and nothing of others’ work", async () => {
    await change([{ type: "setDuration", activity: "dig", minutes: 2880 }]);
    await change([
      {
        type: "addRow",
        table: "costs",
        key: "c9",
        row: { id: "c9", activity: "dig", category: "material", plannedMinor: 777_700, timing: "start" },
      },
    ]);
    const { lists } = (await history(ann)).body as ActivityHistory;
    expect(lists).toHaveLength(1);
    expect(lists[0]).toMatchObject({ by: "Tomas", lines: [{ was: "40 h", is: "48 h" }] });
    expect(JSON.stringify(lists)).not.toContain("777");
    expect((await history(ann, "pour")).status).toBe(404);
    expect(((await history(tomas, "pour")).body as ActivityHistory).lists).toEqual([]);
  });

  it("stand in a calendar of one’s own, at an address that can be revoked", async () => {
    expect((await dagny.send("post", "/api/calendars", { subject: "work" })).status).toBe(422);
    expect((await ann.send("post", "/api/calendars", { subject: "deadlines" })).status).toBe(403);
    const { path } = (await ann.send("post", "/api/calendars", { subject: "work" })).body as { path: string };
    const text = async (): Promise<string> => (await ann.get(path)).text;
    const calendar = new ICAL.Component(ICAL.parse(await text()) as never);
    const events = calendar.getAllSubcomponents("vevent").map((each) => new ICAL.Event(each));
    expect(events.map(({ summary, startDate, endDate }) => [summary, String(startDate), String(endDate)])).toEqual([
      ["Dig", "2026-03-02", "2026-03-07"],
    ]);
    await ann.send("delete", "/api/calendars/work");
    expect((await ann.get(path)).status).toBe(404);
  });
});
