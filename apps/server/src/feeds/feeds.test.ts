import type { FeedFigure, GroupPeriods } from "@chronometra/contract";
import { freezePlan } from "@chronometra/core";
import { parse } from "csv-parse/sync";
import request from "supertest";
import { IssuedPeriodEntity } from "../cycle/cycleEntities.ts";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let ines: Caller;
let token: string;
const ids: string[] = [];
const CURRENCIES = [
  ["JPY", 0],
  ["EUR", 2],
  ["KWD", 3],
] as const;

/** A table as another reader than ours takes it apart. */
const csvParse = (text: string): Record<string, string>[] => parse(text, { columns: true, bom: true });

const read = (path: string) => request(world.app.app).get(path).set("Authorization", `Bearer ${token}`);

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller", "administrator"]);
  await world.openPeriod(1, "2026-03-01", "2026-03-04");
  for (const [currency, minorDigits] of CURRENCIES) {
    const bundle = smallPlan();
    const project = { ...bundle.project, code: currency, name: `="${currency}"`, currency, minorDigits };
    const bare = { ...bundle, project: { ...project, dataDate: "2026-03-04" } };
    const approved = { number: 1, approvedOn: "2026-03-01", approvedBy: "x", reason: "y", ...freezePlan(bare) };
    const id = await world.addProject(ines.me, { ...bare, baselines: [approved] });
    ids.push(id);
    expect((await ines.send("post", `/api/projects/${id}/periods`)).status).toBe(200);
  }
  const issued = world.database.getRepository(IssuedPeriodEntity);
  for (const { spi: _spi, cpi: _cpi, drift: _drift, estimate: _estimate, ...row } of await issued.find())
    await issued.insert([
      { ...row, number: 2, edition: 1, summary: "{}" },
      { ...row, number: 2, edition: 2 },
    ]);
  const purposes = ["readFigures", "readWatchlists"];
  token = (await ines.send("post", "/api/tokens", { name: "Ledger", purposes })).body.token;
});
afterAll(() => world.drop());

const pages = async (first: string): Promise<FeedFigure[][]> => {
  const all: FeedFigure[][] = [];
  for (let next: string | null = first; next !== null;) {
    const { body } = (await read(next)) as { body: { rows: FeedFigure[]; next: string | null } };
    all.push(body.rows);
    next = body.next;
  }
  return all;
};

describe("figures for other systems", () => {
  it("are those of the periods as issued, the newest edition, each once whatever a page holds", async () => {
    const [whole] = await pages("/api/feeds/figures");
    expect(whole).toHaveLength(6);
    for (const limit of [1, 2, 4, 6]) {
      const split = await pages(`/api/feeds/figures?limit=${limit}`);
      expect(split.slice(0, -1).every((page) => page.length === limit)).toBe(true);
      expect(split.flat()).toEqual(whole);
    }
    expect(whole!.map(({ period, edition }) => [period, edition])).toEqual([
      ...Array.from({ length: 3 }, () => [1, 1]),
      ...Array.from({ length: 3 }, () => [2, 2]),
    ]);
    const periods = (await ines.get("/api/programmes/house/periods")).body as GroupPeriods;
    for (const { number, projects } of periods)
      for (const { project, figures } of projects)
        expect(whole!.find((row) => row.period === number && row.project.id === project)!.figures).toEqual(figures);
  });

  it("are asked for by project and period", async () => {
    const [eur] = await pages("/api/feeds/figures?project=EUR&from=2");
    expect(eur!.map(({ project, period, currency }) => [project.code, period, currency])).toEqual([["EUR", 2, "EUR"]]);
    expect((await pages(`/api/feeds/figures?project=${ids[0]}&to=1&limit=1`)).flat()).toHaveLength(1);
    expect((await pages("/api/feeds/figures?from=3")).flat()).toEqual([]);
    const refused = async (query: string) => (await read(`/api/feeds/figures?${query}`)).body.message;
    expect(await refused("limit=0")).toBe("limit: write a whole number from 1 to 5000.");
    expect(await refused("from=soon")).toMatch(/^from: write a whole number/);
    expect(await refused("after=elsewhere")).toMatch(/^after: take it as it stands/);
    expect(await refused("project=XX")).toMatch(/no project XX among those that this token is for/);
  });

  it("are told as not changed to whoever has them", async () => {
    for (const path of ["/api/feeds/figures", "/api/feeds/figures/csv", "/api/feeds/projects"]) {
      const { etag } = (await read(path)).headers as { etag: string };
      expect([path, (await read(path).set("If-None-Match", etag)).status]).toEqual([path, 304]);
      expect([path, (await read(path).set("If-None-Match", '"other"')).status]).toEqual([path, 200]);
    }
  });

  it("are a table that another reader takes apart, exact in currencies of 0, 2 and 3 digits", async () => {
    const [whole] = await pages("/api/feeds/figures");
    const first = await read("/api/feeds/figures/csv?limit=4");
    const next = /^<(.+)>; rel="next"$/.exec(first.headers["link"] as string)![1]!;
    const second = await read(next);
    expect([second.headers["link"], second.headers["content-type"]]).toEqual([undefined, "text/csv; charset=utf-8"]);
    const rows = [...csvParse(first.text), ...csvParse(second.text)];
    expect(rows).toHaveLength(6);
    for (const [i, row] of rows.entries()) {
      const { minorDigits, currency, figures } = whole![i]!;
      // A name that begins like a formula is none.
      expect([row["project"], row["projectName"]]).toEqual([currency, `'="${currency}"`]);
      for (const name of ["bac", "eacBottomUp", "sv"] as const) {
        const [units = "", part = ""] = row[name]!.split(".");
        expect(part).toHaveLength(minorDigits);
        expect(Number(units + part)).toBe(figures![name]);
      }
    }
  });
});

describe("watchlists for other systems", () => {
  it("are those that ship and those shared with readers; what they find is what people find", async () => {
    const question = { about: "activities", where: [], columns: ["name"], sort: [], group: null, pivot: null };
    const keep = async (name: string, roles: string[]): Promise<string> =>
      (await ines.send("post", "/api/watchlists", { name, question, roles })).body.id;
    const [own, shared] = [await keep("My own", []), await keep("For readers", ["reader"])];
    const list = (await read("/api/feeds/watchlists")).body as { id: string; name: string }[];
    expect(list.some(({ id }) => id === own)).toBe(false);
    expect(list).toContainEqual({ id: shared, name: "For readers" });
    expect((await read(`/api/feeds/watchlists/${own}`)).status).toBe(404);
    const found = (await read(`/api/feeds/watchlists/${shared}`)).body;
    const quill = await world.caller("quill", ["reader"]);
    expect(found).toEqual((await quill.send("post", "/api/watch", question)).body);
    const table = await read(`/api/feeds/watchlists/${shared}/csv`);
    expect(csvParse(table.text)).toHaveLength(found.count);
    expect(table.headers["content-disposition"]).toBe('attachment; filename="For readers.csv"');
  });
});
