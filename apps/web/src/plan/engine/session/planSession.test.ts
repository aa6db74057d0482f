import { isDeepStrictEqual } from "node:util";
import { computePlan, toBundle, type Change } from "@chronometra/core";
import fc from "fast-check";
import { FakeServer, type Trouble } from "../../testing/fakeServer.ts";
import { layOutSheet } from "../layOutSheet.ts";
import { memoryKeeper, type Keeper } from "./outbox.ts";
import { PlanEngine } from "../planEngine.ts";
import { PlanSession } from "./planSession.ts";
import type { SessionState } from "./sessionState.ts";
import type { Sheet } from "../sheet.ts";
import { livePlan } from "./store.ts";

let server: FakeServer;
let session: PlanSession;
let keeper: Keeper;

const openSession = async (): Promise<PlanSession> => {
  const opened = new PlanSession({ store: livePlan("p"), engine: new PlanEngine(), fetchPlan: server.view, keeper });
  await opened.open();
  return opened;
};

beforeEach(async () => {
  server = new FakeServer();
  keeper = memoryKeeper();
  globalThis.fetch = ((address: string, init: { body?: string }) => server.fetch(address, init)) as typeof fetch;
  session = await openSession();
});
afterEach(() => session.end());

/** Waits until something holds. */
const until = async (holds: () => boolean): Promise<void> => {
  for (let i = 0; i < 400 && !holds(); i++) await new Promise((resolve) => setTimeout(resolve, 1));
  expect(holds()).toBe(true);
};

const settled = async (): Promise<SessionState> => {
  for (let i = 0; i < 400; i++) {
    await new Promise((resolve) => setTimeout(resolve, 1));
    if (session.snapshot().saving === 0) return session.snapshot();
  }
  throw new Error("never saved");
};
const finishOf = (state: SessionState, id: string): string =>
  state.sheet!.rows.find((row) => row.id === id)!.dates!.finishDate;
const longer: Change = { type: "setDuration", activity: "dig", minutes: 3360 };
/** What the server would show: the page and the server must agree to the minute. */
const asServer = () => layOutSheet(server.plan, toBundle(server.plan), computePlan(toBundle(server.plan)));

describe("working on a plan", () => {
  it("a change shows at once, before it is stored, with what it moved", async () => {
    await session.change([longer]);
    const state = session.snapshot();
    expect([finishOf(state, "open"), state.saving]).toEqual(["2026-03-13", 1]);
    expect(state.effect).toMatchObject({ finish: { days: 2 }, milestones: [{ id: "open" }] });
    expect((await settled()).undoable).toBe(1);
    expect(session.snapshot().sheet).toEqual(asServer());
  });

  it("nothing reads as saved while what was let go of or typed is still being worked out", async () => {
    const gesture = {
      what: "stretch",
      activity: "dig",
      to: session.snapshot().sheet!.rows.find(({ id }) => id === "dig")!.dates!.finish + 2 * 1440,
      fine: false,
    } as const;
    const dropped = session.drop(gesture);
    expect(session.snapshot().saving).toBe(1);
    expect([await dropped, session.snapshot().saving]).toEqual([null, 1]);
    await settled();
    expect(server.revision).toBe(2);
    const typed = session.readLinks("open", "dig");
    expect(session.snapshot().saving).toBe(1);
    await typed;
    expect([session.snapshot().saving, server.revision]).toEqual([0, 2]);
  });

  it("a name that was pasted with what nobody sees is shown, and stored, without it", async () => {
    await session.change([{ type: "setName", activity: "dig", name: "Dig \u202ddeep\u202c" }]);
    const name = (sheet: Sheet | null) => sheet?.rows.find(({ id }) => id === "dig")?.name;
    expect(name(session.snapshot().sheet)).toBe("Dig deep");
    await settled();
    expect([name(session.snapshot().sheet), name(asServer())]).toEqual(["Dig deep", "Dig deep"]);
  });

  it("what cannot be is told, nothing changes and nothing is sent", async () => {
    const before = session.snapshot().sheet;
    expect(await session.change([{ type: "reportProgress", activity: "dig", percent: 50 }])).toEqual([
      expect.objectContaining({ row: "Dig", field: "percent", message: expect.stringContaining("needs a data date") }),
    ]);
    expect([session.snapshot().sheet, server.revision]).toEqual([before, 1]);
  });

  it("undo and redo restore exactly, several deep", async () => {
    const start = session.snapshot().sheet;
    await session.change([longer]);
    await session.change([{ type: "setDeadline", activity: "open", date: null }]);
    await session.change([{ type: "setDuration", activity: "paint", minutes: 60 }]);
    const end = (await settled()).sheet;
    for (let i = 0; i < 3; i++) void session.undo();
    expect((await settled()).sheet).toEqual(start);
    expect([session.snapshot().undoable, session.snapshot().redoable]).toEqual([0, 3]);
    for (let i = 0; i < 3; i++) void session.redo();
    expect((await settled()).sheet).toEqual(end);
    expect(session.snapshot().sheet).toEqual(asServer());
  });

  it("a new change after undoing leaves nothing to redo", async () => {
    await session.change([longer]);
    await settled();
    await session.undo();
    await settled();
    await session.change([{ type: "setDuration", activity: "paint", minutes: 60 }]);
    expect((await settled()).redoable).toBe(0);
  });

  it("what others wrote meanwhile comes in with the next change, under one's own", async () => {
    server.write([{ type: "setDuration", activity: "pour", minutes: 480 }]);
    await session.change([longer]);
    const state = await settled();
    expect([state.merged, finishOf(state, "open")]).toEqual([1, "2026-03-11"]);
    expect(state.sheet).toEqual(asServer());
  });

  it("what others store comes in by itself, under what is on its way, and is told with who did it", async () => {
    server.write([{ type: "setDuration", activity: "pour", minutes: 480 }]);
    const saving = session.change([longer]);
    session.follow(server.revision + 1);
    await saving;
    const state = await settled();
    expect(state.sheet).toEqual(asServer());
    server.write([{ type: "setName", activity: "open", name: "Opened" }]);
    session.follow(server.revision);
    session.follow(server.revision);
    for (let i = 0; i < 50 && session.snapshot().sheet!.rows[0]!.name !== "Opened"; i++)
      await new Promise((resolve) => setTimeout(resolve, 1));
    expect([session.snapshot().arrivedBy, session.snapshot().sheet]).toEqual([["Bo"], asServer()]);
    // It can be undone on: one's own change is the one that goes.
    await session.undo();
    expect(finishOf(await settled(), "open")).toBe("2026-03-09");
  });

  it("an undo after others have written loads the plan anew", async () => {
    await session.change([longer]);
    await settled();
    server.write([{ type: "setDuration", activity: "pour", minutes: 480 }]);
    await session.undo();
    expect((await settled()).sheet).toEqual(asServer());
  });

  it("where the server refuses, the plan is the server's again, and what was refused stays in sight until it is given up or made all the same", async () => {
    const clash = {
      path: "activities/dig/durationMinutes",
      what: "Dig: durationMinutes",
      theirs: 1,
      yours: 2,
      by: "Bo",
      at: "2026-03-02T08:00:00Z",
    };
    server.trouble = [
      {
        status: 409,
        body: { code: "conflict", message: "Someone else changed the same thing meanwhile.", clashes: [clash] },
      },
    ];
    await session.change([longer]);
    const state = await settled();
    expect(state.refused).toEqual([
      expect.objectContaining({
        what: "Duration of “Dig”",
        why: expect.stringMatching(/Someone else/),
        clashes: [clash],
      }),
    ]);
    expect(state.sheet).toEqual(asServer());
    expect([server.revision, state.undoable]).toEqual([1, 0]);
    expect(await session.insist(state.refused[0]!)).toBeNull();
    expect((await settled()).refused).toEqual([]);
    expect([server.revision, session.snapshot().sheet]).toEqual([2, asServer()]);
  });

  it("what was typed after a change that was refused is stored all the same where it still fits, and told where it does not", async () => {
    server.trouble = [{ status: 422, body: { code: "invalid", message: "No." } }];
    const row = { type: "addRow", table: "activities", key: "new", row: { id: "new", name: "New" } } as const;
    await Promise.all([
      session.change([row]),
      session.change([{ type: "setDuration", activity: "paint", minutes: 60 }]),
      session.change([{ type: "setName", activity: "new", name: "Named" }]),
    ]);
    const state = await settled();
    expect(state.refused.map(({ what }) => what)).toEqual(["New row “New”", "Name “Named”"]);
    expect([server.revision, server.plan.activities.get("paint")!.durationMinutes]).toEqual([2, 60]);
    expect(state.sheet).toEqual(asServer());
  });
});

describe("while the server is away", () => {
  it("changes wait in their order, are counted, never read as saved, and arrive by themselves when it is back", async () => {
    server.down = true;
    await session.change([longer]);
    await session.change([
      { type: "addRow", table: "activities", key: "n7", row: { id: "n7", name: "New", durationMinutes: 480 } },
    ]);
    await session.change([{ type: "setName", activity: "n7", name: "Named" }]);
    await until(() => session.snapshot().away);
    expect(session.snapshot()).toMatchObject({ waiting: 3, saving: 3, away: true, refused: [] });
    expect([
      finishOf(session.snapshot(), "open"),
      session.snapshot().sheet!.rows.some(({ name }) => name === "Named"),
      server.revision,
    ]).toEqual(["2026-03-13", true, 1]);
    server.down = false;
    session.tryNow();
    const state = await settled();
    expect(state).toMatchObject({ waiting: 0, away: false, refused: [], undoable: 3 });
    expect([server.revision, state.sheet]).toEqual([4, asServer()]);
  });

  it("what waits outlives the page, and is laid over the plan when it is opened again", async () => {
    server.down = true;
    await session.change([longer]);
    await until(() => session.snapshot().away);
    session.end();
    server.down = false;
    server.write([{ type: "setDuration", activity: "pour", minutes: 480 }]);
    session = await openSession();
    expect(finishOf(session.snapshot(), "open")).toBe("2026-03-11");
    await settled();
    expect([server.revision, session.snapshot().sheet, keeper.read().waiting]).toEqual([3, asServer(), []]);
  });

  it("undo and redo wait too, and nothing of them is lost", async () => {
    await session.change([longer]);
    await settled();
    server.down = true;
    await session.undo();
    expect([finishOf(session.snapshot(), "open"), session.snapshot().redoable]).toEqual(["2026-03-11", 1]);
    await session.redo();
    await session.undo();
    await until(() => session.snapshot().away);
    expect(session.snapshot().waiting).toBe(3);
    server.down = false;
    session.tryNow();
    expect((await settled()).sheet).toEqual(asServer());
    expect([
      server.revision,
      finishOf(session.snapshot(), "open"),
      session.snapshot().undoable,
      session.snapshot().redoable,
    ]).toEqual([5, "2026-03-11", 0, 1]);
  });

  it("an undo that is refused keeps what it was to take back", async () => {
    await session.change([longer]);
    await settled();
    server.trouble = [{ status: 422, body: { code: "invalid", message: "Not now." } }];
    await session.undo();
    const state = await settled();
    expect([state.undoable, state.redoable, state.refused.length, finishOf(state, "open")]).toEqual([
      1,
      0,
      1,
      "2026-03-13",
    ]);
    await session.undo();
    expect([finishOf(await settled(), "open"), server.revision]).toEqual(["2026-03-11", 3]);
  });

  it("a list whose answer was lost is stored once, also where it came in with the news before it was sent again", async () => {
    const row = {
      type: "addRow",
      table: "activities",
      key: "new",
      row: { id: "new", name: "New", durationMinutes: 480 },
    } as const;
    server.trouble = ["answerLost"];
    await session.change([row]);
    await until(() => session.snapshot().away);
    expect(server.revision).toBe(2);
    session.tryNow();
    expect((await settled()).refused).toEqual([]);
    expect([server.revision, session.snapshot().sheet]).toEqual([2, asServer()]);

    server.trouble = ["answerLost"];
    await session.change([{ ...row, key: "other", row: { ...row.row, id: "other", name: "Other" } }]);
    await until(() => session.snapshot().away);
    server.write([{ type: "setDuration", activity: "pour", minutes: 480 }]);
    session.follow(server.revision);
    expect((await settled()).refused).toEqual([]);
    expect([server.revision, session.snapshot().sheet]).toEqual([4, asServer()]);
  });

  it("what clashes when it is back is told, and the rest goes through", async () => {
    server.down = true;
    await session.change([{ type: "setName", activity: "dig", name: "Mine" }]);
    await session.change([{ type: "setDuration", activity: "paint", minutes: 60 }]);
    await until(() => session.snapshot().away);
    server.write([{ type: "setName", activity: "dig", name: "Theirs" }]);
    server.down = false;
    session.tryNow();
    const state = await settled();
    expect(state.refused.map(({ what }) => what)).toEqual(["Name “Mine”"]);
    expect([state.sheet, server.plan.activities.get("paint")!.durationMinutes]).toEqual([asServer(), 60]);
  });

  it.each([
    ["nothing answers", "unreachable" as const],
    ["the server is restarting", { status: 503, body: { code: "unavailable", message: "away" } }],
    ["a proxy says so", { status: 502, body: "bad gateway" }],
  ])("is tried again by itself with growing pauses where %s", async (_, trouble) => {
    jest.useFakeTimers({ doNotFake: ["setImmediate", "nextTick", "queueMicrotask"] });
    try {
      server.trouble = [trouble, trouble, trouble];
      await session.change([longer]);
      const pauses = [];
      for (let seconds = 0; seconds < 20 && server.revision === 1; seconds++) {
        for (let i = 0; i < 20; i++) await new Promise((resolve) => setImmediate(resolve));
        pauses.push(server.calls);
        jest.advanceTimersByTime(1000);
      }
      for (let i = 0; i < 20; i++) await new Promise((resolve) => setImmediate(resolve));
      expect([server.revision, session.snapshot().waiting]).toEqual([2, 0]);
      // After 1, 2 and 4 seconds.
      expect(pauses.length).toBe(8);
    } finally {
      jest.useRealTimers();
    }
  });

  it("opening a plan that cannot be read is told, and what waits is kept", async () => {
    server.down = true;
    await session.change([longer]);
    await until(() => session.snapshot().away);
    session.end();
    session = await openSession();
    expect([session.snapshot().failure!.message, keeper.read().waiting.length]).toEqual([
      expect.stringMatching(/cannot be reached/),
      1,
    ]);
    server.down = false;
    await session.open();
    expect([(await settled()).failure, server.revision]).toEqual([null, 2]);
  });

  it("a plan that is not theirs any more is told as such, not as a server that is away, and what waits is kept", async () => {
    server.shut = { status: 404, body: { code: "notFound", message: "There is no such project." } };
    session.follow(server.revision + 1);
    await until(() => session.snapshot().failure !== null);
    await session.change([longer]);
    const { failure, away } = session.snapshot();
    expect([failure!.message, away, keeper.read().waiting.length]).toEqual(["There is no such project.", false, 1]);
    const calls = server.calls;
    await new Promise((resolve) => setTimeout(resolve, 1200));
    expect(server.calls).toBeLessThanOrEqual(calls + 2);
    server.shut = null;
    session.tryNow();
    const state = await settled();
    expect([state.failure, state.waiting, server.revision]).toEqual([null, 0, 2]);
  });

  it("rows that others took out are told with who did it", async () => {
    server.write([{ type: "removeRow", table: "activities", key: "paint" }]);
    session.follow(server.revision);
    await until(() => session.snapshot().gone.size > 0);
    expect([...session.snapshot().gone]).toEqual([["paint", { name: "Paint", by: "Bo" }]]);
  });

  it("whatever goes wrong in whatever order, page and server agree in the end, and what is not refused is stored exactly once", async () => {
    const trouble = fc.constantFrom<Trouble | null>(
      "unreachable",
      "answerLost",
      { status: 503, body: { code: "unavailable", message: "away" } },
      null,
      null,
    );
    const act = fc.constantFrom("mine", "row", "theirs", "theirRow", "undo", "redo", "follow", "reload", "try");
    await fc.assert(
      fc.asyncProperty(fc.array(fc.tuple(act, trouble), { maxLength: 14 }), async (steps) => {
        server = new FakeServer();
        keeper = memoryKeeper();
        session = await openSession();
        let n = 0;
        for (const [what, wrong] of steps) {
          if (wrong !== null) server.trouble.push(wrong);
          n++;
          if (what === "mine") await session.change([{ type: "setDuration", activity: "dig", minutes: 480 * n }]);
          else if (what === "row")
            await session.change([
              {
                type: "addRow",
                table: "activities",
                key: `r${n}`,
                row: { id: `r${n}`, name: `Row ${n}`, durationMinutes: 480 },
              },
            ]);
          else if (what === "theirs") server.write([{ type: "setDuration", activity: "paint", minutes: 60 * n }]);
          else if (what === "theirRow")
            server.write([
              {
                type: "addRow",
                table: "activities",
                key: `t${n}`,
                row: { id: `t${n}`, name: `Their ${n}`, durationMinutes: 480 },
              },
            ]);
          else if (what === "undo") await session.undo();
          else if (what === "redo") await session.redo();
          else if (what === "follow") session.follow(server.revision);
          else if (what === "try") session.tryNow();
          else {
            session.end();
            session = await openSession();
          }
        }
        server.trouble = [];
        for (let i = 0; i < 200 && (session.snapshot().sheet === null || session.snapshot().saving > 0); i++) {
          if (session.snapshot().sheet === null) await session.open();
          session.tryNow();
          await new Promise((resolve) => setTimeout(resolve, 0));
        }
        session.follow(server.revision);
        await until(() => {
          session.tryNow();
          return session.snapshot().saving === 0 && isDeepStrictEqual(session.snapshot().sheet!.rows, asServer().rows);
        });
        const names = [...server.lists.values()].flatMap(({ list }) => (list === null ? [] : [list]));
        expect(new Set(names).size).toBe(names.length);
        expect(session.snapshot().refused).toEqual([]);
        session.end();
      }),
      { numRuns: 60 },
    );
  }, 120_000);
});
