import { createHash } from "node:crypto";
import type { ComparisonView, DriftLedgerView } from "@chronometra/contract";
import type { Change } from "@chronometra/core";
import { stopWorkers } from "../shared/workers.ts";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let tomas: Caller;
let ines: Caller;
let margit: Caller;
let project: string;

beforeAll(async () => {
  world = await TestWorld.open();
  tomas = await world.caller("tomas", ["projectManager"]);
  ines = await world.caller("ines", ["controller"]);
  margit = await world.caller("margit", ["approver"]);
  await world.openPeriod(1, "2026-03-01", "2026-03-06");
});
beforeEach(async () => {
  project = await world.addProject(tomas.me, smallPlan());
});
afterAll(async () => {
  await stopWorkers();
  await world.drop();
});

const change = async (...changes: Change[]): Promise<void> => {
  const { revision } = (await ines.get(`/api/projects/${project}/plan`)).body as { revision: number };
  const done = await tomas.send("post", `/api/projects/${project}/changes`, { revision, changes });
  if (done.status !== 200) throw new Error(done.text);
};
const approve = async (): Promise<void> => {
  const asked = await tomas.send("post", `/api/projects/${project}/approvals`, { word: "" });
  await margit.send("post", `/api/approvals/${asked.body.id}/decision`, { decision: "approve", reason: "good" });
};
const compare = async (from: string, to: string): Promise<ComparisonView> =>
  (await ines.get(`/api/projects/${project}/compare/${from}/${to}`)).body as ComparisonView;
const told = ({ rows }: ComparisonView) =>
  rows.map(({ name, what, finishDays, logicAdded, logicDropped }) => [
    name,
    what,
    finishDays,
    ...logicAdded.map((words) => `+${words}`),
    ...logicDropped.map((words) => `-${words}`),
  ]);

describe("two states of a plan", () => {
  it("a plan just approved is its baseline; what is changed afterwards is told in days, money and logic", async () => {
    await approve();
    expect(told(await compare("baseline-1", "plan"))).toEqual([]);
    await change(
      { type: "setDuration", activity: "dig", minutes: 2880 },
      { type: "editRow", table: "links", key: "1", set: { lagMinutes: 480 } },
      {
        type: "addRow",
        table: "costs",
        key: "c2",
        row: { id: "c2", activity: "dig", category: "hire", plannedMinor: 5000 },
      },
    );
    const view = await compare("baseline-1", "plan");
    expect(told(view)).toEqual([
      ["Dig", "changed", 1],
      ["Pour", "changed", 2, "+Dig + 1d", "-Dig"],
      ["Open", "changed", 2],
    ]);
    // Dig takes one day more and a day passes after it: Wednesday the 11th becomes Friday the 13th.
    expect([view.finish, view.budgetMinor.to - view.budgetMinor.from]).toEqual([
      { from: "2026-03-11", to: "2026-03-13", days: 2 },
      5000,
    ]);
    const back = await compare("plan", "baseline-1");
    expect(back.finish.days).toBe(-2);
  });

  it("an issued period stays what it was, whatever becomes of the plan, and cannot be altered", async () => {
    await approve();
    await change({ type: "setDataDate", date: "2026-03-06" });
    expect((await tomas.send("post", `/api/projects/${project}/periods`, {})).status).toBe(200);
    await change(
      { type: "setName", activity: "dig", name: "Dredge" },
      { type: "setParked", activity: "pour", parked: true },
    );
    const view = await compare("period-1", "plan");
    expect(view.states.map(({ name }) => name)).toEqual(["plan", "period-1", "baseline-1"]);
    expect(told(view).map(([name, what]) => [name, what])).toEqual([
      ["Dredge", "changed"],
      ["Pour", "parked"],
      ["Open", "changed"],
    ]);
    await expect(world.database.query("update issued_plan set content = '{}'")).rejects.toThrow(/written once/);
    await expect(world.database.query("delete from issued_plan")).rejects.toThrow(/written once/);
  });

  it("what is no state, or not there, is told", async () => {
    expect((await ines.get(`/api/projects/${project}/compare/plan/yesterday`)).status).toBe(422);
    const missing = await ines.get(`/api/projects/${project}/compare/baseline-7/plan`);
    expect([missing.status, missing.body.message]).toEqual([404, expect.stringContaining("baseline-7")]);
    expect((await compare("plan", "plan")).rows).toEqual([]);
  });
});

describe("a baseline's digest", () => {
  it("is the SHA-256 of the text that anyone can take away", async () => {
    await approve();
    const text = await ines
      .get(`/api/projects/${project}/baselines/1/content`)
      .buffer(true)
      .parse((response, done) => {
        const chunks: Buffer[] = [];
        response.on("data", (chunk: Buffer) => chunks.push(chunk));
        response.on("end", () => done(null, Buffer.concat(chunks)));
      });
    const digest = createHash("sha256")
      .update(text.body as Buffer)
      .digest("hex");
    const ledger = (await ines.get(`/api/projects/${project}/ledger`)).body as { baselines: { digest: string }[] };
    expect([digest, text.headers["content-disposition"]]).toEqual([
      ledger.baselines[0]!.digest,
      expect.stringMatching(/baseline-1\.json/),
    ]);
    expect((await ines.get(`/api/projects/${project}/baselines/9/content`)).status).toBe(404);
  });
});

describe("why a date moved", () => {
  const drift = (from: string, to: string, target: string) =>
    ines.get(`/api/projects/${project}/drift/${from}/${to}/${target}`);

  it("is told between an issued period and the plan, cause by cause, adding up; from a baseline too, where the plan behind it is known", async () => {
    await approve();
    await world.openPeriod(7, "2026-03-01", "2026-03-06");
    const change = async (...changes: object[]): Promise<void> => {
      const { revision } = (await ines.get(`/api/projects/${project}/plan`)).body as { revision: number };
      expect((await ines.send("post", `/api/projects/${project}/changes`, { revision, changes })).status).toBe(200);
    };
    await change({ type: "setDataDate", date: "2026-03-06" });
    expect((await ines.send("post", `/api/projects/${project}/periods`)).status).toBe(200);
    expect((await drift("period-7", "plan", "finish")).body).toMatchObject({ days: 0, causes: [] });
    await change(
      { type: "setDuration", activity: "dig", minutes: 3360 },
      { type: "setDuration", activity: "pour", minutes: 960 },
    );
    const told = (await drift("period-7", "plan", "open")).body as DriftLedgerView;
    expect(told.causes.map(({ group, name, days }) => [group, name, days])).toEqual([
      ["work", "Dig", 2],
      ["work", "Pour", -1],
    ]);
    expect(told.days).toBe(1);
    const sinceApproved = (await drift("baseline-1", "plan", "finish")).body as DriftLedgerView;
    expect(sinceApproved.causes.reduce((sum, { days }) => sum + days, 0)).toBeCloseTo(sinceApproved.days);
    expect((await drift("period-99", "plan", "finish")).status).toBe(404);
    expect((await drift("somewhere", "plan", "finish")).status).toBe(422);
  });

  it("is not told from a baseline that came with a file: no plan is behind it here, and no request is approved alone on it", async () => {
    const row = {
      id: "dig",
      start: "2026-03-02T08:00",
      finish: "2026-03-06T17:00",
      durationMinutes: 2400,
      evenMinor: 0,
      startMinor: 0,
      finishMinor: 0,
      minutes: 0,
    };
    const approvedElsewhere = {
      number: 1,
      approvedOn: "2026-02-20",
      approvedBy: "Elsewhere",
      reason: "go",
      activities: [row],
    };
    project = await world.addProject(tomas.me, { ...smallPlan(), baselines: [approvedElsewhere] });
    expect((await drift("baseline-1", "plan", "finish")).body.message).toMatch(
      /no plan behind that baseline; it was approved elsewhere/,
    );
    const { id } = (await tomas.send("post", `/api/projects/${project}/whatifs`, { name: "Later" })).body as {
      id: string;
    };
    expect((await tomas.get(`/api/whatifs/${id}/alone`)).body).toEqual({
      baseline: 1,
      fault: expect.stringMatching(/The plan behind baseline 1 is not kept here/),
    });
  });
});
