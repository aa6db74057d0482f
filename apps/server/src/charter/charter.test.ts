import type { CharterView, History, Portfolio, ProjectLook, Worded, WriteCharter } from "@chronometra/contract";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let ines: Caller;
let tomas: Caller;
let radu: Caller;
let quill: Caller;
let amadou: Caller;
let project: string;

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
  tomas = await world.caller("tomas", ["projectManager"]);
  radu = await world.caller("radu", ["projectManager"]);
  quill = await world.caller("quill", ["reader"]);
  amadou = await world.caller("amadou", ["contributor"]);
  project = await world.addProject(tomas.me, smallPlan());
});
afterAll(() => world.drop());

const view = async (who = tomas, of = project): Promise<CharterView> =>
  (await who.get(`/api/projects/${of}/charter`)).body as CharterView;
const write = (written: WriteCharter, who = tomas) => who.send("put", `/api/projects/${project}/charter`, written);
const set = async (fields: object, who = tomas) =>
  who.send("post", `/api/projects/${project}/changes`, {
    revision: (await view()).revision,
    changes: [{ type: "setProject", set: fields }],
  });
const BENEFIT = { what: "Fewer days waited", measure: "days", target: "2", by: "2028-01-01", money: [], measured: [] };

describe("a charter", () => {
  it("is empty of a project that nobody wrote of, and read by whoever looks at plans", async () => {
    expect(await view(quill)).toMatchObject({
      manager: { name: "Tomas" },
      mayEdit: false,
      closed: false,
      booked: false,
      charter: { state: "running", purpose: "", benefits: {}, deliverables: {} },
      log: [],
    });
    expect((await amadou.get(`/api/projects/${project}/charter`)).status).toBe(403);
    expect((await write({ field: "purpose", was: "", value: "mine" }, quill)).status).toBe(403);
    expect((await write({ field: "purpose", was: "", value: "mine" }, radu)).status).toBe(403);
  });

  it("takes one thing at a time, and writes nothing over what someone else wrote meanwhile", async () => {
    const both = await Promise.all([
      write({ field: "purpose", was: "", value: "A quay for deep ships" }),
      write({ field: "sponsor", was: "", value: "Harbour board" }, ines),
    ]);
    expect(both.map(({ status }) => status)).toEqual([200, 200]);
    expect((await view()).charter).toMatchObject({ purpose: "A quay for deep ships", sponsor: "Harbour board" });
    const late = await write({ field: "purpose", was: "", value: "Something else" }, ines);
    expect([late.status, late.body.message]).toEqual([
      409,
      expect.stringContaining("Purpose was changed by someone else"),
    ]);
    // Said twice, as where an answer was lost, it is said once.
    await write({ field: "purpose", was: "", value: "A quay for deep ships" });
    expect((await view()).log.map(({ by, what }) => `${by}: ${what}`).toSorted()).toEqual([
      "Ines: Sponsor: Harbour board",
      "Tomas: Purpose: A quay for deep ships",
    ]);
  });

  it("holds benefits and deliverables, each written, changed and taken out by itself", async () => {
    await write({ field: "benefits", id: "b", was: null, value: BENEFIT });
    const measured = [{ on: "2028-02-01", text: "3 days", amountMinor: null }];
    await write({ field: "benefits", id: "b", was: BENEFIT, value: { ...BENEFIT, measured } });
    const quay = { name: "Quay wall", owner: "Tomas", makes: ["open"], accepted: null };
    await write({ field: "deliverables", id: "d", was: null, value: quay });
    const stale = await write({ field: "benefits", id: "b", was: BENEFIT, value: null });
    expect(stale.status).toBe(409);
    expect((await view()).charter).toMatchObject({ benefits: { b: { measured } }, deliverables: { d: quay } });
    await write({ field: "deliverables", id: "d", was: quay, value: null });
    expect((await view()).charter.deliverables).toEqual({});
    const half = { ...quay, accepted: { by: "", on: "2028-01-01" } };
    const refused = await write({ field: "deliverables", id: "e", was: null, value: half });
    expect([refused.status, JSON.stringify(refused.body)]).toEqual([
      422,
      expect.stringContaining("say who accepts it"),
    ]);
  });
});

describe("words of a project’s own", () => {
  const called = (id: Worded, was: string | null, value: string | null, who = tomas) =>
    write({ field: "words", id, was, value }, who);

  it("are what its pages and its people’s desks call states and priorities, until they are cleared", async () => {
    expect((await called("parked", null, "laid up")).status).toBe(200);
    expect((await called("high", null, "must")).status).toBe(200);
    const look = async () => ((await quill.get(`/api/projects/${project}`)).body as ProjectLook).words;
    expect(await look()).toEqual({ parked: "laid up", high: "must" });
    expect((await view()).log[0]!.what).toBe("“high” is called “must”");
    expect((await called("high", null, "first", ines)).status).toBe(409);
    expect((await called("high", "must", null)).status).toBe(200);
    expect(await look()).toEqual({ parked: "laid up" });
  });

  it("are not the same for two states, nor empty, nor of anything else", async () => {
    const alike = await called("complete", null, "Under way");
    expect([alike.status, alike.body.message]).toEqual([
      422,
      expect.stringContaining("“under way” is called so already"),
    ]);
    expect((await called("low", null, "under way")).status).toBe(200);
    expect((await called("middle", null, "  ")).status).toBe(422);
    expect((await called("other" as Worded, null, "x")).status).toBe(422);
  });
});

describe("the head of a project", () => {
  it("is changed like the plan: name, code and start, told in the history and taken back", async () => {
    expect((await set({ name: "Deep quay", code: "DEEP-1", tightDays: 3 })).status).toBe(200);
    expect((await view()).head).toMatchObject({ name: "Deep quay", code: "DEEP-1", tightDays: 3 });
    const { projects } = (await ines.get("/api/portfolio")).body as Portfolio;
    expect(projects.find(({ id }) => id === project)).toMatchObject({ code: "DEEP-1", name: "Deep quay" });
    const { revision } = await view();
    expect((await tomas.send("post", `/api/projects/${project}/undo`, { revision })).status).toBe(200);
    expect((await view()).head.code).not.toBe("DEEP-1");
    const own = smallPlan({ project: { ...smallPlan().project, code: "TAKEN" } });
    await world.addProject(radu.me, own);
    const before = await view();
    const taken = await set({ code: "TAKEN" });
    expect([taken.status, taken.body.message]).toEqual([409, expect.stringContaining("exists already")]);
    expect((await view()).revision).toBe(before.revision);
  });

  it("keeps its currency once money is booked or approved, and its decimals once there are amounts", async () => {
    const other = await world.addProject(tomas.me, smallPlan({ project: { ...smallPlan().project, code: "MONEY" } }));
    const change = async (fields: object) =>
      tomas.send("post", `/api/projects/${other}/changes`, {
        revision: (await view(tomas, other)).revision,
        changes: [{ type: "setProject", set: fields }],
      });
    expect((await change({ currency: "SEK" })).status).toBe(200);
    const decimals = await change({ minorDigits: 0 });
    expect([decimals.status, JSON.stringify(decimals.body)]).toEqual([
      422,
      expect.stringContaining("its decimals stay"),
    ]);
    const margit = await world.caller("margit", ["approver"]);
    const asked = await tomas.send("post", `/api/projects/${other}/approvals`, { word: "" });
    await margit.send("post", `/api/approvals/${asked.body.id as string}/decision`, {
      decision: "approve",
      reason: "go",
    });
    const currency = await change({ currency: "EUR" });
    expect([currency.status, JSON.stringify(currency.body)]).toEqual([
      422,
      expect.stringContaining("the currency stays"),
    ]);
    expect((await view(tomas, other)).booked).toBe(true);
  });
});

describe("a project that is handed over", () => {
  it("is another's to change, stands in its history, and both are told", async () => {
    const hand = (to: string, who = tomas) =>
      who.send("post", `/api/projects/${project}/hand-over`, { manager: to, word: "The works begin." });
    expect((await hand(radu.me.id, radu)).status).toBe(403);
    expect((await hand(quill.me.id)).body.message).toContain("no project manager and no controller");
    expect((await hand(tomas.me.id)).body.message).toBe("Tomas manages it already.");
    expect((await hand(radu.me.id)).body).toMatchObject({ manager: { name: "Radu" }, mayEdit: false });
    expect((await write({ field: "kind", was: "", value: "Works" })).status).toBe(403);
    expect((await write({ field: "kind", was: "", value: "Works" }, radu)).status).toBe(200);
    const [newest] = (await radu.get(`/api/projects/${project}/history`)).body as History;
    expect(newest).toMatchObject({ label: "Handed over from Tomas to Radu", by: "Tomas", changes: 0 });
    const mails = await world.database.query(
      "select account_id as who, subject, body from mail where subject like '%manage%' order by subject",
    );
    expect(
      mails.map(({ who, subject }: { who: string; subject: string }) => [who, subject.replace(/^.*: /, "")]),
    ).toEqual(
      expect.arrayContaining([
        [radu.me.id, "it is yours to manage"],
        [tomas.me.id, "Radu manages it now"],
      ]),
    );
    expect(mails[0].body).toContain("The works begin.");
  });
});
