import type { Roadmap } from "@chronometra/contract";
import { todayOf } from "../shared/clock.ts";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let ines: Caller;
let amadou: Caller;
let project: string;
let closed: string;

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
  amadou = await world.caller("amadou", ["contributor"]);
  project = await world.addProject(ines.me, smallPlan());
  closed = await world.addProject(ines.me, smallPlan());
  await world.database.query(
    "insert into project_closing (project_id, closed_by, closed_at, word) values (?, ?, now(3), 'over')",
    [closed, ines.me.id],
  );
});
afterAll(() => world.drop());

const roadmap = async (): Promise<Roadmap> => (await ines.get("/api/portfolio/roadmap")).body as Roadmap;

describe("the roadmap", () => {
  it("shows projects that are not closed with their dates, milestones and deadlines, to whoever looks at plans", async () => {
    expect((await amadou.get("/api/portfolio/roadmap")).status).toBe(403);
    const { projects } = await roadmap();
    expect(projects.map(({ id }) => id)).toEqual([project]);
    expect(projects[0]).toMatchObject({
      start: "2026-03-02",
      baselineStart: null,
      milestones: [{ name: "Open" }],
      deadlines: [{ name: "Open", deadline: "2026-03-13" }],
      gates: [],
    });
  });

  it("follows the plan: what was read once is read anew once it has changed", async () => {
    const before = (await roadmap()).projects[0]!;
    const { revision } = (await ines.get(`/api/projects/${project}/plan`)).body as { revision: number };
    await ines.send("post", `/api/projects/${project}/changes`, {
      revision,
      changes: [{ type: "setDuration", activity: "dig", minutes: 9600 }],
    });
    const after = (await roadmap()).projects[0]!;
    expect(after.finish! > before.finish!).toBe(true);
  });

  it("shows gates where they are due: on a day, with a milestone as it is forecast, or where they were passed", async () => {
    const stage = (id: string) => ({ id, name: `Stage ${id}`, gate: `Gate ${id}`, conditions: [] });
    await ines.send("put", "/api/life-cycles/c", {
      was: null,
      value: { kind: "Any", stages: [stage("a"), stage("b"), stage("z")] },
    });
    const write = (written: object) => ines.send("put", `/api/projects/${project}/gates`, written);
    await write({ field: "lifeCycle", was: null, value: "c" });
    await write({ field: "due", stage: "a", was: null, value: { date: "2026-05-04" } });
    await write({ field: "due", stage: "b", was: null, value: { activity: "open" } });
    const line = (await roadmap()).projects[0]!;
    expect(line.stage).toBe("Stage a");
    expect(line.gates).toEqual([
      { stage: "a", name: "Gate a", date: "2026-05-04", approved: null, passed: false },
      { stage: "b", name: "Gate b", date: line.milestones[0]!.forecast, approved: null, passed: false },
    ]);
    const margit = await world.caller("margit", ["approver"]);
    const { body } = await ines.send("post", `/api/projects/${project}/gates/a`, { word: "" });
    const decision = {
      asked: (body as { asked: { id: number } }).asked.id,
      decision: "passed",
      word: "Yes",
      actions: [],
    };
    await margit.send("post", `/api/projects/${project}/gates/a/decision`, decision);
    const today = todayOf(ines.me);
    expect((await roadmap()).projects[0]!.gates[0]).toMatchObject({ stage: "a", date: today, passed: true });
  });
});
