import type { ActivityHistory, History, HistoryEntry } from "@chronometra/contract";
import type { Change } from "@chronometra/core";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let tomas: Caller;
let ines: Caller;
let quill: Caller;
let project: string;

beforeAll(async () => {
  world = await TestWorld.open();
  tomas = await world.caller("tomas", ["projectManager"]);
  ines = await world.caller("ines", ["controller"]);
  quill = await world.caller("quill", ["reader"]);
});
beforeEach(async () => {
  project = await world.addProject(tomas.me, smallPlan());
});
afterAll(() => world.drop());

const change = (who: Caller, revision: number, ...changes: Change[]) =>
  who.send("post", `/api/projects/${project}/changes`, { revision, changes });
const history = async () => (await tomas.get(`/api/projects/${project}/history`)).body as History;
const entry = async (revision: number, who = tomas) =>
  (await who.get(`/api/projects/${project}/history/${revision}`)).body as HistoryEntry;
const takeBack = (revision: number, who = tomas) => who.send("post", `/api/projects/${project}/undo`, { revision });
const longer = (minutes: number): Change => ({ type: "setDuration", activity: "dig", minutes });
const planNow = async () => (await tomas.get(`/api/projects/${project}/plan`)).body.tables as unknown;

describe("a stored list", () => {
  it("says what it did in the words of the screen, rows that are gone by the name they had", async () => {
    const team: Change = {
      type: "addRow",
      table: "teams",
      key: "t",
      row: { id: "t", name: "Divers", members: ["ann"] },
    };
    await change(tomas, 1, { type: "removeRow", table: "links", key: "1" }, team, {
      type: "setDeadline",
      activity: "open",
      date: "2026-03-20",
    });
    await change(tomas, 2, { type: "removeRow", table: "teams", key: "t" });
    expect((await history())[0]!.label).toBe("Removed: Divers");
    expect(await entry(2)).toMatchObject({
      by: "Tomas",
      changes: 3,
      through: "hand",
      total: 3,
    });
    const lines = async (revision: number) =>
      (await entry(revision)).lines.map(({ what, field, was, is }) => [what, field, was, is]);
    expect(await lines(2)).toEqual([
      ["the link from Dig to Pour", "", "there", "removed"],
      ["Divers", "", "–", "new"],
      ["Open", "deadline", "13 Mar 2026", "20 Mar 2026"],
    ]);
    expect(await lines(3)).toEqual([["Divers", "", "there", "removed"]]);
  });

  it("is found by who, through what, by a field that it wrote, and page by page", async () => {
    await change(tomas, 1, longer(2880));
    await change(ines, 2, { type: "setName", activity: "dig", name: "Dredge" });
    await change(tomas, 3, longer(3360));
    await takeBack(4);
    const found = async (query: string) =>
      (await tomas.get(`/api/projects/${project}/history?${query}`)).body as History;
    const revisions = async (query: string) => (await found(query)).map(({ revision }) => revision);
    expect(await revisions(`by=${ines.me.id}`)).toEqual([3]);
    expect(await revisions("through=undo")).toEqual([5]);
    expect(await revisions("before=3")).toEqual([2, 1]);
    const byField = await found("path=activities/dig/durationMinutes");
    expect(byField.map(({ revision, line }) => [revision, line?.was, line?.is])).toEqual([
      [5, "56 h", "48 h"],
      [4, "48 h", "56 h"],
      [2, "40 h", "48 h"],
    ]);
    expect((await tomas.get(`/api/projects/${project}/history-people`)).body).toEqual([
      { id: ines.me.id, name: "Ines" },
      { id: tomas.me.id, name: "Tomas" },
    ]);
  });

  it("is told of an activity: what was and what is of each of its fields, of whoever works on it too", async () => {
    await change(tomas, 1, longer(2880), { type: "setName", activity: "pour", name: "Cast" });
    const [assignment] = (await tomas.get(`/api/projects/${project}/plan`)).body.tables.assignments as [[string]];
    await change(ines, 2, {
      ...{ type: "setRemainingWork", assignment: assignment[0], remainingMinutes: 600, restart: null },
    });
    const of = async (activity: string) =>
      (await tomas.get(`/api/projects/${project}/activities/${activity}/history`)).body as ActivityHistory;
    const { lists, older } = await of("dig");
    expect(older).toBeNull();
    expect(lists.map(({ by, lines }) => [by, lines.map(({ field, was, is }) => [field, was, is])])).toEqual([
      ["Ines", [["remaining", "–", "10 h"]]],
      ["Tomas", [["duration", "40 h", "48 h"]]],
    ]);
    expect((await of("pour")).lists.map(({ lines }) => lines.map(({ was, is }) => [was, is]))).toEqual([
      [["Pour", "Cast"]],
    ]);
    expect((await of("none")).lists).toEqual([]);
  });

  it("is taken back long after, with others' work in between, as what was shown before", async () => {
    await change(tomas, 1, longer(2880));
    await change(ines, 2, { type: "setName", activity: "dig", name: "Dredge" });
    const { takeBack: shown } = await entry(2);
    expect(shown).toMatchObject({ why: null, effect: { finish: { from: "2026-03-12", to: "2026-03-11" } } });
    expect((await takeBack(2)).body).toMatchObject({ revision: 4 });
    expect(await planNow()).toMatchObject({
      activities: expect.arrayContaining([["dig", expect.objectContaining({ name: "Dredge", durationMinutes: 2400 })]]),
    });
    expect((await history()).map(({ label, takenBack }) => [label, takenBack])).toEqual([
      ["Undid: Duration of “Dig”", false],
      ["Name of “Dig”: “Dredge”", false],
      ["Duration of “Dig”", true],
      ["Brought by a test", false],
    ]);
  });

  it("is taken back once; what took it back can be taken back, and then it stands again", async () => {
    await change(tomas, 1, longer(2880));
    await takeBack(2);
    expect((await entry(2)).takeBack).toMatchObject({ effect: null, why: expect.stringMatching(/was undone already/) });
    const again = await takeBack(2, ines);
    expect([again.status, again.body.message]).toEqual([409, '"Duration of “Dig”" was undone already.']);
    await takeBack(3);
    expect((await history()).map(({ label, takenBack }) => [label, takenBack]).slice(0, 3)).toEqual([
      ["Redid: Duration of “Dig”", false],
      ["Undid: Duration of “Dig”", true],
      ["Duration of “Dig”", false],
    ]);
    expect((await takeBack(2)).status).toBe(200);
    await takeBack(5);
    await takeBack(6);
    await takeBack(7);
    expect((await history()).map(({ label }) => label).slice(0, 4)).toEqual(
      ["Redid", "Undid", "Redid", "Undid"].map((turn) => `${turn}: Duration of “Dig”`),
    );
  });

  it("that would tie a loop with what was linked since stands, and says so by name", async () => {
    await change(tomas, 1, { type: "removeRow", table: "links", key: "1" });
    await change(ines, 2, { type: "addRow", table: "links", key: "back", row: { from: "pour", to: "dig" } });
    expect((await entry(2)).takeBack).toMatchObject({
      effect: null,
      why: expect.stringMatching(
        /^What came later rests on it\. .*the links form a loop: (Dig → Pour → Dig|Pour → Dig → Pour)/,
      ),
    });
    const refused = await takeBack(2);
    expect([refused.status, refused.body.message]).toEqual([
      expect.any(Number),
      expect.stringMatching(/Dig → Pour|Pour → Dig/),
    ]);
    expect(refused.status).toBeGreaterThanOrEqual(409);
    expect(await history()).toHaveLength(3);
  });

  it("stands where something later rests on it, and says what; nothing is stored", async () => {
    const extra: Change = {
      type: "addRow",
      table: "activities",
      key: "extra",
      row: { id: "extra", name: "Extra", durationMinutes: 60 },
    };
    await change(tomas, 1, longer(2880), extra);
    await change(ines, 2, longer(960));
    expect((await entry(2)).takeBack).toMatchObject({ effect: null, restsOn: [{ what: "Dig: duration", by: "Ines" }] });
    expect((await takeBack(2)).status).toBe(409);
    await takeBack(3, ines);
    await change(ines, 4, { type: "addRow", table: "links", key: "late", row: { from: "dig", to: "extra" } });
    expect((await entry(2)).takeBack).toMatchObject({
      effect: null,
      why: expect.stringMatching(/^What came later rests on it. Dig → Extra/),
      restsOn: [],
    });
    expect((await takeBack(2)).status).toBe(409);
    expect(await history()).toHaveLength(5);
    await takeBack(5, ines);
    expect((await takeBack(2)).status).toBe(200);
  });

  it("is shown to whoever looks, and taken back by whoever may change the plan", async () => {
    await change(tomas, 1, longer(2880));
    expect(await entry(2, quill)).toMatchObject({ lines: [{ field: "duration", was: "40 h" }], takeBack: null });
    expect((await takeBack(2, quill)).status).toBe(403);
    for (const none of ["99", "0", "x", "1e3"])
      expect((await tomas.get(`/api/projects/${project}/history/${none}`)).status).toBe(404);
  });
});
