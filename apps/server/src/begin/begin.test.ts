import type {
  BegunEffect,
  CharterView,
  ProjectDocument,
  ProjectDocuments,
  ProjectGates,
  Template,
} from "@chronometra/contract";
import { fromBundle, type PlanBundle } from "@chronometra/core";
import { loadPlan } from "../plan/stored/planStore.ts";
import { findProject } from "../project/projectAccess.ts";
import { TestWorld, type Caller } from "../testing/testWorld.ts";
import { assemble } from "./assemble.ts";
import { planOfText, planText } from "./planText.ts";

const DAY = 480;
const HOURS: [string, string][] = [
  ["08:00", "12:00"],
  ["13:00", "17:00"],
];

/** A pier: surveyed, driven section by section, opened. */
const PIER: PlanBundle = {
  format: "chronometra-plan",
  version: 1,
  project: { code: "P-1", name: "Pier", currency: "EUR", start: "2026-03-02", dataDate: "2026-03-06", calendar: "std" },
  calendars: [{ id: "std", name: "Five days", week: { mon: HOURS, tue: HOURS, wed: HOURS, thu: HOURS, fri: HOURS } }],
  people: [
    { id: "ann", name: "Ann", role: "Diver", rates: [{ from: "2026-01-01", perHourMinor: 5000 }] },
    { id: "bob", name: "Bob", role: "Mason" },
  ],
  activities: [
    {
      id: "survey",
      name: "Survey",
      durationMinutes: 2 * DAY,
      actualStart: "2026-03-02",
      actualFinish: "2026-03-03",
      percent: 100,
    },
    { id: "section", name: "Section", kind: "summary" },
    { id: "drive", name: "Drive", parent: "section", durationMinutes: 3 * DAY },
    { id: "deck", name: "Deck", parent: "section", durationMinutes: 2 * DAY },
    { id: "open", name: "Open", kind: "milestone", deadline: "2026-03-20" },
  ],
  links: [
    { from: "survey", to: "drive" },
    { from: "drive", to: "deck" },
    { from: "deck", to: "open" },
  ],
  assignments: [
    { activity: "drive", person: "ann", plannedMinutes: 3 * DAY },
    { activity: "deck", person: "bob", plannedMinutes: 2 * DAY },
  ],
  costs: [{ id: "k", activity: "deck", category: "Timber", plannedMinor: 70_000 }],
};
const ALONG = { people: "roles", costs: true, risks: true, deadlines: true, charter: true, documents: false } as const;

let world: TestWorld;
let ines: Caller;
let tomas: Caller;
let radu: Caller;
let quill: Caller;
let pier: string;

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
  tomas = await world.caller("tomas", ["projectManager"]);
  radu = await world.caller("radu", ["projectManager"]);
  quill = await world.caller("quill", ["reader"]);
  pier = await world.addProject(tomas.me, PIER);
});
afterAll(() => world.drop());

const asked = (source: object, extra: object = {}) => ({
  parts: [{ source, times: {} }],
  along: ALONG,
  date: { start: "2027-05-03" },
  ...extra,
});
const fromPier = () => ({ project: pier, branch: null });
const effect = async (body: object, who = tomas): Promise<BegunEffect> =>
  (await who.send("post", "/api/begin/effect", body)).body as BegunEffect;
const begin = (body: object, who = tomas) => who.send("post", "/api/begin", { programme: null, roles: {}, ...body });
const planOf = async (id: string) => loadPlan(world.database.manager, await findProject(world.database, id));
const make = async (name: string, extra: object = {}): Promise<Template> => {
  const body = { name, description: "", repeats: [], project: pier, branch: null, along: ALONG, ...extra };
  const { body: list } = await tomas.send("post", "/api/templates", body);
  return (list as Template[]).find((each) => each.name === name)!;
};

describe("a project begun with another", () => {
  it("is shown before it is stored: dates, work, cost, rows and roles", async () => {
    const seen = await effect(asked(fromPier()));
    expect(seen).toMatchObject({
      start: "2027-05-03",
      finish: "2027-05-11",
      activities: 3,
      milestones: 1,
      links: 3,
      workMinutes: 5 * DAY,
      costMinor: 70_000 + 24 * 5000,
      roles: [{ name: "Diver" }, { name: "Mason" }],
      people: [],
    });
    expect(seen.rows.map(({ name, depth }) => `${depth} ${name}`)).toEqual([
      "0 Survey",
      "0 Section",
      "1 Drive",
      "1 Deck",
      "0 Open",
    ]);
    expect((await quill.send("post", "/api/begin/effect", asked(fromPier()))).status).toBe(403);
  });

  it("has nothing that happened, moved dates, its charter and the first of its stages", async () => {
    const deliverable = { name: "Deck", owner: "", makes: ["deck"], accepted: { by: "Board", on: "2026-03-05" } };
    const write = (written: object) => tomas.send("put", `/api/projects/${pier}/charter`, written);
    await write({ field: "purpose", was: "", value: "Ships land" });
    await write({ field: "deliverables", id: "d", was: null, value: deliverable });
    const stage = { id: "a", name: "Idea", gate: "Go", conditions: [] };
    await ines.send("put", "/api/life-cycles/c", { was: null, value: { kind: "Pier", stages: [stage] } });
    await tomas.send("put", `/api/projects/${pier}/gates`, { field: "lifeCycle", was: null, value: "c" });
    const { body, status } = await begin({ ...asked(fromPier()), code: "P-2", name: "Second pier" }, radu);
    expect(status).toBe(200);
    const id = (body as { project: string }).project;
    const plan = await planOf(id);
    expect(plan.project).toMatchObject({ code: "P-2", name: "Second pier", start: "2027-05-03" });
    expect(plan.project.dataDate).toBeUndefined();
    expect(plan.activities.get("survey")).toEqual({ id: "survey", name: "Survey", durationMinutes: 2 * DAY });
    // 15 worked days after its start as before: 2 to 20 March 2026, 3 to 21 May 2027.
    expect(plan.activities.get("open")!.deadline).toBe("2027-05-21");
    const charter = (await radu.get(`/api/projects/${id}/charter`)).body as CharterView;
    expect(charter.charter).toMatchObject({
      purpose: "Ships land",
      deliverables: { d: { name: "Deck", makes: ["deck"], accepted: null } },
    });
    expect(charter.manager.name).toBe("Radu");
    const gates = (await radu.get(`/api/projects/${id}/gates`)).body as ProjectGates;
    expect(gates.gates).toMatchObject([{ standing: "here" }]);
  });

  it("has documents where they are asked for: the newest file and the links, of what is in it too", async () => {
    const source = await world.addProject(tomas.me, { ...PIER, project: { ...PIER.project, code: "P-DOC" } });
    const file = (text: string, to: string) =>
      tomas.send("post", `/api/projects/${source}/files?${to}`).attach("file", Buffer.from(text), "method.txt");
    const first = (await file("old", "about=activity&aboutId=deck")).body as ProjectDocument;
    await file("new", `document=${first.id}`);
    const link = { about: "project", aboutId: "", name: "Drawings", link: "https://drawings.example/" };
    await tomas.send("post", `/api/projects/${source}/documents`, link);
    const gone = (await tomas.send("post", `/api/projects/${source}/documents`, { ...link, name: "Gone" })).body;
    await tomas.send("put", `/api/projects/${source}/documents/${gone.id}`, { removed: true });

    const documentsOf = async (code: string, extra: object, branch: string | null = null) => {
      const along = { ...ALONG, ...extra };
      const { body } = await begin({ ...asked({ project: source, branch }, { along }), code, name: code }, radu);
      const { documents } = (await radu.get(`/api/projects/${body.project}/documents`)).body as ProjectDocuments;
      return { id: body.project as string, documents };
    };
    expect((await documentsOf("P-D1", {})).documents).toEqual([]);
    const whole = await documentsOf("P-D2", { documents: true });
    expect(whole.documents).toMatchObject([
      { name: "Drawings", about: "project", link: "https://drawings.example/", versions: [] },
      { name: "method.txt", about: "activity", aboutId: "deck", by: "Radu", versions: [{ number: 1, size: 3 }] },
    ]);
    const read = `/api/projects/${whole.id}/documents/${whole.documents[1]!.id}/1`;
    expect(((await radu.get(read).buffer(true)).body as Buffer).toString()).toBe("new");
    const branch = await documentsOf("P-D3", { documents: true }, "section");
    expect(branch.documents.map(({ name }) => name)).toEqual(["method.txt"]);
    // A template has them too, where they are asked for, and its projects from it.
    const made = { project: source, branch: null, along: { ...ALONG, documents: true }, description: "", repeats: [] };
    const templates = (await tomas.send("post", "/api/templates", { ...made, name: "With method" })).body as Template[];
    const { id: template } = templates.find(({ name }) => name === "With method")!;
    const along = { ...ALONG, documents: true };
    const { body } = await begin({ ...asked({ template }, { along }), code: "P-D4", name: "P-D4" }, radu);
    const begun = (await radu.get(`/api/projects/${body.project}/documents`)).body as ProjectDocuments;
    expect(begun.documents.map(({ name }) => name)).toEqual(["Drawings", "method.txt"]);
    await tomas.send("delete", `/api/templates/${template}`);
    const rows = await world.database.query("select id from document where project_id = ?", [template]);
    expect(rows).toEqual([]);
    // Each goes its own way from here.
    await radu.send("put", `/api/projects/${whole.id}/documents/${whole.documents[1]!.id}`, { removed: true });
    expect(((await tomas.get(`/api/projects/${source}/documents`)).body as ProjectDocuments).documents).toHaveLength(2);
  });

  it("goes back from a finish, or says the earliest that it can be", async () => {
    const back = await effect(asked(fromPier(), { date: { finish: "2027-05-14" } }));
    expect([back.start, back.finish]).toEqual(["2027-05-06", "2027-05-14"]);
    const { status, body } = await tomas.send(
      "post",
      "/api/begin/effect",
      asked(fromPier(), { date: { finish: "2020-01-31" } }),
    );
    expect([status, body.message]).toEqual([422, expect.stringContaining("at the earliest. Say a later finish")]);
  });

  it("puts people of the register where roles were kept open", async () => {
    const olga = { id: "olga", name: "Olga", role: "Diver" };
    const kept = await ines.send("post", "/api/register", {
      change: { table: "people", row: olga },
      seen: null,
      projects: [],
    });
    expect(kept.status).toBe(200);
    const body = { ...asked(fromPier()), code: "P-3", name: "Third", roles: { "role-diver": "olga" } };
    const { project } = (await begin(body)).body as { project: string };
    const plan = await planOf(project);
    expect([...plan.people.values()].map(({ name }) => name).toSorted()).toEqual(["Mason", "Olga"]);
    expect([...plan.assignments.values()].map(({ person }) => person)).toEqual(["olga", "role-mason"]);
    expect([...plan.placeholders.keys()]).toEqual(["role-mason"]);
    const gone = await begin({ ...body, code: "P-4", roles: { nobody: "olga" } });
    expect([gone.status, gone.body.message]).toEqual([422, expect.stringContaining("is not in the plan")]);
  });

  it("says so where somebody takes two roles in one activity, and of two with one code begins one", async () => {
    const twice = { ...PIER, project: { ...PIER.project, code: "P-5" } };
    const assignments = [...PIER.assignments!, { activity: "drive", person: "bob", plannedMinutes: DAY }];
    const source = { project: await world.addProject(tomas.me, { ...twice, assignments }), branch: null };
    const roles = { "role-diver": "olga", "role-mason": "olga" };
    const refused = await begin({ ...asked(source), code: "P-6", name: "Both", roles });
    expect([refused.status, refused.body.message]).toEqual([422, expect.stringContaining("Olga")]);
    const body = { ...asked(fromPier()), code: "P-7", name: "Once" };
    const both = await Promise.all([begin(body), begin(body, radu)]);
    expect(both.map(({ status }) => status).toSorted()).toEqual([200, 409]);
    const template = { name: "At once", description: "", repeats: [], project: pier, branch: null, along: ALONG };
    const made = await Promise.all([0, 1].map(() => tomas.send("post", "/api/templates", template)));
    expect(made.map(({ status }) => status).toSorted()).toEqual([200, 409]);
  });

  it("stores nothing where its code is taken, or a branch has gone", async () => {
    const before = await world.database.query("select count(*) as n from project");
    const taken = await begin({ ...asked(fromPier()), code: "P-1", name: "Again" });
    expect([taken.status, taken.body.message]).toEqual([409, expect.stringContaining("P-1")]);
    expect((await begin({ ...asked({ project: pier, branch: "gone" }), code: "X", name: "X" })).status).toBe(404);
    expect(await world.database.query("select count(*) as n from project")).toEqual(before);
  });
});

describe("a template", () => {
  it("is a plan without what happened, listed with what it asks", async () => {
    const template = await make("Pier of sections", {
      description: "For piers on piles",
      repeats: [{ activity: "section", ask: "How many sections?", inTurn: true }],
    });
    expect(template).toMatchObject({
      by: "Tomas",
      activities: 3,
      milestones: 1,
      roles: 2,
      branches: [{ id: "section", name: "Section" }],
      mayEdit: true,
    });
    const parts = [{ source: { template: template.id }, times: { section: 3 } }];
    const seen = await effect(asked({}, { parts }));
    expect(seen).toMatchObject({
      activities: 7,
      finish: "2027-05-25",
      repeats: [{ part: 0, activity: "section", name: "Section", ask: "How many sections?" }],
    });
    expect(seen.rows.map(({ name }) => name)).toContain("Section 3");
  });

  it("may be of a branch alone, which begins with its own work", async () => {
    const template = await make("A section", { branch: "section" });
    const seen = await effect(asked({ template: template.id }));
    expect(seen).toMatchObject({ start: "2027-05-03", finish: "2027-05-07", activities: 2, links: 1 });
  });

  it("is joined with others, one after the other, each dated from its own beginning", async () => {
    const template = await make("A short section", { branch: "section", along: { ...ALONG, charter: false } });
    const part = { source: { template: template.id }, times: {} };
    const seen = await effect(asked({}, { parts: [part, { source: fromPier(), times: {} }] }));
    expect(seen).toMatchObject({ activities: 5, milestones: 2, finish: "2027-05-18" });
    expect(seen.rows.filter(({ depth }) => depth === 0).map(({ name, start }) => `${name} ${start}`)).toEqual([
      "A short section 2027-05-03",
      "A short section complete 2027-05-07",
      "Pier 2027-05-10",
    ]);
    const back = await effect(
      asked({}, { parts: [part, { source: fromPier(), times: {} }], date: { finish: "2027-05-18" } }),
    );
    expect(back.start).toBe("2027-05-03");
  });

  it("refuses a name that is taken, and a question about what is not there", async () => {
    await make("Once");
    const again = await tomas.send("post", "/api/templates", {
      name: "Once",
      description: "",
      repeats: [],
      project: pier,
      branch: null,
      along: ALONG,
    });
    expect([again.status, again.body.message]).toEqual([409, expect.stringContaining("“Once” already")]);
    const odd = await tomas.send("post", "/api/templates", {
      name: "Odd",
      description: "",
      repeats: [{ activity: "gone", ask: "How many?", inTurn: false }],
      project: pier,
      branch: null,
      along: ALONG,
    });
    expect([odd.status, odd.body.message]).toEqual([422, expect.stringContaining("“How many?” asks about a branch")]);
  });

  it("is changed and removed by whoever made it, or a controller; what was begun with it stays", async () => {
    const { id } = await make("Mine");
    const words = { name: "Mine", description: "Better said", repeats: [] };
    expect((await radu.send("put", `/api/templates/${id}`, words)).status).toBe(403);
    expect((await ines.send("put", `/api/templates/${id}`, words)).status).toBe(200);
    const begun = await begin({ ...asked({ template: id }), code: "M-1", name: "Of mine" }, radu);
    expect(begun.status).toBe(200);
    await tomas.send("delete", `/api/templates/${id}`);
    expect((await begin({ ...asked({ template: id }), code: "M-2", name: "Late" }, radu)).status).toBe(404);
    expect((await planOf((begun.body as { project: string }).project)).activities.size).toBe(5);
  });
});

describe("a project begun by whoever was never trained", () => {
  const steps = [
    { name: "Draw the signs", minutes: 2 * DAY, after: true, who: "Ann" },
    { name: "Order the posts", minutes: DAY, after: false, who: "" },
    { name: "Put them up", minutes: 3 * DAY, after: true, who: "Fitters" },
  ];
  it("is a real plan of steps, with what it is for and what comes of it", async () => {
    const parts = [{ source: { currency: "EUR", steps }, times: {} }];
    const seen = await effect(asked({}, { parts }));
    expect(seen).toMatchObject({
      finish: "2027-05-07",
      activities: 3,
      milestones: 1,
      roles: [{ name: "Ann" }, { name: "Fitters" }],
    });
    const said = { code: "S-1", name: "Signs", purpose: "Ships find the lock", deliverables: ["Twelve signs"] };
    const { project: id } = (await begin({ ...asked({}, { parts }), ...said })).body as { project: string };
    const { charter } = (await tomas.get(`/api/projects/${id}/charter`)).body as CharterView;
    expect(charter.purpose).toBe("Ships find the lock");
    expect(Object.values(charter.deliverables)).toMatchObject([{ name: "Twelve signs" }]);
    const plan = await planOf(id);
    expect([...plan.activities.values()].map(({ name }) => name)).toContain("Signs complete");
    expect(plan.project.start).toBe("2027-05-03");
  });

  it("or stages kept by hand, in a currency of as many digits as it has", async () => {
    const stages = [{ name: "March", from: "2027-03-01", to: "2027-03-31", budgetMinor: 5_000_000 }];
    const milestones = [{ name: "Opened", date: "2027-04-15" }];
    const parts = [{ source: { currency: "JPY", stages, milestones }, times: {} }];
    const seen = await effect(asked({}, { parts, date: { asIs: true } }));
    expect(seen).toMatchObject({
      start: "2027-03-01",
      finish: "2027-04-15",
      costMinor: 5_000_000,
      currency: "JPY",
      minorDigits: 0,
    });
    const backwards = [{ ...stages[0]!, to: "2027-02-01" }];
    const refused = await tomas.send(
      "post",
      "/api/begin/effect",
      asked({}, { parts: [{ source: { currency: "JPY", stages: backwards, milestones }, times: {} }] }),
    );
    expect([refused.status, refused.body.message]).toEqual([422, expect.stringContaining("“March” ends")]);
  });
});

describe("putting plans together", () => {
  it("says why it cannot be in words, and which rows are at fault", () => {
    const part = (plan: PlanBundle) => ({
      name: plan.project.name,
      plan: fromBundle(plan),
      branch: null,
      repeats: [],
      along: { people: "people", costs: true, risks: true, deadlines: true } as const,
    });
    const rest = { code: "X", name: "X", date: { start: "2027-05-03" }, notBefore: "2026-11-30" };
    const yen: PlanBundle = { ...PIER, project: { ...PIER.project, currency: "JPY", minorDigits: 0 } };
    expect(assemble({ parts: [part(PIER), part(yen)], ...rest })).toEqual({
      why: expect.stringContaining("different currencies"),
    });
    const late = assemble({ parts: [part(PIER)], ...rest, date: { start: "2099-12-28" } });
    expect(late).toMatchObject({ problems: [{ message: expect.stringContaining("outside 1990 to 2099") }] });
  });

  it("keeps a plan as text exactly", () => {
    const plan = fromBundle(PIER);
    expect(planOfText(planText(plan))).toEqual(plan);
  });
});
