import type { Desk, Mail, PeopleWeek, WeeksEffect, WeekView } from "@chronometra/contract";
import { createServer } from "node:net";
import { SMTPServer } from "smtp-server";
import { AccountEntity } from "../../access/accountEntity.ts";
import { inTransaction } from "../../shared/database.ts";
import { pauseAfter } from "../../shared/pauses.ts";
import { Post } from "../../tell/post.ts";
import { smallPlan, TestWorld, type Caller } from "../../testing/testWorld.ts";

let world: TestWorld;
let mails: { to: string[]; text: string }[];
let smtp: SMTPServer;
let ines: Caller;
let tomas: Caller;
let wanjiru: Caller;
let radu: Caller;
let ann: Caller;
let bo: Caller;
let project: string;

beforeAll(async () => {
  mails = [];
  smtp = new SMTPServer({
    authOptional: true,
    disabledCommands: ["STARTTLS"],
    onRcptTo: (address, _session, done) =>
      done(address.address.startsWith("bo@") ? new Error("no such mailbox") : null),
    onData: (stream, session, done) => {
      let text = "";
      stream.on("data", (part: Buffer) => (text += part.toString()));
      stream.on("end", () => {
        mails.push({ to: session.envelope.rcptTo.map(({ address }) => address), text });
        done();
      });
    },
  });
  const port = await new Promise<number>((resolve) => {
    const listening = smtp.listen(0, "127.0.0.1", () => resolve((listening.address() as { port: number }).port));
  });
  world = await TestWorld.open({
    mail: {
      smtp: `smtp://127.0.0.1:${port}`,
      domain: "saltmarrow.example",
      sender: "Plans <plans@saltmarrow.example>",
      address: "https://plans.saltmarrow.example",
    },
  });
  ines = await world.caller("ines", ["controller"]);
  tomas = await world.caller("tomas", ["projectManager"]);
  wanjiru = await world.caller("wanjiru", ["projectManager"]);
  radu = await world.caller("radu", ["projectManager"]);
  ann = await world.caller("ann", ["contributor"], "ann");
  bo = await world.caller("bo", ["contributor"], "bo");
});
const dated = () => {
  const plan = smallPlan();
  return { ...plan, project: { ...plan.project, dataDate: "2026-03-06" } };
};
beforeEach(async () => {
  for (const table of ["report", "week_sheet", "mail"]) await world.database.query(`delete from ${table}`);
  mails.length = 0;
  project = await world.addProject(tomas.me, dated());
});
afterAll(async () => {
  await new Promise<void>((resolve) => smtp.close(() => resolve()));
  await world.drop();
});

const MONDAY = "2026-03-02";
const book = (who: Caller, what: object) =>
  who.send("post", "/api/desk/reports", { project, activity: "dig", date: "2026-03-03", ...what });
const send = (who: Caller) => who.send("post", `/api/desk/week/${MONDAY}/sheet`);
const people = async (who: Caller): Promise<PeopleWeek["people"]> =>
  ((await who.get(`/api/time/${MONDAY}`)).body as PeopleWeek).people;
const effect = async (who: Caller): Promise<WeeksEffect> =>
  (await who.send("post", `/api/time/${MONDAY}/effect`, { people: ["ann"] })).body as WeeksEffect;
const decide = async (who: Caller, decision: string, word = "") =>
  who.send("post", `/api/time/${MONDAY}/decision`, {
    people: ["ann"],
    decision,
    word,
    seen: (await effect(who)).reports,
  });
const week = async (who: Caller): Promise<WeekView> => (await who.get(`/api/desk/week/${MONDAY}`)).body as WeekView;

describe("a week sent as whole", () => {
  it("that is changed afterwards says so to its person and to whoever decides it, until it is sent again", async () => {
    const changed = async (): Promise<boolean[]> =>
      [(await week(ann)).sheet?.changedAt, (await people(tomas)).find(({ id }) => id === "ann")!.sheet?.changedAt].map(
        (at) => typeof at === "string",
      );
    await send(ann);
    expect(await changed()).toEqual([false, false]);
    await book(ann, { minutes: 60 });
    expect(await changed()).toEqual([true, true]);
    await send(ann);
    expect(await changed()).toEqual([false, false]);
    const [report] = ((await ann.get("/api/desk")).body as Desk).reports;
    await ann.send("delete", `/api/desk/reports/${report!.id}`);
    expect(await changed()).toEqual([true, true]);
    await send(ann);
    await book(ann, { minutes: 60 });
    await send(ann);
    await ann.send("put", "/api/desk/week", { cells: [{ project, activity: "dig", date: "2026-03-03", minutes: 0 }] });
    expect(await changed()).toEqual([true, true]);
    // Percent alone, and hours of another week, change nothing of it.
    await send(ann);
    await book(ann, { percent: 10 });
    await book(ann, { minutes: 60, date: "2026-03-10" });
    expect(await changed()).toEqual([false, false]);
  });

  it("is approved, which accepts what waits in it; after that it is corrected by adjusting entries only", async () => {
    await book(ann, { minutes: 480 });
    expect((await decide(tomas, "approve")).body.message).toMatch(/Ann has not sent the week of 2 Mar 2026/);
    expect((await send(ann)).status).toBe(200);
    expect((await decide(tomas, "approve")).body).toEqual({ approved: ["Ann"], open: [] });
    expect(await week(ann)).toMatchObject({ sheet: { state: "approved", decidedBy: "Tomas" } });
    expect((await people(tomas)).find(({ id }) => id === "ann")).toMatchObject({
      postedMinutes: 480,
      waitingMinutes: 0,
      sheet: { state: "approved" },
    });
    expect((await book(ann, { minutes: 30 })).body.message).toMatch(
      /week of 2 Mar 2026 is approved and closed; write why/,
    );
    expect((await book(ann, { minutes: 30, note: "site visit forgotten" })).status).toBe(200);
    expect(
      (
        await ann.send("put", "/api/desk/week", {
          cells: [{ project, activity: "dig", date: "2026-03-03", minutes: 300 }],
        })
      ).body.message,
    ).toMatch(/are accepted already/);
    expect(
      (
        await ann.send("put", "/api/desk/week", {
          cells: [{ project, activity: "dig", date: "2026-03-03", minutes: 300, note: "lunch counted" }],
        })
      ).status,
    ).toBe(200);
    expect((await week(ann)).rows.find((row) => row.project === project)!.cells[1]).toMatchObject({
      posted: 480,
      waiting: -180,
    });
    expect((await send(ann)).status).toBe(409);
    expect((await tomas.get(`/api/projects/${project}/activities/dig`)).body.time).toHaveLength(1);
  });

  it("is approved only as it was seen: what it would move is shown, and what came meanwhile is not accepted with it", async () => {
    await book(ann, { minutes: 480, percent: 20 });
    await send(ann);
    const { reports, effects } = await effect(tomas);
    expect([reports.length, effects.map((of) => [of.project, of.effect.activities.map(({ name }) => name)])]).toEqual([
      1,
      [[project, expect.arrayContaining(["Dig"])]],
    ]);
    await book(ann, { minutes: 60 });
    const blind = await tomas.send("post", `/api/time/${MONDAY}/decision`, {
      people: ["ann"],
      decision: "approve",
      word: "",
      seen: reports,
    });
    expect([blind.status, blind.body.message]).toEqual([409, expect.stringMatching(/not what you looked at/)]);
    expect(
      (await tomas.send("post", `/api/time/${MONDAY}/decision`, { people: ["ann"], decision: "approve", word: "" }))
        .status,
    ).toBe(409);
    expect((await tomas.get(`/api/projects/${project}/activities/dig`)).body.time).toEqual([]);
    expect((await decide(tomas, "approve")).body).toEqual({ approved: ["Ann"], open: [] });
  });

  it("is returned with a word, and sent again", async () => {
    await send(ann);
    expect((await decide(tomas, "return")).body.message).toMatch(/say in a word/);
    await decide(tomas, "return", "Friday is empty");
    expect(await week(ann)).toMatchObject({ sheet: { state: "returned", word: "Friday is empty" } });
    await send(ann);
    expect(await week(ann)).toMatchObject({ sheet: { state: "sent", word: null } });
  });

  it("stays open while another project's manager has reports of it to decide", async () => {
    const other = await world.addProject(wanjiru.me, dated());
    await book(ann, { minutes: 60 });
    await ann.send("post", "/api/desk/reports", { project: other, activity: "dig", date: "2026-03-04", minutes: 60 });
    await send(ann);
    expect((await decide(tomas, "approve")).body).toEqual({ approved: [], open: ["Ann"] });
    expect((await decide(wanjiru, "approve")).body).toEqual({ approved: ["Ann"], open: [] });
  });

  it("of someone who works for others is not decided, and one to come is not sent", async () => {
    await send(ann);
    expect((await decide(radu, "approve")).status).toBe(403);
    expect((await ann.send("post", "/api/desk/week/2090-03-06/sheet")).body.message).toMatch(/has not begun/);
    expect((await ann.send("post", "/api/desk/week/soon/sheet")).body.message).toMatch(/is no date/);
  });
});

describe("people's weeks", () => {
  it("show planned against booked: to their managers their own, to the controller everybody's, to contributors none", async () => {
    await book(ann, { minutes: 90 });
    // Dig: 40 h from Monday 9 March on, behind the data date; pour after it.
    const next = ((await tomas.get("/api/time/2026-03-09")).body as PeopleWeek).people;
    expect(
      next.map(({ name, expectedMinutes, projects }) => [
        name,
        expectedMinutes,
        projects.find((own) => own.project === project)?.plannedMinutes,
      ]),
    ).toEqual([
      ["Ann", 2400, 2400],
      ["Bo", 2400, undefined],
    ]);
    for (const { plannedMinutes, projects } of next)
      expect(projects.reduce((sum, own) => sum + own.plannedMinutes, 0)).toBe(plannedMinutes);
    expect((await people(tomas)).map(({ name, waitingMinutes }) => [name, waitingMinutes])).toEqual([
      ["Ann", 90],
      ["Bo", 0],
    ]);
    expect(await people(radu)).toEqual([]);
    expect((await people(ines)).length).toBe(2);
    expect((await ann.get(`/api/time/${MONDAY}`)).status).toBe(403);
  });

  it("someone's own time is not seen by another contributor", async () => {
    await book(ann, { minutes: 90, note: "secret" });
    const seen = JSON.stringify([
      (await bo.get("/api/desk")).body as Desk,
      await week(bo),
      (await bo.get("/api/mail")).body,
      (await bo.get("/api/period")).body,
    ]);
    expect(seen).not.toMatch(/secret|Ann/);
    expect((await bo.get(`/api/projects/${project}/activities/dig`)).status).toBe(403);
  });
});

describe("reminders", () => {
  it("go to all who are chosen in one go, each their own, into the mailbox and out by the mail server; what became of each is in sight", async () => {
    const sent = await ines.send("post", `/api/time/${MONDAY}/reminders`, {
      people: ["ann", "bo", "cem"],
      words: "Please <b>send</b> your time.",
    });
    expect(sent.status).toBe(403);
    expect(
      (
        await ines.send("post", `/api/time/${MONDAY}/reminders`, {
          people: ["ann", "bo"],
          words: "Please <b>send</b> your time.",
        })
      ).body,
    ).toEqual({ sent: 2, failed: [] });
    expect(mails).toEqual([]);
    expect(await world.app.deliver()).toBe(1);
    expect(mails).toEqual([
      { to: ["ann@saltmarrow.example"], text: expect.stringMatching(/Please <b>send<\/b> your time\.[\s\S]*Ines/) },
    ]);
    expect(mails[0]!.text).toMatch(/^From: Plans <plans@saltmarrow\.example>/m);
    expect(mails[0]!.text).toMatch(/^Reply-To: ines@saltmarrow\.example/m);
    expect(mails[0]!.text).toMatch(/^Auto-Submitted: auto-generated/m);
    expect(mails[0]!.text).toContain("https://plans.saltmarrow.example/desk/week?date");
    expect(mails[0]!.text).toMatch(/<p>Please &lt;b&gt;send&lt;\/b&gt;/);
    expect(((await ann.get("/api/mail")).body as Mail[]).map(({ subject, to, state }) => [subject, to, state])).toEqual(
      [["Your time of the week of 2 Mar 2026", "ann@saltmarrow.example", "sent"]],
    );
    expect(((await bo.get("/api/mail")).body as Mail[]).map(({ state, why }) => [state, why])).toEqual([
      ["failed", expect.stringContaining("no such mailbox")],
    ]);
    expect((await people(ines)).map(({ remindedAt }) => remindedAt !== null)).toEqual([true, true]);
    // Nothing is sent twice, by this server or another one.
    expect(await Promise.all([world.app.deliver(), world.app.deliver()])).toEqual([0, 0]);
    expect(mails).toHaveLength(1);
  });

  it("wait for a mail server that is not there, and leave when it is back; one cut off while it was sent says so and can be sent again", async () => {
    const post = new Post({ smtp: "smtp://127.0.0.1:1", domain: "saltmarrow.example" });
    const account = await world.database.getRepository(AccountEntity).findOneByOrFail({ login: "ann" });
    await inTransaction(world.database, (manager) =>
      post.put(manager, [{ to: account, kind: "asked", subject: "Late", body: "Late" }]),
    );
    expect(await post.deliver(world.database)).toBe(0);
    const state = async (): Promise<unknown[]> =>
      ((await ann.get("/api/mail")).body as Mail[]).map((mail) => [mail.state, mail.tries]);
    expect(await state()).toEqual([["waiting", 1]]);
    // Not before its pause is over.
    expect(await world.app.deliver()).toBe(0);
    await world.database.query("update mail set next_at = 0");
    expect(await world.app.deliver()).toBe(1);
    expect(await state()).toEqual([["sent", 2]]);
    await world.database.query("update mail set state = 'sending', next_at = 1");
    expect(await world.app.deliver()).toBe(0);
    expect(await state()).toEqual([["failed", 2]]);
    const [{ id }] = (await ann.get("/api/mail")).body as [Mail];
    expect((await ann.send("post", `/api/mail/${id}/again`)).status).toBe(403);
    expect(
      (await world.caller("root", ["administrator"]).then((admin) => admin.send("post", `/api/mail/${id}/again`)))
        .status,
    ).toBe(200);
    expect(await world.app.deliver()).toBe(1);
    expect([pauseAfter(1), pauseAfter(2), pauseAfter(40)]).toEqual([15_000, 30_000, 3_600_000]);
    post.close();
  });

  it("hold nobody up while a mail server keeps silent", async () => {
    const silent = createServer(() => undefined);
    const port = await new Promise<number>((resolve) => {
      const at = silent.listen(0, "127.0.0.1", () => resolve((at.address() as { port: number }).port));
    });
    const post = new Post({ smtp: `smtp://127.0.0.1:${port}`, patienceMilliseconds: 300 });
    const account = await world.database.getRepository(AccountEntity).findOneByOrFail({ login: "ann" });
    await inTransaction(world.database, (manager) =>
      post.put(manager, [{ to: account, kind: "asked", subject: "Late", body: "Late" }]),
    );
    expect(await post.deliver(world.database)).toBe(0);
    expect(((await ann.get("/api/mail")).body as Mail[])[0]).toMatchObject({
      state: "waiting",
      why: expect.stringMatching(/timeout|greeting/i),
    });
    post.close();
    await new Promise((resolve) => silent.close(resolve));
  });

  it("are not sent to other managers' people, nor without words", async () => {
    expect((await radu.send("post", `/api/time/${MONDAY}/reminders`, { people: ["ann"], words: "Time!" })).status).toBe(
      403,
    );
    expect(
      (await tomas.send("post", `/api/time/${MONDAY}/reminders`, { people: ["ann"], words: " " })).body.message,
    ).toMatch(/write what to remind them of/);
  });
});

describe("whoever comes next", () => {
  it("is told once, by one message, when what comes before is accepted as done", async () => {
    await book(ann, { minutes: 60, percent: 100 });
    const [{ id }] = (await tomas.get("/api/reports")).body as [{ id: string }];
    await tomas.send("post", "/api/reports/decision", { ids: [id], decision: "accept" });
    // Bo's address is refused by the stand-in; what is accepted stays accepted.
    expect((await tomas.get("/api/reports")).body).toEqual([]);
    const other = await world.addProject(tomas.me, {
      ...dated(),
      assignments: [
        { activity: "dig", person: "bo", plannedMinutes: 60 },
        { activity: "pour", person: "ann", plannedMinutes: 60 },
      ],
    });
    await bo.send("post", "/api/desk/reports", { project: other, activity: "dig", date: "2026-03-04", percent: 100 });
    const [{ id: done }] = (await tomas.get("/api/reports")).body as [{ id: string }];
    await tomas.send("post", "/api/reports/decision", { ids: [done], decision: "accept" });
    expect(((await ann.get("/api/mail")).body as Mail[]).map(({ subject, body }) => [subject, body])).toEqual([
      ["You can begin", expect.stringContaining("Pour (Slipway) can begin: Dig is done.")],
    ]);
  });
});
