import type { OutsideFile, OutsideLine, ReportsEffect, TakenIn } from "@chronometra/contract";
import { dateWords, freezePlan } from "@chronometra/core";
import ExcelJS from "exceljs";
import request from "supertest";
import { stopWorkers } from "../../shared/workers.ts";
import { smallPlan, TestWorld, type Caller } from "../../testing/testWorld.ts";
import { Corrections1813000000000 } from "../../start/migrations/1813000000000-corrections.ts";
import { matchLine } from "./matchLines.ts";
import { OutsideLineEntity } from "./outsideEntities.ts";
import { takeIn } from "./takeIn.ts";

let world: TestWorld;
let ines: Caller;
let tomas: Caller;
let radu: Caller;
let dagny: Caller;
let project: string;
let code: string;

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
  tomas = await world.caller("tomas", ["projectManager"]);
  radu = await world.caller("radu", ["projectManager"]);
  dagny = await world.caller("dagny", ["administrator"]);
});
beforeEach(async () => {
  for (const table of ["outside_line", "outside_file", "outside_match", "known_heading", "report"])
    await world.database.query(`delete from ${table}`);
  const plan = smallPlan();
  code = plan.project.code;
  project = await world.addProject(tomas.me, {
    ...plan,
    project: { ...plan.project, name: `Slipway ${code}`, dataDate: "2026-03-06" },
  });
});
afterAll(async () => {
  await stopWorkers();
  await world.drop();
});

const bring = async (content: string | Buffer, kind = "cost", who = tomas, name = "ledger.csv") =>
  who.send("post", `/api/outside/files/${kind}`).attach("file", Buffer.from(content as string), name);
const guessed = ({ headings }: OutsideFile): Record<string, string> =>
  Object.fromEntries(headings.map(({ heading, column }) => [heading, column ?? ""]));
const take = (file: OutsideFile, columns = guessed(file), extra: object = {}) =>
  tomas.send("post", `/api/outside/files/${file.id}/take`, { columns, ...extra });
const lines = async (who = tomas): Promise<OutsideLine[]> =>
  (await who.get("/api/outside/lines")).body as OutsideLine[];
const posted = async () =>
  (await tomas.get(`/api/projects/${project}/activities/pour`)).body.costs as {
    amountMinor: number;
    what: string;
    date: string;
  }[];
const csv = (...rows: string[]): string =>
  ["Invoice no;Job;Task;Posting date;Net amount;Supplier", ...rows].join("\r\n");
const invoice = (extra: Partial<Record<"no" | "task" | "amount" | "date", string>> = {}): string =>
  `${extra.no ?? "4711"};${code};${extra.task ?? "Pour"};${extra.date ?? "2026-03-04"};${extra.amount ?? "1 250,50"};Thole & Sons`;

describe("a file of costs", () => {
  it("is read with its columns guessed, matched, seen before it is posted, and posted once", async () => {
    const file = (await bring(csv(invoice(), invoice({ no: "4712", amount: "99.90" })))).body as OutsideFile;
    expect(guessed(file)).toEqual({
      "Invoice no": "reference",
      Job: "project",
      Task: "activity",
      "Posting date": "date",
      "Net amount": "amount",
      Supplier: "note",
    });
    expect((await take(file)).body).toEqual({ added: 2, matched: 2, unmatched: 0, corrections: 0, known: 0 });
    const ids = (await lines()).map(({ id }) => id);
    const effect = (await tomas.send("post", "/api/outside/effect", { ids })).body as ReportsEffect;
    expect(effect).toEqual([expect.objectContaining({ project, windows: [] })]);
    expect(await posted()).toEqual([]);
    expect((await tomas.send("post", "/api/outside/post", { ids })).body).toEqual({ costs: 2, reports: 0 });
    expect((await posted()).map(({ amountMinor, date }) => [date, amountMinor])).toEqual([
      ["2026-03-04", 125_050],
      ["2026-03-04", 9_990],
    ]);
    expect((await tomas.send("post", "/api/outside/post", { ids })).status).toBe(409);
    expect((await tomas.get(`/api/projects/${project}/history`)).body[0].label).toBe("Posted 2 costs of ledger.csv");
  });

  it("brought twice is noticed and changes nothing; its lines in another file are known", async () => {
    await take((await bring(csv(invoice()))).body as OutsideFile);
    const again = await bring(csv(invoice()), "cost", tomas, "ledger (copy).csv");
    expect([again.status, again.body.message]).toEqual([
      409,
      expect.stringMatching(
        /^This very file was taken in on \d+ \w{3} \d{4} by Tomas as “ledger.csv”; nothing was changed\.$/,
      ),
    ]);
    const wider = (await bring(csv(invoice(), invoice({ no: "4713" })))).body as OutsideFile;
    expect((await take(wider)).body).toEqual({ added: 1, matched: 1, unmatched: 0, corrections: 0, known: 1 });
  });

  it("remembers how its columns were matched by hand", async () => {
    const content = (no: string): string => `Beleg,Vorgang,Auftrag,Tag,Netto\r\n${no},Pour,${code},2026-03-04,100\r\n`;
    const first = (await bring(content("1"))).body as OutsideFile;
    expect(Object.values(guessed(first)).filter((column) => column !== "")).toEqual([]);
    expect((await take(first, {})).body.message).toBe("Say which columns hold: project, date, amount.");
    const columns = { Beleg: "reference", Vorgang: "activity", Auftrag: "project", Tag: "date", Netto: "amount" };
    expect((await take(first, columns)).status).toBe(200);
    const second = (await bring(content("2"))).body as OutsideFile;
    expect([guessed(second), second.headings.every(({ remembered }) => remembered)]).toEqual([columns, true]);
  });

  it("as a workbook says the same as CSV", async () => {
    const book = new ExcelJS.Workbook();
    book.addWorksheet("Costs").addRows([
      ["Project", "Activity", "Date", "Amount", "Reference"],
      [code, "pour", new Date("2026-03-04T00:00:00Z"), 12.5, "X-1"],
    ]);
    const file = (await bring(Buffer.from(await book.xlsx.writeBuffer()), "cost", tomas, "ledger.xlsx"))
      .body as OutsideFile;
    expect((await take(file)).body).toMatchObject({ added: 1, matched: 1 });
    expect((await lines())[0]).toMatchObject({
      date: "2026-03-04",
      amount: 12.5,
      reference: "X-1",
      activity: { id: "pour" },
    });
  });

  it("with rows that say nothing names row and cell, and takes none in", async () => {
    const file = (
      await bring(csv(invoice(), invoice({ amount: "a lot" }), invoice({ date: "" }), ";;Pour;2026-03-04;5;"))
    ).body as OutsideFile;
    const refused = await take(file);
    expect([refused.status, refused.body.message]).toEqual([
      422,
      'Nothing was taken in: row 3: amount "a lot" is no number. row 4: date is empty. row 5: project is empty.',
    ]);
    expect(await lines()).toEqual([]);
  });

  it("whose dates can be read in two orders asks which", async () => {
    const file = (await bring(csv(invoice({ date: "03/04/2026" })))).body as OutsideFile;
    expect(file.asksDateOrder).toBe(true);
    expect((await take(file)).body.message).toMatch(/can be read in more than one order/);
    expect((await take(file, guessed(file), { dateOrder: "mdy" })).status).toBe(200);
    expect((await lines())[0]!.date).toBe("2026-03-04");
  });

  it("that is none is refused in words", async () => {
    expect((await bring(Buffer.from([0x50, 0x4b, 3, 4, 9, 9]), "cost", tomas, "broken.xlsx")).body.message).toMatch(
      /broken\.xlsx: is damaged/,
    );
    expect((await bring("1\r\n2\r\n")).body.message).toMatch(/No row of headings/);
    expect((await bring(csv(invoice()), "gold")).status).toBe(404);
    expect((await tomas.send("post", "/api/outside/files/cost")).body.message).toMatch(/No file came/);
  });
});

describe("a line that matches nothing", () => {
  it("waits in sight with why, is matched by hand, and those that say the same follow, now and later", async () => {
    await take(
      (
        await bring(
          csv(
            invoice({ task: "Concrete works" }),
            invoice({ no: "2", task: "concrete  Works" }),
            invoice({ no: "3", task: "" }),
          ),
        )
      ).body as OutsideFile,
    );
    expect((await lines()).map(({ state, why }) => [state, why])).toEqual([
      ["unmatched", "there is no activity that takes time or cost “concrete  Works”"],
      ["unmatched", "no activity is named"],
      ["unmatched", "there is no activity that takes time or cost “Concrete works”"],
    ]);
    const [line] = await lines();
    expect((await tomas.send("post", "/api/outside/post", { ids: [line!.id] })).body.message).toMatch(
      /is not matched yet/,
    );
    expect(
      (await tomas.send("put", `/api/outside/lines/${line!.id}`, { project, activity: "works", remember: true })).body
        .message,
    ).toMatch(/takes neither time nor cost/);
    expect(
      (await tomas.send("put", `/api/outside/lines/${line!.id}`, { project, activity: "pour", remember: true })).status,
    ).toBe(200);
    expect((await lines()).map(({ state }) => state)).toEqual(["matched", "unmatched", "matched"]);
    await take((await bring(csv(invoice({ no: "9", task: "CONCRETE WORKS" })))).body as OutsideFile);
    expect((await lines()).find(({ reference }) => reference === "9")).toMatchObject({
      state: "matched",
      activity: { id: "pour" },
    });
  });

  it("is set aside with a reason, not dropped, and taken up again", async () => {
    await take((await bring(csv(invoice({ task: "?" })))).body as OutsideFile);
    const [{ id }] = (await lines()) as [OutsideLine];
    expect((await tomas.send("post", "/api/outside/aside", { ids: [id], why: "" })).body.message).toMatch(/say why/);
    await tomas.send("post", "/api/outside/aside", { ids: [id], why: "belongs to the harbour master" });
    expect((await lines())[0]).toMatchObject({ state: "aside", why: "belongs to the harbour master" });
    await tomas.send("post", "/api/outside/aside", { ids: [id], why: null });
    expect((await lines())[0]).toMatchObject({ state: "unmatched" });
  });

  it("of another manager's project is not theirs to see or match; of an unknown project it is anyone's who matches it to their own", async () => {
    await take((await bring(csv(invoice()))).body as OutsideFile);
    expect(await lines(radu)).toEqual([]);
    const [{ id }] = (await lines()) as [OutsideLine];
    expect((await radu.send("post", "/api/outside/post", { ids: [id] })).status).toBe(403);
    expect((await radu.send("post", "/api/outside/aside", { ids: [id], why: "mine now" })).status).toBe(403);
  });

  it("says of a name that several bear which they are", () => {
    const branch = { kind: "summary" };
    const rows = [
      { id: "n", name: "North", ...branch },
      { id: "s", name: "South", ...branch },
      { id: "a", name: "Paint", parent: "n" },
      { id: "b", name: "paint", parent: "s" },
    ];
    const plan = { project: { name: "P" }, activities: new Map(rows.map((row) => [row.id, row])), people: new Map() };
    const matched = (activity: string) =>
      matchLine("cost", { project: "p-1", activity, person: "" }, [{ id: "x", code: "P-1", plan: plan as never }]);
    expect(matched("Paint")).toEqual({
      why: "there are 2 of the name “Paint”: Paint (North), paint (South)",
      project: "x",
    });
    expect([matched("Paint, South"), matched("a")]).toMatchObject([{ activity: "b" }, { activity: "a" }]);
  });
});

describe("time from other systems", () => {
  it("waits to be reviewed like any report once it is matched", async () => {
    const file = (
      await bring(
        `Employee,Job,Task,Date,Hours\r\nAnn,${code},Dig,2026-03-03,7:30\r\nZed,${code},Dig,2026-03-03,2\r\n`,
        "time",
      )
    ).body as OutsideFile;
    expect((await take(file)).body).toEqual({ added: 2, matched: 1, unmatched: 1, corrections: 0, known: 0 });
    const line = (await lines()).find(({ state }) => state === "matched")!;
    expect((await tomas.send("post", "/api/outside/post", { ids: [line.id] })).body).toEqual({ costs: 0, reports: 1 });
    const [report] = (await tomas.get("/api/reports")).body as [object];
    expect(report).toMatchObject({
      person: "Ann",
      activity: "dig",
      minutes: 450,
      date: "2026-03-03",
      state: "submitted",
      note: "ledger.csv",
    });
  });

  it("of a day that would have over 24 hours is not sent on, and nothing of the list is", async () => {
    const file = (
      await bring(
        `Employee,Job,Task,Date,Hours\r\nAnn,${code},Dig,2026-03-03,20\r\nAnn,${code},Dig,2026-03-03,5\r\nAnn,${code},Dig,2026-03-04,5\r\n`,
        "time",
      )
    ).body as OutsideFile;
    await take(file);
    const refused = await tomas.send("post", "/api/outside/post", { ids: (await lines()).map(({ id }) => id) });
    expect([refused.status, refused.body.message]).toEqual([
      422,
      "Ann would have 25 h on 3 Mar 2026, and a day has 24; set aside what is told twice. Nothing was posted.",
    ]);
    expect([(await tomas.get("/api/reports")).body, (await lines()).map(({ state }) => state)]).toEqual([
      [],
      ["matched", "matched", "matched"],
    ]);
  });

  it("comes over HTTP with a token of this installation, each line once, and with no other", async () => {
    const made = (await dagny.send("post", "/api/tokens", { name: "Gate clock", purposes: ["sendTime", "sendCosts"] }))
      .body as {
      id: string;
      token: string;
    };
    const feed = (token: string | null, body: object, key = "time") => {
      const call = request(world.app.app).post(`/api/feeds/${key}`);
      return (token === null ? call : call.set("Authorization", `Bearer ${token}`)).send(body);
    };
    const body = {
      lines: [{ reference: "g-1", project: code, activity: "dig", person: "ann", date: "2026-03-03", minutes: 90 }],
    };
    expect((await feed(null, body)).status).toBe(401);
    expect((await feed("chr_wrong", body)).body.message).toMatch(/valid token/);
    const told = (became: string) => ({ lines: [{ reference: "g-1", became }] });
    expect((await feed(made.token, body)).body).toEqual({
      added: 1,
      matched: 1,
      unmatched: 0,
      corrections: 0,
      known: 0,
      ...told("matched"),
    });
    expect((await feed(made.token, body)).body).toEqual({
      added: 0,
      matched: 0,
      unmatched: 0,
      corrections: 0,
      known: 1,
      ...told("known"),
    });
    expect(
      (await feed(made.token, { lines: [{ ...body.lines[0], reference: "g-2", minutes: 0 }] })).body.message,
    ).toMatch(/g-2 has no minutes/);
    expect(
      (
        await feed(
          made.token,
          { lines: [{ reference: "i-1", project: code, activity: "pour", date: "2026-03-03", amount: 12.5 }] },
          "costs",
        )
      ).body,
    ).toMatchObject({ matched: 1 });
    expect((await lines()).map(({ source }) => source)).toEqual(["Gate clock", "Gate clock"]);
    const [kept] = (await world.database.query("select hash from api_token")) as [{ hash: string }];
    expect(kept.hash).not.toContain(made.token);
    expect((await dagny.get("/api/tokens")).body).toEqual([
      expect.objectContaining({ name: "Gate clock", usedAt: expect.any(String) }),
    ]);
    await dagny.send("delete", `/api/tokens/${made.id}`);
    expect((await feed(made.token, body)).status).toBe(401);
  });

  it("the simulated clock and ledger tell of work under way, the same each time", async () => {
    const { revision } = (await tomas.get(`/api/projects/${project}/plan`)).body as { revision: number };
    await tomas.send("post", `/api/projects/${project}/changes`, {
      revision,
      changes: [{ type: "reportProgress", activity: "dig", actualStart: "2026-03-02" }],
    });
    for (const which of ["clock", "ledger"]) {
      const first = (await ines.send("post", "/api/outside/simulated", { which })).body as TakenIn;
      const second = (await ines.send("post", "/api/outside/simulated", { which })).body as TakenIn;
      expect(second).toEqual({ added: 0, matched: 0, unmatched: 0, corrections: 0, known: first.added });
    }
  });
});

describe("a line that comes again", () => {
  const system = { source: "Ledger North", system: "Ledger North" };
  const line = (extra: object = {}) => ({
    reference: "inv-1",
    project: code,
    activity: "pour",
    date: "2026-03-04",
    amount: 100,
    ...extra,
  });
  const send = (...sent: ReturnType<typeof line>[]) => takeIn(world.database, "cost", system, sent);
  const became = async (...sent: ReturnType<typeof line>[]) => (await send(...sent)).lines.map((each) => each.became);
  const accept = async () =>
    tomas.send("post", "/api/outside/corrections", {
      ids: (await lines()).filter(({ state }) => state === "correction").map(({ id }) => id),
    });
  const post = async () =>
    tomas.send("post", "/api/outside/post", {
      ids: (await lines()).filter(({ state }) => state === "matched").map(({ id }) => id),
    });
  const amounts = async () => (await posted()).map(({ amountMinor }) => amountMinor).sort((a, b) => a - b);

  it("is told apart within its document by activity and place: two equal lines are two, on two activities or on one", async () => {
    expect(await became(line(), line({ activity: "dig" }), line())).toEqual(["matched", "matched", "matched"]);
    expect(await became(line(), line({ activity: "dig" }), line(), line())).toEqual([
      "known",
      "known",
      "known",
      "matched",
    ]);
  });

  it("of one shift of two people is a line of each; the same reference of another system is another line", async () => {
    const shift = (person: string) => ({
      reference: "shift 7",
      project: code,
      activity: "dig",
      person,
      date: "2026-03-03",
      minutes: 480,
    });
    const clock = (name: string, ...sent: ReturnType<typeof shift>[]) =>
      takeIn(world.database, "time", { source: name, system: name }, sent);
    expect((await clock("Gate", shift("ann"), shift("bo"))).added).toBe(2);
    expect((await clock("Yard", shift("ann"))).added).toBe(1);
    expect((await clock("Gate", shift("bo"), shift("ann"))).known).toBe(2);
  });

  it("with another amount is a correction, shown as it was and is; not posted yet, the line says it once it is accepted", async () => {
    await send(line());
    expect(await became(line({ amount: 120 }))).toEqual(["correction"]);
    expect(await became(line({ amount: 120 }))).toEqual(["known"]);
    expect((await lines()).map(({ state, amount, was }) => [state, amount, was])).toEqual(
      expect.arrayContaining([
        ["matched", 100, null],
        ["correction", 120, { amount: 100, minutes: null, category: "", posted: false }],
      ]),
    );
    expect(
      (
        await radu.send("post", "/api/outside/corrections", {
          ids: (await lines()).filter(({ was }) => was !== null).map(({ id }) => id),
        })
      ).status,
    ).toBe(403);
    expect((await accept()).body).toEqual({ costs: 0, reports: 0 });
    expect((await lines()).map(({ state, amount }) => [state, amount])).toEqual([["matched", 120]]);
    await post();
    expect(await amounts()).toEqual([12_000]);
  });

  it("that was posted is adjusted by the difference, again and again, and in another category taken back there", async () => {
    await send(line({ category: "plant" }));
    await post();
    await send(line({ category: "plant", amount: 120 }));
    expect(await amounts()).toEqual([10_000]);
    expect((await accept()).body).toEqual({ costs: 1, reports: 0 });
    expect(await amounts()).toEqual([2_000, 10_000]);
    await send(line({ category: "plant", amount: 90 }));
    await accept();
    expect(await amounts()).toEqual([-3_000, 2_000, 10_000]);
    await send(line({ category: "stone", amount: 90 }));
    await accept();
    expect(await amounts()).toEqual([-9_000, -3_000, 2_000, 9_000, 10_000]);
    expect(await lines()).toEqual([]);
  });

  it("once more as it was at first corrects nothing any more; a correction set aside stays so, and a newer one takes its place", async () => {
    await send(line());
    await send(line({ amount: 120 }));
    const [{ id }] = (await lines()).filter(({ state }) => state === "correction") as [OutsideLine];
    await tomas.send("post", "/api/outside/aside", { ids: [id], why: "asked the supplier" });
    expect(await became(line({ amount: 120 }))).toEqual(["known"]);
    expect((await lines()).find((each) => each.id === id)).toMatchObject({ state: "aside", was: { amount: 100 } });
    await tomas.send("post", "/api/outside/aside", { ids: [id], why: null });
    expect((await lines()).find((each) => each.id === id)).toMatchObject({ state: "correction" });
    expect(await became(line({ amount: 130 }))).toEqual(["correction"]);
    expect((await tomas.send("post", "/api/outside/corrections", { ids: [id] })).status).toBe(404);
    expect(await became(line())).toEqual(["known"]);
    expect((await lines()).map(({ state, amount }) => [state, amount])).toEqual([["matched", 100]]);
  });

  it("of time changes a report that waits, and adjusts one that was accepted, never below nothing", async () => {
    const worked = (minutes: number) =>
      takeIn(world.database, "time", system, [
        { reference: "g-1", project: code, activity: "dig", person: "ann", date: "2026-03-03", minutes },
      ]);
    const reports = async () =>
      ((await tomas.get("/api/reports")).body as { id: string; minutes: number }[]).map(({ minutes }) => minutes);
    await worked(480);
    await post();
    await worked(420);
    expect((await accept()).body).toEqual({ costs: 0, reports: 1 });
    expect(await reports()).toEqual([420]);
    const ids = ((await tomas.get("/api/reports")).body as { id: string }[]).map(({ id }) => id);
    expect((await tomas.send("post", "/api/reports/decision", { ids, decision: "accept" })).status).toBe(200);
    await worked(300);
    await accept();
    expect(await reports()).toEqual([-120]);
  });

  it("of time that nobody accepted is said anew in its own report, however often; what hangs on nothing is no report", async () => {
    const worked = (minutes: number, category = "") =>
      takeIn(world.database, "time", system, [
        { reference: "g-1", project: code, activity: "dig", person: "ann", date: "2026-03-03", minutes, category },
      ]);
    const reports = async () => (await tomas.get("/api/reports")).body as { id: string; minutes: number }[];
    await worked(480);
    await post();
    const [{ id }] = (await reports()) as unknown as [{ id: string }];
    await tomas.send("post", "/api/reports/decision", { ids: [id], decision: "return", word: "which day?" });
    for (const minutes of [300, 240]) {
      await worked(minutes);
      expect((await accept()).body).toEqual({ costs: 0, reports: 1 });
      expect((await reports()).map((each) => [each.id, each.minutes])).toEqual([[id, minutes]]);
    }
    await worked(-60);
    expect((await accept()).body.message).toMatch(/0 h of 3 Mar 2026 are accepted/);
    await worked(240);
    await tomas.send("post", "/api/reports/decision", { ids: [id], decision: "accept" });
    await worked(240, "night");
    expect((await accept()).body).toEqual({ costs: 0, reports: 0 });
    expect(await reports()).toEqual([]);
  });

  it("adds up to what its system says now, to the last minor unit", async () => {
    await send(line({ amount: 0.004 }));
    await post();
    await send(line({ amount: 0.008 }));
    await accept();
    await send(line({ amount: -1.005 }));
    await accept();
    expect((await amounts()).reduce((sum, amount) => sum + amount, 0)).toBe(-101);
  });

  it("shows what accepting it would move before it does, and is matched where the line is that it corrects", async () => {
    const small = smallPlan();
    const bare = { ...small, project: { ...small.project, dataDate: "2026-03-06" } };
    code = bare.project.code;
    project = await world.addProject(tomas.me, {
      ...bare,
      baselines: [{ number: 1, approvedOn: "2026-03-01", approvedBy: "x", reason: "y", ...freezePlan(bare) }],
    });
    await send(line());
    await post();
    await send(line({ amount: 150 }));
    const [{ id }] = (await lines()) as [OutsideLine];
    const effect = (await tomas.send("post", "/api/outside/effect", { ids: [id] })).body as ReportsEffect;
    expect(effect).toEqual([expect.objectContaining({ project })]);
    const { estimateAfter, estimateBefore } = effect[0]!.effect.cost!;
    expect(estimateAfter - estimateBefore).toBe(5_000);
    expect(
      (await tomas.send("put", `/api/outside/lines/${id}`, { project, activity: "dig", remember: false })).body.message,
    ).toMatch(/corrects another one/);
    expect((await tomas.send("post", "/api/outside/post", { ids: [id] })).status).toBe(409);
    expect((await radu.send("post", "/api/outside/aside", { ids: [id], why: "not mine" })).status).toBe(403);
  });

  it("from two calls at one instant is there once", async () => {
    const both = await Promise.allSettled([send(line()), send(line())]);
    expect(both.some(({ status }) => status === "fulfilled")).toBe(true);
    expect(await lines()).toHaveLength(1);
  });

  it("that came before lines were told apart so is known still, of a file or of a system", async () => {
    const old = {
      id: "00000000-0000-4000-8000-000000000001",
      kind: "cost",
      source: "ledger.csv",
      state: "matched",
      saidProject: code,
      saidActivity: "Pour",
      saidPerson: "",
      projectId: project,
      activityId: "pour",
      personId: null,
      date: "2026-03-04",
      amount: 1250.5,
      minutes: null,
      category: "",
      reference: "4711",
      note: "Thole & Sons",
      why: null,
      cameAt: new Date(),
      decidedBy: null,
      corrects: null,
    };
    const repository = world.database.getRepository(OutsideLineEntity);
    await repository.insert([
      { ...old, fingerprint: "a" } as never,
      {
        ...old,
        id: old.id.replace(/1$/, "2"),
        source: system.system,
        saidActivity: "pour",
        reference: "inv-1",
        amount: 100,
        note: "",
        fingerprint: "b",
      } as never,
    ]);
    await world.database.query(
      "insert into outside_file (id, digest, kind, name, brought_by, brought_at, taken_at) values ('f', 'd', 'cost', 'ledger.csv', 'x', now(), now())",
    );
    const runner = world.database.createQueryRunner();
    await new Corrections1813000000000().up(runner);
    await runner.release();
    expect((await take((await bring(csv(invoice()))).body as OutsideFile)).body).toMatchObject({
      added: 0,
      known: 1,
      corrections: 0,
    });
    expect((await take((await bring(csv(invoice({ amount: "1 300,00" })))).body as OutsideFile)).body).toMatchObject({
      added: 0,
      corrections: 1,
    });
    expect(await became(line())).toEqual(["known"]);
  });
});

describe("what cannot be", () => {
  const clock = (...rows: string[]): string =>
    ["Employee,Job,Task,Date,Hours", ...rows.map((row) => `Ann,${code},Dig,${row}`)].join("\r\n");

  it("a day of more than 24 hours and days to come are named by row, and nothing is taken in", async () => {
    const ahead = new Date(Date.now() + 5 * 86_400_000).toISOString().slice(0, 10);
    const refused = await take(
      (await bring(clock("2026-03-03,25", `${ahead},8`, "2026-03-03,8"), "time")).body as OutsideFile,
    );
    expect(refused.body.message).toBe(
      `Nothing was taken in: row 2: 25 h: a day has 24. row 3: ${dateWords(ahead)} has not come yet; time is booked for days that have passed.`,
    );
    expect(await lines()).toEqual([]);
  });

  it("days before the project, and more taken back than was accepted, are not posted", async () => {
    const post = async () => tomas.send("post", "/api/outside/post", { ids: (await lines()).map(({ id }) => id) });
    await take((await bring(clock("2025-12-03,8"), "time")).body as OutsideFile);
    expect((await post()).body.message).toMatch(
      /^Ann, 3 Dec 2025: Slipway .* begins on .* and no time is booked before\. Nothing was posted\.$/,
    );
    await world.database.query("delete from outside_line");
    await take((await bring(clock("2026-03-03,-2"), "time")).body as OutsideFile);
    expect((await post()).body.message).toMatch(
      /0 h of 3 Mar 2026 are accepted on this activity; more than that cannot be taken back/,
    );
    // Two that each take back what is there take back more together.
    await world.database.query("delete from outside_line");
    await take((await bring(clock("2026-03-03,2"), "time")).body as OutsideFile);
    await post();
    const ids = ((await tomas.get("/api/reports")).body as { id: string }[]).map(({ id }) => id);
    await tomas.send("post", "/api/reports/decision", { ids, decision: "accept" });
    await take((await bring(clock("2026-03-03,-1.5", "2026-03-03,-1"), "time")).body as OutsideFile);
    expect((await post()).body.message).toMatch(/2 h of 3 Mar 2026 are accepted/);
    expect((await tomas.get("/api/reports")).body).toEqual([]);
  });

  it("is not asked of what ledgers write for less than nothing", async () => {
    await take(
      (
        await bring(
          csv(
            invoice({ no: "c1", amount: "(80,00)" }),
            invoice({ no: "c2", amount: "12,50-" }),
            invoice({ no: "c3", amount: "\u22127,25" }),
          ),
        )
      ).body as OutsideFile,
    );
    expect((await lines()).map(({ amount }) => amount).sort((a, b) => a! - b!)).toEqual([-80, -12.5, -7.25]);
  });
});

describe("a cost by hand", () => {
  it("is posted at once, a credit note below nothing; what cannot be is refused and stores nothing", async () => {
    const enter = (cost: object) =>
      tomas.send("post", "/api/outside/costs", {
        project,
        activity: "pour",
        date: "2026-03-05",
        amountMinor: 12_345,
        category: "material",
        reference: "R-1",
        ...cost,
      });
    expect((await enter({})).status).toBe(200);
    expect((await enter({ amountMinor: -2_345, reference: "R-1 credit" })).status).toBe(200);
    expect((await posted()).map(({ amountMinor }) => amountMinor).sort((a, b) => a - b)).toEqual([-2_345, 12_345]);
    expect((await enter({ amountMinor: 0 })).body.message).toMatch(/not 0/);
    expect((await enter({ activity: "works" })).status).toBe(422);
    expect((await enter({ date: "soon" })).status).toBe(422);
    expect(await posted()).toHaveLength(2);
    expect(
      (
        await radu.send("post", "/api/outside/costs", {
          project,
          activity: "pour",
          date: "2026-03-05",
          amountMinor: 1,
          category: "",
          reference: "",
        })
      ).status,
    ).toBe(403);
  });
});
