import type { Change } from "@chronometra/core";
import request from "supertest";
import { killServers, startServer } from "../testing/serverProcess.ts";
import { PASSWORD, smallPlan, TestWorld, tokenOf } from "../testing/testWorld.ts";

let world: TestWorld;

beforeAll(async () => {
  world = await TestWorld.open();
});
afterAll(async () => {
  killServers();
  await world.drop();
});

/** Everything stored of a project, for comparing what a save left. */
const stored = async (
  project: string,
): Promise<{ rows: number; revisions: number[]; figures: number[]; head: number }> => {
  const one = async (sql: string): Promise<Record<string, string>[]> =>
    (await world.database.query(sql, [project])) as Record<string, string>[];
  return {
    rows: Number(
      (await one("select count(*) as n from plan_row where project_id = ? and table_name = 'activities'"))[0]!["n"],
    ),
    revisions: (await one("select revision from change_list where project_id = ? order by revision")).map(
      ({ revision }) => Number(revision),
    ),
    figures: (await one("select revision from figures where project_id = ? order by revision")).map(({ revision }) =>
      Number(revision),
    ),
    head: Number((await one("select revision from project where id = ?"))[0]!["revision"]),
  };
};

describe("a server killed in the middle of a save", () => {
  const ROWS = 2000;
  /** Not after some milliseconds, but once the save has been answered. */
  const ANSWERED = Infinity;
  const BATCH: Change[] = Array.from({ length: ROWS }, (_, i) => ({
    type: "addRow",
    table: "activities",
    key: `k${i}`,
    row: { id: `k${i}`, name: `Killed ${i}`, durationMinutes: 480 },
  }));

  it("leaves either all of it or nothing, wherever it was when it died", async () => {
    const tomas = await world.addAccount("tomas", ["projectManager"]);
    const outcomes = new Set<string>();
    // From before the call has arrived to after it has been answered.
    for (const delay of [5, 40, 80, 120, 160, 200, 260, 340, 450, 700, ANSWERED]) {
      const project = await world.addProject(tomas, smallPlan());
      const server = await startServer(world.url);
      const agent = request.agent(server.address);
      const token = tokenOf(await agent.get("/api/session"));
      const signedIn = await agent
        .post("/api/session")
        .set("x-chronometra-token", token)
        .send({ login: "tomas", password: PASSWORD });
      const saving = agent
        .post(`/api/projects/${project}/changes`)
        .set("x-chronometra-token", tokenOf(signedIn))
        .send({ revision: 1, changes: BATCH })
        .then(
          ({ status }) => status,
          () => 0,
        );
      await (delay === ANSWERED ? saving : new Promise((resolve) => setTimeout(resolve, delay)));
      server.kill();
      const status = await saving;
      // Waits until the database has undone or finished what the killed server had begun.
      await world.database.transaction((tx) =>
        tx.query("select revision from project where id = ? for update", [project]),
      );
      const left = await stored(project);
      const nothing = { rows: 4, revisions: [1], figures: [1], head: 1 };
      const all = { rows: 4 + ROWS, revisions: [1, 2], figures: [1, 2], head: 2 };
      expect([nothing, all]).toContainEqual(left);
      if (status === 200) expect(left).toEqual(all);
      outcomes.add(left.head === 2 ? "all" : "nothing");
    }
    // The delays were worth their name only if some saves were cut off and some went through.
    expect([...outcomes].sort()).toEqual(["all", "nothing"]);
  }, 180_000);
});
