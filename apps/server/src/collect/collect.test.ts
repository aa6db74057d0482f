import type { Desk, QueuedReport, Report, ReportsEffect } from "@chronometra/contract";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";
import { ReportEntity } from "./kept/reportEntity.ts";

let world: TestWorld;
let tomas: Caller;
let margit: Caller;
let ann: Caller;
let bo: Caller;
let project: string;

beforeAll(async () => {
  world = await TestWorld.open();
  tomas = await world.caller("tomas", ["projectManager"]);
  margit = await world.caller("margit", ["approver"]);
  ann = await world.caller("ann", ["contributor"], "ann");
  bo = await world.caller("bo", ["contributor"], "bo");
});
beforeEach(async () => {
  await world.database.query("delete from report");
  project = await world.addProject(tomas.me, smallPlan());
  const asked = await tomas.send("post", `/api/projects/${project}/approvals`, { word: "" });
  await margit.send("post", `/api/approvals/${asked.body.id}/decision`, { decision: "approve", reason: "go" });
  await tomas.send("post", `/api/projects/${project}/changes`, {
    revision: 2,
    changes: [{ type: "setDataDate", date: "2026-03-06" }],
  });
});
afterAll(() => world.drop());

const report = (who: Caller, activity: string, what: object, date = "2026-03-03") =>
  who.send("post", "/api/desk/reports", { project, activity, date, ...what });
const sent = async (who: Caller, activity: string, what: object, date?: string): Promise<string> => {
  const response = await report(who, activity, what, date);
  expect([response.status, response.body]).toEqual([200, expect.objectContaining({ state: "submitted" })]);
  return response.body.id as string;
};
const accept = (...ids: string[]) => tomas.send("post", "/api/reports/decision", { ids, decision: "accept" });
const look = async (activity: string) => (await tomas.get(`/api/projects/${project}/activities/${activity}`)).body;
const summary = async () => (await tomas.get(`/api/projects/${project}`)).body.summary;
const planActivity = async (id: string) =>
  (await tomas.get(`/api/projects/${project}/plan`)).body.tables.activities.find(([key]: [string]) => key === id)[1];
const desk = async (who: Caller): Promise<Desk> => (await who.get("/api/desk")).body as Desk;

describe("reporting from the desk", () => {
  it("shows own activities with what they wait for, and only one's own", async () => {
    expect((await desk(bo)).activities.filter((activity) => activity.project === project)).toEqual([
      expect.objectContaining({
        activity: "pour",
        path: "Works",
        state: "notStarted",
        plannedMinutes: 1440,
        remainingMinutes: 1440,
        waitsFor: ["Dig"],
      }),
    ]);
  });

  it("time sent waits: it costs nothing and moves nothing until it is accepted", async () => {
    const before = await summary();
    await sent(ann, "dig", { minutes: 90 });
    expect(await summary()).toEqual(before);
    expect((await desk(ann)).activities.find((activity) => activity.project === project)).toMatchObject({
      waitingMinutes: 90,
      postedMinutes: 0,
      state: "notStarted",
    });
  });

  it("the first time booked on an activity is its actual start (common practice, no source)", async () => {
    await accept(await sent(ann, "dig", { minutes: 90 }));
    expect(await planActivity("dig")).toMatchObject({ actualStart: "2026-03-03" });
    await accept(await sent(ann, "dig", { minutes: 60 }, "2026-03-02"));
    expect(await planActivity("dig")).toMatchObject({ actualStart: "2026-03-02" });
  });

  it("100% finishes it on the day reported; going back below takes the finish away", async () => {
    await accept(await sent(ann, "dig", { minutes: 480, percent: 100 }, "2026-03-05"));
    expect(await planActivity("dig")).toMatchObject({
      actualStart: "2026-03-05",
      actualFinish: "2026-03-05",
      percent: 100,
    });
    await accept(await sent(ann, "dig", { percent: 80 }, "2026-03-06"));
    expect((await planActivity("dig")).actualFinish).toBeUndefined();
  });

  it("while others have hours it is asked what a 100% ends; without an answer nothing is accepted", async () => {
    await tomas.send("post", `/api/projects/${project}/changes`, {
      revision: 3,
      changes: [
        {
          type: "addRow",
          table: "assignments",
          key: "bo-digs",
          row: { activity: "dig", person: "bo", plannedMinutes: 600 },
        },
      ],
    });
    const own = await sent(ann, "dig", { percent: 100 });
    const [{ asked }] = (await tomas.send("post", "/api/reports/effect", { ids: [own] })).body as [
      ReportsEffect[number],
    ];
    expect(asked).toEqual([
      {
        report: own,
        activity: "dig",
        name: "Dig",
        person: "Ann",
        others: [{ person: "Bo", leftMinutes: 600 }],
        answer: null,
      },
    ]);
    const refused = await accept(own);
    expect([refused.status, refused.body.message]).toEqual([
      422,
      'Bo still has hours on "Dig": say whether the 100% of Ann finishes all of it, or only their own work.',
    ]);
    expect(
      (await tomas.send("post", "/api/reports/decision", { ids: [own], decision: "accept", endings: { [own]: "own" } }))
        .status,
    ).toBe(200);
    expect((await planActivity("dig")).actualFinish).toBeUndefined();
    const all = await sent(ann, "dig", { percent: 100 });
    expect(
      (await tomas.send("post", "/api/reports/decision", { ids: [all], decision: "accept", endings: { [all]: "all" } }))
        .status,
    ).toBe(200);
    expect(await planActivity("dig")).toMatchObject({ actualFinish: "2026-03-03", percent: 100 });
  });

  it("what comes late of an earlier day does not override what was accepted of a later one, and says so before", async () => {
    await accept(await sent(ann, "dig", { percent: 60, remainingMinutes: 300 }, "2026-03-05"));
    const older = await sent(ann, "dig", { minutes: 60, percent: 40 }, "2026-03-04");
    expect((await tomas.get("/api/reports")).body.find((each: Report) => each.id === older).remarks).toEqual([
      { kind: "older", what: "percent" },
      { kind: "older", what: "remaining" },
    ]);
    await accept(older);
    expect(await planActivity("dig")).toMatchObject({ percent: 60, actualStart: "2026-03-04" });
    expect(
      (await desk(ann)).activities.find((each) => each.project === project && each.activity === "dig"),
    ).toMatchObject({ remainingMinutes: 300, postedMinutes: 60 });
  });

  it("accepted time is actual cost at the rate of the day, posted once", async () => {
    const id = await sent(ann, "dig", { minutes: 90, note: "bucket stuck" });
    await accept(id);
    expect((await summary()).figures).toMatchObject({ ac: 9000 });
    expect((await look("dig")).time).toEqual([
      { activity: "Dig", person: "Ann", date: "2026-03-03", minutes: 90, amountMinor: 9000, note: "bucket stuck" },
    ]);
    expect((await accept(id)).status).toBe(409);
    expect((await summary()).figures).toMatchObject({ ac: 9000 });
  });

  it("remaining hours are what the person says, else they fall by the hours booked", async () => {
    const left = async () =>
      (await desk(ann)).activities.find((activity) => activity.project === project)!.remainingMinutes;
    await accept(await sent(ann, "dig", { minutes: 480 }));
    expect(await left()).toBe(1920);
    await accept(await sent(ann, "dig", { remainingMinutes: 3000 }, "2026-03-04"));
    expect(await left()).toBe(3000);
  });
});

describe("a stage sent from the desk", () => {
  const stages = ["Marked", "Dug", "Drained"].map((name, i) => ({ name, credit: i * 45 }));
  beforeEach(async () => {
    const credit = { rule: "stages", stages, stage: "Marked" };
    const { revision } = (await tomas.get(`/api/projects/${project}/plan`)).body;
    const changes = [{ type: "setCredit", activity: "dig", credit }];
    expect((await tomas.send("post", `/api/projects/${project}/changes`, { revision, changes })).status).toBe(200);
  });
  const stage = async () => (await planActivity("dig")).credit.stage;

  it("waits like any report; once accepted it earns, and has begun", async () => {
    expect((await desk(ann)).activities.find((each) => each.project === project)!.stages).toEqual({
      all: stages,
      at: "Marked",
    });
    const before = await summary();
    const id = await sent(ann, "dig", { stage: "Dug" });
    expect(await stage()).toBe("Marked");
    expect((await summary()).figures.ev).toBe(before.figures.ev);
    expect((await accept(id)).status).toBe(200);
    expect([await stage(), (await planActivity("dig")).actualStart]).toEqual(["Dug", "2026-03-03"]);
    expect((await summary()).figures.ev).toBeGreaterThan(before.figures.ev);
  });

  it("is told with it where it is returned", async () => {
    const id = await sent(ann, "dig", { stage: "Dug" });
    await tomas.send("post", "/api/reports/decision", { ids: [id], decision: "return", word: "not yet" });
    const [mail] = (await world.database.query("select body from mail where body like '%not yet%'")) as {
      body: string;
    }[];
    expect(mail!.body).toContain("Dig, at “Dug”");
  });

  it("that the activity does not have is refused; one that went meanwhile is told, and moves nothing", async () => {
    const refused = await report(ann, "dig", { stage: "Painted" });
    expect([refused.status, refused.body.message]).toEqual([422, expect.stringContaining('no stage "Painted"')]);
    const [gone, back] = [await sent(ann, "dig", { stage: "Dug" }), await sent(ann, "dig", { stage: "Drained" })];
    const { revision } = (await tomas.get(`/api/projects/${project}/plan`)).body;
    const credit = { rule: "stages", stages: [stages[0], stages[2]], stage: "Drained" };
    await tomas.send("post", `/api/projects/${project}/changes`, {
      revision,
      changes: [{ type: "setCredit", activity: "dig", credit }],
    });
    const queue = (await tomas.get("/api/reports")).body as QueuedReport[];
    expect(queue.find(({ id }) => id === gone)!.remarks).toContainEqual({ kind: "stageGone", stage: "Dug" });
    expect((await accept(gone, back)).status).toBe(200);
    expect(await stage()).toBe("Drained");
  });
});

describe("the effect preview", () => {
  it("says what accepting would do, and accepting does just that", async () => {
    const id = await sent(ann, "dig", { minutes: 480, percent: 10 }, "2026-03-05");
    const [{ effect }] = (await tomas.send("post", "/api/reports/effect", { ids: [id] })).body as [
      ReportsEffect[number],
    ];
    expect(effect).toMatchObject({ currency: "EUR", cost: { actualBefore: 0, actualAfter: 48_000 } });
    const before = await summary();
    await accept(id);
    const after = await summary();
    expect([before.finish, after.finish]).toEqual([
      effect.finish?.from ?? before.finish,
      effect.finish?.to ?? before.finish,
    ]);
    expect(after.figures.ac).toBe(effect.cost!.actualAfter);
    expect(after.figures.eacBottomUp).toBe(effect.cost!.estimateAfter);
  });

  it("says what counts only when the data date passes it, and that is what is counted then", async () => {
    const id = await sent(ann, "dig", { minutes: 480 }, "2026-03-10");
    const [{ effect }] = (await tomas.send("post", "/api/reports/effect", { ids: [id] })).body as [
      ReportsEffect[number],
    ];
    expect(effect.cost).toMatchObject({
      actualBefore: 0,
      actualAfter: 0,
      laterBefore: 0,
      laterAfter: 48_000,
      laterBy: "2026-03-10",
    });
    await accept(id);
    const { revision, figures } = {
      revision: (await tomas.get(`/api/projects/${project}`)).body.revision,
      ...(await summary()),
    };
    expect(figures).toMatchObject({ ac: 0, eacBottomUp: effect.cost!.estimateAfter });
    await tomas.send("post", `/api/projects/${project}/changes`, {
      revision,
      changes: [{ type: "setDataDate", date: "2026-03-10" }],
    });
    expect((await summary()).figures).toMatchObject({ ac: 48_000, eacBottomUp: effect.cost!.estimateAfter });
  });

  it("shows several together, each project with its own", async () => {
    const first = await sent(ann, "dig", { minutes: 60 });
    const second = await sent(bo, "pour", { minutes: 60 });
    const own = project;
    const plain = smallPlan();
    project = await world.addProject(tomas.me, { ...plain, project: { ...plain.project, dataDate: "2026-03-06" } });
    const elsewhere = await sent(ann, "dig", { minutes: 60 });
    const effects = (await tomas.send("post", "/api/reports/effect", { ids: [first, second, elsewhere] }))
      .body as ReportsEffect;
    expect(effects.find((of) => of.project === own)!.effect.cost!.actualAfter).toBe(9000);
    expect(effects.find((of) => of.project === project)!.effect.cost).toBeNull();
    expect((await accept(first, second, elsewhere)).status).toBe(200);
    project = own;
  });

  it("holding the window keeps the finish, and shows what remains in what time", async () => {
    const before = await summary();
    const id = await sent(ann, "dig", { minutes: 60 }, "2026-03-10");
    const moved = (await tomas.send("post", "/api/reports/effect", { ids: [id] })).body as ReportsEffect;
    expect(moved[0]!.effect.finish).not.toBeNull();
    const [held] = (
      await tomas.send("post", "/api/reports/effect", { ids: [id], hold: [{ project, activity: "dig" }] })
    ).body as [ReportsEffect[number]];
    expect(held).toMatchObject({
      effect: { finish: null },
      windows: [{ activity: "dig", outcome: "held", load: [{ person: "Ann", leftMinutes: 2340 }] }],
    });
    expect(
      (
        await tomas.send("post", "/api/reports/decision", {
          ids: [id],
          decision: "accept",
          hold: [{ project, activity: "dig" }],
        })
      ).status,
    ).toBe(200);
    expect((await summary()).finish).toBe(before.finish);
    expect((await tomas.get(`/api/projects/${project}/history`)).body[0].label).toBe(
      "Accepted a report, a window held",
    );
  });

  it("a window that has passed cannot be held: said before and refused after, nothing stored", async () => {
    const { revision } = (await tomas.get(`/api/projects/${project}/plan`)).body as { revision: number };
    await tomas.send("post", `/api/projects/${project}/changes`, {
      revision,
      changes: [{ type: "setDuration", activity: "dig", minutes: 960 }],
    });
    const before = await summary();
    // Two days from Monday 9 March; the first hour comes on the Thursday.
    const id = await sent(ann, "dig", { minutes: 60 }, "2026-03-12");
    const [held] = (
      await tomas.send("post", "/api/reports/effect", { ids: [id], hold: [{ project, activity: "dig" }] })
    ).body as [ReportsEffect[number]];
    expect(held).toMatchObject({
      windows: [{ activity: "dig", outcome: "lost", why: "nothing remains of its window, which ended on 10 Mar 2026" }],
    });
    const refused = await tomas.send("post", "/api/reports/decision", {
      ids: [id],
      decision: "accept",
      hold: [{ project, activity: "dig" }],
    });
    expect([refused.status, refused.body.message]).toEqual([
      422,
      'The window of "Dig" cannot be held: nothing remains of its window, which ended on 10 Mar 2026.',
    ]);
    expect(await summary()).toEqual(before);
    expect(await world.database.getRepository(ReportEntity).findOneByOrFail({ id })).toMatchObject({
      state: "submitted",
    });
    expect((await accept(id)).status).toBe(200);
  });
});

describe("leave from the desk", () => {
  it("waits in every project with open work, moves its person's work alone when accepted, and is held like anything else", async () => {
    const waits = async (): Promise<Report[]> =>
      ((await tomas.get("/api/reports")).body as Report[]).filter((each) => each.project === project);
    expect(
      (await ann.send("post", "/api/desk/leave", { from: "2026-03-12", to: "2026-03-10", note: "" })).body.message,
    ).toMatch(/before the first/);
    expect(
      (await ann.send("post", "/api/desk/leave", { from: "2026-03-10", to: "2026-03-12", note: "moving house" })).body
        .projects,
    ).toContain("Slipway");
    const again = { from: "2026-03-12", to: "2026-03-16", note: "moving on" };
    expect((await ann.send("post", "/api/desk/leave", again)).body.message).toBe(
      "You are away from 10 Mar 2026 to 12 Mar 2026 already, which waits to be accepted: take that back first; select other days. Nothing was sent.",
    );
    expect((await ann.send("delete", "/api/desk/leave", { from: "2026-03-10", to: "2026-03-12" })).status).toBe(200);
    expect(
      (await ann.send("delete", "/api/desk/leave", { from: "2026-03-10", to: "2026-03-12" })).body.message,
    ).toMatch(/has been decided already/);
    expect(await waits()).toEqual([]);
    await ann.send("post", "/api/desk/leave", { from: "2026-03-10", to: "2026-03-12", note: "moving house" });
    const [leave] = await waits();
    expect(leave).toMatchObject({
      person: "Ann",
      activityName: "leave",
      leaveUntil: "2026-03-12",
      note: "moving house",
      remarks: [],
    });
    const { revision } = (await tomas.get(`/api/projects/${project}/plan`)).body;
    await tomas.send("post", `/api/projects/${project}/changes`, {
      revision,
      changes: [{ type: "setWorking", activity: "dig", driver: "effort" }],
    });
    const [of] = (await tomas.send("post", "/api/reports/effect", { ids: [leave!.id] })).body as [
      ReportsEffect[number],
    ];
    expect(of.effect.finish).toMatchObject({ days: 3 });
    await accept(leave!.id);
    expect((await ann.send("post", "/api/desk/leave", again)).body.message).toMatch(
      /^You are away from 10 Mar 2026 to 12 Mar 2026 already, .*select other days/,
    );
    const { tables } = (await tomas.get(`/api/projects/${project}/plan`)).body;
    expect(tables.people.map(([, row]: [string, { id: string; calendar?: string }]) => [row.id, row.calendar])).toEqual(
      [
        ["ann", "leave-ann"],
        ["bo", undefined],
      ],
    );
  });

  it("of someone without open work is nobody's business, and says so", async () => {
    const idle = await world.caller(`idle${project.slice(0, 5)}`, ["contributor"], "nobody");
    expect(
      (await idle.send("post", "/api/desk/leave", { from: "2026-03-10", to: "2026-03-12", note: "" })).body.message,
    ).toMatch(/no open work/);
  });
});

describe("an adjusting entry", () => {
  it("takes back what was accepted and says why; cost and remaining hours follow, nothing is rewritten", async () => {
    await accept(await sent(ann, "dig", { minutes: 480 }));
    expect((await report(ann, "dig", { minutes: -60 })).body.message).toMatch(/say in a note why/);
    expect((await report(ann, "dig", { minutes: -540, note: "wrong" })).body.message).toMatch(
      /8 h of 3 Mar 2026 are accepted/,
    );
    const id = await sent(ann, "dig", { minutes: -60, note: "lunch counted" });
    expect((await tomas.get("/api/reports")).body.find((each: Report) => each.id === id).remarks).toEqual([
      { kind: "adjusts", backMinutes: 60 },
    ]);
    await accept(id);
    expect((await summary()).figures.ac).toBe(42_000);
    expect((await look("dig")).time.map(({ minutes }: { minutes: number }) => minutes)).toEqual([480, -60]);
    expect((await report(ann, "dig", { minutes: -480, note: "all of it" })).body.message).toMatch(/7 h of 3 Mar 2026/);
  });
});

describe("what cannot be booked", () => {
  it.each<[string, object, string]>([
    ["negative hours", { minutes: -60 }, "say in a note why"],
    ["no hours at all", { minutes: 0 }, "hours must not be 0"],
    ["25 hours", { minutes: 1500 }, "a day has 24 hours"],
    ["a part of a minute", { minutes: 1.5 }, "minutes"],
    ["nothing", {}, "say at least one of"],
    ["percent over 100", { percent: 120 }, "percent"],
  ])("%s", async (_what, what, words) => {
    const refused = await report(ann, "dig", what);
    expect([refused.status, refused.body.message]).toEqual([422, expect.stringContaining(words)]);
    expect(await world.database.getRepository(ReportEntity).count()).toBe(0);
  });

  it("25 hours on one day by two reports: the second names day and hours", async () => {
    await sent(ann, "dig", { minutes: 900 });
    const refused = await report(ann, "dig", { minutes: 600 });
    expect([refused.status, refused.body.message]).toEqual([
      422,
      "15 h are booked on 3 Mar 2026 already; with 10 h more the day would have over 24 hours.",
    ]);
  });

  it("25 hours on one day by two reports at the same instant: one of them", async () => {
    const results = await Promise.all([report(ann, "dig", { minutes: 900 }), report(ann, "dig", { minutes: 900 })]);
    expect(results.map(({ status }) => status).sort()).toEqual([200, 422]);
  });

  it("someone else's activity, one that is parked, one that is not there, a day to come", async () => {
    expect((await report(bo, "dig", { minutes: 60 })).body.message).toMatch(/not assigned to you/);
    expect((await report(ann, "ghost", { minutes: 60 })).body.message).toMatch(/no such activity/);
    expect((await report(ann, "dig", { minutes: 60 }, "2099-01-01")).body.message).toMatch(/has not come yet/);
    await tomas.send("post", `/api/projects/${project}/changes`, {
      revision: 3,
      changes: [{ type: "setParked", activity: "works", parked: true }],
    });
    expect((await report(ann, "dig", { minutes: 60 })).body.message).toMatch(/"Works" is parked/);
  });

  it("an account that is tied to no person", async () => {
    expect((await report(tomas, "dig", { minutes: 60 })).body.message).toMatch(/tied to no person/);
  });
});

describe("accepting and returning", () => {
  it("a report is returned with a word, which its sender sees, and books nothing", async () => {
    const id = await sent(ann, "dig", { minutes: 90 });
    expect((await tomas.send("post", "/api/reports/decision", { ids: [id], decision: "return" })).body.message).toMatch(
      /Say in a word/,
    );
    await tomas.send("post", "/api/reports/decision", { ids: [id], decision: "return", word: "wrong week" });
    expect((await desk(ann)).reports.find((each: Report) => each.id === id)).toMatchObject({
      state: "returned",
      word: "wrong week",
      decidedBy: "Tomas",
    });
    expect((await summary()).figures.ac).toBe(0);
  });

  it("its sender takes it back while it waits, and no longer once it is decided", async () => {
    const id = await sent(ann, "dig", { minutes: 90 });
    expect((await bo.send("delete", `/api/desk/reports/${id}`)).status).toBe(404);
    expect((await ann.send("delete", `/api/desk/reports/${id}`)).status).toBe(200);
    expect((await accept(id)).status).toBe(409);
    const other = await sent(ann, "dig", { minutes: 90 });
    await accept(other);
    expect((await ann.send("delete", `/api/desk/reports/${other}`)).status).toBe(409);
  });

  it("is all or nothing: one report that no longer fits leaves the others waiting", async () => {
    const good = await sent(ann, "dig", { minutes: 60 });
    const bad = await sent(bo, "pour", { minutes: 60 });
    const revision = (await tomas.get(`/api/projects/${project}/plan`)).body.revision as number;
    await tomas.send("post", `/api/projects/${project}/changes`, {
      revision,
      changes: [{ type: "setParked", activity: "pour", parked: true }],
    });
    const refused = await accept(good, bad);
    expect([refused.status, refused.body.message]).toEqual([422, expect.stringContaining("parked")]);
    expect(
      (await world.database.getRepository(ReportEntity).findBy({ state: "submitted" })).map(({ id }) => id).sort(),
    ).toEqual([good, bad].sort());
    expect((await summary()).figures.ac).toBe(0);
  });

  it("is for the project's own manager", async () => {
    const id = await sent(ann, "dig", { minutes: 60 });
    const other = await world.caller(`pm${project.slice(0, 6)}`, ["projectManager"]);
    expect((await other.get("/api/reports")).body).toEqual([]);
    expect((await other.send("post", "/api/reports/decision", { ids: [id], decision: "accept" })).status).toBe(403);
  });

  it("two managers' clicks at once post the time once", async () => {
    const id = await sent(ann, "dig", { minutes: 60 });
    const results = await Promise.all([accept(id), accept(id)]);
    expect(results.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect((await summary()).figures.ac).toBe(6000);
  });
});
