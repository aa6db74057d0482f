import type { Cycle, Portfolio, QualityView } from "@chronometra/contract";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let pm: Caller, controller: Caller, other: Caller;
let project: string;

beforeAll(async () => {
  world = await TestWorld.open();
  pm = await world.caller("pia", ["projectManager"]);
  controller = await world.caller("cora", ["controller"]);
  other = await world.caller("olaf", ["projectManager"]);
  project = await world.addProject(pm.me, smallPlan());
  await change(
    {
      type: "addRow",
      table: "activities",
      key: "loose",
      row: { id: "loose", name: "Loose end", durationMinutes: 960, wish: { type: "startOn", date: "2026-03-06" } },
    },
    { type: "addRow", table: "links", key: "twice", row: { from: "dig", to: "open" } },
  );
});
afterAll(() => world.drop());

const quality = async (): Promise<QualityView> =>
  (await controller.get(`/api/projects/${project}/quality`)).body as QualityView;
const revision = async (): Promise<number> =>
  ((await controller.get(`/api/projects/${project}/plan`)).body as { revision: number }).revision;
const change = async (...changes: object[]): Promise<void> => {
  const response = await pm.send("post", `/api/projects/${project}/changes`, { revision: await revision(), changes });
  if (response.status !== 200) throw new Error(response.text);
};
const check = (view: QualityView, number: number) => view.checks.find((each) => each.number === number)!;

describe("how far a plan can be trusted", () => {
  it("is told as a verdict with its reasons, checks and findings with their activities, and what would help most", async () => {
    const view = await quality();
    expect(view.verdict.fitness).toBe("unfit");
    expect(check(view, 1)).toMatchObject({
      passes: false,
      offences: [
        {
          id: "loose",
          name: "Loose end",
          words: expect.stringMatching(/^nothing (before or )?after it$/),
          mend: "links",
        },
      ],
      mendMany: "linkLooseEnds",
      trend: [],
    });
    expect(check(view, 5)).toMatchObject({
      passes: false,
      offences: [{ id: "loose", words: "start on 6 Mar 2026", mend: "wish" }],
      limit: "at most 5%",
      published: null,
    });
    expect(view.findings.find(({ key }) => key === "redundantLinks")?.offences).toEqual([
      { id: "open", name: "Open", words: "starts after Dig finishes", mend: "links" },
    ]);
    expect(view.pathTest).toMatchObject({ addedDays: 600, movedDays: 600 });
    expect(view.verdict.best).toMatchObject({ check: 1 });
  });

  it("is kept with the figures, so that the portfolio and the cycle say it without working it out", async () => {
    const { projects } = (await controller.get("/api/portfolio")).body as Portfolio;
    const kept = projects.find(({ id }) => id === project)!.summary.quality!;
    const view = await quality();
    expect(kept).toEqual(
      view.checks.map(({ number, value, passes }) =>
        number === 12 ? (passes === null ? null : Number(passes)) : value,
      ),
    );
  });

  it("is judged by the portfolio's own limits where they are set, which only a controller may", async () => {
    expect((await pm.send("put", "/api/portfolio/quality-limits", { 5: 1 })).status).toBe(403);
    expect((await controller.send("put", "/api/portfolio/quality-limits", { 5: 3 })).body.message).toMatch(
      /share between 0 and 1/,
    );
    expect((await controller.send("put", "/api/portfolio/quality-limits", { 12: 1 })).status).toBe(422);
    expect((await controller.send("put", "/api/portfolio/quality-limits", { 5: 1 })).status).toBe(200);
    expect(check(await quality(), 5)).toMatchObject({ passes: true, limit: "at most 100%", published: "at most 5%" });
    expect(((await controller.get("/api/portfolio")).body as Portfolio).qualityLimits).toEqual({ 5: 1 });
    expect((await controller.send("put", "/api/portfolio/quality-limits", { silentDays: 0.5 })).status).toBe(422);
    expect((await controller.send("put", "/api/portfolio/quality-limits", {})).status).toBe(200);
  });
});

describe("mending many at once", () => {
  const mend = (kind: string, activities: string[], rest = "", by: Caller = pm) =>
    by.send("post", `/api/projects/${project}/quality/mend${rest}`, { mend: kind, activities });

  it("shows what it would move and stores nothing", async () => {
    const before = await revision();
    const { body } = await mend("softenWishes", ["loose"], "/effect");
    expect(body).toMatchObject({ changes: 1, left: [], effect: { finish: null } });
    expect(await revision()).toBe(before);
  });

  it("links loose ends to the first start and the last finish, and is undone as one step", async () => {
    const { body } = await mend("linkLooseEnds", ["loose"]);
    expect(body).toMatchObject({ changes: expect.any(Number), left: [] });
    expect(check(await quality(), 1).offences).toEqual([]);
    expect(
      (await pm.send("post", `/api/projects/${project}/undo`, { revision: (body as { revision: number }).revision }))
        .status,
    ).toBe(200);
    expect(check(await quality(), 1).offences).toHaveLength(1);
  });

  it("takes out redundant links without moving a date", async () => {
    const before = ((await controller.get("/api/portfolio")).body as Portfolio).projects[0]!.summary.finish;
    expect((await mend("dropRedundant", ["open"])).status).toBe(200);
    expect((await quality()).findings.find(({ key }) => key === "redundantLinks")?.offences).toEqual([]);
    expect(((await controller.get("/api/portfolio")).body as Portfolio).projects[0]!.summary.finish).toBe(before);
  });

  it("says a lead as an overlap that lies where it lay, and leaves what it does not fit, with why", async () => {
    const plan = (await controller.get(`/api/projects/${project}/plan`)).body as {
      tables: { links: [string, { from: string; to: string }][] };
    };
    const [key] = plan.tables.links.find(([, { from, to }]) => from === "dig" && to === "pour")!;
    await change({ type: "editRow", table: "links", key, set: { lagMinutes: -480 } });
    const before = ((await controller.get("/api/portfolio")).body as Portfolio).projects[0]!.summary.finish;
    expect((await mend("leadsToOverlaps", ["pour"], "/effect")).body).toMatchObject({
      changes: 1,
      effect: { finish: null, activities: [] },
    });
    expect((await mend("leadsToOverlaps", ["pour"])).status).toBe(200);
    expect(check(await quality(), 2)).toMatchObject({ passes: true });
    expect(((await controller.get("/api/portfolio")).body as Portfolio).projects[0]!.summary.finish).toBe(before);
    const nothing = await mend("leadsToOverlaps", ["pour"]);
    expect([nothing.status, nothing.body.message]).toEqual([
      422,
      "There is nothing left to mend of those; load the page again.",
    ]);
    await change({ type: "editRow", table: "links", key, set: { lagMinutes: -480 } });
    expect((await mend("leadsToOverlaps", ["pour"])).body.message).toBe(
      "Nothing can be mended so: Pour: its lead is not on a finish-to-start link.",
    );
  });

  it("is for those who may change the project", async () => {
    expect((await mend("softenWishes", ["loose"], "/effect", other)).status).toBe(403);
    expect((await mend("softenWishes", ["loose"], "", other)).status).toBe(403);
  });
});

describe("the cycle's check step", () => {
  it("names the checks that a plan fails, and an issued period keeps what they came to", async () => {
    const approver = await world.caller("ada", ["approver"]);
    const { body: asked } = await pm.send("post", `/api/projects/${project}/approvals`, { word: "" });
    await approver.send("post", `/api/approvals/${(asked as { id: string }).id}/decision`, {
      decision: "approve",
      reason: "go",
    });
    await world.openPeriod(1, "2026-03-01", "2026-03-04");
    await change({ type: "setDataDate", date: "2026-03-04" });
    const { projects } = (await controller.get("/api/cycle")).body as Cycle;
    expect(projects.find(({ id }) => id === project)!.findings[0]).toMatch(/^not fit to be trusted: .*missing logic/);
    expect((await pm.send("post", `/api/projects/${project}/periods`, {})).status).toBe(200);
    expect(check(await quality(), 1).trend).toEqual([
      { period: 1, dataDate: "2026-03-04", value: check(await quality(), 1).value, passes: false },
    ]);
  });
});
