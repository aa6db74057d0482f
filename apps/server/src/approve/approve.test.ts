import { createHash } from "node:crypto";
import type { Approval, ChangeResult, ComparisonView, Ledger, ProjectLook } from "@chronometra/contract";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";
import { BaselineEntity } from "./kept/approveEntities.ts";

let world: TestWorld;
let tomas: Caller;
let margit: Caller;
let project: string;

beforeAll(async () => {
  world = await TestWorld.open();
  tomas = await world.caller("tomas", ["projectManager", "approver"]);
  margit = await world.caller("margit", ["approver"]);
});
beforeEach(async () => {
  project = await world.addProject(tomas.me, smallPlan());
});
afterAll(() => world.drop());

const ask = () => tomas.send("post", `/api/projects/${project}/approvals`, { word: "as agreed" });
const decide = (who: Caller, id: string, decision: "approve" | "sendBack", reason = "agreed") =>
  who.send("post", `/api/approvals/${id}/decision`, { decision, reason });
const ledger = async (): Promise<Ledger> => (await margit.get(`/api/projects/${project}/ledger`)).body as Ledger;
const approved = async (): Promise<void> => void (await decide(margit, (await ask()).body.id as string, "approve"));

describe("approving a plan", () => {
  it("freezes baseline 1 with who, when and why, and from then on the project has figures", async () => {
    const asked = await ask();
    expect(asked.body).toMatchObject({ state: "asked", askedBy: "Tomas", word: "as agreed" });
    const done = await decide(margit, asked.body.id as string, "approve", "funds released");
    expect(done.body).toMatchObject({ state: "approved", decidedBy: "Margit", reason: "funds released", baseline: 1 });
    // Dig 40 h at 60, pour 24 h at 30, material 1000: 2400 + 720 + 1000.
    expect((await ledger()).baselines).toEqual([
      expect.objectContaining({
        number: 1,
        approvedBy: "Margit",
        reason: "funds released",
        activities: 3,
        budgetMinor: 412_000,
        start: "2026-03-02",
        finish: "2026-03-11",
      }),
    ]);
    await tomas.send("post", `/api/projects/${project}/changes`, {
      revision: 2,
      changes: [{ type: "setDataDate", date: "2026-03-04" }],
    });
    expect((await margit.get(`/api/projects/${project}`)).body.summary.figures).toMatchObject({
      bac: 412_000,
      pv: 144_000,
      ev: 0,
    });
  });

  it("bears the day on which the plan of a project that runs already was really approved, of the first alone", async () => {
    const agreed = (agreedOn: string) =>
      tomas.send("post", `/api/projects/${project}/approvals`, { word: "by the board", agreedOn });
    expect((await agreed("2099-01-01")).body.message).toMatch(/still to come/);
    expect((await agreed("3 May")).status).toBe(422);
    expect((await ledger()).approvals).toEqual([]);
    const asked = (await agreed("2026-02-20")).body as Approval;
    expect(asked.agreedOn).toBe("2026-02-20");
    await decide(margit, asked.id, "approve", "minutes of the board seen");
    expect((await ledger()).baselines).toMatchObject([{ number: 1, approvedOn: "2026-02-20", approvedBy: "Margit" }]);
    expect((await ledger()).approvals[0]!.decidedAt!.slice(0, 10)).not.toBe("2026-02-20");
    expect((await agreed("2026-02-21")).body.message).toMatch(/^Only the first plan/);
  });

  it("is never one's own to decide, also for someone with both roles", async () => {
    const { id } = (await ask()).body as { id: string };
    expect((await decide(tomas, id, "approve")).status).toBe(403);
    expect((await ledger()).baselines).toEqual([]);
  });

  it("needs a reason, is asked for once at a time and decided once", async () => {
    const { id } = (await ask()).body as { id: string };
    expect((await decide(margit, id, "approve", "  ")).body.message).toMatch(/say why/);
    expect((await ask()).status).toBe(409);
    expect((await decide(margit, id, "sendBack", "budget missing")).body).toMatchObject({
      state: "sentBack",
      baseline: null,
    });
    expect((await decide(margit, id, "approve")).status).toBe(409);
    expect((await ask()).status).toBe(200);
  });

  it("two approvers at the same instant freeze one baseline", async () => {
    const other = await world.caller(`second${project.slice(0, 6)}`, ["approver"]);
    const { id } = (await ask()).body as { id: string };
    const results = await Promise.all([decide(margit, id, "approve"), decide(other, id, "approve")]);
    expect(results.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect((await ledger()).baselines).toHaveLength(1);
  });

  it("refuses a plan with nothing in it", async () => {
    project = await world.addProject(tomas.me, {
      ...smallPlan(),
      activities: [],
      links: [],
      assignments: [],
      costs: [],
    });
    const refused = await decide(margit, (await ask()).body.id as string, "approve");
    expect([refused.status, refused.body.message]).toEqual([422, expect.stringContaining("nothing to approve")]);
  });
});

describe("a plan that is changed after its approval was asked for", () => {
  const change = (revision: number, minutes: number) =>
    tomas.send("post", `/api/projects/${project}/changes`, {
      revision,
      changes: [{ type: "setDuration", activity: "dig", minutes }],
    });

  it("is approved as it was asked for; what changed since is counted, can be compared, and stays in the live plan", async () => {
    const { id } = (await ask()).body as { id: string };
    await change(1, 4800);
    const [waiting] = ((await margit.get("/api/approvals")).body as Approval[]).filter((each) => each.id === id);
    expect(waiting!.changedSince).toBe(1);
    const compared = (await margit.get(`/api/projects/${project}/compare/asked-${id}/plan`)).body as ComparisonView;
    expect(compared.rows.map((row) => row.id)).toContain("dig");
    expect((await margit.get(`/api/projects/${project}/history?from=asked-${id}&to=plan`)).body).toHaveLength(1);
    expect((await decide(margit, id, "approve")).body.baseline).toBe(1);
    // As asked: dig takes 2400 minutes, and all is done on 11 March.
    expect((await ledger()).baselines[0]).toMatchObject({ finish: "2026-03-11" });
    const { summary } = (await margit.get(`/api/projects/${project}`)).body as ProjectLook;
    expect([summary.finish, summary.drift]).toEqual(["2026-03-18", 5]);
    expect(await world.database.query("select * from approval_plan where approval_id = ?", [id])).toEqual([]);
  });

  it("is asked for anew with the later plan, which takes the place of the request before", async () => {
    const first = (await ask()).body as { id: string };
    await change(1, 4800);
    expect(((await tomas.get(`/api/projects/${project}/ledger`)).body as Ledger).mayAsk).toBe(true);
    const second = (await ask()).body as { id: string };
    expect((await decide(margit, first.id, "approve")).body.message).toMatch(/replaced by one with a later plan/);
    expect((await ledger()).approvals.map(({ state }) => state).sort()).toEqual(["asked", "replaced"]);
    await decide(margit, second.id, "approve");
    expect((await ledger()).baselines[0]).toMatchObject({ number: 1, finish: "2026-03-18" });
  });

  it("what was changed and undone again is no change, and a row that went since is still approved", async () => {
    const { id } = (await ask()).body as { id: string };
    await change(1, 4800);
    await tomas.send("post", `/api/projects/${project}/undo`, { revision: 2 });
    expect(((await margit.get("/api/approvals")).body as Approval[]).find((each) => each.id === id)!.changedSince).toBe(
      0,
    );
    await tomas.send("post", `/api/projects/${project}/changes`, {
      revision: 3,
      changes: [
        { type: "removeRow", table: "links", key: "1" },
        { type: "removeRow", table: "activities", key: "open" },
      ],
    });
    expect((await decide(margit, id, "approve")).status).toBe(200);
    expect((await ledger()).baselines[0]!.activities).toBe(3);
  });
});

describe("a list of changes sent twice", () => {
  const LIST = "5b3e7f0a-90f1-4a4e-9a53-0c6b0f7a1d11";
  it("is stored once and answered as it was the first time, whatever others stored since", async () => {
    const body = {
      revision: 1,
      list: LIST,
      changes: [{ type: "addRow", table: "activities", key: "n", row: { id: "n", name: "New", durationMinutes: 480 } }],
    };
    const first = (await tomas.send("post", `/api/projects/${project}/changes`, body)).body as ChangeResult;
    await tomas.send("post", `/api/projects/${project}/changes`, {
      revision: 2,
      changes: [{ type: "setName", activity: "dig", name: "Dredge" }],
    });
    const again = (await tomas.send("post", `/api/projects/${project}/changes`, body)).body as ChangeResult;
    expect([again.revision, again.changes, again.merged]).toEqual([first.revision, first.changes, 0]);
    const undo = { revision: 2, list: "5b3e7f0a-90f1-4a4e-9a53-0c6b0f7a1d12" };
    const undone = (await tomas.send("post", `/api/projects/${project}/undo`, undo)).body as ChangeResult;
    expect([
      undone.revision,
      ((await tomas.send("post", `/api/projects/${project}/undo`, undo)).body as ChangeResult).revision,
    ]).toEqual([4, 4]);
    expect((await margit.get(`/api/projects/${project}/history`)).body).toHaveLength(4);
  });
});

describe("a baseline stays", () => {
  it("the database itself refuses to alter or remove one, and so it does an issued period", async () => {
    await approved();
    await expect(
      world.database.query("update baseline set content = 'x' where project_id = ?", [project]),
    ).rejects.toThrow(/written once/);
    await expect(world.database.query("delete from baseline where project_id = ?", [project])).rejects.toThrow(
      /written once/,
    );
  });

  it("freezing is no change that can be undone", async () => {
    await approved();
    const refused = await tomas.send("post", `/api/projects/${project}/undo`, { revision: 2 });
    expect([refused.status, refused.body.message]).toEqual([422, expect.stringContaining("cannot be undone")]);
  });

  it("its digest is SHA-256 over its content, and recomputing it gives the same", async () => {
    await approved();
    const row = await world.database.getRepository(BaselineEntity).findOneByOrFail({ projectId: project, number: 1 });
    expect(row.digest).toBe(createHash("sha256").update(row.content, "utf8").digest("hex"));
    expect((await margit.get(`/api/projects/${project}/baselines/1/digest`)).body).toEqual({
      number: 1,
      stored: row.digest,
      recomputed: row.digest,
      same: true,
    });
    expect((await margit.get(`/api/projects/${project}/baselines/2/digest`)).status).toBe(404);
  });

  it("a digest tells content that was altered behind the database's back", async () => {
    await approved();
    await world.database.query("drop trigger baseline_no_update");
    try {
      await world.database.query(
        "update baseline set content = replace(content, '412', '413'), content = concat(content, ' ') where project_id = ?",
        [project],
      );
      expect((await margit.get(`/api/projects/${project}/baselines/1/digest`)).body).toMatchObject({ same: false });
    } finally {
      await world.database.query(
        "create trigger baseline_no_update before update on baseline for each row signal sqlstate '45000' set message_text = 'a baseline is written once and stays'",
      );
    }
  });

  it("keeps links and date wishes with the rows, and takes progress in nowhere", async () => {
    await tomas.send("post", `/api/projects/${project}/changes`, {
      revision: 1,
      changes: [
        { type: "setWish", activity: "pour", wish: { type: "startNotBefore", date: "2026-03-10" } },
        { type: "setDataDate", date: "2026-03-06" },
        { type: "reportProgress", activity: "dig", actualStart: "2026-03-04", percent: 20 },
      ],
    });
    await approved();
    const { content } = await world.database
      .getRepository(BaselineEntity)
      .findOneByOrFail({ projectId: project, number: 1 });
    const frozen = JSON.parse(content) as {
      baseline: { activities: { id: string; start: string }[] };
      links: unknown[];
      wishes: Record<string, unknown>;
    };
    expect(frozen.links).toEqual([
      { from: "dig", to: "pour" },
      { from: "pour", to: "open" },
    ]);
    expect(frozen.wishes).toEqual({ pour: { type: "startNotBefore", date: "2026-03-10" } });
    expect(frozen.baseline.activities.map(({ id, start }) => [id, start])).toEqual([
      ["dig", "2026-03-02T08:00"],
      ["pour", "2026-03-10T08:00"],
      ["open", "2026-03-12T17:00"],
    ]);
  });

  it("a second one is numbered 2 and is compared against; the first stays as it was", async () => {
    await approved();
    const first = await world.database.getRepository(BaselineEntity).findOneByOrFail({ projectId: project, number: 1 });
    await tomas.send("post", `/api/projects/${project}/changes`, {
      revision: 2,
      changes: [{ type: "setDuration", activity: "dig", minutes: 4800 }],
    });
    await approved();
    expect((await ledger()).baselines.map(({ number }) => number)).toEqual([2, 1]);
    expect(
      await world.database.getRepository(BaselineEntity).findOneByOrFail({ projectId: project, number: 1 }),
    ).toEqual(first);
    expect((await margit.get(`/api/projects/${project}`)).body.summary).toMatchObject({ baseline: 2, drift: 0 });
  });
});
