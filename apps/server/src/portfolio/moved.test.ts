import type { Accepted, Portfolio, ProjectLook } from "@chronometra/contract";
import { freezePlan } from "@chronometra/core";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let ines: Caller;
let project: string;

const line = async () => ((await ines.get("/api/portfolio")).body as Portfolio).projects[0]!;
const standing = async () => {
  const { comparedNumber, issuedDrift, issuedNumber, openDrift, summary } = await line();
  return { comparedNumber, issuedDrift, issuedNumber, openDrift, drift: summary.drift };
};
const change = async (...changes: object[]): Promise<void> => {
  const { revision } = (await ines.get(`/api/projects/${project}/plan`)).body as { revision: number };
  expect((await ines.send("post", `/api/projects/${project}/changes`, { revision, changes })).status).toBe(200);
};

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
  const bare = smallPlan({ project: { code: "M-1", name: "Moved", dataDate: "2026-03-02" } as never });
  project = await world.addProject(ines.me, {
    ...bare,
    baselines: [{ number: 1, approvedOn: "2026-03-01", approvedBy: "x", reason: "y", ...freezePlan(bare) }],
  });
});
afterAll(() => world.drop());

describe("how far a finish has moved", () => {
  it("is told against the last period before the open one, and after issuing as the period shows it", async () => {
    await world.openPeriod(1, "2026-03-01", "2026-03-02");
    expect((await ines.send("post", `/api/projects/${project}/periods`)).status).toBe(200);
    const { drift: first } = await standing();
    // Nothing lies before the first period.
    expect(await standing()).toEqual({
      comparedNumber: null,
      issuedDrift: null,
      issuedNumber: 1,
      openDrift: first,
      drift: first,
    });
    await world.openPeriod(2, "2026-03-03", "2026-03-04");
    await change({ type: "setDataDate", date: "2026-03-04" }, { type: "setDuration", activity: "dig", minutes: 4800 });
    const { drift: second } = await standing();
    expect(await standing()).toEqual({
      comparedNumber: 1,
      issuedDrift: first,
      issuedNumber: 1,
      openDrift: null,
      drift: second,
    });
    expect((await ines.send("post", `/api/projects/${project}/periods`)).status).toBe(200);
    await change({ type: "setDuration", activity: "dig", minutes: 5280 });
    // What was changed since is not what the period shows.
    expect(await standing()).toEqual({
      comparedNumber: 1,
      issuedDrift: first,
      issuedNumber: 2,
      openDrift: second,
      drift: second! + 1,
    });
  });

  it("counts no issue that was withdrawn", async () => {
    expect((await ines.send("post", `/api/projects/${project}/lock`, { word: "known" })).status).toBe(200);
    expect((await ines.send("post", `/api/projects/${project}/reopen`, { reason: "a mistake" })).status).toBe(200);
    expect(await standing()).toMatchObject({ comparedNumber: 1, issuedNumber: 1, openDrift: null });
  });

  it("with all accepted that waits is worked out, not guessed, and stored nowhere", async () => {
    const ann = await world.caller("ann", ["contributor"], "ann");
    const { revision } = await line();
    expect((await ines.get("/api/portfolio/accepted")).body).toEqual([]);
    await ann.send("post", "/api/desk/reports", { project, activity: "dig", date: "2026-03-04", percent: 100 });
    const [accepted] = (await ines.get("/api/portfolio/accepted")).body as Accepted;
    expect(accepted).toMatchObject({ project, reports: 1, fault: null });
    expect(accepted!.drift!).toBeLessThan((await standing()).drift!);
    expect((await line()).revision).toBe(revision);
    // Nobody else has hours on it: nothing is left to be said.
    expect(accepted!.asked).toBe(0);
    await ines.send("post", "/api/reports/decision", {
      ids: ((await ines.get("/api/reports")).body as { id: string }[]).map(({ id }) => id),
      decision: "accept",
    });
    expect((await standing()).drift).toBe(accepted!.drift);
  });
});

describe("a locked period", () => {
  const look = async () => (await ines.get(`/api/projects/${project}`)).body as ProjectLook;

  it("keeps its figures as they were locked beside what has changed since, until the data date moves on", async () => {
    await world.openPeriod(3, "2026-03-05", "2026-03-06");
    await change({ type: "setDataDate", date: "2026-03-06" });
    expect((await line()).locked).toBeNull();
    expect((await ines.send("post", `/api/projects/${project}/lock`, { word: "known" })).status).toBe(200);
    const { summary } = await look();
    const asLocked = {
      number: 3,
      dataDate: "2026-03-06",
      spi: summary.figures!.spi,
      cpi: summary.figures!.cpi,
      drift: summary.drift,
      estimate: summary.figures!.eacBottomUp,
    };
    expect((await line()).locked).toEqual(asLocked);
    await change(
      { type: "setDuration", activity: "pour", minutes: 9600 },
      { type: "reportProgress", activity: "dig", percent: 10, actualFinish: null },
    );
    const after = await look();
    expect(after.summary.figures!.ev).not.toBe(summary.figures!.ev);
    expect((await line()).locked).toEqual(asLocked);
    expect(after.periods.at(-1)).toMatchObject({
      number: 3,
      locked: true,
      drift: summary.drift,
      figures: summary.figures,
    });
    expect(after.curve.find(({ date }) => date === "2026-03-06")).toMatchObject({
      ev: summary.figures!.ev,
      ac: summary.figures!.ac,
    });
    await change({ type: "setDataDate", date: "2026-03-09" });
    expect((await line()).locked).toBeNull();
    expect(
      (await look()).curve.filter(({ date }) => date >= "2026-03-06" && date <= "2026-03-09").map(({ ev }) => ev),
    ).toEqual([summary.figures!.ev, (await look()).summary.figures!.ev]);
  });
});
