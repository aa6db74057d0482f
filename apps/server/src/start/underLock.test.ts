import type { Change } from "@chronometra/core";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";
import { withoutThreadsUnderLock } from "../testing/underLock.ts";

let world: TestWorld;
let ines: Caller;
let tomas: Caller;
let margit: Caller;
let project: string;

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
  tomas = await world.caller("tomas", ["projectManager"]);
  margit = await world.caller("margit", ["approver"]);
});
beforeEach(async () => {
  project = await world.addProject(tomas.me, smallPlan());
});
afterAll(() => world.drop());

/** An act that must do without threads for plans as soon as its project is locked; gives what was answered. */
const act = async (who: Caller, method: "post" | "delete", path: string, body: object): Promise<object> => {
  const { status, body: answer } = await withoutThreadsUnderLock(world.database, () => who.send(method, path, body));
  expect({ path, status, message: answer.message }).toEqual({ path, status: 200, message: undefined });
  return answer as object;
};
const revision = async (): Promise<number> =>
  ((await tomas.get(`/api/projects/${project}/plan`)).body as { revision: number }).revision;
const longer = (minutes: number): Change => ({ type: "setDuration", activity: "dig", minutes });
const change = async (...changes: Change[]): Promise<object> =>
  act(tomas, "post", `/api/projects/${project}/changes`, { revision: await revision(), changes });
const approve = async (): Promise<object> => {
  const asked = await tomas.send("post", `/api/projects/${project}/approvals`, { word: "as agreed" });
  return act(margit, "post", `/api/approvals/${asked.body.id}/decision`, { decision: "approve", reason: "agreed" });
};
const request = async (decision: "approve" | "approveWhole"): Promise<object> => {
  const { id } = (await tomas.send("post", `/api/projects/${project}/whatifs`, { name: "Second digger" })).body as {
    id: string;
  };
  await tomas.send("post", `/api/whatifs/${id}/changes`, { revision: 0, changes: [longer(960)] });
  await tomas.send("post", `/api/whatifs/${id}/request`, { reason: "The tide window moved" });
  return act(margit, "post", `/api/whatifs/${id}/decision`, { decision, reason: "agreed" });
};

describe("what an act comes to is worked out before its project is locked, and only stored under the lock", () => {
  it("a change, and taking it back", async () => {
    await change(longer(960));
    await act(tomas, "post", `/api/projects/${project}/undo`, { revision: await revision() });
  });

  it("approving a plan, also one that was changed since it was asked for", async () => {
    expect(await approve()).toMatchObject({ baseline: 1 });
    const asked = await tomas.send("post", `/api/projects/${project}/approvals`, { word: "again" });
    await change(longer(960));
    const decision = { decision: "approve", reason: "agreed" };
    expect(await act(margit, "post", `/api/approvals/${asked.body.id}/decision`, decision)).toMatchObject({
      baseline: 2,
    });
  });

  it.each(["approve", "approveWhole"] as const)("a change request: %s", async (decision) => {
    await approve();
    await change({ type: "setDuration", activity: "pour", minutes: 4800 });
    expect(await request(decision)).toMatchObject({ state: "approved", baseline: 2 });
  });

  it("keeping a what-if, and slipping a milestone", async () => {
    const { id } = (await tomas.send("post", `/api/projects/${project}/whatifs`, { name: "Second digger" })).body as {
      id: string;
    };
    await tomas.send("post", `/api/whatifs/${id}/changes`, { revision: 0, changes: [longer(960)] });
    await act(tomas, "post", `/api/whatifs/${id}/keep`, {});
    const slip = { days: 3, along: ["pour"], deadlines: false, reason: "the tide", tell: true };
    await act(tomas, "post", `/api/projects/${project}/slip/open`, slip);
  });

  it("accepting a report, and putting work off", async () => {
    const ann = await world.caller("ann", ["contributor"], "ann");
    await change({ type: "setDataDate", date: "2026-03-03" });
    const hours = { project, activity: "dig", date: "2026-03-02", minutes: 240 };
    const { id } = (await ann.send("post", "/api/desk/reports", hours)).body as { id: string };
    await act(tomas, "post", "/api/reports/decision", { ids: [id], decision: "accept", word: "" });
    const rows = [{ project, activity: "pour" }];
    await act(tomas, "post", "/api/watch/act", { rows, act: { do: "pushOut", days: 2 } });
  });

  it("closing a project, and opening it again", async () => {
    await change({ type: "setDataDate", date: "2026-03-04" });
    const activities = { dig: "done", pour: "done", open: "done" };
    const address = `/api/projects/${project}/closing`;
    await act(tomas, "post", address, { word: "Handed over", activities });
    await act(ines, "delete", address, { reason: "a defect" });
  });
});
