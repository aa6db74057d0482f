import { fromBundle, PlanProblems, type Change } from "@chronometra/core";
import { stopWorkers } from "../../shared/workers.ts";
import { smallPlan, TestWorld, type Caller } from "../../testing/testWorld.ts";
import { storeChanges } from "../changeService.ts";
import { computePlansIn } from "./overPlan.ts";
import { loadPlan } from "../stored/planStore.ts";
import { effectOn } from "../prepare.ts";
import { writeProject, writeProjects } from "../writeProjects.ts";
import { findProject } from "../../project/projectAccess.ts";

let world: TestWorld;
let ines: Caller;
let id: string;

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
  id = await world.addProject(ines.me, smallPlan());
});
afterAll(() => world.drop());

const longer = (minutes: number): Change[] => [{ type: "setDuration", activity: "dig", minutes }];

/** Stores a list; under the lock no thread for plans can be asked. */
async function storeWithoutThreads(stored: Change[], ahead?: () => Change[]): Promise<number> {
  try {
    return await writeProject(
      world.database,
      ines.me,
      id,
      async (writing, project) => {
        computePlansIn("plan/noSuchFile");
        return (await storeChanges(writing, project, { changes: stored, label: "longer" })).result.revision;
      },
      ahead,
    );
  } finally {
    computePlansIn("start/planWork");
  }
}

describe("work over plans", () => {
  it("is done before a project is locked, so that under the lock it is only stored", async () => {
    const before = (await findProject(world.database, id)).revision;
    await expect(storeWithoutThreads(longer(960))).rejects.toThrow(/noSuchFile/);
    expect(await storeWithoutThreads(longer(960), () => longer(960))).toBe(before + 1);
  });

  it("is done so for several projects at once, whoever writes them", async () => {
    const approver = await world.caller("margit", ["approver"]);
    const ids = [id, await world.addProject(ines.me, smallPlan({ project: { code: "S-2" } as never }))];
    try {
      const revisions = await writeProjects(
        world.database,
        approver.me,
        ids,
        async (writing) => {
          computePlansIn("plan/noSuchFile");
          const order = { changes: longer(1920), label: "longer" };
          const stored = [];
          for (const each of ids) stored.push(await storeChanges(writing, writing.project(each), order));
          return stored.map(({ result }) => result.revision);
        },
        () => longer(1920),
      );
      expect(revisions).toEqual([3, 2]);
    } finally {
      computePlansIn("start/planWork");
    }
  });

  it("is done again under the lock where something else is stored than was worked out", async () => {
    await expect(storeWithoutThreads(longer(1440), () => longer(480))).rejects.toThrow(/noSuchFile/);
    const { status } = await ines.send("post", `/api/projects/${id}/changes`, { revision: 3, changes: longer(1440) });
    expect(status).toBe(200);
  });

  it("says what stands against changes, in the words of the plan, and stores nothing", async () => {
    const loop: Change[] = [{ type: "addRow", table: "links", key: "back", row: { from: "open", to: "dig" } }];
    const plan = await loadPlan(world.database.manager, await findProject(world.database, id));
    await expect(effectOn({ id, plan }, loop)).rejects.toThrow(PlanProblems);
    const { revision } = await findProject(world.database, id);
    const refused = await ines.send("post", `/api/projects/${id}/changes`, { revision, changes: loop });
    expect([refused.status, refused.body.message]).toEqual([422, expect.stringMatching(/Dig.*Open|Open.*Dig/)]);
    expect((await findProject(world.database, id)).revision).toBe(revision);
  });

  it("goes on where threads have ended", async () => {
    const plan = fromBundle(smallPlan());
    const first = await effectOn({ id: "elsewhere", plan }, longer(4800));
    await stopWorkers();
    expect(await effectOn({ id: "elsewhere", plan }, longer(4800))).toEqual(first);
    expect(first.activities.length).toBeGreaterThan(0);
  });
});
