import type { PeriodBar, Portfolio, ProjectLook } from "@chronometra/contract";
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

describe("a reporting period", () => {
  it("is opened by the controller, one after the other", async () => {
    expect((await bar()).number).toBeNull();
    expect((await ines.send("post", "/api/periods", { dataDate: "2026-03-06", issueBy: "2026-03-09T12:00" })).body).toMatchObject({ number: 1, dataDate: "2026-03-06" });
    expect((await ines.send("post", "/api/periods", { dataDate: "2026-03-06", issueBy: "2026-03-09T12:00" })).body.message).toMatch(/must lie after 2026-03-06/);
    expect((await ines.send("post", "/api/periods", { dataDate: "2026-04-06", issueBy: "2026-04-01T12:00" })).body.message).toMatch(/on the data date or after/);
    expect((await ines.send("post", "/api/periods", { dataDate: "soon", issueBy: "later" })).status).toBe(422);
  });

  it("counts what is open in each step: who has not reported, what waits, what is behind, what is not issued", async () => {
    expect(await step("Collect")).toMatchObject({ open: 1, words: "1 of 1 missing" });
    expect(await step("Review")).toMatchObject({ open: 0 });
    expect(await step("Recalculate")).toMatchObject({ open: 1, words: "1 project behind" });
    expect(await step("Issue")).toMatchObject({ open: 1, words: "0 of 1 issued" });
    const { projects } = (await ines.get("/api/portfolio")).body as Portfolio;
    expect(projects[0]).toMatchObject({ missing: ["Ann"], waiting: 0, issuedNumber: null });
  });

  it("a report of the period takes its sender off the list of those missing", async () => {
    const ann = await world.caller("ann", ["contributor"], "ann");
    await ann.send("post", "/api/desk/reports", { project, activity: "dig", date: "2026-03-03", minutes: 60 });
    expect(await step("Collect")).toMatchObject({ open: 0, words: "all have reported" });
    expect(await step("Review")).toMatchObject({ open: 1, words: "1 report" });
  });

  it("is issued once the data date has been moved to its own, and then stays as it was", async () => {
    expect((await tomas.send("post", `/api/projects/${project}/periods`)).body.message).toMatch(/move it to 2026-03-06/);
    expect((await ines.send("post", "/api/portfolio/data-date", { date: "2026-03-06" })).body).toEqual({ moved: 1, refused: [] });
    expect((await ines.send("post", "/api/portfolio/data-date", { date: "2026-03-06" })).body).toEqual({ moved: 0, refused: [] });
    expect((await tomas.send("post", `/api/projects/${project}/periods`)).status).toBe(200);
    expect((await tomas.send("post", `/api/projects/${project}/periods`)).status).toBe(409);
    const before = ((await ines.get(`/api/projects/${project}`)).body as ProjectLook).periods;
    expect(before).toEqual([expect.objectContaining({ number: 1, dataDate: "2026-03-06", issuedBy: "Tomas", figures: expect.objectContaining({ pv: 240_000, ev: 0 }) })]);
    const { revision } = (await ines.get(`/api/projects/${project}/plan`)).body as { revision: number };
    await tomas.send("post", `/api/projects/${project}/changes`, { revision, changes: [{ type: "reportProgress", activity: "dig", actualStart: "2026-03-02", percent: 50 }] });
    const after = (await ines.get(`/api/projects/${project}`)).body as ProjectLook;
    expect(after.periods).toEqual(before);
    expect(after.summary.figures).toMatchObject({ ev: 120_000 });
    await expect(world.database.query("update issued_period set data_date = '2026-01-01'")).rejects.toThrow(/written once/);
  });

  it("moving the data date names the projects that cannot be computed then, and moves the others", async () => {
    const stuck = smallPlan();
    const bundle = { ...stuck, project: { ...stuck.project, code: "LATE", dataDate: "2026-03-03" }, activities: stuck.activities.map((each) => (each.id === "dig" ? { ...each, durationMinutes: 480 * 18_000, actualStart: "2026-03-02" } : each)).filter(({ id }) => id !== "open"), links: [] };
    await world.addProject(tomas.me, bundle);
    const moved = await ines.send("post", "/api/portfolio/data-date", { date: "2095-03-06" });
    expect(moved.body.refused).toEqual([{ project: "LATE", why: expect.stringContaining("1990-01-01 to 2099-12-31") }]);
    expect(moved.body.moved).toBe(1);
  });
});
