import {
  PROGRESS_TYPE,
  type Chain,
  type DriftLedgerView,
  type MilestoneTrend,
  type PerformanceView,
  type Portfolio,
  type ProjectCycle,
  type Promised,
  type SlipChoiceView,
  type SlipEffect,
} from "@chronometra/contract";
import { NoticeEntity } from "../tell/noticeEntities.ts";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let pm: Caller, controller: Caller, approver: Caller, ann: Caller, bo: Caller;
let project: string;

const get = async <T>(path: string, by: Caller = controller): Promise<T> => {
  const response = await by.get(path);
  if (response.status !== 200) throw new Error(response.text);
  return response.body as T;
};
const send = async <T>(method: "post" | "put", path: string, body: object, by: Caller = pm): Promise<T> => {
  const response = await by.send(method, path, body);
  if (response.status !== 200) throw new Error(response.text);
  return response.body as T;
};
const change = async (...changes: object[]): Promise<void> => {
  const { revision } = await get<{ revision: number }>(`/api/projects/${project}/plan`);
  await send("post", `/api/projects/${project}/changes`, { revision, changes });
};

beforeAll(async () => {
  world = await TestWorld.open();
  pm = await world.caller("pia", ["projectManager"]);
  controller = await world.caller("cora", ["controller"]);
  approver = await world.caller("ada", ["approver"]);
  ann = await world.caller("ann", ["contributor"], "ann");
  bo = await world.caller("bo", ["contributor"], "bo");
  project = await world.addProject(pm.me, smallPlan());
  const { id } = await send<{ id: string }>("post", `/api/projects/${project}/approvals`, { word: "" });
  await send("post", `/api/approvals/${id}/decision`, { decision: "approve", reason: "go" }, approver);
  await world.openPeriod(1, "2026-03-01", "2026-03-04");
  await change(
    { type: "setDataDate", date: "2026-03-04" },
    { type: "reportProgress", activity: "dig", actualStart: "2026-03-02", percent: 60 },
  );
  await send("post", `/api/projects/${project}/periods`, {});
  await world.openPeriod(2, "2026-03-05", "2026-03-11");
  await change({ type: "setDataDate", date: "2026-03-11" }, { type: "reportProgress", activity: "dig", percent: 80 });
});
afterAll(() => world.drop());

/** The drift ledger of the milestone since a state, as it is told while it is worked out. */
const asItGoes = async (from: string): Promise<string> =>
  (
    await controller
      .get(`/api/projects/${project}/drift/${from}/plan/open`)
      .set("accept", PROGRESS_TYPE)
      .buffer(true)
      .parse((response, done) => {
        let text = "";
        response.on("data", (part: Buffer) => (text += part.toString()));
        response.on("end", () => done(null, text));
      })
  ).body as string;

describe("deadlines", () => {
  it("are listed with how they stood when last issued", async () => {
    const [open] = await get<Promised[]>("/api/deadlines");
    // Dig has a day to go from Thursday 12 on, pour three days after it: Tuesday 17, two days after Friday 13.
    expect(open).toMatchObject({
      name: "Open",
      deadline: "2026-03-13",
      finish: "2026-03-17",
      marginDays: -2,
      state: "willBreach",
      consequence: null,
      was: { number: 1, marginDays: 2, state: "tight" },
    });
  });

  it("say what follows if they are not kept, as part of the plan's history", async () => {
    await send("put", `/api/projects/${project}/promises/open`, {
      consequence: "the spring tide is missed",
      to: "harbour board",
    });
    expect((await get<Promised[]>("/api/deadlines"))[0]).toMatchObject({
      consequence: "the spring tide is missed",
      to: "harbour board",
    });
    const [latest] = await get<{ label: string; revision: number }[]>(`/api/projects/${project}/history`);
    expect(latest!.label).toBe("What follows if the deadline of Open is not kept");
    await send("post", `/api/projects/${project}/undo`, { revision: latest!.revision });
    expect((await get<Promised[]>("/api/deadlines"))[0]!.consequence).toBeNull();
    expect((await pm.send("put", `/api/projects/${project}/promises/nope`, { consequence: "x", to: "" })).status).toBe(
      404,
    );
  });

  it("name the chain that decides them", async () => {
    expect((await get<Chain>(`/api/projects/${project}/chain/open`)).map(({ name, people }) => [name, people])).toEqual(
      [
        ["Dig", ["Ann"]],
        ["Pour", ["Bo"]],
        ["Open", []],
      ],
    );
  });
});

describe("milestones", () => {
  it("have their forecast of each issued period and now", async () => {
    const { periods, milestones } = await get<MilestoneTrend>(`/api/projects/${project}/milestones`);
    expect(periods).toEqual([{ number: 1, dataDate: "2026-03-04" }]);
    expect(
      milestones.map(({ id, baseline, now, drift, forecasts }) => ({ id, baseline, now, drift, forecasts })),
    ).toEqual([
      {
        id: "open",
        baseline: "2026-03-11",
        now: "2026-03-17",
        drift: 4,
        forecasts: [{ date: "2026-03-11", drift: 0, reached: false }],
      },
    ]);
  });

  it("are told why they moved, from a baseline too, with the changes behind each cause", async () => {
    const ledger = await get<DriftLedgerView>(`/api/projects/${project}/drift/baseline-1/plan/open`);
    expect([ledger.from, ledger.to, ledger.days]).toEqual(["2026-03-11", "2026-03-17", 4]);
    expect(ledger.causes.reduce((sum, { days }) => sum + days, 0)).toBeCloseTo(4);
    const told = await asItGoes("baseline-1");
    const lines = told
      .trim()
      .split("\n")
      .map((line) => JSON.parse(line) as { share?: number; result?: DriftLedgerView });
    expect(lines.at(-1)!.result).toEqual(ledger);
    const shares = lines.slice(0, -1).map(({ share }) => share!);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(JSON.parse(await asItGoes("period-9"))).toEqual({
      failure: { status: 404, body: expect.objectContaining({ code: "notFound" }) },
    });
    const behind = await get<{ label: string }[]>(`/api/projects/${project}/history?from=period-1&to=plan&about=dig`);
    expect(behind).toHaveLength(1);
    const since = await get<unknown[]>(`/api/projects/${project}/history?from=baseline-1&to=period-1`);
    expect(since).toHaveLength(1);
    expect((await controller.get(`/api/projects/${project}/history?from=period-9`)).status).toBe(404);
    expect((await controller.get(`/api/projects/${project}/history?from=yesterday`)).status).toBe(422);
  });
});

describe("slipping a milestone", () => {
  const request = { days: 3, along: ["pour"], deadlines: false, reason: "the crane is away", tell: true };

  it("shows what it would move and whom it concerns, and stores nothing", async () => {
    const choice = await get<SlipChoiceView>(`/api/projects/${project}/slip/open`);
    const wanted = await get<SlipChoiceView>(`/api/projects/${project}/slip/open?to=2099-01-01`);
    expect([choice.wanted, wanted.wanted?.date]).toEqual([null, "2099-01-01"]);
    expect(wanted.wanted!.days).toBeGreaterThan(5000);
    expect((await controller.get(`/api/projects/${project}/slip/open?to=soon`)).status).toBe(422);
    expect(choice.before.map(({ name, people }) => [name, people])).toEqual([
      ["Dig", ["Ann"]],
      ["Pour", ["Bo"]],
    ]);
    const { revision } = await get<{ revision: number }>(`/api/projects/${project}/plan`);
    const effect = await send<SlipEffect>("post", `/api/projects/${project}/slip/open/effect`, request);
    expect(effect.concerned).toEqual([{ name: "Bo", count: 1, canBeReached: true }]);
    expect(effect.effect.milestones).toEqual([
      expect.objectContaining({ name: "Open", from: "2026-03-17", to: "2026-03-20" }),
    ]);
    expect((await get<{ revision: number }>(`/api/projects/${project}/plan`)).revision).toBe(revision);
  });

  it("moves all of it and tells each person once, whatever moves", async () => {
    const dates = () => world.database.getRepository(NoticeEntity).findBy({ kind: "moved" });
    await world.app.tellDifferences();
    const { told, revision } = await send<{ told: string[]; revision: number }>(
      "post",
      `/api/projects/${project}/slip/open`,
      { ...request, along: ["pour", "dig"] },
    );
    expect(told).toEqual(["Ann", "Bo"]);
    const notices = await dates();
    expect(notices).toHaveLength(2);
    expect(notices.find(({ accountId }) => accountId === bo.me.id)!.body).toContain("Pour: 2026-03-17 -> 2026-03-20");
    expect(notices.find(({ accountId }) => accountId === ann.me.id)!.body).toContain("the crane is away");
    // What was told with its reason is not told once more as a difference.
    await world.app.tellDifferences();
    expect(await dates()).toEqual(notices);
    await send("post", `/api/projects/${project}/undo`, { revision });
    expect((await get<Promised[]>("/api/deadlines"))[0]!.finish).toBe("2026-03-17");
  });

  it("refuses what is no milestone, has been reached, or no reason", async () => {
    expect((await pm.send("post", `/api/projects/${project}/slip/dig`, request)).body.message).toMatch(
      /is no milestone/,
    );
    expect(
      (await pm.send("post", `/api/projects/${project}/slip/open`, { ...request, reason: "" })).body.message,
    ).toMatch(/say why it slips/);
    expect((await pm.send("post", `/api/projects/${project}/slip/open`, { ...request, along: ["gone"] })).status).toBe(
      409,
    );
    const other = await world.caller("otto", ["projectManager"]);
    expect((await other.send("post", `/api/projects/${project}/slip/open`, request)).status).toBe(403);
  });
});

describe("performance", () => {
  const view = (by: string): Promise<PerformanceView> =>
    get<PerformanceView>(`/api/projects/${project}/performance/${by}`);

  it.each(["person", "role", "category"])("by %s adds up to the project", async (by) => {
    const { parts, project: whole } = await view(by);
    for (const measure of ["bac", "pv", "ev", "ac"] as const)
      expect(parts.reduce((sum, { figures }) => sum + figures[measure], 0)).toBe(whole![measure]);
  });

  it("of each period alone adds up to what it is in all", async () => {
    const { periods } = await view("person");
    expect(periods.map(({ number }) => number)).toEqual([1, null]);
    for (const measure of ["pv", "ev", "ac"] as const)
      expect(periods.reduce((sum, { own }) => sum + own[measure], 0)).toBe(periods.at(-1)![measure]);
  });

  it("has earned schedule in every kind of period", async () => {
    expect((await view("person")).earnedSchedules.map(({ period }) => period)).toEqual(["workday", "week", "month"]);
  });

  it("names the rules that are broken, which a controller sets", async () => {
    // 80% of Dig, 1 920, of all that was planned by then: 2 400 and 1 720 with the material.
    expect((await view("person")).broken.map(({ words }) => words)).toEqual([
      "SPI 0.47 is below 0.9",
      "1 deadline is broken or will be",
    ]);
    await send(
      "put",
      "/api/portfolio/thresholds",
      {
        spiBelow: null,
        cpiBelow: 0.9,
        spitBelow: null,
        driftOver: 3,
        movedOver: 3,
        overrunOver: null,
        deadlines: false,
      },
      controller,
    );
    expect((await view("person")).broken.map(({ words }) => words)).toEqual([
      "the finish is 4 d late, more than 3 d",
      "the finish moved 4 d since the last period, more than 3 d",
    ]);
    expect((await controller.send("put", "/api/portfolio/thresholds", { spiBelow: 7 })).status).toBe(422);
  });

  it("names them by the limits of the project's group, or of the nearest above that has some, on every page", async () => {
    const [above, below] = [
      (await controller.send("post", "/api/programmes", { name: "Coast" })).body.id as string,
      (await controller.send("post", "/api/programmes", { name: "Basin" })).body.id as string,
    ];
    await controller.send("put", `/api/programmes/${below}`, { name: "Basin", parent: above });
    await controller.send("put", `/api/projects/${project}/standing`, { programme: below });
    const limits = {
      ...{ spiBelow: 0.5, cpiBelow: null, spitBelow: null, driftOver: null, movedOver: null, overrunOver: null },
      deadlines: false,
    };
    const words = async (): Promise<string[]> => (await view("person")).broken.map((broken) => broken.words);
    const limit = (thresholds: object | null, who = controller) =>
      who.send("put", `/api/programmes/${above}/thresholds`, { thresholds });
    expect(await words()).toHaveLength(2);
    expect((await limit(limits)).status).toBe(200);
    expect(await words()).toEqual(["SPI 0.47 is below 0.5"]);
    const cycle = (await controller.get(`/api/projects/${project}/cycle`)).body as ProjectCycle;
    expect(cycle.broken.map((broken) => broken.words)).toEqual(["SPI 0.47 is below 0.5"]);
    const { programmes } = (await controller.get("/api/portfolio")).body as Portfolio;
    expect(programmes.map(({ name, thresholds }) => [name, thresholds])).toEqual([
      ["Coast", limits],
      ["Basin", null],
    ]);
    expect((await limit({ ...limits, spiBelow: 9 })).status).toBe(422);
    expect((await controller.send("put", "/api/programmes/gone/thresholds", { thresholds: null })).status).toBe(404);
    expect((await limit(null)).status).toBe(200);
    expect(await words()).toHaveLength(2);
  });

  it("says what it can be split by where it cannot be by something", async () => {
    expect((await controller.get(`/api/projects/${project}/performance/colour`)).body.message).toMatch(
      /person, role, category or own:field/,
    );
  });
});
