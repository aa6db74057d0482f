import type {
  AskedGate,
  LifeCycle,
  LifeCycles,
  Matters,
  Portfolio,
  ProjectGates,
  WriteGates,
} from "@chronometra/contract";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let ines: Caller;
let tomas: Caller;
let margit: Caller;
let quill: Caller;
let project: string;

const CYCLE: LifeCycle = {
  kind: "Renewal",
  stages: [
    {
      id: "idea",
      name: "Idea",
      gate: "Go",
      conditions: [
        { id: "permit", kind: "confirmed", text: "The permit is here" },
        { id: "drawn", kind: "deliverables" },
      ],
    },
    { id: "design", name: "Design", gate: "Build", conditions: [{ id: "approved", kind: "baseline" }] },
    { id: "works", name: "Works", gate: "Hand over", conditions: [] },
  ],
};

const cycles = async (): Promise<LifeCycles> => (await ines.get("/api/life-cycles")).body as LifeCycles;
const writeCycle = (was: LifeCycle | null, value: LifeCycle | null, who = ines, id = "renewal") =>
  who.send("put", `/api/life-cycles/${id}`, { was, value });
const gates = async (who = tomas, of = project): Promise<ProjectGates> =>
  (await who.get(`/api/projects/${of}/gates`)).body as ProjectGates;
const write = (written: WriteGates, who = tomas, of = project) => who.send("put", `/api/projects/${of}/gates`, written);
const ask = (stage: string, word = "", who = tomas, of = project) =>
  who.send("post", `/api/projects/${of}/gates/${stage}`, { word });
const decide = async (stage: string, decision: string, actions: object[] = [], who = margit, of = project) =>
  who.send("post", `/api/projects/${of}/gates/${stage}/decision`, {
    asked: (await gates(who, of)).asked?.id ?? 0,
    decision,
    word: "So be it",
    actions,
  });
const mailOf = async (login: string): Promise<string[]> =>
  (
    (await world.database.query(
      "select m.subject from mail m join account a on a.id = m.account_id where a.login = ? order by m.id",
      [login],
    )) as { subject: string }[]
  ).map(({ subject }) => subject);

beforeEach(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
  tomas = await world.caller("tomas", ["projectManager"]);
  margit = await world.caller("margit", ["approver"]);
  quill = await world.caller("quill", ["reader"]);
  project = await world.addProject(tomas.me, smallPlan());
  await writeCycle(null, CYCLE);
});
afterEach(() => world.drop());

const live = (): Promise<unknown> => write({ field: "lifeCycle", was: null, value: "renewal" });
const confirm = (value = true, who = tomas) =>
  write({ field: "confirmed", stage: "idea", condition: "permit", was: !value, value }, who);

describe("life cycles", () => {
  it("are written by controllers, whole, and never over what someone else wrote meanwhile", async () => {
    expect((await writeCycle(CYCLE, null, tomas)).status).toBe(403);
    const late = await writeCycle(null, { ...CYCLE, kind: "Other" });
    expect([late.status, late.body.message]).toEqual([409, expect.stringContaining("by someone else")]);
    expect((await writeCycle(null, { ...CYCLE, kind: "renewal" }, ines, "other")).body.message).toContain(
      "There is a life cycle for “renewal” already",
    );
    const twice = { ...CYCLE, stages: [CYCLE.stages[0]!, CYCLE.stages[0]!] };
    expect((await writeCycle(CYCLE, twice)).status).toBe(422);
    expect((await cycles()).cycles.map(({ cycle }) => cycle)).toEqual([CYCLE]);
  });

  it("of one kind added by two at once are one, and the other is told", async () => {
    const value = { ...CYCLE, kind: "Dredging" };
    const answers = await Promise.all(["one", "two"].map((id) => writeCycle(null, value, ines, id)));
    expect(answers.map(({ status }) => status).toSorted()).toEqual([200, 409]);
    expect((await cycles()).cycles.filter(({ cycle }) => cycle.kind === "Dredging")).toHaveLength(1);
    expect((await writeCycle(null, { ...CYCLE, kind: "Long" }, ines, "x".repeat(80))).status).toBe(422);
  });

  it("stay while projects live by them, and keep a stage at whose gate somebody waits", async () => {
    await live();
    expect((await writeCycle(CYCLE, null)).body.message).toContain("use it");
    await confirm();
    await ask("idea");
    const without = { ...CYCLE, stages: CYCLE.stages.slice(1) };
    expect((await writeCycle(CYCLE, without)).body.message).toContain("waits for a decision");
    await decide("idea", "sentBack");
    expect((await writeCycle(CYCLE, without)).status).toBe(200);
  });

  it("keep what was decided, whatever stages are called later and in whichever order they stand", async () => {
    await live();
    await confirm();
    await ask("idea");
    await decide("idea", "passed");
    const [idea, design, works] = CYCLE.stages;
    const next = { ...CYCLE, stages: [design!, works!, { ...idea!, name: "Thought", gate: "Off" }] };
    await writeCycle(CYCLE, next);
    const view = await gates();
    expect(view.gates.map(({ name, standing }) => [name, standing])).toEqual([
      ["Design", "here"],
      ["Works", "ahead"],
      ["Thought", "passed"],
    ]);
    expect(view.gates[2]!.passed).toMatchObject({ gate: "Go", stageName: "Idea", act: "passed" });
    expect((await cycles()).cycles[0]!.projects).toMatchObject([{ stage: "Design" }]);
  });
});

describe("the gates of a project", () => {
  it("hold what must be true against it", async () => {
    expect(await gates()).toMatchObject({ lifeCycle: null, gates: [], lifeCycles: [{ id: "renewal" }] });
    await live();
    expect((await gates(quill)).gates[0]).toMatchObject({
      standing: "here",
      conditions: [
        { words: "The permit is here", met: false },
        { words: "The deliverables of the stage are accepted", met: null },
      ],
    });
    const pier = { name: "Drawings", owner: "", makes: [], accepted: null, stage: "idea" };
    await tomas.send("put", `/api/projects/${project}/charter`, {
      field: "deliverables",
      id: "d",
      was: null,
      value: pier,
    });
    await confirm();
    expect((await gates()).gates[0]!.conditions).toMatchObject([
      { met: true, says: expect.stringMatching(/^Tomas, \d+ \w+ \d{4}$/) },
      { met: false, says: "1 of 1 not accepted: “Drawings”." },
    ]);
    expect((await gates()).gates[1]!.conditions).toMatchObject([{ met: false, says: "None is approved yet." }]);
  });

  it("are due on a day or with a milestone, and say what it was approved for", async () => {
    await live();
    await write({ field: "due", stage: "idea", was: null, value: { date: "2020-01-06" } });
    await write({ field: "due", stage: "design", was: null, value: { activity: "open" } });
    const [idea, design] = (await gates()).gates;
    expect(idea!.dueOn).toEqual({ date: "2020-01-06", approved: null, overdue: true });
    expect(design!.dueOn).toMatchObject({ date: expect.stringMatching(/^\d{4}-/), approved: null });
    const stale = await write({ field: "due", stage: "idea", was: null, value: { date: "2021-01-06" } });
    expect([stale.status, stale.body.message]).toEqual([409, expect.stringContaining("by someone else")]);
  });

  it("are written by whoever may change the project; an approver confirms as well", async () => {
    const radu = await world.caller("radu", ["projectManager"]);
    expect((await write({ field: "lifeCycle", was: null, value: "renewal" }, radu)).status).toBe(403);
    expect((await write({ field: "lifeCycle", was: null, value: "renewal" }, margit)).status).toBe(403);
    await live();
    expect((await confirm(true, radu)).status).toBe(403);
    expect((await confirm(true, margit)).status).toBe(200);
    expect((await write({ field: "decider", stage: "idea", was: null, value: quill.me.id })).body.message).toContain(
      "no approver",
    );
    const machine = { field: "confirmed", stage: "idea", condition: "drawn", was: false, value: true } as const;
    expect((await write(machine)).body.message).toContain("nothing to be confirmed");
  });
});

describe("a gate", () => {
  it("is asked for with a word where not all is met, told to who decides, and passed in order", async () => {
    await live();
    expect((await ask("design")).body.message).toContain("in the stage “Idea”");
    expect((await ask("idea")).body.message).toContain("Say why");
    await confirm();
    await ask("idea");
    expect((await ask("idea", "again")).status).toBe(409);
    expect(await mailOf("margit")).toEqual([expect.stringContaining("“Go” asks for a decision")]);
    expect((await margit.get("/api/gates")).body).toMatchObject([
      { project, gate: "Go", by: "Tomas", mayDecide: true },
    ]);
    await decide("idea", "passed");
    expect((await gates()).gates.map(({ standing }) => standing)).toEqual(["passed", "here", "ahead"]);
    expect(await mailOf("tomas")).toEqual([expect.stringContaining("“Go” passed")]);
    expect((await margit.get("/api/gates")).body).toEqual([] satisfies AskedGate[]);
    const { projects } = (await ines.get("/api/portfolio")).body as Portfolio;
    expect(projects).toMatchObject([{ stage: "Design" }]);
  });

  it("is never decided by whoever asked, nor by another than the one who is named", async () => {
    const both = await world.caller("oda", ["controller", "approver"]);
    await live();
    await confirm();
    await write({ field: "decider", stage: "idea", was: null, value: margit.me.id });
    await ask("idea", "", both);
    expect((await gates(both)).whyNot).toContain("You asked for it yourself");
    expect((await decide("idea", "passed", [], both)).status).toBe(403);
    const other = await world.caller("otto", ["approver"]);
    expect((await gates(other)).whyNot).toContain("Margit decides it");
    expect((await decide("idea", "passed", [], other)).status).toBe(403);
    expect((await decide("idea", "passed", [], quill)).status).toBe(403);
    expect((await decide("idea", "passed")).status).toBe(200);
  });

  it("is passed with conditions where something is missing, which become actions", async () => {
    await live();
    await ask("idea", "The permit comes on Monday");
    expect((await decide("idea", "passed")).body.message).toContain("with conditions only");
    expect((await decide("idea", "conditional")).body.message).toContain("at least one");
    expect((await decide("idea", "sentBack", [{ what: "x", owner: "", due: null }])).status).toBe(422);
    await decide("idea", "conditional", [{ what: "Bring the permit", owner: "Tomas", due: "2026-12-24" }]);
    const { gates: all } = await gates();
    expect(all[0]).toMatchObject({
      standing: "passed",
      passed: { act: "conditional", conditions: [{ met: false }, { met: null }] },
    });
    const action = all[0]!.passed!.actions[0]!;
    expect(action).toMatchObject({ what: "Bring the permit", due: "2026-12-24", doneOn: null });
    const done = { writes: [{ field: "state", was: "open", value: "settled" }] };
    expect((await margit.send("put", `/api/matters/${action.id}`, done)).status).toBe(403);
    await tomas.send("put", `/api/matters/${action.id}`, done);
    expect((await gates()).events[0]!.actions).toMatchObject([{ doneBy: "Tomas" }]);
    const remove = { writes: [{ field: "removed", was: false, value: true }] };
    expect((await tomas.send("put", `/api/matters/${action.id}`, remove)).body.message).toMatch(/on the condition/);
    const { matters } = (await tomas.get(`/api/projects/${project}/matters?all=1`)).body as Matters;
    expect(matters).toMatchObject([
      { kind: "action", title: "Bring the permit", ties: [{ about: "gate", name: "Go" }] },
    ]);
  });

  it("sent back may be asked for again; stopped, the project is on hold", async () => {
    await live();
    await confirm();
    await ask("idea");
    await decide("idea", "sentBack");
    await ask("idea", "Once more");
    await tomas.send("delete", `/api/projects/${project}/gates/idea`);
    await ask("idea", "And again");
    await decide("idea", "stopped");
    expect((await gates()).events.map(({ act }) => act)).toEqual([
      "stopped",
      "asked",
      "withdrawn",
      "asked",
      "sentBack",
      "asked",
    ]);
    const { projects } = (await ines.get("/api/portfolio")).body as Portfolio;
    expect(projects).toMatchObject([{ state: "onHold", stage: "Idea" }]);
  });

  it("is decided once, of two who decide at once", async () => {
    const otto = await world.caller("otto", ["approver"]);
    await live();
    await confirm();
    await ask("idea");
    const body = { asked: (await gates()).asked!.id, decision: "passed", word: "Yes", actions: [] };
    const path = `/api/projects/${project}/gates/idea/decision`;
    const answers = await Promise.all([margit.send("post", path, body), otto.send("post", path, body)]);
    expect(answers.map(({ status }) => status).toSorted()).toEqual([200, 409]);
    expect((await gates()).events.filter(({ act }) => act === "passed")).toHaveLength(1);
  });

  it("lets nobody change the life cycle while it waits; what was passed counts again in it", async () => {
    await live();
    await confirm();
    await ask("idea");
    expect((await write({ field: "lifeCycle", was: "renewal", value: null })).body.message).toContain("waits for");
    await decide("idea", "passed");
    await write({ field: "lifeCycle", was: "renewal", value: null });
    expect(await gates()).toMatchObject({ lifeCycle: null, gates: [], events: [{ act: "passed" }, { act: "asked" }] });
    await live();
    expect((await gates()).gates[0]!.standing).toBe("passed");
  });

  it("stays as it is in a closed project", async () => {
    await live();
    await world.database.query(
      "insert into project_closing (project_id, closed_by, closed_at, word) values (?, ?, now(3), 'over')",
      [project, ines.me.id],
    );
    for (const answer of [await ask("idea", "now"), await confirm(), await confirm(true, margit)])
      expect([answer.status, answer.body.message]).toEqual([422, expect.stringContaining("is closed")]);
    expect(await gates()).toMatchObject({ mayEdit: false, mayConfirm: false });
  });
});
