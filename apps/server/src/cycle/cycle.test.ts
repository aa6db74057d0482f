import type {
  Closing,
  PeriodBar,
  Portfolio,
  ProjectCycle,
  ProjectLook,
  ReportingCalendar,
} from "@chronometra/contract";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let ines: Caller;
let tomas: Caller;
let project: string;

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
  tomas = await world.caller("tomas", ["projectManager"]);
  const margit = await world.caller("margit", ["approver"]);
  project = await world.addProject(tomas.me, smallPlan());
  const asked = await tomas.send("post", `/api/projects/${project}/approvals`, { word: "" });
  await margit.send("post", `/api/approvals/${asked.body.id}/decision`, { decision: "approve", reason: "go" });
});
afterAll(() => world.drop());

const bar = async (): Promise<PeriodBar> => (await ines.get("/api/period")).body as PeriodBar;
const step = async (name: string) => (await bar()).steps.find((each) => each.name === name);

/** Moves every data date to a day on which one project is closed, one locked beyond it, and others lie before, between and after. */
async function movesTheOpenOnes(): Promise<void> {
  const named = (code: string, dataDate: string) => ({
    ...smallPlan(),
    project: { ...smallPlan().project, code, dataDate },
  });
  const closedCode = ((await ines.get(`/api/projects/${project}`)).body as ProjectLook).code;
  const before = await world.addProject(tomas.me, named("A-OPEN", "2026-03-03"));
  const locked = await world.addProject(tomas.me, named("B-LOCKED", "2026-04-03"));
  await world.addProject(tomas.me, named("Z-ALREADY", "2026-03-05"));
  await world.addProject(tomas.me, named("Z-OPEN", "2026-03-03"));
  expect((await ines.send("post", `/api/projects/${locked}/lock`, { word: "known" })).status).toBe(200);
  const revisions = async () =>
    (
      (await world.database.query("select code, revision from project order by code")) as {
        code: string;
        revision: number;
      }[]
    ).map(({ code, revision }) => [code, Number(revision)] as const);
  const was = new Map(await revisions());
  const { body } = await ines.send("post", "/api/portfolio/data-date", { date: "2026-03-05" });
  expect(body.refused).toEqual([
    { project: "B-LOCKED", why: expect.stringMatching(/period up to 3 Apr 2026 is locked/) },
    { project: closedCode, why: expect.stringMatching(/is closed/) },
  ]);
  expect(body.moved).toEqual(["A-OPEN", "LATE", "Z-OPEN"]);
  expect(body.already).toEqual(["Z-ALREADY"]);
  // Each project is told of once, and only those that were moved were written.
  expect(
    [...body.moved, ...body.already, ...body.refused.map((one: { project: string }) => one.project)].toSorted(),
  ).toEqual([...was.keys()].toSorted());
  expect((await revisions()).filter(([code, revision]) => revision !== was.get(code)).map(([code]) => code)).toEqual(
    body.moved,
  );
  expect(((await ines.get(`/api/projects/${before}`)).body as ProjectLook).summary.dataDate).toBe("2026-03-05");
}

describe("a reporting period", () => {
  it("is opened by the controller, one after the other", async () => {
    expect((await bar()).number).toBeNull();
    expect(
      (await ines.send("post", "/api/periods", { dataDate: "2026-03-06", issueBy: "2026-03-09T12:00" })).body,
    ).toMatchObject({ number: 1, dataDate: "2026-03-06" });
    expect(
      (await ines.send("post", "/api/periods", { dataDate: "2026-03-06", issueBy: "2026-03-09T12:00" })).body.message,
    ).toMatch(/must lie after 6 Mar 2026/);
    expect(
      (await ines.send("post", "/api/periods", { dataDate: "2026-04-06", issueBy: "2026-04-01T12:00" })).body.message,
    ).toMatch(/on the data date or after/);
    expect((await ines.send("post", "/api/periods", { dataDate: "soon", issueBy: "later" })).status).toBe(422);
  });

  it("counts what is open in each step: who has not reported, what waits, what is behind, what is not issued", async () => {
    expect((await bar()).steps.map(({ name, open, words }) => [name, open, words])).toEqual([
      ["Collect", 1, "1 missing"],
      // Nobody has an account yet that could be reminded.
      ["Chase", 0, "done"],
      ["Review", 0, "done"],
      ["Recalculate", 1, "1 behind"],
      ["Check", 1, "1 to check"],
      ["Explain", 0, "done"],
      ["Issue", 1, "0 of 1"],
      ["Lock", 1, "0 of 1"],
    ]);
    const { steps, takesPart } = (await tomas.get(`/api/projects/${project}/cycle`)).body as ProjectCycle;
    expect([takesPart, steps[0], steps[3]]).toEqual([
      true,
      { name: "Collect", open: 1, words: "1 missing", waitsFor: ["Ann"] },
      { name: "Recalculate", open: 1, words: "behind", waitsFor: ["Tomas"] },
    ]);
    const { projects } = (await ines.get("/api/portfolio")).body as Portfolio;
    expect(projects[0]).toMatchObject({ missing: [{ id: "ann", name: "Ann" }], waiting: 0, issuedNumber: null });
  });

  it("a report of the period takes its sender off the list of those missing", async () => {
    const ann = await world.caller("ann", ["contributor"], "ann");
    await ann.send("post", "/api/desk/reports", { project, activity: "dig", date: "2026-03-03", minutes: 60 });
    expect(await step("Collect")).toMatchObject({ open: 0, words: "done" });
    expect(await step("Review")).toMatchObject({ open: 1, words: "1 report" });
  });

  it("is issued once the data date has been moved to its own, and then stays as it was", async () => {
    expect((await tomas.send("post", `/api/projects/${project}/periods`)).body.message).toMatch(
      /move it to 6 Mar 2026/,
    );
    expect((await ines.send("post", "/api/portfolio/data-date", { date: "2026-03-06" })).body).toMatchObject({
      moved: [expect.stringMatching(/^T-/)],
      refused: [],
    });
    expect((await ines.send("post", "/api/portfolio/data-date", { date: "2026-03-06" })).body).toMatchObject({
      moved: [],
      already: [expect.stringMatching(/^T-/)],
      refused: [],
    });
    expect((await tomas.send("post", `/api/projects/${project}/periods`)).status).toBe(200);
    expect((await tomas.send("post", `/api/projects/${project}/periods`)).status).toBe(409);
    const before = ((await ines.get(`/api/projects/${project}`)).body as ProjectLook).periods;
    expect(before).toEqual([
      expect.objectContaining({
        number: 1,
        dataDate: "2026-03-06",
        issuedBy: "Tomas",
        figures: expect.objectContaining({ pv: 240_000, ev: 0 }),
      }),
    ]);
    const { revision } = (await ines.get(`/api/projects/${project}/plan`)).body as { revision: number };
    await tomas.send("post", `/api/projects/${project}/changes`, {
      revision,
      changes: [{ type: "reportProgress", activity: "dig", actualStart: "2026-03-02", percent: 50 }],
    });
    const after = (await ines.get(`/api/projects/${project}`)).body as ProjectLook;
    expect(after.periods).toEqual(before);
    expect(after.summary.figures).toMatchObject({ ev: 120_000 });
    await expect(world.database.query("update issued_period set data_date = '2026-01-01'")).rejects.toThrow(
      /written once/,
    );
  });

  it("is checked and explained in words that stay with the period, and taken back by no words", async () => {
    expect(
      (
        await tomas.send("put", `/api/projects/${project}/cycle`, {
          step: "Check",
          words: "Looked through; nothing odd.",
        })
      ).status,
    ).toBe(200);
    expect((await tomas.get(`/api/projects/${project}/cycle`)).body as ProjectCycle).toMatchObject({
      checked: { words: "Looked through; nothing odd.", by: "Tomas" },
      broken: [
        { rule: "spiBelow", words: "SPI 0.50 is below 0.9", explanation: null },
        { rule: "deadlines", words: "1 deadline is broken or will be", explanation: null },
      ],
    });
    expect(await step("Explain")).toMatchObject({ open: 2, words: "2 to explain" });
    // Of a limit each; one explained leaves the other.
    await tomas.send("put", `/api/projects/${project}/cycle`, {
      step: "Explain",
      rule: "spiBelow",
      words: "Rain in the first week.",
    });
    expect(await step("Explain")).toMatchObject({ open: 1, words: "1 to explain" });
    await tomas.send("put", `/api/projects/${project}/cycle`, {
      step: "Explain",
      rule: "deadlines",
      words: "The tide.",
    });
    expect([await step("Check"), await step("Explain")]).toEqual([
      expect.objectContaining({ open: 0 }),
      expect.objectContaining({ open: 0 }),
    ]);
    await tomas.send("put", `/api/projects/${project}/cycle`, { step: "Explain", rule: "deadlines", words: "" });
    expect(
      (await tomas.send("put", `/api/projects/${project}/cycle`, { step: "Explain", words: "All of it." })).status,
    ).toBe(422);
    expect(await step("Explain")).toMatchObject({ open: 1, words: "1 to explain" });
  });

  it("is locked by a controller once nothing of it waits; then late time lands after it and the data date does not go back", async () => {
    expect((await tomas.send("post", `/api/projects/${project}/lock`)).status).toBe(403);
    expect((await ines.send("post", `/api/projects/${project}/lock`, { word: "known" })).body.message).toMatch(
      /1 of the period's reports wait/,
    );
    const [{ id }] = (await tomas.get("/api/reports")).body as [{ id: string }];
    await tomas.send("post", "/api/reports/decision", { ids: [id], decision: "accept" });
    expect((await ines.send("post", `/api/projects/${project}/lock`, { word: "known" })).status).toBe(200);
    expect((await ines.send("post", `/api/projects/${project}/lock`, { word: "known" })).status).toBe(200);
    expect(await step("Lock")).toMatchObject({ open: 0 });
    const { revision } = (await ines.get(`/api/projects/${project}/plan`)).body as { revision: number };
    expect(
      (
        await tomas.send("post", `/api/projects/${project}/changes`, {
          revision,
          changes: [{ type: "setDataDate", date: "2026-03-05" }],
        })
      ).body.message,
    ).toMatch(/period up to 6 Mar 2026 is locked/);
    const ann = await world.caller("anna", ["contributor"], "ann");
    const late = await ann.send("post", "/api/desk/reports", {
      project,
      activity: "dig",
      date: "2026-03-04",
      minutes: 30,
    });
    expect(((await tomas.get("/api/reports")).body as { remarks: unknown[] }[])[0]!.remarks).toEqual([
      { kind: "late", closedTo: "2026-03-06" },
    ]);
    await tomas.send("post", "/api/reports/decision", { ids: [late.body.id], decision: "accept" });
    expect((await tomas.get(`/api/projects/${project}/activities/dig`)).body.time).toEqual([
      expect.objectContaining({ date: "2026-03-07", note: "for 4 Mar 2026" }),
      expect.objectContaining({ date: "2026-03-03" }),
    ]);
  });

  it("is opened again with a reason that stays, and issued anew as another edition; the first stays as it was", async () => {
    expect((await ines.send("post", `/api/projects/${project}/reopen`, { reason: "" })).body.message).toMatch(
      /say why/,
    );
    expect(
      (await ines.send("post", `/api/projects/${project}/reopen`, { reason: "An invoice was missed" })).status,
    ).toBe(200);
    expect((await ines.send("post", `/api/projects/${project}/reopen`, { reason: "once more" })).status).toBe(409);
    const cycle = (await ines.get(`/api/projects/${project}/cycle`)).body as ProjectCycle;
    expect(cycle).toMatchObject({
      issued: false,
      locked: false,
      reopened: [{ number: 1, by: "Ines", reason: "An invoice was missed" }],
    });
    expect((await ines.send("post", `/api/projects/${project}/lock`, { word: "known" })).status).toBe(200);
    const issued = (await world.database.query(
      "select edition, json_value(summary, '$.figures.ev') as ev from issued_period where project_id = ? order by edition",
      [project],
    )) as { edition: number; ev: string }[];
    expect(issued.map(({ edition, ev }) => [edition, Number(ev)])).toEqual([
      [1, 0],
      [2, 120_000],
    ]);
    expect(((await ines.get(`/api/projects/${project}`)).body as ProjectLook).periods).toEqual([
      expect.objectContaining({ number: 1, figures: expect.objectContaining({ ev: 120_000 }) }),
    ]);
    expect((await ines.get(`/api/projects/${project}/compare/period-1/plan`)).status).toBe(200);
  });

  it("follows the reporting calendar; the next is opened once this one is locked everywhere, or anyway", async () => {
    expect((await tomas.send("put", "/api/periods/planned", { periods: [] })).status).toBe(403);
    expect(
      (
        await ines.send("put", "/api/periods/planned", {
          periods: [{ dataDate: "2026-03-06", issueBy: "2026-03-09T12:00" }],
        })
      ).body.message,
    ).toMatch(/must lie after 6 Mar 2026/);
    expect(
      (
        await ines.send("put", "/api/periods/planned", {
          periods: [{ dataDate: "2026-04-03", issueBy: "2026-04-01T12:00" }],
        })
      ).body.message,
    ).toMatch(/on that day or after it/);
    const planned = (
      await ines.send("put", "/api/periods/planned", {
        periods: [
          { dataDate: "2026-04-03", issueBy: "2026-04-07T12:00" },
          { dataDate: "2026-05-01", issueBy: "2026-05-05T12:00" },
        ],
      })
    ).body as ReportingCalendar;
    expect(
      planned.periods.map(({ number, from, dataDate, state, issued, locked }) => [
        number,
        from,
        dataDate,
        state,
        issued,
        locked,
      ]),
    ).toEqual([
      [1, "2026-03-01", "2026-03-06", "open", 1, 1],
      [2, "2026-03-07", "2026-04-03", "planned", 0, 0],
      [3, "2026-04-04", "2026-05-01", "planned", 0, 0],
    ]);
    await ines.send("post", `/api/projects/${project}/reopen`, { reason: "to see it refused" });
    expect(
      (await ines.send("post", "/api/periods", { dataDate: "2026-04-03", issueBy: "2026-04-07T12:00" })).body.message,
    ).toMatch(/Period 1 is not locked for T-/);
    expect(
      (await ines.send("post", "/api/periods", { dataDate: "2026-04-03", issueBy: "2026-04-07T12:00", anyway: true }))
        .status,
    ).toBe(200);
    expect(((await ines.get("/api/periods")).body as ReportingCalendar).periods.map(({ state }) => state)).toEqual([
      "past",
      "open",
      "planned",
    ]);
  });

  it("moving the data date names the projects that cannot be computed then, and moves the others", async () => {
    const stuck = smallPlan();
    const bundle = {
      ...stuck,
      project: { ...stuck.project, code: "LATE", dataDate: "2026-03-03" },
      activities: stuck.activities
        .map((each) =>
          each.id === "dig" ? { ...each, durationMinutes: 480 * 18_000, actualStart: "2026-03-02" } : each,
        )
        .filter(({ id }) => id !== "open"),
      links: [],
    };
    await world.addProject(tomas.me, bundle);
    const moved = await ines.send("post", "/api/portfolio/data-date", { date: "2095-03-06" });
    expect(moved.body.refused).toEqual([{ project: "LATE", why: expect.stringContaining("outside 1990 to 2099") }]);
    expect(moved.body.moved).toHaveLength(1);
  });

  it("a project is closed on purpose: what remains is listed, each finished as said; nothing changes after, until it is opened again", async () => {
    const closing = async (): Promise<Closing> => (await tomas.get(`/api/projects/${project}/closing`)).body as Closing;
    const tables = async () => ((await tomas.get(`/api/projects/${project}/plan`)).body as { tables: object }).tables;
    const before = await tables();
    const left = (await closing()).activities;
    expect(left.map(({ id, state, mayPark }) => [id, state, mayPark])).toEqual([
      ["dig", "inProgress", false],
      ["pour", "notStarted", true],
      ["open", "notStarted", true],
    ]);
    const close = (activities: object) =>
      tomas.send("post", `/api/projects/${project}/closing`, { word: "Handed over", activities });
    expect((await close({ dig: "done" })).body.message).toBe(
      'Say of "Pour", "Open" whether it is done, dropped or parked.',
    );
    expect((await close({ dig: "parked", pour: "parked", open: "done" })).body.message).toMatch(
      /^"Dig" cannot be parked: work with dates.* Nothing was closed\.$/,
    );
    expect(await tables()).toEqual(before);
    expect((await close({ dig: "dropped", pour: "parked", open: "done" })).status).toBe(200);
    const plan = (await tomas.get(`/api/projects/${project}/plan`)).body as {
      revision: number;
      tables: { activities: [string, object][] };
    };
    expect(Object.fromEntries(plan.tables.activities)).toMatchObject({
      dig: { actualFinish: expect.any(String), percent: 50 },
      pour: { parked: true },
      open: { actualFinish: expect.any(String) },
    });
    expect(
      (
        await tomas.send("post", `/api/projects/${project}/changes`, {
          revision: plan.revision,
          changes: [{ type: "setName", activity: "dig", name: "x" }],
        })
      ).body.message,
    ).toMatch(/is closed/);
    const ann = await world.caller("annb", ["contributor"], "ann");
    expect(
      (await ann.send("post", "/api/desk/reports", { project, activity: "dig", date: "2026-03-04", minutes: 30 })).body
        .message,
    ).toMatch(/is closed/);
    expect((await closing()).closed).toMatchObject({ by: "Tomas", word: "Handed over", ended: 3 });
    await movesTheOpenOnes();
    expect((await tomas.send("delete", `/api/projects/${project}/closing`, { reason: "a defect" })).status).toBe(403);
    expect((await ines.send("delete", `/api/projects/${project}/closing`, { reason: "a defect" })).status).toBe(200);
    expect((await tomas.get(`/api/projects/${project}/history`)).body[0].label).toBe("Opened again: a defect");
    // What was done, dropped and parked stands as before.
    expect(await tables()).toEqual(before);
    expect((await ines.send("delete", `/api/projects/${project}/closing`, { reason: "again" })).status).toBe(409);
  });
});
