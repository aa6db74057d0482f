import { applyChanges, fromBundle, toBundle, type Change, type Plan } from "@chronometra/core";
import { pino } from "pino";
import request from "supertest";
import { createApp } from "../start/app.ts";
import { summarise } from "../writers/summarise.ts";
import { FiguresEntity } from "../writers/figuresEntity.ts";
import { ProjectEntity } from "../project/projectEntity.ts";
import { inTransaction, RETRYABLE } from "../shared/database.ts";
import { openDatabase, openSessions } from "../start/openDatabase.ts";
import { killServers, signInAt, startServer } from "../testing/serverProcess.ts";
import { PASSWORD, smallPlan, TestWorld, tokenOf, type Caller } from "../testing/testWorld.ts";
import { storeChanges } from "./changeService.ts";
import { computeWhole } from "./held/computedPlan.ts";
import { ChangeListEntity } from "./stored/planEntities.ts";
import { keepAtHand, loadPlan, rememberPlan } from "./stored/planStore.ts";
import { writeProject, writeProjects } from "./writeProjects.ts";

let world: TestWorld;
let ines: Caller;

beforeAll(async () => {
  process.env["CHRONOMETRA_SECRET"] = "a secret of tests";
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
});
afterAll(async () => {
  killServers();
  await world.drop();
});

type Someone = Pick<Caller, "get" | "send">;

const PROJECTS = 5;
const ROUNDS = 1000;
const ROUNDS_BETWEEN_LOOKS = 100;

const person = (role: string, calendar?: string): object => ({
  table: "people",
  row: {
    id: "ann",
    name: "Ann",
    role,
    rates: [{ from: "2026-01-01", perHourMinor: 6000 }],
    ...(calendar === undefined ? {} : { calendar }),
  },
});

const projectRow = async (id: string): Promise<ProjectEntity> =>
  world.database.getRepository(ProjectEntity).findOneByOrFail({ id });

/** A plan as its lists of changes make it from what it began with. */
async function replayed(id: string, began: Plan): Promise<Plan> {
  const lists = await world.database
    .getRepository(ChangeListEntity)
    .find({ where: { projectId: id }, order: { revision: "ASC" } });
  expect(lists.map(({ revision }) => revision)).toEqual(lists.map((_, i) => i + 1));
  return lists.reduce((plan, { changes }) => applyChanges(plan, JSON.parse(changes) as Change[]).plan, began);
}

describe("plans written by many at once", () => {
  it("through two servers, of which one has hardly a plan at hand: nothing acknowledged is lost, no plan is stale, kept figures are those computed anew", async () => {
    const ids: string[] = [];
    const began = new Map<string, Plan>();
    for (let i = 0; i < PROJECTS; i++) {
      const bundle = smallPlan();
      // The last by id has no calendar "night": whatever wants it is refused there, after the others were written.
      ids.push(await world.addProject(ines.me, bundle));
      began.set(ids.at(-1)!, fromBundle(bundle));
    }
    const withNight = ids.toSorted().slice(0, -1);
    for (const id of withNight)
      await ines.send("post", `/api/projects/${id}/changes`, {
        revision: 1,
        changes: [
          { type: "addRow", table: "calendars", key: "night", row: { id: "night", name: "Night", base: "std" } },
        ],
      });

    const before = keepAtHand(20);
    const beside = await startServer(world.url);
    const servers: Someone[] = [ines, await signInAt(beside.address, "ines")];
    const acknowledged = new Map<string, string>();
    let count = 0;
    let refusals = 0;
    const someServer = (): Someone => servers[count % 2]!;

    const single = async (id: string, activity: string): Promise<void> => {
      const server = someServer();
      const { revision } = (await server.get(`/api/projects/${id}/plan`)).body as { revision: number };
      const name = `Name ${count++}`;
      const { status, body } = await server.send("post", `/api/projects/${id}/changes`, {
        revision,
        changes: [{ type: "setName", activity, name }],
      });
      expect([200, 503]).toContain(status);
      if (status === 200) acknowledged.set(`${id} ${activity}`, name);
      else expect(body.code).toBe("busy");
    };
    const several = async (): Promise<void> => {
      const role = `Role ${count++}`;
      const { status } = await someServer().send("post", "/api/shared", { projects: ids, rows: [person(role)] });
      expect([200, 503]).toContain(status);
    };
    const rolledBack = async (): Promise<void> => {
      count++;
      const { status } = await someServer().send("post", "/api/shared", {
        projects: ids,
        rows: [person("never", "night")],
      });
      expect([422, 503]).toContain(status);
      if (status === 422) refusals++;
    };
    const reader = async (id: string): Promise<void> => {
      const { status, body } = await someServer().get(`/api/projects/${id}/plan`);
      expect([status, JSON.stringify(body).includes("never")]).toEqual([200, false]);
    };

    try {
      for (let round = 0; round < ROUNDS; round += 8) {
        const id = ids[round % PROJECTS]!;
        const other = ids[(round + 1) % PROJECTS]!;
        await Promise.all([
          single(id, "dig"),
          several(),
          rolledBack(),
          single(other, "pour"),
          reader(id),
          several(),
          single(id, "open"),
          reader(other),
        ]);
        if (round % ROUNDS_BETWEEN_LOOKS !== 0) continue;
        for (const each of ids) {
          const row = await projectRow(each);
          const plan = await replayed(each, began.get(each)!);
          for (const server of servers) {
            const told = (await server.get(`/api/projects/${each}/plan`)).body as {
              revision: number;
              tables: { activities: unknown; people: unknown };
            };
            expect([told.revision, told.tables.activities, told.tables.people]).toEqual([
              row.revision,
              [...plan.activities],
              [...plan.people],
            ]);
          }
          const kept = await world.database
            .getRepository(FiguresEntity)
            .findOneByOrFail({ projectId: each, revision: row.revision });
          expect(kept.summary).toBe(JSON.stringify(summarise(computeWhole(plan))));
          expect(row.keptRevision).toBe(row.revision);
          for (const activity of ["dig", "pour", "open"]) {
            const name = acknowledged.get(`${each} ${activity}`);
            if (name !== undefined)
              expect([each, activity, plan.activities.get(activity)!.name]).toEqual([each, activity, name]);
          }
        }
      }
      expect(refusals).toBeGreaterThan(ROUNDS / 16);
    } finally {
      keepAtHand(before);
      beside.kill();
    }
  }, 400_000);

  it("a plan that is read while it is written is told as of the revision that it is of", async () => {
    const id = await world.addProject(ines.me, smallPlan());
    const row = await projectRow(id);
    await ines.send("post", `/api/projects/${id}/changes`, {
      revision: 1,
      changes: [{ type: "setName", activity: "dig", name: "Dredge" }],
    });
    const before = keepAtHand(0);
    // Read before the change was stored, the row still says revision 1.
    const plan = await loadPlan(world.database.manager, row);
    keepAtHand(before);
    expect([row.revision, plan.activities.get("dig")!.name]).toEqual([2, "Dredge"]);
  });

  it("a plan that was read before its lock is not read again under it, however little is kept at hand", async () => {
    const id = await world.addProject(ines.me, smallPlan());
    const before = keepAtHand(0);
    let read: Plan | undefined;
    const dredge: Change = { type: "setName", activity: "dig", name: "Dredge" };
    try {
      await writeProject(
        world.database,
        ines.me,
        id,
        async (writing, project) => expect(await writing.plan(project)).toBe(read),
        (plan) => {
          read = plan;
          rememberPlan("another", 1, fromBundle(smallPlan()));
          return [dredge];
        },
      );
      // The newest is at hand, however large it is: who types on in one plan does not have it read each time.
      const row = await projectRow(id);
      expect(await loadPlan(world.database.manager, row)).toBe(await loadPlan(world.database.manager, row));
    } finally {
      keepAtHand(before);
    }
  });

  it("what a transaction made that is not carried out is nowhere afterwards", async () => {
    const id = await world.addProject(ines.me, smallPlan());
    const failing = writeProject(world.database, ines.me, id, async (writing, project) => {
      await storeChanges(writing, project, {
        changes: [{ type: "setName", activity: "dig", name: "Never" }],
        label: "never",
      });
      expect((await writing.plan(project)).activities.get("dig")!.name).toBe("Never");
      throw new Error("not carried out");
    });
    await expect(failing).rejects.toThrow("not carried out");
    const plan = await loadPlan(world.database.manager, await projectRow(id));
    expect(toBundle(plan).activities.find((each) => each.id === "dig")!.name).toBe("Dig");
    // The revision that was never stored comes to mean something else: what was made of it then must not be at hand.
    await ines.send("post", `/api/projects/${id}/changes`, {
      revision: 1,
      changes: [{ type: "setName", activity: "dig", name: "Dredge" }],
    });
    expect((await loadPlan(world.database.manager, await projectRow(id))).activities.get("dig")!.name).toBe("Dredge");
  });
});

describe("a project that someone holds", () => {
  it("makes writers wait for a short time and then says that it is busy, while everyone else is served", async () => {
    const id = await world.addProject(ines.me, smallPlan());
    const database = await openDatabase(world.url);
    const sessions = await openSessions(world.url);
    const app = createApp({ database, sessions, logger: pino({ level: "silent" }) });
    const agent = request.agent(app.app);
    const first = tokenOf(await agent.get("/api/session"));
    const token = tokenOf(
      await agent.post("/api/session").set("x-chronometra-token", first).send({ login: "ines", password: PASSWORD }),
    );
    const holder = world.database.createQueryRunner();
    await holder.startTransaction();
    await holder.query("select id from project where id = ? for update", [id]);
    try {
      const waiting = Array.from({ length: 12 }, () =>
        agent
          .post(`/api/projects/${id}/changes`)
          .set("x-chronometra-token", token)
          .send({ revision: 1, changes: [{ type: "setName", activity: "dig", name: "Wait" }] })
          .then((answer) => answer),
      );
      await new Promise((resolve) => setTimeout(resolve, 300));
      const began = Date.now();
      expect((await agent.get("/api/portfolio")).status).toBe(200);
      expect(Date.now() - began).toBeLessThan(1500);
      for (const answer of await Promise.all(waiting))
        expect([answer.status, answer.body.code, answer.headers["retry-after"]]).toEqual([503, "busy", "1"]);
    } finally {
      await holder.rollbackTransaction();
      await holder.release();
    }
    expect(
      (
        await agent
          .post(`/api/projects/${id}/changes`)
          .set("x-chronometra-token", token)
          .send({ revision: 1, changes: [{ type: "setName", activity: "dig", name: "Free" }] })
      ).status,
    ).toBe(200);
    app.close();
    await database.destroy();
    await sessions.destroy();
  }, 60_000);
});

describe("a transaction that the database gives up", () => {
  it.each([1213, 1020, 1047])(
    "is run again for error %i, and is busy where that goes on",
    async (errno) => {
      let runs = 0;
      const failing = (times: number) =>
        inTransaction(world.database, async () => {
          if (runs++ < times) throw Object.assign(new Error("given up"), { errno });
          return runs;
        });
      expect(await failing(2)).toBe(3);
      await expect(failing(1000)).rejects.toMatchObject({ code: "busy", status: 503, retryAfterSeconds: 1 });
      expect(RETRYABLE.has(errno)).toBe(true);
    },
    30_000,
  );

  it("is run again after a deadlock that really happens", async () => {
    const [a, b] = [await world.addProject(ines.me, smallPlan()), await world.addProject(ines.me, smallPlan())];
    let runs = 0;
    const both = (first: string, second: string) =>
      inTransaction(world.database, async (manager) => {
        runs++;
        await manager.query("update project set kept_revision = kept_revision where id = ?", [first]);
        await manager.query("select id from project where id = ? for update", [first]);
        if (runs <= 2) await new Promise((resolve) => setTimeout(resolve, 200));
        await manager.query("select id from project where id = ? for update", [second]);
        return "done";
      });
    expect(await Promise.all([both(a, b), both(b, a)])).toEqual(["done", "done"]);
    expect(runs).toBeGreaterThan(2);
  });

  it("writers of several projects in any order do not wait for each other in a circle", async () => {
    const ids = [await world.addProject(ines.me, smallPlan()), await world.addProject(ines.me, smallPlan())];
    const write = (order: readonly string[]) =>
      writeProjects(world.database, ines.me, order, async (writing) =>
        Promise.all(order.map((id) => writing.project(id).id)),
      );
    const answers = await Promise.all(
      Array.from({ length: 30 }, (_, i) => write(i % 2 === 0 ? ids : ids.toReversed())),
    );
    expect(answers).toHaveLength(30);
  });
});
