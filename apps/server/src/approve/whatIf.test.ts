import type {
  ComparisonView,
  Ledger,
  OnceFrozenView,
  PlanView,
  ProjectLook,
  Reserves,
  WhatIf,
  WhatIfView,
} from "@chronometra/contract";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let tomas: Caller;
let margit: Caller;
let wanjiru: Caller;
let project: string;

beforeAll(async () => {
  world = await TestWorld.open();
  tomas = await world.caller("tomas", ["projectManager"]);
  margit = await world.caller("margit", ["approver"]);
  wanjiru = await world.caller("wanjiru", ["projectManager"]);
});
beforeEach(async () => {
  project = await world.addProject(tomas.me, smallPlan());
  const asked = await tomas.send("post", `/api/projects/${project}/approvals`, { word: "" });
  await margit.send("post", `/api/approvals/${asked.body.id}/decision`, { decision: "approve", reason: "go" });
});
afterAll(() => world.drop());

const live = async (): Promise<PlanView> => (await tomas.get(`/api/projects/${project}/plan`)).body as PlanView;
const activity = async (id: string) =>
  (await live()).tables.activities.find(([key]) => key === id)![1] as Record<string, unknown>;
const changeLive = async (...changes: object[]) =>
  tomas.send("post", `/api/projects/${project}/changes`, { revision: (await live()).revision, changes });
const begin = async (name = "Second digger"): Promise<string> =>
  ((await tomas.send("post", `/api/projects/${project}/whatifs`, { name })).body as WhatIf).id;
const view = async (id: string): Promise<WhatIfView> => (await tomas.get(`/api/whatifs/${id}`)).body as WhatIfView;
const change = async (id: string, ...changes: object[]) =>
  tomas.send("post", `/api/whatifs/${id}/changes`, { revision: (await view(id)).whatIf.changes, changes });
const decideIt = (id: string) =>
  margit.send("post", `/api/whatifs/${id}/decision`, { decision: "approve", reason: "go" });
const shorter = { type: "setDuration", activity: "dig", minutes: 960 };
const more = {
  type: "addRow",
  table: "assignments",
  key: "second",
  row: { activity: "dig", person: "bo", plannedMinutes: 600 },
};

describe("a what-if", () => {
  it("shows what would move, cost and load beside the live plan, which stays as it is", async () => {
    const before = await live();
    const id = await begin();
    expect((await change(id, shorter, more)).body).toMatchObject({ revision: 1, undoable: true });
    const seen = await view(id);
    expect(seen).toMatchObject({
      effect: { finish: { days: -3 } },
      load: [{ person: "Bo", beforeMinutes: 1440, afterMinutes: 2040 }],
      behind: 0,
      meets: [],
      fault: null,
    });
    // 10 h of Bo at 30.
    expect(seen.budget!.afterMinor - seen.budget!.beforeMinor).toBe(30_000);
    expect(await live()).toEqual(before);
    const compared = (await tomas.get(`/api/projects/${project}/compare/plan/whatif-${id}`)).body as ComparisonView;
    expect(compared.rows.map(({ id: row, finishDays }) => [row, finishDays])).toEqual([
      ["dig", -3],
      ["pour", -3],
      ["open", -3],
    ]);
  });

  it("says beforehand what approving it makes of the figures at once, and approving does that", async () => {
    const once = async (state: string) =>
      (await tomas.get(`/api/projects/${project}/frozen/${state}`)).body as OnceFrozenView;
    expect(await once("plan")).toBeNull();
    await changeLive({ type: "setDataDate", date: "2026-03-06" });
    const id = await begin();
    await change(id, shorter, more);
    // Put forward, the whole plan with it and it alone are told apart.
    await tomas.send("post", `/api/whatifs/${id}/request`, { reason: "a second digger" });
    await changeLive({ type: "setDuration", activity: "pour", minutes: 4800 });
    const seen = await once(`whatif-${id}`);
    const { figures } = (await tomas.get(`/api/projects/${project}`)).body.summary as {
      figures: Record<string, number>;
    };
    expect(seen!.before).toEqual({
      bac: figures["bac"],
      pv: figures["pv"],
      ev: figures["ev"],
      sv: figures["sv"],
      spi: figures["spi"],
    });
    expect(seen!.past.map(({ id: row }) => row)).toContain("dig");
    const alone = await once(`request-${id}`);
    expect(alone!.after).not.toEqual(seen!.after);
    expect(
      (await margit.send("post", `/api/whatifs/${id}/decision`, { decision: "approve", reason: "go" })).status,
    ).toBe(200);
    expect((await tomas.get(`/api/projects/${project}`)).body.summary.figures).toMatchObject(alone!.after);
  });

  it("is undone and redone list by list, to the letter", async () => {
    const id = await begin();
    await change(id, shorter);
    const one = (await view(id)).plan!.tables;
    await change(id, more);
    await tomas.send("post", `/api/whatifs/${id}/undo`, { revision: 2 });
    expect((await view(id)).plan!.tables).toEqual(one);
    await tomas.send("post", `/api/whatifs/${id}/undo`, { revision: 1 });
    expect((await view(id)).plan!.tables).toEqual((await live()).tables);
  });

  it("is kept: made in the live plan as one list that can be undone", async () => {
    const id = await begin();
    expect((await tomas.send("post", `/api/whatifs/${id}/keep`)).body.message).toMatch(/changes nothing yet/);
    await change(id, shorter);
    const kept = await tomas.send("post", `/api/whatifs/${id}/keep`);
    expect(await activity("dig")).toMatchObject({ durationMinutes: 960 });
    expect((await tomas.send("post", `/api/projects/${project}/undo`, { revision: kept.body.revision })).status).toBe(
      200,
    );
    expect(await activity("dig")).toMatchObject({ durationMinutes: 2400 });
    expect((await change(id, shorter)).status).toBe(409);
  });

  it("is dropped, and is nobody else's to change", async () => {
    const id = await begin();
    expect((await wanjiru.send("post", `/api/whatifs/${id}/changes`, { revision: 0, changes: [shorter] })).status).toBe(
      403,
    );
    expect((await wanjiru.send("delete", `/api/whatifs/${id}`)).status).toBe(403);
    expect((await tomas.send("delete", `/api/whatifs/${id}`)).status).toBe(200);
    expect((await tomas.send("delete", `/api/whatifs/${id}`)).status).toBe(409);
  });

  it("that was dropped is taken up again as it was left, by those who may change it; one that was put forward waits no more", async () => {
    const id = await begin();
    await change(id, shorter);
    await tomas.send("post", `/api/whatifs/${id}/request`, { reason: "shorter" });
    const { tables } = (await view(id)).plan!;
    expect((await tomas.send("post", `/api/whatifs/${id}/restore`)).body.message).toMatch(/is not dropped/);
    await tomas.send("delete", `/api/whatifs/${id}`);
    expect((await view(id)).whatIf).toMatchObject({ state: "dropped", mayRestore: true, mayEdit: false });
    expect((await wanjiru.send("post", `/api/whatifs/${id}/restore`)).status).toBe(403);
    expect((await tomas.send("post", `/api/whatifs/${id}/restore`)).body).toMatchObject({
      state: "open",
      mayEdit: true,
      request: 1,
    });
    expect((await view(id)).plan!.tables).toEqual(tables);
    expect((await decideIt(id)).status).toBe(409);
    expect((await change(id, more)).status).toBe(200);
  });

  it("takes what does not hold no more than the live plan does, and says why", async () => {
    const id = await begin();
    expect((await change(id, { type: "setDuration", activity: "ghost", minutes: 60 })).body.message).toMatch(
      /not in the plan/,
    );
    expect(
      (
        await change(id, {
          type: "freeze",
          baseline: { number: 9, approvedOn: "2026-01-01", approvedBy: "x", reason: "x", activities: [] },
        })
      ).body.message,
    ).toMatch(/not in a what-if/);
    expect((await tomas.send("post", `/api/whatifs/${id}/changes`, { revision: 5, changes: [shorter] })).status).toBe(
      409,
    );
  });
});

describe("where the live plan moved on meanwhile", () => {
  it("other rows merge by themselves", async () => {
    const id = await begin();
    await change(id, shorter);
    await changeLive({ type: "setDuration", activity: "pour", minutes: 480 });
    expect(await view(id)).toMatchObject({ behind: 1, meets: [] });
    expect((await tomas.send("post", `/api/whatifs/${id}/keep`)).status).toBe(200);
    expect([await activity("dig"), await activity("pour")]).toEqual([
      expect.objectContaining({ durationMinutes: 960 }),
      expect.objectContaining({ durationMinutes: 480 }),
    ]);
  });

  it("the same field shows both values, by whom, and waits to be settled by activity", async () => {
    const id = await begin();
    await change(id, shorter, { type: "setDuration", activity: "pour", minutes: 960 });
    await changeLive(
      { type: "setDuration", activity: "dig", minutes: 1920 },
      { type: "setDuration", activity: "pour", minutes: 480 },
    );
    const { meets } = await view(id);
    expect(meets.map(({ activity: of, live: theirs, mine, by }) => [of, theirs, mine, by])).toEqual([
      ["dig", 1920, 960, "Tomas"],
      ["pour", 480, 960, "Tomas"],
    ]);
    expect((await tomas.send("post", `/api/whatifs/${id}/keep`)).body.message).toMatch(/settle which is to hold first/);
    expect(
      (await tomas.send("post", `/api/whatifs/${id}/merge`, { mine: ["activities/pour/durationMinutes"] })).status,
    ).toBe(200);
    const merged = await view(id);
    expect([merged.meets, merged.behind]).toEqual([[], 0]);
    await tomas.send("post", `/api/whatifs/${id}/keep`);
    expect([await activity("dig"), await activity("pour")]).toEqual([
      expect.objectContaining({ durationMinutes: 1920 }),
      expect.objectContaining({ durationMinutes: 960 }),
    ]);
  });

  it("what is gone from the live plan is said, and merging leaves it out", async () => {
    const id = await begin();
    await change(id, { type: "setName", activity: "pour", name: "Pour at night" }, shorter);
    await changeLive(
      { type: "removeRow", table: "links", key: "1" },
      { type: "removeRow", table: "links", key: "2" },
      { type: "removeRow", table: "assignments", key: "2" },
      { type: "removeRow", table: "costs", key: "c1" },
      { type: "removeRow", table: "activities", key: "pour" },
    );
    expect(await view(id)).toMatchObject({
      plan: null,
      effect: null,
      fault: expect.stringContaining("not in the plan any more"),
    });
    await tomas.send("post", `/api/whatifs/${id}/merge`, { mine: [] });
    expect(await view(id)).toMatchObject({
      fault: null,
      whatIf: { changes: 1 },
      effect: { finish: { days: expect.any(Number) } },
    });
  });
});

describe("a change request", () => {
  const putForward = async (extra: object = {}): Promise<string> => {
    const id = await begin();
    await change(id, shorter, more);
    const asked = await tomas.send("post", `/api/whatifs/${id}/request`, { reason: "The tide window moved", ...extra });
    expect(asked.body).toMatchObject({ state: "asked", request: 1 });
    return id;
  };
  const decide = (who: Caller, id: string, decision: string, reason = "agreed") =>
    who.send("post", `/api/whatifs/${id}/decision`, { decision, reason });

  it("approved is applied and frozen as the next baseline, which names it; actuals carry on and the old one stays", async () => {
    await changeLive(
      { type: "setDataDate", date: "2026-03-03" },
      { type: "reportProgress", activity: "dig", actualStart: "2026-03-02", percent: 20 },
    );
    const id = await putForward();
    expect(((await margit.get("/api/requests")).body as WhatIf[]).find((each) => each.id === id)).toMatchObject({
      mayDecide: true,
      reason: "The tide window moved",
    });
    expect((await decide(margit, id, "approve")).body).toMatchObject({ state: "approved", baseline: 2 });
    const ledger = (await tomas.get(`/api/projects/${project}/ledger`)).body as Ledger;
    expect(ledger.baselines.map(({ number, reason }) => [number, reason])).toEqual([
      [2, "Change request 1: Second digger. The tide window moved — agreed"],
      [1, "go"],
    ]);
    expect(await activity("dig")).toMatchObject({ durationMinutes: 960, actualStart: "2026-03-02", percent: 20 });
    const look = (await tomas.get(`/api/projects/${project}`)).body as ProjectLook;
    expect(look.summary).toMatchObject({ baseline: 2, done: 0 });
    expect(look.summary.figures!.ev).toBeGreaterThan(0);
    expect((await tomas.get(`/api/projects/${project}/baselines/1/digest`)).body).toMatchObject({ same: true });
    expect((await tomas.get(`/api/projects/${project}/baselines/2/digest`)).body).toMatchObject({ same: true });
    expect((await decide(margit, id, "approve")).status).toBe(409);
  });

  it("approved alone freezes it and nothing else: what had moved, gone or come since the baseline stays as it was told", async () => {
    const id = await putForward();
    // Meanwhile the plan moves on: Pour takes twice as long, and something comes in.
    await changeLive(
      { type: "setDuration", activity: "pour", minutes: 4800 },
      { type: "addRow", table: "activities", key: "drain", row: { id: "drain", name: "Drain", durationMinutes: 480 } },
    );
    const rows = async (from: string, to: string) =>
      ((await margit.get(`/api/projects/${project}/compare/${from}/${to}`)).body as ComparisonView).rows.map(
        ({ id: row, what, finishDays }) => [row, what, finishDays],
      );
    const shown = await rows("baseline-1", `request-${id}`);
    expect(shown).toEqual([
      ["dig", "changed", -3],
      ["pour", "changed", -3],
      ["open", "changed", -3],
    ]);
    const apart = await rows("baseline-1", "plan");
    expect(apart.map(([row]) => row)).toEqual(["pour", "open", "drain"]);
    expect((await margit.get(`/api/whatifs/${id}/alone`)).body).toEqual({ baseline: 1, fault: null });
    expect((await decide(margit, id, "approve")).body).toMatchObject({ state: "approved", baseline: 2, whole: false });
    expect(await rows("baseline-1", "baseline-2")).toEqual(shown);
    // What moved apart from it still shows against the new baseline.
    const drift = ((await tomas.get(`/api/projects/${project}/compare/baseline-2/plan`)).body as ComparisonView).rows;
    expect(drift.map(({ id: row, what, finishDays }) => [row, what, finishDays])).toEqual([
      ["pour", "changed", 7],
      ["open", "changed", 7],
      ["drain", "added", null],
    ]);
    const ledger = (await tomas.get(`/api/projects/${project}/ledger`)).body as Ledger;
    expect(ledger.baselines.map(({ how, request }) => [how, request])).toEqual([
      ["request", 1],
      ["first", null],
    ]);
  });

  it("approved with the whole plan is a re-baselining, and is named so", async () => {
    const id = await putForward();
    await changeLive({ type: "setDuration", activity: "pour", minutes: 4800 });
    expect((await decide(margit, id, "approveWhole")).body).toMatchObject({
      state: "approved",
      baseline: 2,
      whole: true,
    });
    const { rows } = (await tomas.get(`/api/projects/${project}/compare/baseline-2/plan`)).body as ComparisonView;
    expect(rows).toEqual([]);
    const { baselines } = (await tomas.get(`/api/projects/${project}/ledger`)).body as Ledger;
    expect(baselines[0]).toMatchObject({
      how: "whole",
      request: 1,
      reason: "Re-baselined with change request 1: Second digger. The tide window moved — agreed",
    });
  });

  it("of work that came after the baseline cannot be approved alone, says so before, and nothing is applied then", async () => {
    await changeLive({
      type: "addRow",
      table: "activities",
      key: "drain",
      row: { id: "drain", name: "Drain", durationMinutes: 480 },
    });
    const id = await begin();
    await change(id, { type: "setDuration", activity: "drain", minutes: 960 });
    await tomas.send("post", `/api/whatifs/${id}/request`, { reason: "clay" });
    expect((await margit.get(`/api/whatifs/${id}/alone`)).body.fault).toMatch(
      /^“Drain” came into the plan after that baseline was frozen/,
    );
    expect((await decide(margit, id, "approve")).body.message).toMatch(
      /^It cannot be approved by itself. “Drain” came/,
    );
    expect([
      (await activity("drain"))["durationMinutes"],
      ((await tomas.get(`/api/projects/${project}/ledger`)).body as Ledger).baselines.length,
    ]).toEqual([480, 1]);
    expect((await decide(margit, id, "approveWhole")).status).toBe(200);
  });

  it("of a plan that was never approved approves the whole of it", async () => {
    project = await world.addProject(tomas.me, smallPlan());
    const id = await begin();
    await change(id, shorter);
    await tomas.send("post", `/api/whatifs/${id}/request`, { reason: "shorter" });
    expect((await margit.get(`/api/whatifs/${id}/alone`)).body).toEqual({
      baseline: null,
      fault: expect.stringMatching(/No plan is approved yet/),
    });
    expect((await decide(margit, id, "approveWhole")).body).toMatchObject({ baseline: 1 });
    expect(((await tomas.get(`/api/projects/${project}/ledger`)).body as Ledger).baselines[0]).toMatchObject({
      how: "first",
      request: 1,
    });
  });

  it("is not decided by whoever put it forward, and is sent back with a word, changed and put forward again under its number", async () => {
    const both = await world.caller(`both${project.slice(0, 6)}`, ["controller", "approver"]);
    const id = await begin();
    await change(id, shorter);
    await both.send("post", `/api/whatifs/${id}/request`, { reason: "mine alone" });
    expect((await decide(both, id, "approve")).body.message).toMatch(/another approver decides/);
    expect((await decide(tomas, id, "approve")).status).toBe(403);
    expect((await decide(margit, id, "sendBack", "too dear")).body).toMatchObject({
      state: "sentBack",
      word: "too dear",
    });
    expect((await change(id, more)).status).toBe(200);
    expect((await tomas.send("post", `/api/whatifs/${id}/request`, { reason: "Cheaper now" })).body).toMatchObject({
      state: "asked",
      request: 1,
    });
  });

  it("draws on a reserve when it is approved, never more than there is, and nothing is applied then", async () => {
    await tomas.send("post", `/api/projects/${project}/reserves`, {
      kind: "contingency",
      amountMinor: 50_000,
      reason: "Set aside by the board",
    });
    const tooMuch = await begin("Too much");
    await change(tooMuch, shorter);
    const asked = await tomas.send("post", `/api/whatifs/${tooMuch}/request`, {
      reason: "hurry",
      draw: { kind: "contingency", amountMinor: 80_000 },
    });
    expect([asked.status, asked.body.message]).toEqual([
      422,
      "500 EUR of contingency remain; 800 EUR cannot be drawn.",
    ]);
    await tomas.send("post", `/api/projects/${project}/reserves`, {
      kind: "contingency",
      amountMinor: 30_000,
      reason: "For a while",
    });
    const id = await putForward({ draw: { kind: "contingency", amountMinor: 80_000 } });
    await tomas.send("post", `/api/projects/${project}/reserves`, {
      kind: "contingency",
      amountMinor: -30_000,
      reason: "Needed elsewhere",
    });
    expect((await decide(margit, id, "approve")).body.message).toBe(
      "500 EUR of contingency remain; 800 EUR cannot be drawn.",
    );
    expect([
      (await activity("dig"))["durationMinutes"],
      ((await tomas.get(`/api/projects/${project}/ledger`)).body as Ledger).baselines.length,
    ]).toEqual([2400, 1]);
    await tomas.send("post", `/api/projects/${project}/reserves`, {
      kind: "contingency",
      amountMinor: 50_000,
      reason: "Topped up",
    });
    expect((await decide(margit, id, "approve")).status).toBe(200);
    const reserves = (await tomas.get(`/api/projects/${project}/reserves`)).body as Reserves;
    expect([reserves.balances, reserves.entries[0]]).toEqual([
      { contingency: 20_000, management: 0 },
      expect.objectContaining({ amountMinor: -80_000, reason: "Change request 1: Second digger", request: 1 }),
    ]);
  });

  it("keeps its project from being closed until it is decided", async () => {
    await changeLive({ type: "setDataDate", date: "2026-03-03" });
    const id = await putForward();
    const close = () =>
      tomas.send("post", `/api/projects/${project}/closing`, {
        word: "handed over",
        activities: { dig: "done", pour: "done", open: "done" },
      });
    expect((await close()).body.message).toMatch(/a change request waits for a decision/);
    await decide(margit, id, "sendBack", "too late");
    expect((await close()).status).toBe(200);
  });

  it("that the live plan has overtaken is not applied blindly", async () => {
    const id = await putForward();
    await changeLive({ type: "setDuration", activity: "dig", minutes: 1440 });
    expect((await decide(margit, id, "approve")).body.message).toMatch(/has changed Dig: duration meanwhile/);
    expect(((await tomas.get(`/api/projects/${project}/ledger`)).body as Ledger).baselines).toHaveLength(1);
  });

  it("two approvers at once approve it once", async () => {
    const second = await world.caller(`second${project.slice(0, 6)}`, ["approver"]);
    const id = await putForward();
    const both = await Promise.all([decide(margit, id, "approve"), decide(second, id, "approve")]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect(((await tomas.get(`/api/projects/${project}/ledger`)).body as Ledger).baselines).toHaveLength(2);
  });
});

describe("reserves", () => {
  it("are entered with what for, and stand beside the work's budget", async () => {
    const enter = (entry: object) => tomas.send("post", `/api/projects/${project}/reserves`, entry);
    expect((await enter({ kind: "management", amountMinor: 0, reason: "nothing" })).body.message).toMatch(/not 0/);
    expect((await enter({ kind: "management", amountMinor: 100, reason: "" })).body.message).toMatch(/say what for/);
    expect((await enter({ kind: "management", amountMinor: -1, reason: "too soon" })).body.message).toMatch(
      /0 EUR of management reserve remain/,
    );
    const before = ((await tomas.get(`/api/projects/${project}`)).body as ProjectLook).summary;
    await enter({ kind: "management", amountMinor: 100_000, reason: "Held by the sponsor" });
    expect(((await tomas.get(`/api/projects/${project}`)).body as ProjectLook).summary).toEqual(before);
    expect(
      (
        await wanjiru.send("post", `/api/projects/${project}/reserves`, {
          kind: "management",
          amountMinor: -100,
          reason: "not mine",
        })
      ).status,
    ).toBe(403);
  });
});
