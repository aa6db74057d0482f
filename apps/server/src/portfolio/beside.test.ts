import type { Paths, Portfolio } from "@chronometra/contract";
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
