import type { Found } from "@chronometra/contract";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let pm: Caller;
let quay: string;
let slip: string;

const find = async (text: string, by: Caller = pm): Promise<Found> => {
  const response = await by.send("post", "/api/find", { text });
  if (response.status !== 200) throw new Error(response.text);
  return response.body as Found;
};
const names = (found: Found): string[] => found.activities.map(({ name }) => name);
const change = async (project: string, changes: object[]): Promise<number> => {
  const { body } = await pm.get(`/api/projects/${project}/plan`);
  const response = await pm.send("post", `/api/projects/${project}/changes`, { revision: body.revision, changes });
  if (response.status !== 200) throw new Error(response.text);
  return response.body.revision as number;
};

beforeAll(async () => {
  world = await TestWorld.open();
  pm = await world.caller("pia", ["projectManager"]);
  quay = await world.addProject(
    pm.me,
    smallPlan({
      project: { code: "QU-07", name: "North quay", currency: "EUR", start: "2026-03-02", calendar: "std" },
      people: [
        { id: "ann", name: "Ann Öberg" },
        { id: "bo", name: "Bo Tidewell" },
      ],
      activities: [
        { id: "works", name: "Works", kind: "summary" },
        { id: "dig", name: "Dredge the berth", parent: "works", durationMinutes: 2400 },
        { id: "pour", name: "Pour the breakwater’s cap", parent: "works", durationMinutes: 1440 },
        { id: "open", name: "Berth open", kind: "milestone" },
      ],
    }),
  );
  slip = await world.addProject(
    pm.me,
    smallPlan({
      project: { code: "SL-01", name: "Slipway", currency: "EUR", start: "2026-03-02", calendar: "std" },
      activities: [
        { id: "works", name: "Works", kind: "summary" },
        { id: "dig", name: "Dredge", parent: "works", durationMinutes: 2400 },
        { id: "pour", name: "Überlauf 100% _prüfen_", parent: "works", durationMinutes: 1440 },
        { id: "open", name: "Open", kind: "milestone" },
      ],
    }),
  );
});
afterAll(() => world.drop());

describe("finding by words", () => {
  it("finds what begins with each of them, in any order, small or large", async () => {
    expect(names(await find("berth dred"))).toEqual(["Dredge the berth"]);
    expect(names(await find("DRED"))).toEqual(["Dredge", "Dredge the berth"]);
    expect(await find("berth open")).toMatchObject({
      activities: [{ id: "open", project: quay, code: "QU-07", kind: "milestone", branch: "", finish: "2026-03-11" }],
    });
  });

  it("reads letters without their marks, and takes signs that the database reads for nothing more than signs", async () => {
    expect(names(await find("uberlauf"))).toEqual(["Überlauf 100% _prüfen_"]);
    expect(names(await find("überl pruf"))).toEqual(["Überlauf 100% _prüfen_"]);
    expect((await find("%")).activities).toEqual([]);
    expect((await find("___")).activities).toEqual([]);
    expect((await find("'; drop table find_word; --")).activities).toEqual([]);
  });

  it("finds projects by code and name, and within a project by its code", async () => {
    expect((await find("north")).projects).toEqual([{ id: quay, code: "QU-07", name: "North quay", closed: false }]);
    expect((await find("qu-07")).projects.map(({ id }) => id)).toEqual([quay]);
    expect((await find("QU07")).projects.map(({ id }) => id)).toEqual([quay]);
    expect(names(await find("sl-01 dredge"))).toEqual(["Dredge"]);
    expect((await find("sl-01 north")).projects).toEqual([]);
    expect(names(await find("dredge qu-07"))).toEqual(["Dredge the berth"]);
  });

  it("finds people once, however many plans they are in, and watchlists that one may see", async () => {
    expect((await find("oberg")).people).toEqual([{ id: "ann", name: "Ann Öberg" }]);
    expect((await find("tide")).people).toEqual([{ id: "bo", name: "Bo Tidewell" }]);
    const question = { about: "activities", where: [], columns: ["name"], sort: [], group: null, pivot: null };
    await pm.send("post", "/api/watchlists", { name: "Harbour mine", question, roles: [] });
    const other = await world.caller("otto", ["controller"]);
    expect((await find("harbour")).watchlists.map(({ name }) => name)).toEqual(["Harbour mine"]);
    expect((await find("harbour", other)).watchlists).toEqual([]);
  });

  it("finds groups by their names, not for whoever sees no plans", async () => {
    const added = await (
      await world.caller("cleo", ["controller"])
    ).send("post", "/api/programmes", {
      name: "Moorings and buoys",
    });
    const { id } = added.body as { id: string };
    expect((await find("mooring")).groups).toEqual([{ id, name: "Moorings and buoys", issued: null }]);
    expect((await find("buoys moor")).groups).toHaveLength(1);
    const deckhand = await world.caller("delia", ["contributor"], "bo");
    expect((await find("mooring", deckhand)).groups).toEqual([]);
  });

  it.each([
    ["bredge", "Dredge"],
    ["braekwater", "Pour the breakwater’s cap"],
    ["brekwater", "Pour the breakwater’s cap"],
  ])("reads %s as what was meant, and says so", async (typed, name) => {
    const found = await find(typed);
    expect(names(found)).toContain(name);
    expect(found.readAs).toEqual([{ typed, read: expect.arrayContaining([expect.any(String)]) }]);
  });

  it("does not guess at numbers, nor where the word is there", async () => {
    expect((await find("berth")).readAs).toEqual([]);
    expect((await find("quay9")).readAs).toEqual([]);
  });

  it("follows what is renamed, removed and undone", async () => {
    await change(slip, [{ type: "setName", activity: "dig", name: "Excavate" }]);
    expect(names(await find("excav"))).toEqual(["Excavate"]);
    expect(names(await find("sl-01 dredge"))).toEqual([]);
    const revision = await change(slip, [
      { type: "removeRow", table: "links", key: "1" },
      { type: "removeRow", table: "assignments", key: "1" },
      { type: "removeRow", table: "activities", key: "dig" },
    ]);
    expect(names(await find("excav"))).toEqual([]);
    await pm.send("post", `/api/projects/${slip}/undo`, { revision });
    expect(names(await find("excav"))).toEqual(["Excavate"]);
  });

  it("shows contributors work of their own alone, and nothing to whoever has none", async () => {
    const ann = await world.caller("ann", ["contributor"], "ann");
    const found = await find("dredge", ann);
    expect(names(found)).toContain("Dredge the berth");
    expect({ ...found, activities: [] }).toEqual({
      readAs: [],
      projects: [],
      activities: [],
      people: [],
      watchlists: [],
      groups: [],
      risks: [],
      matters: [],
      periods: [],
    });
    expect(names(await find("pour", ann))).toEqual([]);
    const dora = await world.caller("dora", ["administrator"]);
    expect(await find("dredge", dora)).toMatchObject({ activities: [], projects: [], people: [] });
  });

  it("finds what stands in registers by its title, as it is typed, for whoever sees or owns it", async () => {
    const zed = await world.caller("zed", ["contributor"], "zed");
    const raise = (title: string, owner: string | null = null) =>
      pm.send("post", "/api/matters", { kind: "issue", project: quay, group: null, title, owner });
    expect((await raise("Winch of the barge is broken", zed.me.id)).status).toBe(200);
    await raise("Barge (yard) 50% late");
    const titles = async (text: string, by = pm): Promise<string[]> =>
      (await find(text, by)).matters.map(({ name }) => name);
    // No name has the word: it is not taken for a misspelt one.
    expect((await find("barge")).readAs).toEqual([]);
    expect(await titles("barge")).toEqual(["Barge (yard) 50% late", "Winch of the barge is broken"]);
    expect(await titles("QU-07 barge winch")).toEqual(["Winch of the barge is broken"]);
    expect([await titles("SL-01 barge"), await titles("arge"), await titles("%")]).toEqual([[], [], []]);
    expect(await titles("barge", zed)).toEqual(["Winch of the barge is broken"]);
    expect(await titles("barge", await world.caller("yara", ["contributor"], "yara"))).toEqual([]);
  });

  it("refuses an empty text and one that is too long", async () => {
    for (const text of ["", "   ", "x".repeat(201)])
      expect((await pm.send("post", "/api/find", { text })).status).toBe(422);
  });
});
