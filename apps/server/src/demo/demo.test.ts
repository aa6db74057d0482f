import { PassThrough } from "node:stream";
import {
  lineSummaryOf,
  type Portfolio,
  type ProjectLine,
  type QueuedReport,
  type ReportsEffect,
  type Summary,
} from "@chronometra/contract";
import { analyse, parseBundle } from "@chronometra/core";
import { pino } from "pino";
import { findAccount, listAccounts } from "../access/accounts.ts";
import { BaselineEntity } from "../approve/kept/approveEntities.ts";
import { digestOf } from "../approve/approveService.ts";
import { SettingEntity } from "../cycle/cycleEntities.ts";
import { standingsOf } from "../cycle/standings.ts";
import { FiguresEntity } from "../writers/figuresEntity.ts";
import { arrive } from "../carry/arrive.ts";
import { leave } from "../carry/leave.ts";
import { ProjectEntity } from "../project/projectEntity.ts";
import { createApp } from "../start/app.ts";
import { openDatabase } from "../start/openDatabase.ts";
import { carryProject } from "../testing/carryProject.ts";
import { everyAnswer } from "../testing/everyAnswer.ts";
import { TestWorld, type Caller } from "../testing/testWorld.ts";
import { DEMO_SIGN_INS, loadDemoIfEmpty } from "./demo.ts";

let world: TestWorld;
let ines: Caller;
let portfolio: Portfolio;

beforeAll(async () => {
  world = await TestWorld.open();
  // As a start leaves it that was killed while it loaded: begun, some of it there, no end.
  await world.database.getRepository(SettingEntity).insert([
    { name: "demo", value: "loading" },
    { name: "organisation", value: "half" },
  ]);
  await world.addAccount("ines", ["controller"]);
  const told: string[] = [];
  expect(await loadDemoIfEmpty(world.database, (words) => told.push(words))).toBe(true);
  expect(told).toHaveLength(10);
  ines = await world.caller("looker", ["controller"]);
  portfolio = (await ines.get("/api/portfolio")).body as Portfolio;
}, 240_000);
afterAll(() => world.drop());

const line = (code: string): ProjectLine => portfolio.projects.find((project) => project.code === code)!;

describe("the demo world", () => {
  it("has a dozen projects, two that go their own way and one without a plan in three programmes, about forty people and about a thousand activities", () => {
    expect(portfolio.programmes).toHaveLength(3);
    expect(portfolio.projects).toHaveLength(15);
    const activities = portfolio.projects.reduce((sum, { summary }) => sum + summary.activities, 0);
    expect(activities).toBeGreaterThan(700);
  });

  it("is loaded once: a second start leaves it as it is", async () => {
    const before = await world.database.getRepository(FiguresEntity).count();
    expect(await loadDemoIfEmpty(world.database, () => undefined)).toBe(true);
    expect(await world.database.getRepository(FiguresEntity).count()).toBe(before);
  });

  it("tells its stories: one broken promise, one quietly rotten, one re-baselined, one recovering, one just begun, one not approved", () => {
    expect(line("LG-02").summary.deadlineCounts).toEqual({ willBreach: 1 });
    expect(line("FS-01").summary.figures!.cpi!).toBeLessThan(0.85);
    expect(line("LG-05").summary.baseline).toBe(2);
    expect(line("LG-03").summary.drift!).toBeGreaterThan(0);
    expect(line("SW-04").summary.figures!.percentComplete!).toBeLessThan(0.05);
    expect(line("SW-05").summary).toMatchObject({ baseline: null, figures: null });
    expect(new Set(portfolio.projects.flatMap(({ missing }) => missing)).size).toBeGreaterThan(3);
    expect(portfolio.projects.reduce((sum, { waiting }) => sum + waiting, 0)).toBeGreaterThan(20);
  });

  it("has what an exact instrument is tried on: a project closed with dropped work, one in a currency without decimals, mail, people elsewhere, reports out of order", async () => {
    expect(line("LG-01").summary.dropped!.count).toBeGreaterThan(2);
    expect(line("LG-01").summary.figures!.ev).toBeLessThan(line("LG-01").summary.figures!.bac);
    expect(line("FS-08").summary).toMatchObject({ currency: "ISK", minorDigits: 0 });
    expect(portfolio.exchange).toMatchObject({ currency: "EUR", rates: [{ currency: "ISK" }, { currency: "ISK" }] });
    expect(await world.database.query("select count(*) as n from mail")).toEqual([{ n: "23" }]);
    expect(await world.database.query("select count(*) as n from account where time_zone is not null")).toEqual([
      { n: "2" },
    ]);
    const late = ((await ines.get("/api/reports")).body as QueuedReport[]).find(
      ({ note }) => note === "found in the notebook",
    )!;
    const { asked } = (
      (
        await ines.send("post", "/api/reports/effect", {
          ids: ((await ines.get("/api/reports")).body as QueuedReport[])
            .filter(({ project }) => project === late.project)
            .map(({ id }) => id),
        })
      ).body as ReportsEffect
    )[0]!;
    expect(asked).toEqual(expect.arrayContaining([expect.objectContaining({ activity: late.activity, answer: null })]));
  });

  it.each(["LG-02", "FS-01", "LG-05", "SW-01", "FS-08"])(
    "every kept figure of %s is what analyse makes of its export",
    async (code) => {
      const { id, summary: shown } = line(code);
      const { summary } = (await ines.get(`/api/projects/${id}`)).body as { summary: Summary };
      expect(shown).toEqual(lineSummaryOf(summary));
      const parsed = parseBundle(JSON.parse((await ines.get(`/api/projects/${id}/export/json`)).text));
      if (!parsed.ok) throw new Error(`${code} is not as it should be`);
      const { bundle } = parsed;
      const analysis = analyse(bundle);
      expect(summary.figures).toEqual(analysis.performance!.project);
      expect(summary.earnedSchedule).toEqual(analysis.performance!.earnedSchedule);
      expect(summary.deadlines).toEqual(
        Object.entries(analysis.deadlines).map(([activity, standing]) =>
          expect.objectContaining({ id: activity, ...standing }),
        ),
      );
      const milestones = bundle.activities.filter(({ kind, parked }) => kind === "milestone" && parked !== true);
      expect(summary.milestones.map((milestone) => [milestone.id, milestone.forecast, milestone.drift])).toEqual(
        milestones.map((milestone) => [
          milestone.id,
          analysis.schedule.activities[milestone.id]!.finishDate,
          analysis.slippage![milestone.id]?.workingDays ?? null,
        ]),
      );
    },
  );

  it("the figures of a project add up from its activities, at every branch", async () => {
    const { rows, summary } = (await ines.get(`/api/projects/${line("LG-02").id}`)).body;
    type Row = { id: string; parent: string | null; kind: string; figures: Summary["figures"] };
    const below = (parent: string | null) => (rows as Row[]).filter((row) => row.parent === parent);
    const measures = ["bac", "pv", "ev", "ac", "eacBottomUp"] as const;
    const sums = (list: Row[]) =>
      measures.map((measure) => list.reduce((sum, { figures }) => sum + figures![measure], 0));
    expect(sums(below(null))).toEqual(measures.map((measure) => summary.figures[measure]));
    for (const branch of (rows as Row[]).filter(({ kind }) => kind === "summary"))
      expect(sums(below(branch.id))).toEqual(measures.map((measure) => branch.figures![measure]));
  });

  it("the rows behind a cost add up to it", async () => {
    const { id, summary } = line("LG-02");
    const { rows } = (await ines.get(`/api/projects/${id}`)).body as {
      rows: { id: string; parent: string | null; figures: { ac: number } }[];
    };
    let total = 0;
    for (const row of rows.filter(({ parent }) => parent === null)) {
      const { time, costs, dataDate } = (await ines.get(`/api/projects/${id}/activities/${row.id}`)).body as {
        dataDate: string;
        time: { date: string; amountMinor: number }[];
        costs: { date: string; amountMinor: number }[];
      };
      const sum = [...time, ...costs]
        .filter(({ date }) => date <= dataDate)
        .reduce((all, { amountMinor }) => all + amountMinor, 0);
      expect([row.id, sum]).toEqual([row.id, row.figures.ac]);
      total += sum;
    }
    expect(total).toBe(summary.figures!.ac);
  });

  it("nine periods are issued and do not change; every baseline's digest holds", async () => {
    const { periods } = (await ines.get(`/api/projects/${line("LG-02").id}`)).body as { periods: { number: number }[] };
    expect(periods.map(({ number }) => number)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9]);
    for (const { digest, content } of await world.database.getRepository(BaselineEntity).find())
      expect(digestOf(content)).toBe(digest);
  });

  it("everyone printed at the start can sign in, and the contributor has work", async () => {
    expect(DEMO_SIGN_INS.people.map(({ login }) => login)).toEqual([
      "ines",
      "tomas",
      "margit",
      "amadou",
      "quill",
      "wim",
      "dagny",
    ]);
    const accounts = await listAccounts(world.database);
    for (const { login } of DEMO_SIGN_INS.people) expect(accounts.map((account) => account.login)).toContain(login);
    const wim = await findAccount(world.database, accounts.find(({ login }) => login === "wim")!.id);
    const standing = (await standingsOf(world.database, wim!)).projects.map(({ code }) => code);
    expect([standing.length > 0, standing.includes("LG-02")]).toEqual([true, false]);
    const { deskOf } = await import("../collect/deskService.ts");
    const desk = await deskOf(
      world.database,
      accounts.find(({ login }) => login === "amadou")!,
    );
    expect(desk.activities.length).toBeGreaterThan(2);
  });
});

/** Every answer here, asked for once. */
const answers = new Map<string, Promise<Map<string, unknown>>>();
const answersHere = (login: string): Promise<Map<string, unknown>> => {
  const known = answers.get(login) ?? everyAnswer(world.app, login, DEMO_SIGN_INS.password);
  answers.set(login, known);
  return known;
};

describe("the demo world, brought to another installation", () => {
  it("answers every page there as here: figures, plans, reports, digests, history", async () => {
    const [name, server] = [`t_there_${process.pid}`, process.env["CHRONOMETRA_TEST_DATABASE"]!];
    await world.database.query(`create database ${name}`);
    const lines = new PassThrough();
    await Promise.all([leave(world.url, lines).then(() => lines.end()), arrive(`${server}/${name}`, lines)]);
    const there = await openDatabase(`${server}/${name}`);
    const app = createApp({ database: there, logger: pino({ level: "silent" }) });
    try {
      for (const login of ["ines", "amadou"]) {
        const here = await answersHere(login);
        const other = await everyAnswer(app, login, DEMO_SIGN_INS.password);
        expect([...other.keys()]).toEqual([...here.keys()]);
        for (const [address, answer] of here)
          expect([login, address, other.get(address)]).toEqual([login, address, answer]);
        const given = [...here.values()].filter((answer) => (answer as [number])[0] === 200).length;
        expect([login, given > (login === "ines" ? 500 : 10)]).toEqual([login, true]);
      }
    } finally {
      app.close();
      await there.destroy();
      await world.database.query(`drop database ${name}`);
    }
  }, 300_000);
});

/** What of an answer is the installation's and not the project's: whom it has reminded, and how it counts gates. */
function ofProject(address: string, answer: unknown): unknown {
  if (address.endsWith("/gates")) return JSON.stringify(answer).replace(/"id":\d+/g, '"id":0');
  const [status, body] = answer as [number, { steps?: { name: string }[]; unreminded?: unknown }];
  if (body?.unreminded === undefined) return answer;
  const { unreminded: _unreminded, steps, ...rest } = body;
  return [status, { ...rest, steps: steps!.filter(({ name }) => name !== "Chase") }];
}

describe("each project of the demo world, brought by itself to another installation of the house", () => {
  it("answers every page of it there as here, and so does the portfolio", async () => {
    const there = await TestWorld.open();
    try {
      const [from, to] = [world.url, there.url].map((url) => new URL(url).pathname.slice(1));
      for (const table of ["account", "programme", "setting", "register_row", "report_layout", "planned_period"]) {
        await there.database.query(`delete from ${table}`);
        await there.database.query(`insert into ${to}.${table} select * from ${from}.${table}`);
      }
      const bearer = await there.caller("bearer", ["controller"]);
      for (const { id, programmeId, managerId } of await world.database.getRepository(ProjectEntity).find())
        expect(await carryProject(ines, bearer, id, { programme: programmeId, manager: managerId })).toBe(id);
      await there.database.query("delete from account where id = ?", [bearer.me.id]);
      const isOfProjects = (address: string): boolean =>
        address === "/api/portfolio" ||
        portfolio.projects.some(({ id }) =>
          ["projects", "status-reports"].some((place) => `${address}/`.startsWith(`/api/${place}/${id}/`)),
        );
      const here = [...(await answersHere("ines"))].filter(([address]) => isOfProjects(address));
      const other = await everyAnswer(there.app, "ines", DEMO_SIGN_INS.password, isOfProjects);
      expect([...other.keys()]).toEqual(here.map(([address]) => address));
      expect(here.length).toBeGreaterThan(500);
      for (const [address, answer] of here)
        expect([address, ofProject(address, other.get(address))]).toEqual([address, ofProject(address, answer)]);
    } finally {
      await there.drop();
    }
  }, 300_000);
});
