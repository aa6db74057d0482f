import type { ChangeResult, PlanView } from "@chronometra/contract";
import { applyChanges, computePlan, fromBundle, toBundle, type Change, type Plan } from "@chronometra/core";
import { PlanEngine } from "./planEngine.ts";
import { livePlan, PlanSession, type SessionState } from "./planSession.ts";
import { layOutSheet } from "./layOutSheet.ts";
import { slipway, viewOf } from "../testing/plans.ts";

interface Answer {
  readonly status: number;
  readonly body: unknown;
}

/** A server of one plan, as far as a session needs it; someone else can write to it too. */
class FakeServer {
  plan: Plan = fromBundle(slipway());
  revision = 1;
  readonly lists = new Map<number, { changes: readonly Change[]; inverse: readonly Change[] }>();
  failNext: Answer | null = null;

  write(changes: readonly Change[]): void {
    const applied = applyChanges(this.plan, changes);
    this.plan = applied.plan;
    this.lists.set(++this.revision, { changes, inverse: applied.inverse! });
  }

  view = (): Promise<PlanView> => Promise.resolve(viewOf(toBundle(this.plan), this.revision));

  answer(address: string, body: { revision: number; changes?: Change[] }): Answer {
    const since = /\/changes\/(\d+)$/.exec(address);
    if (since !== null) return { status: 200, body: { revision: this.revision, changes: [...this.lists].filter(([revision]) => revision > Number(since[1])).flatMap(([, list]) => list.changes), by: ["Bo"] } };
    const failing = this.failNext;
    this.failNext = null;
    if (failing !== null) return failing;
    const seen = address.endsWith("/undo") ? this.revision : body.revision;
    this.write(address.endsWith("/undo") ? this.lists.get(body.revision)!.inverse : body.changes!);
    const lists = [...this.lists].filter(([revision]) => revision > seen).map(([, list]) => list.changes);
    const result: ChangeResult = { revision: this.revision, undoable: true, changes: lists.flat() as Change[], merged: lists.length - 1 };
    return { status: 200, body: result };
  }
}

let server: FakeServer;
let session: PlanSession;

beforeEach(async () => {
  server = new FakeServer();
  globalThis.fetch = ((address: string, init: { body?: string }) => {
    const { status, body } = server.answer(address, JSON.parse(init.body ?? "null") as never);
    return Promise.resolve(new Response(JSON.stringify(body), { status }));
  }) as typeof fetch;
  session = new PlanSession(livePlan("p"), new PlanEngine(), server.view);
  await session.open();
});

const settled = async (): Promise<SessionState> => {
  for (let i = 0; i < 50; i++) {
    await new Promise((resolve) => setTimeout(resolve, 1));
    if (session.snapshot().saving === 0) return session.snapshot();
  }
  throw new Error("never saved");
};
const finishOf = (state: SessionState, id: string): string => state.sheet!.rows.find((row) => row.id === id)!.dates!.finishDate;
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
    const gesture = { what: "stretch", activity: "dig", to: session.snapshot().sheet!.rows.find(({ id }) => id === "dig")!.dates!.finish + 2 * 1440, fine: false } as const;
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

  it("what cannot be is told, nothing changes and nothing is sent", async () => {
    const before = session.snapshot().sheet;
    expect(await session.change([{ type: "reportProgress", activity: "dig", percent: 50 }])).toEqual([expect.objectContaining({ row: "dig", field: "percent", message: expect.stringContaining("needs a data date") })]);
    expect([session.snapshot().sheet, server.revision]).toEqual([before, 1]);
  });

  it("undo and redo restore exactly, several deep", async () => {
    const start = session.snapshot().sheet;
    await session.change([longer]);
    await session.change([{ type: "setDeadline", activity: "open", date: null }]);
    await session.change([{ type: "setDuration", activity: "paint", minutes: 60 }]);
    const end = (await settled()).sheet;
    for (let i = 0; i < 3; i++) session.undo();
    expect((await settled()).sheet).toEqual(start);
    expect([session.snapshot().undoable, session.snapshot().redoable]).toEqual([0, 3]);
    for (let i = 0; i < 3; i++) session.redo();
    expect((await settled()).sheet).toEqual(end);
    expect(session.snapshot().sheet).toEqual(asServer());
  });

  it("a new change after undoing leaves nothing to redo", async () => {
    await session.change([longer]);
    await settled();
    session.undo();
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
    for (let i = 0; i < 50 && session.snapshot().sheet!.rows[0]!.name !== "Opened"; i++) await new Promise((resolve) => setTimeout(resolve, 1));
    expect([session.snapshot().arrivedBy, session.snapshot().sheet]).toEqual([["Bo"], asServer()]);
    // It can be undone on: one's own change is the one that goes.
    session.undo();
    expect(finishOf(await settled(), "open")).toBe("2026-03-09");
  });

  it("an undo after others have written loads the plan anew", async () => {
    await session.change([longer]);
    await settled();
    server.write([{ type: "setDuration", activity: "pour", minutes: 480 }]);
    session.undo();
    expect((await settled()).sheet).toEqual(asServer());
  });

  it("where the server refuses, the plan is the server's again, and both values are told", async () => {
    const clash = { path: "activities/dig/durationMinutes", what: "Dig: durationMinutes", theirs: 1, yours: 2, by: "Bo", at: "2026-03-02T08:00:00Z" };
    server.failNext = { status: 409, body: { code: "conflict", message: "Someone else changed the same thing meanwhile.", clashes: [clash] } };
    await session.change([longer]);
    const state = await settled();
    expect(state.clashes).toEqual([clash]);
    expect(state.failure!.message).toMatch(/Someone else/);
    expect(state.sheet).toEqual(asServer());
    expect(server.revision).toBe(1);
  });

  it("what was typed after a change that could not be stored is not stored either, and is counted; then saving goes on as before", async () => {
    server.failNext = { status: 422, body: { code: "invalid", message: "No." } };
    await Promise.all([session.change([longer]), session.change([{ type: "setDuration", activity: "paint", minutes: 60 }])]);
    const state = await settled();
    expect([state.saving, state.dropped, server.revision]).toEqual([0, 1, 1]);
    expect(state.sheet).toEqual(asServer());
    await session.change([longer]);
    expect(session.snapshot()).toMatchObject({ saving: 1, dropped: 0 });
    expect(await settled()).toMatchObject({ saving: 0, failure: null });
    expect(server.revision).toBe(2);
  });

  it("where the server cannot be reached, it is said, and nothing is taken for saved", async () => {
    globalThis.fetch = () => Promise.reject(new TypeError("network"));
    await session.change([longer]);
    const state = await settled();
    expect(state.failure!.message).toMatch(/cannot be reached/);
    expect(finishOf(state, "open")).toBe("2026-03-11");
  });
});
