import type { ChangeResult, PlanView, Summary } from "@chronometra/contract";
import { fromBundle, PLAN_TABLES, type Change } from "@chronometra/core";
import { FiguresEntity } from "../writers/figuresEntity.ts";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";
import { ChangeListEntity } from "./stored/planEntities.ts";

let world: TestWorld;
let tomas: Caller;
let ines: Caller;
let project: string;

beforeAll(async () => {
  world = await TestWorld.open();
  tomas = await world.caller("tomas", ["projectManager"]);
  ines = await world.caller("ines", ["controller"]);
});
beforeEach(async () => {
  project = await world.addProject(tomas.me, smallPlan());
});
afterAll(() => world.drop());

const change = (who: Caller, revision: number, ...changes: Change[]) =>
  who.send("post", `/api/projects/${project}/changes`, { revision, changes });
const plan = async (): Promise<PlanView> => (await ines.get(`/api/projects/${project}/plan`)).body as PlanView;
const activity = async (id: string) =>
  (await plan()).tables.activities.find(([key]) => key === id)![1] as Record<string, unknown>;
const kept = async (revision: number): Promise<Summary> =>
  JSON.parse(
    (await world.database.getRepository(FiguresEntity).findOneByOrFail({ projectId: project, revision })).summary,
  ) as Summary;
/** All that is stored of the project, for telling that nothing was. */
const stored = async (): Promise<string> => {
  const tables = ["project", "plan_row", "change_list", "figures", "baseline"];
  return JSON.stringify(
    await Promise.all(
      tables.map((table) =>
        world.database.query(
          `select * from ${table} where ${table === "project" ? "id" : "project_id"} = ? order by 1, 2, 3`,
          [project],
        ),
      ),
    ),
  );
};

describe("a list of changes", () => {
  it("raises the revision, is stored with who made it, and figures are kept for it", async () => {
    const before = await kept(1);
    const result = await change(tomas, 1, { type: "setDuration", activity: "dig", minutes: 2880 });
    expect(result.body).toMatchObject({ revision: 2, undoable: true, merged: 0 });
    expect(await activity("dig")).toMatchObject({ durationMinutes: 2880 });
    expect([before.finish, (await kept(2)).finish]).toEqual(["2026-03-11", "2026-03-12"]);
    const history = await ines.get(`/api/projects/${project}/history`);
    expect(history.body[0]).toMatchObject({ revision: 2, by: "Tomas", label: "Duration of “Dig”", changes: 1 });
  });

  it("is undone and redone by its own inverse, both being changes themselves", async () => {
    const before = (await plan()).tables;
    await change(
      tomas,
      1,
      { type: "setDuration", activity: "dig", minutes: 960 },
      { type: "setDeadline", activity: "open", date: null },
      { type: "removeRow", table: "links", key: "1" },
    );
    const undone = await tomas.send("post", `/api/projects/${project}/undo`, { revision: 2 });
    expect(undone.body).toMatchObject({ revision: 3, undoable: true });
    expect((await plan()).tables).toEqual(before);
    const redone = await tomas.send("post", `/api/projects/${project}/undo`, { revision: 3 });
    expect(redone.body).toMatchObject({ revision: 4 });
    expect(await activity("dig")).toMatchObject({ durationMinutes: 960 });
  });

  it("is all or nothing: the second change of two that cannot be takes the first with it", async () => {
    const before = await stored();
    const refused = await change(
      tomas,
      1,
      { type: "setDuration", activity: "dig", minutes: 960 },
      { type: "setDuration", activity: "ghost", minutes: 960 },
    );
    expect(refused.status).toBe(422);
    expect(refused.body.problems[0]).toMatchObject({ table: "activities", row: "ghost" });
    expect(await stored()).toBe(before);
  });
});

describe("two people change one plan at once", () => {
  it("different rows merge, and the second is given what the first did", async () => {
    const first = await change(tomas, 1, { type: "setDuration", activity: "dig", minutes: 2880 });
    const second = await change(ines, 1, { type: "setDuration", activity: "pour", minutes: 960 });
    const result = second.body as ChangeResult;
    expect([first.status, second.status, result.revision, result.merged]).toEqual([200, 200, 3, 1]);
    expect(result.changes).toEqual([
      { type: "setDuration", activity: "dig", minutes: 2880 },
      { type: "setDuration", activity: "pour", minutes: 960 },
    ]);
    expect([await activity("dig"), await activity("pour")]).toMatchObject([
      { durationMinutes: 2880 },
      { durationMinutes: 960 },
    ]);
  });

  it("different fields of one row merge too", async () => {
    await change(tomas, 1, { type: "setDuration", activity: "dig", minutes: 2880 });
    expect((await change(ines, 1, { type: "setName", activity: "dig", name: "Dredge" })).status).toBe(200);
    expect(await activity("dig")).toMatchObject({ durationMinutes: 2880, name: "Dredge" });
  });

  it("the same field tells the second one both values, whose the other is, and stores nothing", async () => {
    await change(tomas, 1, { type: "setDuration", activity: "dig", minutes: 2880 });
    const before = await stored();
    const clash = await change(ines, 1, { type: "setDuration", activity: "dig", minutes: 960 });
    expect(clash.status).toBe(409);
    expect(clash.body.clashes).toEqual([
      expect.objectContaining({
        path: "activities/dig/durationMinutes",
        what: "Dig: duration",
        theirs: 2880,
        yours: 960,
        by: "Tomas",
      }),
    ]);
    expect(await stored()).toBe(before);
  });

  it("the same value of both is no clash, and what was undone clashes with nothing", async () => {
    await change(tomas, 1, { type: "setDuration", activity: "dig", minutes: 2880 });
    expect((await change(ines, 1, { type: "setDuration", activity: "dig", minutes: 2880 })).status).toBe(200);
    await change(tomas, 3, { type: "setDuration", activity: "pour", minutes: 480 });
    await tomas.send("post", `/api/projects/${project}/undo`, { revision: 4 });
    expect((await change(ines, 3, { type: "setDuration", activity: "pour", minutes: 960 })).status).toBe(200);
  });

  it("a row removed meanwhile is told as such", async () => {
    await change(
      tomas,
      1,
      { type: "removeRow", table: "links", key: "2" },
      { type: "removeRow", table: "activities", key: "open" },
    );
    const late = await change(ines, 1, { type: "setDeadline", activity: "open", date: "2026-04-01" });
    expect(late.status).toBe(409);
    expect(late.body.message).toMatch(/Someone else changed the plan meanwhile/);
  });

  it("ten at the same instant all come in, one revision each", async () => {
    const results = await Promise.all(
      Array.from({ length: 10 }, (_, i) =>
        change(i % 2 === 0 ? tomas : ines, 1, {
          type: "addRow",
          table: "activities",
          key: `x${i}`,
          row: { id: `x${i}`, name: `Extra ${i}`, durationMinutes: 60 },
        }),
      ),
    );
    expect(results.map(({ status }) => status)).toEqual(Array(10).fill(200));
    expect(results.map(({ body }) => body.revision as number).sort((a, b) => a - b)).toEqual([
      2, 3, 4, 5, 6, 7, 8, 9, 10, 11,
    ]);
    expect((await plan()).tables.activities).toHaveLength(14);
  });
});

describe("bad input names table, row and field, and stores nothing", () => {
  const ROW = (row: object) => ({ type: "addRow", table: "activities", key: "n", row });
  it.each<[string, unknown[], string]>([
    [
      "a loop of links",
      [{ type: "addRow", table: "links", key: "9", row: { from: "pour", to: "dig" } }],
      "pour -> dig -> pour",
    ],
    [
      "a link to what is not there",
      [{ type: "addRow", table: "links", key: "9", row: { from: "dig", to: "ghost" } }],
      'there is no activity "ghost"',
    ],
    [
      "a link to a summary",
      [{ type: "addRow", table: "links", key: "9", row: { from: "dig", to: "works" } }],
      "is a summary",
    ],
    ["a duration of 0", [{ type: "setDuration", activity: "dig", minutes: 0 }], "changes.0"],
    ["a negative duration", [{ type: "setDuration", activity: "dig", minutes: -480 }], "changes.0"],
    [
      "a duration past the horizon",
      [{ type: "setDuration", activity: "dig", minutes: 480 * 30_000 }],
      "outside 1990 to 2099",
    ],
    ["a date that is none", [{ type: "setDeadline", activity: "dig", date: "2026-02-30" }], "must be a date"],
    [
      "an instant where a date belongs",
      [{ type: "setDeadline", activity: "dig", date: "2026-02-20T08:00" }],
      "must be a date",
    ],
    ["percent above 100", [{ type: "reportProgress", activity: "dig", percent: 101 }], "changes.0"],
    [
      "progress without a data date",
      [{ type: "reportProgress", activity: "dig", percent: 50 }],
      "progress needs a data date",
    ],
    [
      "a finish before its start",
      [
        { type: "setDataDate", date: "2026-03-06" },
        { type: "reportProgress", activity: "dig", actualStart: "2026-03-05", actualFinish: "2026-03-03" },
      ],
      "before it starts",
    ],
    [
      "a calendar that never works",
      [{ type: "addRow", table: "calendars", key: "c", row: { id: "c", name: "Never", week: {} } }],
      "never works",
    ],
    [
      "a calendar based on itself",
      [{ type: "addRow", table: "calendars", key: "c", row: { id: "c", name: "Loop", base: "c" } }],
      "in a loop",
    ],
    ["a parent that is no summary", [ROW({ id: "n", name: "New", parent: "dig" })], "is no summary"],
    ["an id that is taken", [ROW({ id: "dig", name: "Again" })], "stands more than once"],
    ["a field that is unknown", [ROW({ id: "n", name: "New", colour: "red" })], "changes.0"],
    ["a change of no known kind", [{ type: "dropTables" }], "changes.0"],
    [
      "posted time from outside",
      [
        {
          type: "postTime",
          key: "k",
          entry: { activity: "dig", person: "ann", date: "2026-03-03", minutes: 60, state: "posted" },
        },
      ],
      "happens by approving or accepting",
    ],
    [
      "a baseline from outside",
      [
        {
          type: "freeze",
          baseline: { number: 1, approvedOn: "2026-03-01", approvedBy: "me", reason: "", activities: [] },
        },
      ],
      "happens by approving or accepting",
    ],
    [
      "someone's time of 0%",
      [{ type: "editRow", table: "assignments", key: "1", set: { unitsPercent: 0 } }],
      "changes.0",
    ],
    [
      "someone who is not in the plan",
      [{ type: "editRow", table: "assignments", key: "1", set: { person: "ghost" } }],
      'there is no person "ghost"',
    ],
    [
      "an owner who is not in the plan",
      [{ type: "setWorking", activity: "dig", owner: "ghost" }],
      'there is no person "ghost"',
    ],
    [
      "a calendar that is not there",
      [{ type: "setWorking", activity: "dig", calendar: "moon" }],
      'there is no calendar "moon"',
    ],
    [
      "a calendar in use removed",
      [{ type: "removeRow", table: "calendars", key: "std" }],
      'there is no calendar "std"',
    ],
    [
      "a calendar that loses its week",
      [{ type: "editRow", table: "calendars", key: "std", set: { week: null } }],
      "has neither a week nor a base",
    ],
    [
      "rates out of order",
      [
        {
          type: "editRow",
          table: "people",
          key: "ann",
          set: {
            rates: [
              { from: "2026-02-01", perHourMinor: 1 },
              { from: "2026-01-01", perHourMinor: 2 },
            ],
          },
        },
      ],
      "list rates by ascending date",
    ],
    [
      "a cost on a summary",
      [{ type: "editRow", table: "costs", key: "c1", set: { activity: "works" } }],
      "is a summary",
    ],
    [
      "steps without a weight",
      [{ type: "setCredit", activity: "dig", credit: { rule: "steps", steps: [{ name: "a", weight: 0 }] } }],
      "at least one step with a weight",
    ],
    [
      "a stage that is none",
      [
        {
          type: "setCredit",
          activity: "dig",
          credit: { rule: "stages", stages: [{ name: "a", credit: 10 }], stage: "b" },
        },
      ],
      "must be one of the stages",
    ],
    [
      "a value of a field that is not there",
      [{ type: "setOwnValue", activity: "dig", field: "zone", value: "North" }],
      'there is no field "zone"',
    ],
    [
      "a value that does not fit its field",
      [
        { type: "addRow", table: "fields", key: "z", row: { id: "z", name: "Depth", type: "number" } },
        { type: "setOwnValue", activity: "dig", field: "z", value: "deep" },
      ],
      "must be a number",
    ],
    [
      "a field required emptied",
      [{ type: "editRow", table: "costs", key: "c1", set: { category: null } }],
      "changes.0",
    ],
    ["no change at all", [], "changes"],
  ])("%s", async (_what, changes, words) => {
    const before = await stored();
    const refused = await tomas.send("post", `/api/projects/${project}/changes`, { revision: 1, changes });
    expect(refused.status).toBe(422);
    expect(JSON.stringify(refused.body)).toContain(words.replaceAll('"', '\\"'));
    expect(await stored()).toBe(before);
  });

  it("a revision that does not exist yet", async () => {
    expect((await change(tomas, 7, { type: "setName", activity: "dig", name: "x" })).body).toMatchObject({
      code: "invalid",
      message: expect.stringContaining("revision 7 does not exist"),
    });
  });

  it("what is no JSON", async () => {
    const refused = await tomas
      .send("post", `/api/projects/${project}/changes`)
      .set("content-type", "application/json")
      .send("{ oops");
    expect([refused.status, refused.body.message]).toEqual([422, "What was sent is not JSON."]);
  });

  it("markup in a text is kept as text", async () => {
    const name = '<img src=x onerror=alert(1)> & "quotes" \' ; drop table project; --';
    await change(tomas, 1, { type: "setName", activity: "dig", name });
    expect(await activity("dig")).toMatchObject({ name });
  });
});

describe("what is kept", () => {
  it("ids of any kind hold their rows apart, upper and lower case too", async () => {
    const ids = ["A", "a", "ä", "__proto__", "constructor", "10", "x y", "trailing "];
    const changes = ids.map((id): Change => ({
      type: "addRow",
      table: "activities",
      key: id,
      row: { id, name: id, durationMinutes: 60 },
    }));
    expect((await change(tomas, 1, ...changes)).status).toBe(200);
    const view = await plan();
    expect(view.tables.activities.slice(4).map(([key]) => key)).toEqual(ids);
  });

  it("a plan read from the database is the plan that was changed, whatever was done to it", async () => {
    const lists: Change[][] = [
      [
        {
          type: "addRow",
          table: "activities",
          key: "n1",
          row: { id: "n1", name: "Before pour", parent: "works", durationMinutes: 480 },
          before: "pour",
        },
      ],
      [{ type: "setParked", activity: "n1", parked: true }],
      [{ type: "removeRow", table: "costs", key: "c1" }],
      [{ type: "setWish", activity: "pour", wish: { type: "startNotBefore", date: "2026-03-20", reason: "crane" } }],
      [
        { type: "addRow", table: "people", key: "cy", row: { id: "cy", name: "Cy" } },
        { type: "addRow", table: "assignments", key: "3", row: { activity: "pour", person: "cy", plannedMinutes: 60 } },
      ],
    ];
    for (const [i, changes] of lists.entries()) expect((await change(tomas, i + 1, ...changes)).status).toBe(200);
    const cached = await plan();
    // Another server beside this one reads from the database alone.
    const { keepAtHand, loadPlan, rememberPlan } = await import("./stored/planStore.ts");
    const before = keepAtHand(0);
    rememberPlan("another", 1, fromBundle(smallPlan()));
    const entity = await world.database.query("select id, revision, head from project where id = ?", [project]);
    const read = await loadPlan(world.database.manager, {
      id: project,
      revision: entity[0].revision,
      head: JSON.parse(entity[0].head),
    });
    keepAtHand(before);
    for (const table of PLAN_TABLES)
      if (table in cached.tables) expect([...read[table]]).toEqual(cached.tables[table as keyof PlanView["tables"]]);
    expect(await world.database.getRepository(ChangeListEntity).countBy({ projectId: project })).toBe(6);
  });

  it("an effect preview stores nothing", async () => {
    const before = await stored();
    const effect = await tomas.send("post", `/api/projects/${project}/effect`, {
      revision: 1,
      changes: [{ type: "setDuration", activity: "dig", minutes: 2880 }],
    });
    expect(effect.body).toMatchObject({
      finish: { from: "2026-03-11", to: "2026-03-12", days: 1 },
      milestones: [{ id: "open", days: 1 }],
      deadlines: [{ id: "open", before: { state: "tight", marginDays: 2 }, after: { marginDays: 1 } }],
    });
    expect(await stored()).toBe(before);
  });
});
