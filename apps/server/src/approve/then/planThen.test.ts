import type { BackView, ComparisonView, PlanThen } from "@chronometra/contract";
import { smallPlan, TestWorld, type Caller } from "../../testing/testWorld.ts";

let world: TestWorld;
let tomas: Caller, margit: Caller, ann: Caller, quill: Caller;
let project: string;

interface Stored {
  readonly revision: number;
  readonly tables: unknown;
}
const stored = async (): Promise<Stored> => (await tomas.get(`/api/projects/${project}/plan`)).body as Stored;
const change = async (changes: object[]): Promise<number> => {
  const { revision } = await stored();
  const body = { revision, changes, label: "x" };
  const answer = await tomas.send("post", `/api/projects/${project}/changes`, body);
  expect([answer.status, answer.body.message]).toEqual([200, undefined]);
  return (answer.body as { revision: number }).revision;
};
const then = (revision: number, who = quill) => who.get(`/api/projects/${project}/revisions/${revision}`);
const days = async (revision: number): Promise<Record<string, string | null>> =>
  Object.fromEntries(((await then(revision)).body as PlanThen).activities.map(({ id, finish }) => [id, finish]));
const backTo = async (revision: number): Promise<BackView> =>
  (await tomas.get(`/api/projects/${project}/revisions/${revision}/back`)).body as BackView;
const bring = (revision: number, seen: number) =>
  tomas.send("post", `/api/projects/${project}/revisions/${revision}/back`, { seen });
const rows = ({ tables }: Stored): unknown => tables;

/** Hours that Ann reports on digging, accepted. */
async function work(): Promise<void> {
  const date = "2026-03-02";
  const sent = await ann.send("post", "/api/desk/reports", { project, activity: "dig", date, minutes: 240, note: "" });
  const { id } = sent.body as { id: string };
  const decided = await tomas.send("post", "/api/reports/decision", { ids: [id], decision: "accept", word: "" });
  expect([decided.status, decided.body.message]).toEqual([200, undefined]);
}

beforeAll(async () => {
  world = await TestWorld.open();
  tomas = await world.caller("tomas", ["projectManager"]);
  margit = await world.caller("margit", ["approver"]);
  ann = await world.caller("ann", ["contributor"], "ann");
  quill = await world.caller("quill", ["reader"]);
});
afterAll(() => world.drop());
beforeEach(async () => {
  await world.database.query("delete from plan_row where table_name = 'assignments'");
  const plan = smallPlan();
  project = await world.addProject(tomas.me, { ...plan, project: { ...plan.project, dataDate: "2026-03-01" } });
});

describe("a plan as it was at a revision", () => {
  it("is read and compared as it stood then, whatever came since: rows, reports, a baseline, undoing", async () => {
    const first = (await stored()).revision;
    const longer = await change([{ type: "setDuration", activity: "dig", minutes: 4800 }]);
    const asked = await tomas.send("post", `/api/projects/${project}/approvals`, { word: "go" });
    await margit.send("post", `/api/approvals/${asked.body.id}/decision`, { decision: "approve", reason: "go" });
    await work();
    const fewer = await change([
      { type: "removeRow", table: "links", key: "1" },
      { type: "setName", activity: "pour", name: "Cast" },
    ]);
    await tomas.send("post", `/api/projects/${project}/undo`, { revision: fewer });
    await change([{ type: "setDuration", activity: "pour", minutes: 480 }]);

    expect(await days(first)).toMatchObject({ dig: "2026-03-06", pour: "2026-03-11", open: "2026-03-11" });
    expect(await days(longer)).toMatchObject({ dig: "2026-03-13", open: "2026-03-18" });
    const at = (await then(fewer)).body as PlanThen;
    expect(at.activities.map(({ name }) => name)).toEqual(["Works", "Dig", "Cast", "Open"]);
    expect(at).toMatchObject({ revision: fewer, by: "Tomas", label: "x" });
    expect(at.activities[1]).toMatchObject({ baselineFinish: "2026-03-13" });
    expect(((await then(first)).body as PlanThen).activities[1]).toMatchObject({
      baselineFinish: null,
      state: "notStarted",
    });
    const compared = (await quill.get(`/api/projects/${project}/compare/revision-${first}/plan`))
      .body as ComparisonView;
    expect(compared.from.words).toBe(`the plan at revision ${first}`);
    expect(compared.rows.map(({ id }) => id)).toEqual(expect.arrayContaining(["dig", "pour"]));
    expect((await then(999)).status).toBe(404);
    expect((await quill.get(`/api/projects/${project}/compare/revision-999/plan`)).status).toBe(404);
    expect((await then(first, ann)).status).toBe(403);
  });

  it("is brought back as one list: what was reported and approved stays, and it can be undone", async () => {
    const before = await stored();
    await change([
      { type: "setDuration", activity: "dig", minutes: 4800 },
      { type: "setName", activity: "dig", name: "Trench" },
    ]);
    await work();
    await change([
      { type: "addRow", table: "activities", key: "new", row: { id: "new", name: "New", durationMinutes: 480 } },
    ]);
    const view = await backTo(before.revision);
    expect(view).toMatchObject({ lists: 3, stay: 1, why: null });
    expect(view.effect).not.toBeNull();
    const now = await stored();
    expect((await bring(before.revision, view.seen - 1)).status).toBe(409);
    expect(rows(await stored())).toEqual(rows(now));
    const done = await bring(before.revision, view.seen);
    expect(done.status).toBe(200);
    const { activities } = (await then(done.body.revision)).body as PlanThen;
    expect(activities.map(({ name }) => name)).toEqual(["Works", "Dig", "Pour", "Open"]);
    expect(activities[1]).toMatchObject({ state: "inProgress" });
    await tomas.send("post", `/api/projects/${project}/undo`, { revision: done.body.revision });
    expect(rows(await stored())).toEqual(rows(now));
  });

  it("is not brought back by whoever may not, where nothing changed, or where what stays rests on what came", async () => {
    const { revision } = await stored();
    expect((await backTo(revision)).why).toMatch(/Nothing of the plan was changed/);
    expect((await bring(revision, revision)).status).toBe(422);
    await change([
      { type: "addRow", table: "people", key: "cy", row: { id: "cy", name: "Cy" } },
      { type: "addRow", table: "assignments", key: "a9", row: { activity: "dig", person: "cy", plannedMinutes: 60 } },
    ]);
    const cy = await world.caller(`cy${revision}`, ["contributor"], "cy");
    const sent = await cy.send("post", "/api/desk/reports", {
      ...{ project, activity: "dig" },
      date: "2026-03-02",
      minutes: 30,
      note: "",
    });
    await tomas.send("post", "/api/reports/decision", { ids: [sent.body.id], decision: "accept", word: "" });
    const view = await backTo(revision);
    expect(view.effect).toBeNull();
    expect(view.why).toMatch(/What stays rests on it/);
    expect((await bring(revision, view.seen)).status).toBe(422);
    expect((await quill.get(`/api/projects/${project}/revisions/${revision}/back`)).status).toBe(403);
  });
});
