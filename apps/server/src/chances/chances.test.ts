import { PROGRESS_TYPE, type ChancesRequest, type ChancesView } from "@chronometra/contract";
import { chancesOf, prepare, simulate, toBundle } from "@chronometra/core";
import { findProject } from "../project/projectAccess.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let pm: Caller, reader: Caller, ann: Caller;
let project: string;
const ASKED: ChancesRequest = { runs: 600, seed: 5, correlation: 0.2, otherwise: "usual" };

beforeAll(async () => {
  world = await TestWorld.open();
  pm = await world.caller("pia", ["projectManager"]);
  reader = await world.caller("rita", ["reader"]);
  ann = await world.caller("ann", ["contributor"], "ann");
  project = await world.addProject(pm.me, smallPlan());
});
afterAll(() => world.drop());

const asked = (by: Caller = reader, rest: Partial<ChancesRequest> = {}) =>
  by.send("post", `/api/projects/${project}/chances`, { ...ASKED, ...rest });
const change = async (...changes: object[]) => {
  const { revision } = (await pm.get(`/api/projects/${project}/plan`)).body as { revision: number };
  return pm.send("post", `/api/projects/${project}/changes`, { revision, changes });
};

describe("chances", () => {
  it("are those that the core works out by itself, whichever threads did, and come again for a seed", async () => {
    const { body } = await asked();
    const view = body as ChancesView;
    const plan = await loadPlan(world.database.manager, await findProject(world.database, project));
    const prepared = prepare({
      plan: toBundle(plan),
      ranges: new Map(),
      risks: [],
      otherwise: "usual",
      correlation: 0.2,
    });
    const { finish, cost, finishes } = chancesOf(prepared, simulate(prepared, 5, 600));
    expect([view.runs, view.finish, view.cost, view.finishes]).toEqual([600, finish, cost, finishes]);
    expect((await asked()).body).toEqual(body);
    expect(((await asked(reader, { seed: 6 })).body as ChancesView).finishes).not.toEqual(view.finishes);
  });

  it("follow ranges and risks that are in the plan as changes like any others", async () => {
    const before = (await asked()).body as ChancesView;
    expect(
      (
        await change(
          { type: "addRow", table: "ranges", key: "dig", row: { low: 100, likely: 150, high: 300 } },
          {
            type: "addRow",
            table: "risks",
            key: "r",
            row: {
              id: "r",
              name: "Storm",
              probability: 1,
              effects: [{ activity: "pour", minutes: { low: 2400, likely: 2400, high: 2400 } }],
              costMinor: { low: 5000, likely: 5000, high: 5000 },
            },
          },
        )
      ).status,
    ).toBe(200);
    const after = (await asked()).body as ChancesView;
    expect(after.activities.find(({ id }) => id === "dig")!.range).toEqual({ low: 100, likely: 150, high: 300 });
    expect([
      after.risks.map(({ name }) => name),
      after.finish.p50 > before.finish.p50,
      after.cost.p50 > before.cost.p50,
    ]).toEqual([["Storm"], true, true]);
    expect(after.finish.planned).toBe(before.finish.planned);
    expect(
      (await change({ type: "addRow", table: "ranges", key: "pour", row: { low: 100, likely: 90, high: 120 } })).body
        .message,
    ).toMatch(/the least comes before the likeliest/);
    expect(
      (
        await change({
          type: "addRow",
          table: "risks",
          key: "x",
          row: {
            id: "x",
            name: "X",
            probability: 0.1,
            effects: [{ activity: "nobody", minutes: { low: 1, likely: 1, high: 1 } }],
          },
        })
      ).body.message,
    ).toMatch(/there is no activity "nobody" for the risk "X"/);
  });

  it("go with the activity they speak of", async () => {
    await change(
      { type: "addRow", table: "activities", key: "extra", row: { id: "extra", name: "Extra", durationMinutes: 480 } },
      { type: "addRow", table: "ranges", key: "extra", row: { low: 90, likely: 100, high: 110 } },
      {
        type: "editRow",
        table: "risks",
        key: "r",
        set: { effects: [{ activity: "extra", minutes: { low: 1, likely: 1, high: 1 } }] },
      },
    );
    const { tables } = (await pm.get(`/api/projects/${project}/plan`)).body as {
      tables: { ranges: [string][]; risks: [string, { effects: unknown[] }][] };
    };
    expect([tables.ranges.map(([key]) => key), tables.risks[0]![1].effects]).toEqual([
      ["dig", "extra"],
      [expect.objectContaining({ activity: "extra" })],
    ]);
  });

  it("are told as they come about where that is wanted, and end with the answer", async () => {
    const text = await new Promise<string>((resolve, reject) => {
      void pm
        .send("post", `/api/projects/${project}/chances`, ASKED)
        .set("accept", PROGRESS_TYPE)
        .buffer(true)
        .parse((response, done) => {
          let all = "";
          response.on("data", (part: Buffer) => (all += part.toString()));
          response.on("end", () => done(null, all));
        })
        .then((response) => resolve(response.body as string), reject);
    });
    const lines = text
      .trimEnd()
      .split("\n")
      .map((line) => JSON.parse(line) as { share?: number; result?: ChancesView });
    expect(lines.at(-1)!.result?.runs).toBe(600);
    expect(lines.slice(0, -1).every(({ share }) => share !== undefined && share > 0 && share <= 1)).toBe(true);
  });

  it("refuse what cannot be played, and are for those who look at projects", async () => {
    expect((await asked(reader, { runs: 5 })).body.message).toMatch(/at least 100 runs/);
    expect((await asked(ann)).status).toBe(403);
    const empty = await world.addProject(pm.me, {
      ...smallPlan(),
      activities: [],
      links: [],
      assignments: [],
      costs: [],
    });
    const { status, body } = await reader.send("post", `/api/projects/${empty}/chances`, ASKED);
    expect([status, body.message]).toEqual([
      422,
      "Nothing in this plan has dates yet; give its activities durations first.",
    ]);
  });
});
