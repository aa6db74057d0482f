import { computePlan, toBundle, type Change } from "@chronometra/core";
import { FakeServer } from "../testing/fakeServer.ts";
import { layOutSheet } from "./layOutSheet.ts";
import { memoryKeeper, Outbox, type Keeper } from "./outbox.ts";
import { PlanEngine } from "./planEngine.ts";
import { PlanSession } from "./planSession.ts";
import { livePlan } from "./store.ts";

let server: FakeServer;
let keeper: Keeper;
let session: PlanSession;

const open = async (): Promise<PlanSession> => {
  const opened = new PlanSession({ store: livePlan("p"), engine: new PlanEngine(), fetchPlan: server.view, keeper });
  await opened.open();
  return opened;
};

beforeEach(async () => {
  server = new FakeServer();
  keeper = memoryKeeper();
  globalThis.fetch = ((address: string, init: { body?: string }) => server.fetch(address, init)) as typeof fetch;
  session = await open();
});
afterEach(() => session.end());

const settled = async (): Promise<void> => {
  for (let i = 0; i < 400 && (i === 0 || session.snapshot().saving > 0); i++)
    await new Promise((resolve) => setTimeout(resolve, 1));
  expect(session.snapshot().saving).toBe(0);
};
/** The page is left, and the plan opened anew. */
const again = async (): Promise<void> => {
  session.end();
  session = await open();
};
const rowOf = (id: string) =>
  layOutSheet(server.plan, toBundle(server.plan), computePlan(toBundle(server.plan))).rows.find(
    (row) => row.id === id,
  )!;
const named = (id: string, name: string): Change => ({ type: "setName", activity: id, name });

it("what was done is taken back, and done again, after the page was left; others' work in between stays", async () => {
  await session.change([{ type: "setDuration", activity: "dig", minutes: 3360 }]);
  await session.change([named("paint", "Paint twice")]);
  await settled();
  await session.undo();
  await settled();
  await again();
  expect(session.snapshot()).toMatchObject({ undoable: 1, redoable: 1 });
  server.write([named("pour", "Pour at night")]);
  await session.undo();
  await settled();
  expect([server.plan.activities.get("dig")!.durationMinutes, rowOf("pour").name, rowOf("paint").name]).toEqual([
    2400,
    "Pour at night",
    "Paint",
  ]);
  await session.redo();
  await session.redo();
  await settled();
  expect([server.plan.activities.get("dig")!.durationMinutes, rowOf("paint").name]).toEqual([3360, "Paint twice"]);
  expect(session.snapshot()).toMatchObject({ undoable: 2, redoable: 0 });
});

it("what someone else has written over meanwhile is not taken back, and stays to be seen", async () => {
  await session.change([named("paint", "Paint twice")]);
  await settled();
  await again();
  server.write([named("paint", "Paint thrice")]);
  await session.undo();
  await settled();
  expect(rowOf("paint").name).toBe("Paint thrice");
  expect(session.snapshot()).toMatchObject({ undoable: 1, refused: [expect.anything()] });
});

it("what was refused is nothing to take back later, and of much only the latest is kept", async () => {
  await session.change([named("paint", "Paint twice")]);
  await settled();
  const lists = Array.from({ length: 60 }, (_, i) => ({ list: `l${i}`, inverse: [named("paint", String(i))] }));
  const outbox = new Outbox(keeper);
  for (const { list } of lists.slice(10)) outbox.stored(list, 5);
  outbox.remember({ done: lists, undone: [] });
  expect(new Outbox(keeper).undoable.done.map(({ list }) => list)).toEqual(lists.slice(20).map(({ list }) => list));
  outbox.remember({
    done: [
      { list: "l59", inverse: [named("paint", "x".repeat(400_000))] },
      { list: "never stored", inverse: [] },
    ],
    undone: [],
  });
  expect(new Outbox(keeper).undoable.done).toEqual([]);
});
