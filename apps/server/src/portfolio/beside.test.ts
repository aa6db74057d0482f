import type { Paths, Portfolio, GroupPeriods, GroupPlanned, Groups } from "@chronometra/contract";
import { figuresOf, freezePlan, minorUnits, NO_SUMS } from "@chronometra/core";
import { IssuedPeriodEntity } from "../cycle/cycleEntities.ts";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let controller: Caller, pm: Caller, other: Caller;
let project: string;

const portfolio = async (): Promise<Portfolio> => (await controller.get("/api/portfolio")).body as Portfolio;
const line = async () => (await portfolio()).projects.find(({ id }) => id === project)!;
const FIELDS = [
  { id: "prio", name: "Priority", type: "choice", choices: ["high", "low"] },
  { id: "sponsor", name: "Sponsor", type: "text" },
];

beforeAll(async () => {
  world = await TestWorld.open();
  controller = await world.caller("cora", ["controller"]);
  pm = await world.caller("pia", ["projectManager"]);
  other = await world.caller("otto", ["projectManager"]);
  project = await world.addProject(pm.me, smallPlan());
});
afterAll(() => world.drop());

describe("own fields of projects", () => {
  it("are set by a controller, filled by the manager, and go with their values", async () => {
    expect((await controller.send("put", "/api/portfolio/fields", { fields: FIELDS })).status).toBe(200);
    expect(
      (await pm.send("put", `/api/projects/${project}/standing`, { values: { prio: "high", sponsor: "Port board" } }))
        .status,
    ).toBe(200);
    expect((await line()).values).toEqual({ prio: "high", sponsor: "Port board" });
    expect((await other.send("put", `/api/projects/${project}/standing`, { values: { prio: "low" } })).status).toBe(
      403,
    );
    expect(
      (await pm.send("put", `/api/projects/${project}/standing`, { values: { prio: "urgent" } })).body.message,
    ).toMatch(/Priority must be one of "high", "low"/);
    expect((await pm.send("put", `/api/projects/${project}/standing`, { values: { nope: 1 } })).body.message).toMatch(
      /no such field/,
    );
    const narrower = await controller.send("put", "/api/portfolio/fields", {
      fields: [{ ...FIELDS[0], choices: ["low"] }, FIELDS[1]],
    });
    expect([narrower.status, narrower.body.message]).toEqual([422, expect.stringContaining("would no longer fit")]);
    await controller.send("put", "/api/portfolio/fields", { fields: [FIELDS[1]] });
    expect([(await portfolio()).fields.map(({ id }) => id), (await line()).values]).toEqual([
      ["sponsor"],
      { sponsor: "Port board" },
    ]);
  });

  it("hold money in whole units and people who are known, who are told by name", async () => {
    const fields = [
      { id: "worth", name: "Worth", type: "money" },
      { id: "who", name: "Sponsor", type: "person" },
    ];
    const write = (values: object) => pm.send("put", `/api/projects/${project}/standing`, { values });
    expect((await controller.send("put", "/api/portfolio/fields", { fields })).status).toBe(200);
    const people = (await pm.get("/api/portfolio/people")).body as { id: string; name: string }[];
    const otto = people.find(({ name }) => name === other.me.name)!;
    expect((await write({ worth: 1200.5, who: otto.id })).status).toBe(200);
    expect((await line()).values).toEqual({ worth: 1200.5, who: otto.id });
    expect((await portfolio()).named).toEqual({ [otto.id]: otto.name });
    expect((await write({ worth: 0.001 })).body.message).toMatch(/Worth must be an amount of at most 2 decimals/);
    expect((await write({ worth: "much" })).status).toBe(422);
    expect((await write({ who: "nobody" })).body.message).toMatch(/Sponsor must be somebody who is known here/);
    expect((await line()).values).toEqual({ worth: 1200.5, who: otto.id });
    await controller.send("put", "/api/portfolio/fields", { fields: [] });
  });

  it("have choices that are renamed in the projects too, also where two take each other's name", async () => {
    const field = { id: "prio", name: "Priority", type: "choice", choices: ["high", "low"] };
    await controller.send("put", "/api/portfolio/fields", { fields: [field] });
    await pm.send("put", `/api/projects/${project}/standing`, { values: { prio: "high" } });
    const swapped = await controller.send("put", "/api/portfolio/fields", {
      fields: [{ ...field, choices: ["low", "high"] }],
      seen: [field],
      renamed: [
        { field: "prio", from: "high", to: "low" },
        { field: "prio", from: "low", to: "high" },
      ],
    });
    expect([swapped.status, (await line()).values]).toEqual([200, { prio: "low" }]);
    await controller.send("put", "/api/portfolio/fields", { fields: [] });
  });

  it("that somebody else wrote meanwhile are not written over", async () => {
    await controller.send("put", "/api/portfolio/fields", { fields: [FIELDS[1]], seen: [] });
    const late = await controller.send("put", "/api/portfolio/fields", { fields: [FIELDS[0]], seen: [] });
    expect([late.status, late.body.message]).toEqual([
      409,
      expect.stringMatching(/own fields .* changed by someone else/),
    ]);
    expect((await portfolio()).fields).toEqual([FIELDS[1]]);
    // Said twice is said once.
    expect((await controller.send("put", "/api/portfolio/fields", { fields: [FIELDS[1]], seen: [] })).status).toBe(200);
  });

  it("are refused where two have one name", async () => {
    expect(
      (await controller.send("put", "/api/portfolio/fields", { fields: [FIELDS[1], { ...FIELDS[1], id: "again" }] }))
        .body.message,
    ).toMatch(/two fields called "Sponsor"/);
  });
});

describe("what a manager says", () => {
  it("stands beside the figures with who said it, and can be taken back", async () => {
    await pm.send("put", `/api/projects/${project}/standing`, { says: { rating: "care", note: "The crane is late." } });
    expect((await line()).says).toMatchObject({ rating: "care", note: "The crane is late.", by: "Pia" });
    await pm.send("put", `/api/projects/${project}/standing`, { says: null });
    expect((await line()).says).toBeNull();
  });
});

describe("portfolios and programmes", () => {
  const add = async (name: string, parent: string | null = null): Promise<string> =>
    (await controller.send("post", "/api/programmes", { name, parent })).body.id as string;
  const write = (id: string, name: string, parent: string | null) =>
    controller.send("put", `/api/programmes/${id}`, { name, parent });

  it("form a tree of any depth without a circle, projects hung anywhere in it", async () => {
    const harbour = await add("Harbour");
    const quays = await add("Quays", harbour);
    const north = await add("North quays", quays);
    expect((await write(harbour, "Harbour", north)).body.message).toMatch(/cannot be part of what is part of it/);
    expect((await write(harbour, "Harbour", harbour)).status).toBe(422);
    expect((await write(north, "Quays", null)).status).toBe(409);
    expect((await write(north, "Northern quays", harbour)).body).toMatchObject({
      name: "Northern quays",
      parent: harbour,
    });
    await pm.send("put", `/api/projects/${project}/standing`, { programme: quays });
    expect((await line()).programme).toBe(quays);
    expect((await pm.send("put", `/api/projects/${project}/standing`, { programme: "nowhere" })).status).toBe(422);
  });
});

describe("a group", () => {
  const groups = async (): Promise<Groups> => (await controller.get("/api/programmes")).body as Groups;
  const add = async (name: string, parent: string | null = null): Promise<string> =>
    (await controller.send("post", "/api/programmes", { name, parent })).body.id as string;

  it("is put elsewhere among its like, and given somebody who answers for it", async () => {
    const [east, west, south] = [await add("East"), await add("West"), await add("South")];
    const order = async (): Promise<string[]> =>
      (await groups()).groups.map(({ name }) => name).filter((name) => ["East", "West", "South"].includes(name));
    await controller.send("put", `/api/programmes/${south}`, { name: "South", parent: null, before: east });
    expect(await order()).toEqual(["South", "East", "West"]);
    await controller.send("put", `/api/programmes/${south}`, { name: "South", parent: null, before: null });
    expect(await order()).toEqual(["East", "West", "South"]);
    const gone = await controller.send("put", `/api/programmes/${west}`, {
      name: "West",
      parent: null,
      before: "gone",
    });
    expect([gone.status, await order()]).toEqual([422, ["East", "West", "South"]]);
    await controller.send("put", `/api/programmes/${west}`, { name: "West", parent: null, manager: pm.me.id });
    await controller.send("put", `/api/programmes/${west}`, { name: "West bank", parent: null });
    expect((await groups()).groups.find(({ id }) => id === west)).toMatchObject({
      name: "West bank",
      manager: { id: pm.me.id },
    });
    const nobody = await controller.send("put", `/api/programmes/${west}`, {
      name: "West bank",
      parent: null,
      manager: "nobody",
    });
    expect(nobody.body.message).toContain("no project manager");
  });

  it("is removed only while nothing is in it and nothing was issued of it", async () => {
    const outer = await add("Outer");
    const inner = await add("Inner", outer);
    expect((await pm.send("delete", `/api/programmes/${inner}`)).status).toBe(403);
    expect((await controller.send("delete", `/api/programmes/${outer}`)).body.message).toContain("is not empty");
    await pm.send("put", `/api/projects/${project}/standing`, { programme: inner });
    expect((await controller.send("delete", `/api/programmes/${inner}`)).body.message).toContain("is not empty");
    await pm.send("put", `/api/projects/${project}/standing`, { programme: null });
    expect((await controller.send("delete", `/api/programmes/${inner}`)).status).toBe(200);
    expect((await controller.send("delete", `/api/programmes/${inner}`)).status).toBe(404);
    expect((await groups()).groups.some(({ id }) => id === inner)).toBe(false);
  });

  it("tells what was issued of its projects and of those below it, the edition that holds", async () => {
    const other = await world.addProject(pm.me, smallPlan());
    const outer = await add("Shelf");
    const inner = await add("Bank", outer);
    await pm.send("put", `/api/projects/${other}/standing`, { programme: inner });
    const figures = figuresOf({ ...NO_SUMS, bac: minorUnits(100), pv: minorUnits(50), ac: minorUnits(45) });
    const said = (ev: number): string =>
      JSON.stringify({ currency: "EUR", minorDigits: 2, drift: 0, figures: { ...figures, ev } });
    const point = {
      projectId: other,
      number: 7,
      edition: 1,
      dataDate: "2026-07-03",
      revision: 1,
      issuedBy: pm.me.id,
      issuedAt: new Date(),
    };
    await world.database.getRepository(IssuedPeriodEntity).insert([
      { ...point, summary: said(40) },
      { ...point, edition: 2, summary: said(42) },
    ]);
    const of = async (id: string): Promise<GroupPeriods> =>
      (await controller.get(`/api/programmes/${id}/periods`)).body as GroupPeriods;
    const seven = (periods: GroupPeriods) => periods.find(({ number }) => number === 7);
    expect(seven(await of(outer))).toMatchObject({
      dataDate: "2026-07-03",
      projects: [{ project: other, currency: "EUR", minorDigits: 2, figures: { ev: 42 } }],
    });
    expect(seven(await of("house"))).toEqual(seven(await of(outer)));
    expect(await of(await add("Elsewhere"))).toEqual([]);
    expect((await controller.get("/api/programmes/nowhere/periods")).status).toBe(404);
  });

  it("tells what its open, measured projects plan to earn by month, and nothing of others", async () => {
    const bundle = smallPlan();
    const approved = { number: 1, approvedOn: "2026-03-01", approvedBy: "x", reason: "y", ...freezePlan(bundle) };
    const project = { ...bundle.project, dataDate: "2026-03-04" };
    const measured = { ...bundle, project, baselines: [approved] };
    const ids = await Promise.all(
      [measured, measured, bundle].map((each, i) =>
        world.addProject(pm.me, { ...each, project: { ...each.project, code: `${project.code}${i}` } }),
      ),
    );
    const group = await add("Groynes");
    for (const id of ids) await pm.send("put", `/api/projects/${id}/standing`, { programme: group });
    const planned = async (): Promise<GroupPlanned> =>
      (await controller.get(`/api/programmes/${group}/planned`)).body as GroupPlanned;
    const budget = (all: GroupPlanned): number => all[0]!.months.reduce((sum, { minor }) => sum + minor, 0);
    const lines = ((await controller.get("/api/portfolio")).body as Portfolio).projects;
    const bac = lines.find(({ id }) => id === ids[0])!.summary.figures!.bac;
    const both = await planned();
    expect(both).toMatchObject([
      { currency: "EUR", minorDigits: 2, first: approved.activities[0]!.start.slice(0, 10) },
    ]);
    expect([bac > 0, budget(both)]).toEqual([true, 2 * bac]);
    await world.database.query(
      "insert into project_closing (project_id, closed_by, closed_at, word) values (?, ?, now(3), 'over')",
      [ids[1], pm.me.id],
    );
    expect(budget(await planned())).toBe(bac);
    expect((await controller.get("/api/programmes/nowhere/planned")).status).toBe(404);
  });
});

describe("paths over the periods", () => {
  it("have the edition that holds of each issued period", async () => {
    const said = (spi: number | null): string => JSON.stringify({ drift: 2, figures: { spi, cpi: 1.1 } });
    const point = {
      projectId: project,
      number: 1,
      edition: 1,
      dataDate: "2026-03-04",
      revision: 1,
      issuedBy: pm.me.id,
      issuedAt: new Date(),
      summary: said(0.8),
    };
    await world.database
      .getRepository(IssuedPeriodEntity)
      .insert([
        point,
        { ...point, edition: 2, summary: said(0.9) },
        { ...point, number: 2, dataDate: "2026-04-04", summary: said(null) },
      ]);
    const paths = (await controller.get("/api/portfolio/paths")).body as Paths;
    expect(paths[project]).toEqual([
      { number: 1, dataDate: "2026-03-04", spi: 0.9, cpi: 1.1, drift: 2 },
      { number: 2, dataDate: "2026-04-04", spi: null, cpi: 1.1, drift: 2 },
    ]);
  });
});
