import type { Blocked, Desk, WeekView } from "@chronometra/contract";
import { dayOf } from "../shared/clock.ts";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";
import { newsBetween } from "./deskNews.ts";

let world: TestWorld;
let tomas: Caller;
let ann: Caller;
let bo: Caller;
let project: string;

const dateOf = (at: Date): string => dayOf({ timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone }, at);
const today = dateOf(new Date());
const daysAgo = (days: number): string => dateOf(new Date(Date.now() - days * 86_400_000));

beforeAll(async () => {
  world = await TestWorld.open();
  tomas = await world.caller("tomas", ["projectManager"]);
  ann = await world.caller("ann", ["contributor"], "ann");
  bo = await world.caller("bo", ["contributor"], "bo");
});
beforeEach(async () => {
  for (const table of ["report", "clock", "desk_look"]) await world.database.query(`delete from ${table}`);
  await world.database.query("delete from plan_row where table_name = 'assignments'");
  const plan = smallPlan();
  project = await world.addProject(tomas.me, {
    ...plan,
    project: { ...plan.project, start: daysAgo(30), dataDate: daysAgo(1) },
    activities: plan.activities.map(({ deadline: _deadline, ...rest }) => rest),
  });
});
afterAll(() => world.drop());

const desk = async (who: Caller): Promise<Desk> => (await who.get("/api/desk")).body as Desk;
const change = async (...changes: object[]) => {
  const { revision } = (await tomas.get(`/api/projects/${project}/plan`)).body as { revision: number };
  const response = await tomas.send("post", `/api/projects/${project}/changes`, { revision, changes });
  expect([response.status, response.body.message]).toEqual([200, undefined]);
};

describe("the clock", () => {
  it("runs on the server and books what it measured when it is stopped, on the day it was started", async () => {
    expect((await ann.send("put", "/api/desk/clock", { project, activity: "dig" })).status).toBe(200);
    expect((await desk(ann)).clock).toMatchObject({ project, activity: "dig", name: "Dig" });
    expect((await ann.send("post", "/api/desk/clock/stop", { minutes: 25, note: "trench" })).status).toBe(200);
    const after = await desk(ann);
    expect([after.clock, after.reports[0]]).toEqual([
      null,
      expect.objectContaining({ minutes: 25, note: "trench", date: today, state: "submitted" }),
    ]);
  });

  it("of one person runs once, started twice at the same instant or not", async () => {
    const both = await Promise.all([
      ann.send("put", "/api/desk/clock", { project, activity: "dig" }),
      ann.send("put", "/api/desk/clock", { project, activity: "dig" }),
    ]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect((await ann.send("put", "/api/desk/clock", { project, activity: "dig" })).body.message).toMatch(
      /stop it first/,
    );
  });

  it("stopped with nothing books nothing, and stopped twice says so", async () => {
    await ann.send("put", "/api/desk/clock", { project, activity: "dig" });
    await ann.send("post", "/api/desk/clock/stop", { minutes: 0, note: "" });
    expect((await desk(ann)).reports).toEqual([]);
    expect((await ann.send("post", "/api/desk/clock/stop", { minutes: 5, note: "" })).status).toBe(409);
  });

  it("does not stop where what it measured cannot be booked: nothing is lost", async () => {
    await ann.send("post", "/api/desk/reports", { project, activity: "dig", date: today, minutes: 1400 });
    await ann.send("put", "/api/desk/clock", { project, activity: "dig" });
    expect((await ann.send("post", "/api/desk/clock/stop", { minutes: 60, note: "" })).body.message).toMatch(
      /over 24 hours/,
    );
    expect((await desk(ann)).clock).not.toBeNull();
  });

  it("is for one's own work that counts", async () => {
    expect((await bo.send("put", "/api/desk/clock", { project, activity: "dig" })).body.message).toMatch(
      /not assigned to you/,
    );
  });
});

describe("what changed since one looked", () => {
  it("is nothing the first time, then what moved and what is new, until it is seen", async () => {
    expect((await desk(bo)).news).toEqual([]);
    await change(
      { type: "setDuration", activity: "dig", minutes: 4800 },
      { type: "addRow", table: "assignments", key: "x", row: { activity: "dig", person: "bo", plannedMinutes: 60 } },
    );
    expect((await desk(bo)).news.map(({ name, what }) => [name, what.kind])).toEqual([
      ["Pour", "start"],
      ["Pour", "finish"],
      ["Dig", "new"],
    ]);
    expect((await desk(bo)).seenAt).not.toBeNull();
    await bo.send("put", "/api/desk/seen");
    expect((await desk(bo)).news).toEqual([]);
  });

  it("says what waits for nobody any more, what is planned otherwise and what is gone", () => {
    const activity = {
      project: "p",
      projectName: "P",
      activity: "a",
      name: "A",
      path: "",
      start: "2026-03-02",
      finish: "2026-03-03",
      state: "notStarted" as const,
      percent: null,
      plannedMinutes: 60,
      remainingMinutes: 60,
      postedMinutes: 0,
      waitingMinutes: 0,
      box: null,
      stages: null,
      waitsFor: [],
      blocked: null,
      note: null,
      priorityWord: null,
      documents: 0,
    };
    const was = { ...activity, waits: true, plannedMinutes: 30 };
    expect(
      newsBetween([was, { ...was, activity: "b", name: "B" }], [activity]).map(({ name, what }) => [name, what]),
    ).toEqual([
      ["A", { kind: "free" }],
      ["A", { kind: "hours", from: 30, to: 60 }],
      ["B", { kind: "gone" }],
    ]);
  });
});

describe("days without anything and meetings", () => {
  it("are told for the last two weeks, working days only, until something is booked", async () => {
    const before = (await desk(ann)).forgotten;
    expect(before).toHaveLength(10);
    await ann.send("post", "/api/desk/reports", { project, activity: "dig", date: before[3], minutes: 30 });
    expect((await desk(ann)).forgotten).toEqual(before.filter((_day, i) => i !== 3));
  });

  it("a meeting's hours are ready to be booked by those who go, until they are", async () => {
    await change({
      type: "addRow",
      table: "meetings",
      key: "m",
      row: {
        id: "m",
        name: "Toolbox talk",
        activity: "dig",
        date: daysAgo(10),
        weeklyUntil: today,
        minutes: 30,
        people: ["ann"],
      },
    });
    const { meetings } = await desk(ann);
    expect(meetings.map(({ name, date, minutes }) => [name, date, minutes])).toEqual([
      ["Toolbox talk", daysAgo(3), 30],
      ["Toolbox talk", daysAgo(10), 30],
    ]);
    await ann.send("post", "/api/desk/reports", {
      project,
      activity: "dig",
      date: daysAgo(3),
      minutes: 30,
      note: "Toolbox talk",
    });
    expect((await desk(ann)).meetings).toHaveLength(1);
    expect((await desk(bo)).meetings).toEqual([]);
  });
});

describe("blocked", () => {
  it("is said by those who work on it, stands in the history, moves nothing, and is taken back", async () => {
    const before = (await tomas.get(`/api/projects/${project}`)).body.summary;
    expect((await ann.send("put", "/api/desk/block", { project, activity: "dig", by: "no crane" })).status).toBe(200);
    expect((await desk(ann)).activities[0]!.blocked).toEqual({ by: "no crane", since: today, saidBy: "Ann" });
    expect((await tomas.get(`/api/projects/${project}`)).body.summary).toEqual(before);
    expect((await tomas.get(`/api/projects/${project}/history`)).body[0]).toMatchObject({
      label: "Blocked: Dig",
      by: "Ann",
    });
    await tomas.send("put", "/api/desk/block", { project, activity: "dig", by: null });
    expect((await desk(ann)).activities[0]!.blocked).toBeNull();
  });

  it("is not said by others, nor without a word", async () => {
    expect((await bo.send("put", "/api/desk/block", { project, activity: "dig", by: "no crane" })).status).toBe(403);
    expect((await ann.send("put", "/api/desk/block", { project, activity: "dig", by: "  " })).body.message).toMatch(
      /say by what or whom/,
    );
    expect((await ann.send("put", "/api/desk/block", { project, activity: "ghost", by: "no crane" })).status).toBe(404);
  });

  it("names causes and victims across projects, with the days and the deadlines at stake", async () => {
    const plan = smallPlan();
    const other = await world.addProject(tomas.me, {
      ...plan,
      project: { ...plan.project, name: "Ferry", start: daysAgo(30), dataDate: daysAgo(1) },
      activities: plan.activities.map((each) => (each.id === "open" ? { ...each, deadline: today } : each)),
    });
    await ann.send("put", "/api/desk/block", { project, activity: "dig", by: "no crane" });
    await tomas.send("put", "/api/desk/block", {
      project: other,
      activity: "pour",
      by: "the slipway",
      on: { project, activity: "pour" },
    });
    const { blocks } = (await tomas.get("/api/blocked/4")).body as Blocked;
    const dig = blocks.find((block) => block.project === project)!;
    expect(dig).toMatchObject({ by: "no crane", saidBy: "Ann", finishDays: 4 });
    expect(dig.downstream.map(({ projectName, name, movesDays }) => [projectName, name, movesDays])).toEqual([
      ["Slipway", "Pour", 4],
      ["Slipway", "Open", 4],
      ["Ferry", "Pour", 4],
      ["Ferry", "Open", 4],
    ]);
    expect(dig.deadlines.map(({ name, nowState }) => [name, nowState])).toEqual([["Open", "willBreach"]]);
    const ferry = blocks.find((block) => block.project === other)!;
    expect(ferry.upstream.map(({ projectName, name, blockedBy }) => [projectName, name, blockedBy])).toEqual([
      ["Ferry", "Dig", null],
      ["Slipway", "Pour", null],
      ["Slipway", "Dig", "no crane"],
    ]);
    expect((await tomas.get("/api/blocked/soon")).body.message).toMatch(/for how many working days/);
  });
});

describe("what one sent", () => {
  it("is all there, however many reports and days it took, of the newest day first; the day's sum is the week's", async () => {
    for (let days = 20; days >= 0; days--)
      for (const minutes of [10, 20, 30, 40])
        await ann.send("post", "/api/desk/reports", { project, activity: "dig", date: daysAgo(days), minutes });
    const { reports, booked, activities } = await desk(ann);
    expect(reports).toHaveLength(84);
    expect([reports[0]!.date, reports.at(-1)!.date]).toEqual([today, daysAgo(20)]);
    expect(activities.find(({ activity }) => activity === "dig")!.waitingMinutes).toBe(2100);
    expect(Object.keys(booked)).toHaveLength(21);
    const plan = smallPlan({
      timeEntries: [{ activity: "dig", person: "ann", date: daysAgo(3), minutes: 45, state: "posted" }],
    });
    await world.addProject(tomas.me, {
      ...plan,
      project: { ...plan.project, start: daysAgo(30), dataDate: daysAgo(1) },
    });
    const week = (await ann.get(`/api/desk/week/${daysAgo(3)}`)).body as WeekView;
    const inWeek = week.rows
      .flatMap(({ cells }) => [cells[week.days.findIndex(({ date }) => date === daysAgo(3))]!])
      .reduce((sum, { posted, waiting }) => sum + posted + waiting, 0);
    expect([(await desk(ann)).booked[daysAgo(3)], inWeek]).toEqual([145, 145]);
  });
});
