import type { Inbox, Matter, Matters, MatterView, MatterWrite, NewMatter } from "@chronometra/contract";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let ines: Caller;
let tomas: Caller;
let amadou: Caller;
let quill: Caller;
let project: string;

const RAISED: NewMatter = { kind: "issue", project: null, group: null, title: "The pump leaks" };
const raise = (asked: Partial<NewMatter> = {}, who = tomas) =>
  who.send("post", "/api/matters", { ...RAISED, project, ...asked });
const raised = async (asked: Partial<NewMatter> = {}, who = tomas): Promise<Matter> => {
  const answer = await raise(asked, who);
  expect(answer.body).toHaveProperty("matter");
  return (answer.body as MatterView).matter;
};
const write = (id: string, writes: MatterWrite[], who = tomas) =>
  who.send("put", `/api/matters/${encodeURIComponent(id)}`, { writes });
const view = async (id: string, who = tomas): Promise<MatterView> =>
  (await who.get(`/api/matters/${encodeURIComponent(id)}`)).body as MatterView;
const list = async (query = "", who = tomas): Promise<Matters> =>
  (await who.get(`/api/matters${query}`)).body as Matters;
const titles = async (query = "", who = tomas): Promise<string[]> =>
  (await list(query, who)).matters.map(({ title }) => title);
const risk = (id: string, name: string, probability: number) => ({
  ...{ type: "addRow", table: "risks", key: id },
  row: { id, name, probability, effects: [{ activity: "dig", minutes: { low: 480, likely: 960, high: 1440 } }] },
});
const revision = async (): Promise<number> =>
  ((await world.database.query("select revision from project where id = ?", [project])) as [{ revision: number }])[0]
    .revision;
const changeNow = async (changes: object[]) => {
  const answer = await tomas.send("post", `/api/projects/${project}/changes`, {
    ...{ changes, revision: await revision(), label: "x" },
  });
  expect(answer.status).toBe(200);
};

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
  tomas = await world.caller("tomas", ["projectManager"]);
  amadou = await world.caller("amadou", ["contributor"]);
  quill = await world.caller("quill", ["reader"]);
});
afterAll(() => world.drop());

/** Each with a project of its own, and nothing in any register yet. */
beforeEach(async () => {
  for (const table of ["matter", "matter_tie", "matter_event", "risk_head", "project_closing", "mail"])
    await world.database.query(`delete from ${table}`);
  await world.database.query("delete from setting where name = 'matters'");
  project = await world.addProject(tomas.me, smallPlan());
});

describe("a register", () => {
  it("has what was raised, the first due first, and what happened to each: what was and what is", async () => {
    const late = await raised({ title: "Order grease", kind: "action", due: "2020-01-01", severity: "serious" });
    await raised({ title: "No permit yet", due: "2099-01-01", owner: amadou.me.id });
    expect(late).toMatchObject({ overdue: true, state: "open", raisedBy: "Tomas", mayWrite: "all" });
    expect(await titles()).toEqual(["Order grease", "No permit yet"]);
    expect(await titles("?kind=action")).toEqual(["Order grease"]);
    expect(await titles("?overdue=1")).toEqual(["Order grease"]);
    await write(late.id, [{ field: "state", was: "open", value: "settled" }]);
    await write(late.id, [{ field: "severity", was: "serious", value: null }]);
    expect(await titles()).toEqual(["No permit yet"]);
    expect(await titles("?all=1")).toEqual(["No permit yet", "Order grease"]);
    const { matter, events } = await view(late.id);
    expect(matter).toMatchObject({ state: "settled", overdue: false, closedOn: expect.stringMatching(/^\d{4}-/) });
    expect(events.map(({ field, was, value }) => [field, was, value])).toEqual([
      ["Severity", "serious", ""],
      ["State", "to do", "done"],
      ["Raised", "", "Order grease"],
    ]);
  });

  it("loses nothing of two who write at once: the second is told, and other fields go beside", async () => {
    const { id } = await raised();
    expect((await write(id, [{ field: "due", was: null, value: "2026-12-24" }])).status).toBe(200);
    expect((await write(id, [{ field: "due", was: null, value: "2026-12-25" }], ines)).status).toBe(409);
    expect((await write(id, [{ field: "text", was: "", value: "At the seal" }], ines)).status).toBe(200);
    const both: MatterWrite[] = [
      { field: "title", was: "The pump leaks", value: "The pump drips" },
      { field: "due", was: null, value: "2027-01-01" },
    ];
    expect((await write(id, both, ines)).status).toBe(409);
    expect((await view(id)).matter).toMatchObject({ title: "The pump leaks", due: "2026-12-24", text: "At the seal" });
  });

  it("is read by those who look into the project, and written by those who plan it, and by owners what is theirs", async () => {
    const { id } = await raised({ owner: amadou.me.id });
    expect([(await raise({}, quill)).status, (await raise({}, amadou)).status]).toEqual([403, 403]);
    expect((await write(id, [{ field: "due", was: null, value: "2026-12-24" }], quill)).status).toBe(403);
    expect((await write(id, [{ field: "due", was: null, value: "2026-12-24" }], amadou)).status).toBe(403);
    expect((await write(id, [{ field: "response", was: "", value: "New seal" }], amadou)).status).toBe(200);
    await raised({ title: "Not Amadou’s" });
    expect(await titles("", quill)).toHaveLength(2);
    expect(await titles("", amadou)).toEqual(["The pump leaks"]);
    expect((await list("?mine=1", amadou)).matters).toMatchObject([{ mayWrite: "owners" }]);
    const other = await raised({ title: "Elsewhere" });
    expect((await amadou.get(`/api/matters/${other.id}`)).status).toBe(404);
    expect((await amadou.get("/api/matters/counts")).body).toEqual({ overdue: 0, mine: 1, mineOverdue: 0 });
  });

  it("of a group is seen there, and by whoever looks at the group; of the house by all who look", async () => {
    const group = (await ines.send("post", "/api/programmes", { name: "Port" })).body.id as string;
    const within = await world.caller("wim", ["reader"], null, { reader: [group] });
    await raised({ project: null, group, title: "Of the port" }, ines);
    await raised({ project: null, title: "Of the house" }, ines);
    await raised({ title: "Of a project elsewhere" });
    expect(await titles("", within)).toEqual(["Of the port"]);
    expect((await titles("", quill)).toSorted()).toEqual(["Of a project elsewhere", "Of the house", "Of the port"]);
    expect(await titles(`?group=${group}`, quill)).toEqual(["Of the port"]);
    await tomas.send("put", `/api/projects/${project}/standing`, { programme: group });
    expect((await titles(`?group=${group}`, quill)).toSorted()).toEqual(["Of a project elsewhere", "Of the port"]);
    expect((await raise({ project: null, title: "By a planner" }, tomas)).status).toBe(403);
    expect((await raise({ project: null, group, title: "By a planner" }, tomas)).status).toBe(403);
    await ines.send("put", `/api/programmes/${group}`, { name: "Port", parent: null, manager: tomas.me.id });
    const own = await raised({ project: null, group, title: "By whoever answers for it" }, tomas);
    expect([own.mayWrite, own.group]).toEqual(["all", { id: group, name: "Port" }]);
    expect((await quill.get("/api/matters?group=nowhere")).status).toBe(404);
  });

  it("refuses what does not fit, in words, and stores nothing of it", async () => {
    const answers = [
      await raise({ kind: "nothing" as never }),
      await raise({ title: " " }),
      await raise({ severity: "awful" }),
      await raise({ owner: "nobody" }),
      await raise({ ties: [{ about: "activity", id: "nowhere" }] }),
      await raise({
        ties: [
          { about: "activity", id: "dig" },
          { about: "activity", id: "dig" },
        ],
      }),
      await raise({ chance: 0.3 }),
      await raise({ kind: "risk" }),
      await raise({ group: "x" }),
    ];
    expect(answers.map(({ status }) => status)).toEqual(answers.map(() => 422));
    expect((await list("?all=1")).matters).toEqual([]);
    const { id } = await raised();
    expect((await write(id, [{ field: "state", was: "open", value: "struck" }])).body.message).toMatch(/It struck/);
    expect((await write(id, [{ field: "values", of: "cost", was: null, value: 3 }])).status).toBe(422);
    expect((await ines.get("/api/matters?kind=rumour")).body.message).toMatch(/no register of "rumour"/);
  });

  it("is removed and brought back by those who plan, and by nobody else", async () => {
    const { id } = await raised();
    expect((await write(id, [{ field: "removed", was: false, value: true }])).body).toBeNull();
    expect([(await view(id)) as unknown, await titles("?all=1")]).toMatchObject([{ code: "notFound" }, []]);
    expect((await write(id, [{ field: "removed", was: true, value: false }], quill)).status).toBe(403);
    expect(await titles("?all=1")).toEqual([]);
    expect((await write(id, [{ field: "removed", was: true, value: false }])).status).toBe(200);
    expect(await titles()).toEqual(["The pump leaks"]);
  });

  it("of a closed project is in no list of all and changes no more, and is still read", async () => {
    const { id } = await raised({ due: "2020-01-01" });
    await world.database.query(
      "insert into project_closing (project_id, closed_by, closed_at, word) values (?, ?, now(3), 'over')",
      [project, tomas.me.id],
    );
    expect(await titles()).toEqual([]);
    expect((await tomas.get("/api/matters/counts")).body).toMatchObject({ overdue: 0 });
    const own = (await tomas.get(`/api/projects/${project}/matters`)).body as Matters;
    expect(own).toMatchObject({ mayAdd: false, matters: [{ id, mayWrite: null }] });
    expect((await write(id, [{ field: "text", was: "", value: "x" }])).status).toBe(422);
    expect((await raise()).status).toBe(422);
  });
});

describe("whoever is concerned", () => {
  const mail = async (): Promise<string[]> =>
    (
      (await world.database.query(
        "select concat(a.login, ' | ', m.subject) as line from mail m join account a on a.id = m.account_id order by m.id",
      )) as { line: string }[]
    ).map(({ line }) => line);

  it("hears of it once: the owner of what is theirs now, whoever raised it that it is settled, and nobody of their own", async () => {
    const { code } = (await raised({ owner: tomas.me.id })).project!;
    expect(await mail()).toEqual([]);
    const { id } = await raised({ kind: "action", title: "Book the crane", owner: amadou.me.id });
    await write(id, [{ field: "state", was: "open", value: "settled" }], amadou);
    await write(id, [{ field: "state", was: "open", value: "settled" }], amadou);
    await write(id, [{ field: "owner", was: amadou.me.id, value: ines.me.id }]);
    expect((await mail()).toSorted()).toEqual([
      `amadou | ${code}: action for you: Book the crane`,
      `ines | ${code}: action for you: Book the crane`,
      `tomas | ${code}: done: Book the crane`,
    ]);
  });
});

describe("what registers are kept by", () => {
  it("is a scale and own fields that the house defines; what is used stays", async () => {
    const { settings } = await list("", ines);
    const value = {
      severities: [...settings.severities, { id: "worst", name: "the worst" }],
      fields: { issue: [{ id: "cause", name: "Cause", type: "choice", choices: ["weather", "supplier"] }] },
    };
    expect((await tomas.send("put", "/api/matters/settings", { was: settings, value })).status).toBe(403);
    expect((await ines.send("put", "/api/matters/settings", { was: settings, value })).status).toBe(200);
    expect((await ines.send("put", "/api/matters/settings", { was: settings, value: settings })).status).toBe(409);
    const { id } = await raised({ severity: "worst" });
    await write(id, [{ field: "values", of: "cause", was: null, value: "weather" }]);
    expect((await write(id, [{ field: "values", of: "cause", was: "weather", value: "luck" }])).status).toBe(422);
    expect((await view(id)).events[0]).toMatchObject({ field: "Cause", was: "", value: "weather" });
    const gone = await ines.send("put", "/api/matters/settings", { was: value, value: settings });
    expect(gone.body.message).toMatch(/1 in the registers are “the worst”/);
  });
});

describe("a risk of a plan", () => {
  it("stands in the register as the plan has it; what is written of its name and chance is a change of the plan", async () => {
    await changeNow([risk("storm", "Storm", 0.2)]);
    const [{ id, chance, expected }] = (await list("?kind=risk")).matters as [Matter];
    expect([chance, expected]).toEqual([0.2, { minor: 0, currency: "EUR", minorDigits: 2 }]);
    await write(id, [
      { field: "chance", was: 0.2, value: 0.4 },
      { field: "title", was: "Storm", value: "A storm" },
      { field: "severity", was: null, value: "grave" },
      { field: "residual", was: null, value: { chance: 0.1, severity: "small" } },
    ]);
    const history = (await tomas.get(`/api/projects/${project}/history`)).body as { label: string }[];
    expect(JSON.stringify(history)).toContain("Risk “Storm” changed");
    expect((await view(id)).matter).toMatchObject({ title: "A storm", chance: 0.4, severity: "grave" });
    await tomas.send("post", `/api/projects/${project}/undo`, { revision: await revision() });
    expect((await view(id)).matter).toMatchObject({ title: "Storm", chance: 0.2, severity: "grave" });
    await write(id, [{ field: "state", was: "open", value: "settled" }]);
    expect([await titles(), (await view(id)).matter.state]).toEqual([[], "settled"]);
    expect(await titles("?kind=risk&all=1&mine=1")).toEqual([]);
    const rows = (await world.database.query("select count(*) as n from risk_row where project_id = ?", [project])) as [
      { n: string },
    ];
    expect(Number(rows[0].n)).toBe(0);
  });

  it("that is raised in the register is in the plan", async () => {
    const { id, project: of } = await raised({ kind: "risk", title: "Ice", chance: 0.3, severity: "small" });
    expect(of).toMatchObject({ id: project });
    const plan = (await tomas.get(`/api/projects/${project}/plan`)).body as unknown;
    expect(JSON.stringify(plan)).toContain("Ice");
    expect(id.startsWith(`${project}:`)).toBe(true);
    expect((await write(id, [{ field: "removed", was: false, value: true }])).status).toBe(422);
  });

  it("that strikes becomes an issue with its ties, and wakes the parked work tied to it, as was shown before", async () => {
    await changeNow([risk("storm", "Storm", 0.2), { type: "setParked", activity: "pour", parked: true }]);
    const [{ id }] = (await list("?kind=risk")).matters as [Matter];
    const ties = [{ about: "activity", id: "pour" }] as const;
    await write(id, [{ field: "ties", was: [], value: [...ties] }]);
    const at = `/api/matters/${encodeURIComponent(id)}/strike`;
    const before = await revision();
    const effect = await tomas.send("post", `${at}/effect`);
    expect([effect.status, await revision()]).toEqual([200, before]);
    expect((await quill.send("post", at, {})).status).toBe(403);
    const body = { title: "The storm broke the crane", severity: "grave", owner: null, due: "2099-12-24" };
    const struck = await tomas.send("post", at, body);
    expect(struck.body).toMatchObject({ woken: [expect.any(String)], revision: before + 1 });
    const issue = (await view((struck.body as { issue: string }).issue)).matter;
    expect(issue).toMatchObject({ kind: "issue", title: "The storm broke the crane", ties: [{ id: "pour" }] });
    expect((await view(id)).matter.state).toBe("struck");
    expect((await tomas.send("post", at, body)).status).toBe(409);
    const plan = (await tomas.get(`/api/projects/${project}/plan`)).body as unknown;
    expect(JSON.stringify(plan)).not.toContain('"parked":true');
    await tomas.send("post", `/api/projects/${project}/undo`, { revision: before + 1 });
    expect((await view(id)).matter.state).toBe("open");
  });
});

describe("an issue that is raised where one works", () => {
  const raiseAt = (who: Caller, over: object = {}) =>
    who.send("post", "/api/desk/issues", {
      project,
      activity: "dig",
      title: "The pump stands",
      text: "Since noon.",
      ...over,
    });

  it("is the manager’s to see to, tied to the work, and read by whoever raised it", async () => {
    const ann = await world.caller(`ann${Date.now()}`, ["contributor"], "ann");
    const answer = await raiseAt(ann);
    expect(answer.status).toBe(200);
    const { matter } = answer.body as MatterView;
    expect(matter).toMatchObject({ kind: "issue", state: "open", mayWrite: null, owner: { id: tomas.me.id } });
    expect(matter.ties).toMatchObject([{ about: "activity", id: "dig" }]);
    expect((await list("", ann)).matters.map(({ title }) => title)).toEqual(["The pump stands"]);
    const asked = (await tomas.get("/api/inbox")).body as Inbox;
    expect(asked.notices.map(({ subject }) => subject)).toContainEqual(expect.stringContaining("The pump stands"));
    expect((await list("?mine=1", ann)).matters).toEqual([]);
  });

  it("is refused to whoever works elsewhere, of what is not there, and without a title", async () => {
    const zed = await world.caller(`zed${Date.now()}`, ["contributor"], "zed");
    const ann = await world.caller(`ann${Date.now()}b`, ["contributor"], "ann");
    expect((await raiseAt(zed)).status).toBe(404);
    expect((await raiseAt(ann, { activity: "nowhere" })).status).toBeGreaterThanOrEqual(400);
    expect((await raiseAt(ann, { title: " " })).status).toBe(422);
  });
});
