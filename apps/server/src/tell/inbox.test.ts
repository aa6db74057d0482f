import type { Inbox, Mail, Notice, Telling } from "@chronometra/contract";
import { AccountEntity } from "../access/accountEntity.ts";
import { inTransaction } from "../shared/database.ts";
import { tellCycle } from "../cycle/tellPeriods.ts";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";
import { tellDifferences } from "./moved/differences.ts";
import { USUALLY } from "./notices.ts";
import { Post, type Message } from "./post.ts";

let world: TestWorld;
let tomas: Caller, ines: Caller, margit: Caller, odile: Caller, ann: Caller, bo: Caller, quill: Caller;
let project: string;

const inbox = async (who: Caller): Promise<Notice[]> => ((await who.get("/api/inbox")).body as Inbox).notices;
const subjects = async (who: Caller): Promise<string[]> => (await inbox(who)).map(({ subject }) => subject);
const count = async (who: Caller): Promise<number> =>
  ((await who.get("/api/inbox/count")).body as { open: number }).open;
const mailOf = async (who: Caller): Promise<Mail[]> => (await who.get("/api/mail")).body as Mail[];
const wants = (who: Caller, over: Partial<Telling> = {}) => who.send("put", "/api/telling", { ...USUALLY, ...over });
const seen = (who: Caller, ids: readonly string[], is = true) => who.send("put", "/api/inbox/seen", { ids, seen: is });
const change = async (changes: object[], who = tomas) => {
  const { revision } = (await tomas.get(`/api/projects/${project}/plan`)).body as { revision: number };
  const answer = await who.send("post", `/api/projects/${project}/changes`, { revision, changes, label: "x" });
  expect(answer.status).toBe(200);
};
const ask = async (): Promise<string> =>
  ((await tomas.send("post", `/api/projects/${project}/approvals`, { word: "As agreed." })).body as { id: string }).id;
const approve = async (): Promise<void> => {
  const id = await ask();
  await margit.send("post", `/api/approvals/${id}/decision`, { decision: "approve", reason: "go" });
};
const tellFor = (post: Post, who: Caller, of: Partial<Message> & { subject: string }, at = new Date()) =>
  inTransaction(world.database, async (manager) => {
    const to = await manager.getRepository(AccountEntity).findOneByOrFail({ id: who.me.id });
    await post.put(manager, [{ to, kind: "asked", body: "x", ...of } as Message], at);
  });
const roles = (who: Caller, is: string[]) =>
  world.database.query("update account set roles = ? where id = ?", [JSON.stringify(is), who.me.id]);

beforeAll(async () => {
  world = await TestWorld.open();
  tomas = await world.caller("tomas", ["projectManager"]);
  ines = await world.caller("ines", ["controller"]);
  margit = await world.caller("margit", ["approver"]);
  odile = await world.caller("odile", ["approver"]);
  ann = await world.caller("ann", ["contributor"], "ann");
  bo = await world.caller("bo", ["contributor"], "bo");
  quill = await world.caller("quill", ["reader"]);
});
afterAll(() => world.drop());

beforeEach(async () => {
  for (const table of ["notice", "mail", "telling", "told_project", "told_activity", "report"])
    await world.database.query(`delete from ${table}`);
  project = await world.addProject(tomas.me, smallPlan());
});

describe("an inbox", () => {
  it("has what is asked until somebody has done it, whoever; and who asked is told what was decided", async () => {
    const id = await ask();
    expect(await inbox(margit)).toEqual([
      expect.objectContaining({ kind: "asked", from: "Tomas", act: "Decide", link: "/approvals", waits: true }),
    ]);
    expect([await count(margit), await count(odile), await count(quill)]).toEqual([1, 1, 0]);
    await odile.send("post", `/api/approvals/${id}/decision`, { decision: "sendBack", reason: "Too thin." });
    expect([await count(margit), await count(odile)]).toEqual([0, 0]);
    expect((await inbox(margit))[0]).toMatchObject({ waits: false, settledAt: expect.any(String) });
    expect(await inbox(tomas)).toEqual([
      expect.objectContaining({ kind: "decided", body: expect.stringContaining("Too thin."), seen: false }),
    ]);
  });

  it("asks once for the same, and again after a later plan took its place", async () => {
    await ask();
    await change([{ type: "setDuration", activity: "dig", minutes: 1440 }]);
    await ask();
    expect((await inbox(margit)).map(({ waits }) => waits)).toEqual([true, false]);
    expect(await count(margit)).toBe(1);
  });

  it("asks anew in place of what waits, with mail again", async () => {
    const post = new Post({ togetherMilliseconds: 0 });
    await tellFor(post, bo, { subject: "Your time", about: "week bo 2026-03-02" });
    await tellFor(post, bo, { subject: "Your time, please", about: "week bo 2026-03-02" });
    expect([await subjects(bo), (await mailOf(bo)).length]).toEqual([["Your time, please"], 2]);
  });

  it("notes what was seen or put aside, of oneself alone, and takes it back", async () => {
    await ask();
    const [{ id }] = (await inbox(margit)) as [Notice];
    await seen(odile, [id]);
    expect(await count(margit)).toBe(1);
    await seen(margit, [id]);
    expect([await count(margit), (await inbox(margit))[0]!.waits]).toEqual([0, false]);
    await seen(margit, [id], false);
    expect([await count(margit), (await inbox(margit))[0]!.waits]).toEqual([1, true]);
  });

  it("loses what is of a project that one does not see any more, and its mail is not sent", async () => {
    const post = new Post({});
    await wants(quill, { ways: { ...USUALLY.ways, deadline: "day" } });
    await tellFor(post, quill, { kind: "deadline", subject: "T: breaks", project });
    await tellFor(post, quill, { kind: "deadline", subject: "Own work", project: undefined });
    expect(await count(quill)).toBe(2);
    await roles(quill, ["contributor"]);
    expect([await subjects(quill), await count(quill)]).toEqual([["Own work"], 1]);
    await post.gather(world.database, new Date(Date.now() + 2 * 86_400_000));
    expect((await mailOf(quill)).map(({ subject }) => subject)).toEqual(["Own work"]);
    await roles(quill, ["reader"]);
    // What was not told then is not told later either: it stands in the inbox.
    await post.gather(world.database, new Date(Date.now() + 3 * 86_400_000));
    expect([await count(quill), (await mailOf(quill)).length]).toEqual([2, 1]);
  });
});

describe("mail of what one is told", () => {
  it("is one message a day for whoever wants that, written once by two servers at once", async () => {
    const post = new Post({});
    await wants(bo, { ways: { ...USUALLY.ways, asked: "day" }, at: "07:00" });
    for (let i = 0; i < 30; i++) await tellFor(post, bo, { subject: `Thing ${i}` });
    expect(await post.gather(world.database)).toBe(0);
    const then = new Date(Date.now() + 86_400_000);
    const written = await Promise.all([post.gather(world.database, then), post.gather(world.database, then)]);
    expect(written.reduce((sum, each) => sum + each, 0)).toBe(1);
    const mails = await mailOf(bo);
    expect(mails.map(({ subject }) => subject)).toEqual(["30 things to know: asked of you 30"]);
    expect(mails[0]).toMatchObject({ link: "/inbox", body: expect.stringContaining("and 18 more, in your inbox") });
    expect(await post.gather(world.database, new Date(then.getTime() + 86_400_000))).toBe(0);
  });

  it("of much at once is the first, then one of the rest; what was done meanwhile is left out", async () => {
    const post = new Post({ togetherMilliseconds: 600_000 });
    const at = new Date();
    await tellFor(post, bo, { subject: "First" }, at);
    await tellFor(post, bo, { subject: "Second", about: "gate x" }, at);
    await tellFor(post, bo, { subject: "Third" }, at);
    await tellFor(post, bo, { subject: "Fourth" }, at);
    await world.database.query("update notice set settled_at = now(), mail_at = null where about = 'gate x'");
    await post.gather(world.database, new Date(at.getTime() + 599_000));
    expect((await mailOf(bo)).map(({ subject }) => subject)).toEqual(["First"]);
    await post.gather(world.database, new Date(at.getTime() + 601_000));
    const [rest] = await mailOf(bo);
    expect(rest).toMatchObject({ subject: "2 things to know: asked of you 2" });
    expect(rest!.body).toContain("Third");
    expect(rest!.body).not.toContain("Second");
  });

  it("is there if and only if what it tells happened", async () => {
    const failing = inTransaction(world.database, async (manager) => {
      const to = await manager.getRepository(AccountEntity).findOneByOrFail({ id: bo.me.id });
      await new Post({}).put(manager, [{ to, kind: "asked", subject: "Never", body: "x" }]);
      throw new Error("it did not happen");
    });
    await expect(failing).rejects.toThrow("it did not happen");
    expect([await count(bo), await mailOf(bo)]).toEqual([0, []]);
  });

  it("is left out where none is wanted; wishes that make no sense are refused", async () => {
    await wants(bo, { ways: { ...USUALLY.ways, asked: "never" } });
    await tellFor(new Post({}), bo, { subject: "Quiet" });
    expect([await count(bo), (await mailOf(bo)).length]).toEqual([1, 0]);
    const refused = await wants(bo, { at: "25:00" });
    expect([refused.status, refused.text]).toEqual([422, expect.stringContaining("write a time of day as 07:30")]);
    expect((await bo.get("/api/telling")).body).toMatchObject({ ways: { asked: "never" }, at: "07:00" });
  });
});

describe("what moved", () => {
  const longer = (minutes: number, who = ines) => change([{ type: "setDuration", activity: "dig", minutes }], who);

  it("is told to those whose work it is, once for all of it; moved back, it was not", async () => {
    await world.app.tellDifferences();
    await longer(2880);
    await world.app.tellDifferences();
    // Dates that nobody approved are only being planned.
    expect(await subjects(bo)).toEqual([]);
    await approve();
    await world.app.tellDifferences();
    await longer(3360);
    await world.app.tellDifferences();
    expect(await inbox(bo)).toEqual([
      expect.objectContaining({
        subject: expect.stringMatching(/^T-.*: “Pour” has other dates$/),
        body: "Pour: 10 Mar 2026 – 12 Mar 2026 → 11 Mar 2026 – 13 Mar 2026",
        kind: "moved",
        link: "/desk",
      }),
    ]);
    await longer(3840);
    await world.app.tellDifferences();
    expect((await inbox(bo)).map(({ body }) => body)).toEqual([
      "Pour: 10 Mar 2026 – 12 Mar 2026 → 12 Mar 2026 – 16 Mar 2026",
    ]);
    await longer(2880);
    await world.app.tellDifferences();
    expect(await inbox(bo)).toEqual([]);
    await longer(3360);
    await world.app.tellDifferences();
    await seen(bo, [(await inbox(bo))[0]!.id]);
    await longer(3840);
    await world.app.tellDifferences();
    expect((await inbox(bo)).map(({ body }) => body)).toEqual([
      "Pour: 11 Mar 2026 – 13 Mar 2026 → 12 Mar 2026 – 16 Mar 2026",
      "Pour: 10 Mar 2026 – 12 Mar 2026 → 11 Mar 2026 – 13 Mar 2026",
    ]);
  });

  it("of deadlines and blocks is told to the manager too, but not to whoever did it alone", async () => {
    await approve();
    await world.database.query("delete from notice");
    await world.app.tellDifferences();
    await longer(4800, tomas);
    await change([
      { type: "addRow", table: "blocks", key: "pour", row: { by: "no crane", since: "2026-03-02", saidBy: "Tomas" } },
    ]);
    await world.app.tellDifferences();
    expect(await subjects(tomas)).toEqual([]);
    expect(await inbox(bo)).toEqual(
      expect.arrayContaining([
        expect.objectContaining({ kind: "blocked", body: "Pour: blocked by no crane" }),
        expect.objectContaining({ kind: "moved" }),
      ]),
    );
    await longer(480, ines);
    await world.app.tellDifferences();
    expect(await inbox(tomas)).toEqual([
      expect.objectContaining({ kind: "deadline", body: "Open: will break → safe" }),
    ]);
    expect(await Promise.all([world.app.tellDifferences(), world.app.tellDifferences()])).toEqual([0, 0]);
  });

  it("is told of names as long as they come, and of other projects where one fails", async () => {
    await approve();
    await world.app.tellDifferences();
    await change([{ type: "setName", activity: "pour", name: "P".repeat(480) }]);
    await longer(3360);
    await world.app.tellDifferences();
    expect((await subjects(bo))[0]).toMatch(/^T-\w+: “P{200,}…$/);
    const after = await world.addProject(tomas.me, smallPlan());
    await world.database.query("update project set kept_revision = kept_revision + 1 where id in (?)", [
      [project, after],
    ]);
    const failing = { put: () => Promise.reject(new Error("no post")) };
    await world.database.query("update told_activity set finish = '2020-01-01' where project_id = ?", [project]);
    await expect(tellDifferences(world.database, failing)).rejects.toThrow("1 of these failed");
    expect(await world.database.query("select count(*) as n from told_project where project_id = ?", [after])).toEqual([
      { n: "1" },
    ]);
    await world.app.tellDifferences();
    expect((await inbox(bo)).length).toBe(1);
  });

  it("is told by one of two servers that look at once", async () => {
    await approve();
    await world.app.tellDifferences();
    await longer(3360);
    await Promise.all([world.app.tellDifferences(), world.app.tellDifferences()]);
    expect((await inbox(bo)).length).toBe(1);
  });
});

describe("reports that wait", () => {
  it("are told once to whoever accepts them, until none waits; what is returned is told to its sender", async () => {
    const report = () =>
      ann.send("post", "/api/desk/reports", { project, activity: "dig", date: "2026-03-02", minutes: 60 });
    expect((await report()).status).toBe(200);
    await world.app.tellDifferences();
    await report();
    await world.app.tellDifferences();
    expect(await inbox(tomas)).toEqual([
      expect.objectContaining({
        subject: "Reports wait to be accepted",
        body: expect.stringMatching(/: 2$/),
        waits: true,
      }),
    ]);
    const waiting = (await tomas.get("/api/reports")).body as { id: string }[];
    const ids = waiting.map(({ id }) => id);
    await tomas.send("post", "/api/reports/decision", { ids, decision: "return", word: "Wrong day." });
    await world.app.tellDifferences();
    expect(await count(tomas)).toBe(0);
    expect(await inbox(ann)).toEqual([
      expect.objectContaining({
        subject: "2 reports are returned to you",
        body: "Wrong day.\n\n2 Mar 2026, Dig, 1 h\n2 Mar 2026, Dig, 1 h",
        link: "/desk/week",
      }),
    ]);
  });
});

describe("a period", () => {
  beforeEach(() => world.database.query("delete from reporting_period"));

  it("that is opened is told to managers of projects that take part and to controllers, but not to whoever opened it", async () => {
    await approve();
    await world.database.query("delete from notice");
    const opened = await ines.send("post", "/api/periods", { dataDate: "2026-03-27", issueBy: "2026-04-01T12:00" });
    expect(opened.status).toBe(200);
    expect(await inbox(tomas)).toEqual([
      expect.objectContaining({
        subject: "Period 1 is open",
        body: "It reports up to 27 Mar 2026; reports are issued by 1 Apr 2026, 12:00.",
        from: "Ines",
      }),
    ]);
    expect([await count(ines), await count(quill), await count(ann)]).toEqual([0, 0, 0]);
  });

  it("that is due is told to managers once, with what is not issued or explained, until all is", async () => {
    await world.database.query(
      "insert ignore into project_closing (project_id, closed_by, closed_at, word) select id, manager_id, now(), '' from project where id <> ?",
      [project],
    );
    await approve();
    await world.openPeriod(1, "2026-03-01", "2026-03-27");
    await world.database.query("update reporting_period set issue_by = '2026-04-01T12:00'");
    await world.database.query("delete from notice");
    const post = new Post({});
    const chase = (today: string) => tellCycle(world.database, post, new Date(), today);
    const waiting = async () => (await inbox(tomas)).filter(({ waits }) => waits).map(({ subject }) => subject);
    await chase("2026-03-26");
    expect(await waiting()).toEqual([]);
    await chase("2026-03-31");
    await chase("2026-04-01");
    expect(await waiting()).toContain("Period 1 is due on 1 Apr 2026");
    expect(new Set(await waiting()).size).toBe((await waiting()).length);
    await change([{ type: "setDataDate", date: "2026-03-27" }]);
    expect((await tomas.send("post", `/api/projects/${project}/periods`, {})).status).toBe(200);
    await chase("2026-04-01");
    expect(await waiting()).not.toContain("Period 1 is due on 1 Apr 2026");
  });
});
