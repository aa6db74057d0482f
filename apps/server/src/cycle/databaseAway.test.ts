import type { Cycle } from "@chronometra/contract";
import { pino } from "pino";
import request from "supertest";
import { createApp } from "../start/app.ts";
import { openDatabase } from "../start/openDatabase.ts";
import { CutLine } from "../testing/cutLine.ts";
import { PASSWORD, smallPlan, TestWorld, tokenOf, type Caller } from "../testing/testWorld.ts";

const PROJECTS = 40;

let world: TestWorld;
let tomas: Caller;
let margit: Caller;
let ids: string[];

beforeAll(async () => {
  world = await TestWorld.open();
  tomas = await world.caller("tomas", ["projectManager"]);
  margit = await world.caller("margit", ["approver"]);
  await world.addAccount("ines", ["controller"]);
  ids = [];
  for (let i = 0; i < PROJECTS; i++) {
    const plan = smallPlan();
    const id = await world.addProject(tomas.me, { ...plan, project: { ...plan.project, dataDate: "2026-03-06" } });
    const asked = await tomas.send("post", `/api/projects/${id}/approvals`, { word: "" });
    await margit.send("post", `/api/approvals/${asked.body.id}/decision`, { decision: "approve", reason: "go" });
    ids.push(id);
  }
  await world.openPeriod(1, "2026-03-01", "2026-03-06");
}, 120_000);
afterAll(() => world.drop());

describe("the database goes away while forty projects are locked, and comes back", () => {
  it("each project is locked whole or not at all, the failure is told as what it is, and going on locks the rest, each once", async () => {
    const { line, url } = await CutLine.to(world.url);
    const database = await openDatabase(url);
    const app = createApp({ database, logger: pino({ level: "silent" }) });
    const agent = request.agent(app.app);
    const first = await agent.get("/api/session");
    const token = tokenOf(
      await agent
        .post("/api/session")
        .set("x-chronometra-token", tokenOf(first))
        .send({ login: "ines", password: PASSWORD }),
    );
    const lock = (id: string) =>
      agent.post(`/api/projects/${id}/lock`).set("x-chronometra-token", token).send({ word: "known" });

    const statuses: number[] = [];
    for (const [i, id] of ids.entries()) {
      // In the middle of one, somewhere between its reads and its commit.
      if (i === 13) setTimeout(() => line.cut(), 4);
      const response = await lock(id);
      statuses.push(response.status);
      if (response.status !== 200)
        expect(response.body).toMatchObject({
          code: expect.stringMatching(/^(unavailable|internal)$/),
          message: expect.stringContaining("Nothing was stored"),
        });
    }
    expect(statuses.slice(0, 13).every((status) => status === 200)).toBe(true);
    expect(statuses.slice(14).every((status) => status === 503)).toBe(true);

    const halves = async (): Promise<unknown> =>
      world.database.query(
        "select i.project_id from issued_period i left join period_lock l on l.project_id = i.project_id and l.number = i.number where l.id is null union all select l.project_id from period_lock l left join issued_period i on i.project_id = l.project_id and i.number = l.number where i.project_id is null",
      );
    expect(await halves()).toEqual([]);

    line.mend();
    for (const id of ids) expect((await lock(id)).status).toBe(200);
    expect(await halves()).toEqual([]);
    const counts = (await world.database.query(
      "select (select count(*) from issued_period) as issued, (select count(*) from issued_plan) as plans, (select count(*) from period_lock) as locks",
    )) as [{ issued: string; plans: string; locks: string }];
    expect(Object.values(counts[0]).map(Number)).toEqual([PROJECTS, PROJECTS, PROJECTS]);
    const cycle = (await agent.get("/api/cycle")).body as Cycle;
    expect(cycle.projects.every(({ issued, locked }) => issued && locked)).toBe(true);

    app.close();
    await database.destroy();
    await line.close();
  }, 120_000);
});
