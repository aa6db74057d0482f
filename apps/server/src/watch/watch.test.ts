import {
  WATCH_ABOUT,
  WATCH_FIELDS,
  type WatchAnswer,
  type WatchCondition,
  type Watchlist,
  type WatchQuestion,
} from "@chronometra/contract";
import { addDays, formatDate, parseDate } from "@chronometra/core";
import { parse } from "csv-parse/sync";
import ICAL from "ical.js";
import readExcel from "read-excel-file/node";
import request from "supertest";
import { todayHere } from "../shared/clock.ts";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";
import { WRITERS } from "../writers/writers.ts";
import { fillRows } from "../plan/fillRows.ts";

let world: TestWorld;
let pm: Caller, controller: Caller, other: Caller;
let quay: string, slip: string;

const inDays = (days: number): string => formatDate(addDays(parseDate(todayHere())!, days));
const question = (where: WatchCondition[][], rest: Partial<WatchQuestion> = {}): WatchQuestion => ({
  about: "activities",
  where,
  columns: ["name", "project", "people", "finish", "planned", "bac"],
  sort: [{ field: "name", desc: false }],
  group: null,
  pivot: null,
  ...rest,
});
async function ask(asked: WatchQuestion, by: Caller = controller): Promise<WatchAnswer> {
  const response = await by.send("post", "/api/watch", asked);
  if (response.status !== 200) throw new Error(response.text);
  return response.body as WatchAnswer;
}
const names = ({ rows }: WatchAnswer): unknown[] => rows.map(({ values }) => values["name"]);
const change = async (project: string, changes: object[], by: Caller = pm): Promise<number> => {
  const { body } = await by.get(`/api/projects/${project}/plan`);
  const response = await by.send("post", `/api/projects/${project}/changes`, { revision: body.revision, changes });
  if (response.status !== 200) throw new Error(response.text);
  return response.body.revision as number;
};

beforeAll(async () => {
  world = await TestWorld.open();
  pm = await world.caller("pia", ["projectManager"], "ann");
  controller = await world.caller("cora", ["controller"]);
  other = await world.caller("otto", ["projectManager"]);
  quay = await world.addProject(
    pm.me,
    smallPlan({
      project: { code: "Q-1", name: "Quay" } as never,
      people: [
        { id: "ann", name: "Ann", role: "diver", rates: [{ from: "2026-01-01", perHourMinor: 6000 }] },
        { id: "bo", name: "Bo", role: "mason" },
      ],
      actualCosts: [
        { activity: "pour", date: "2026-03-04", amountMinor: 12_345, category: "concrete", reference: "=1+1" },
      ],
    }),
  );
  slip = await world.addProject(
    other.me,
    smallPlan({
      project: { code: "S-1", name: "Slip" } as never,
      timeEntries: [
        { activity: "dig", person: "ann", date: "2026-03-03", minutes: 90, state: "posted", note: "bucket" },
      ],
    }),
  );
  await change(quay, [
    {
      type: "addRow",
      table: "fields",
      key: "zone",
      row: { id: "zone", name: "Zone", type: "choice", choices: ["north", "south"] },
    },
    { type: "setOwnValue", activity: "dig", field: "zone", value: "north" },
    { type: "addRow", table: "teams", key: "crew", row: { id: "crew", name: "Crew", members: ["ann", "bo"] } },
  ]);
});
afterAll(() => world.drop());

describe("a question over all projects", () => {
  it.each<[string, WatchCondition[][], string[]]>([
    ["everything", [], ["Dig", "Dig", "Open", "Open", "Pour", "Pour", "Works", "Works"]],
    ["a word in a name, wildcards taken as they stand", [[{ field: "name", is: "has", text: "i" }]], ["Dig", "Dig"]],
    ["no wildcard", [[{ field: "name", is: "has", text: "%" }]], []],
    ["not a word", [[{ field: "name", is: "hasNot", text: "o" }]], ["Dig", "Dig"]],
    [
      "a kind or another",
      [[{ field: "kind", is: "any", of: ["milestone", "summary"] }]],
      ["Open", "Open", "Works", "Works"],
    ],
    [
      "one of two groups",
      [[{ field: "kind", is: "any", of: ["milestone"] }], [{ field: "name", is: "has", text: "dig" }]],
      ["Dig", "Dig", "Open", "Open"],
    ],
    ["hours at least", [[{ field: "planned", is: "atLeast", number: 40 }]], ["Dig", "Dig"]],
    [
      "hours below",
      [
        [
          { field: "planned", is: "below", number: 40 },
          { field: "planned", is: "atLeast", number: 0.1 },
        ],
      ],
      ["Pour", "Pour"],
    ],
    [
      "a day between",
      [
        [
          { field: "finish", is: "within", from: "2026-03-06", to: "2026-03-10" },
          { field: "kind", is: "any", of: ["work"] },
        ],
      ],
      ["Dig", "Dig"],
    ],
    ["me", [[{ field: "people", is: "any", of: ["me"] }]], ["Dig", "Dig"]],
    ["my team, where I am in one", [[{ field: "people", is: "any", of: ["team"] }]], ["Pour", "Pour"]],
    [
      "not by someone",
      [
        [
          { field: "people", is: "none", of: ["ann"] },
          { field: "people", is: "filled" },
        ],
      ],
      ["Pour", "Pour"],
    ],
    ["nobody at all", [[{ field: "people", is: "empty" }]], ["Open", "Open", "Works", "Works"]],
    ["a role", [[{ field: "role", is: "any", of: ["diver"] }]], ["Dig"]],
    ["an own field", [[{ field: "own:Zone", is: "any", of: ["north"] }]], ["Dig"]],
    [
      "an own field without a value",
      [
        [
          { field: "own:Zone", is: "empty" },
          { field: "kind", is: "any", of: ["work"] },
        ],
      ],
      ["Dig", "Pour", "Pour"],
    ],
    [
      "a number that is there, though it is nothing",
      [
        [
          { field: "planned", is: "filled" },
          { field: "planned", is: "below", number: 0.1 },
        ],
      ],
      ["Open", "Open", "Works", "Works"],
    ],
    [
      "no percent, which only branches without a budget have",
      [[{ field: "percent", is: "empty" }]],
      ["Works", "Works"],
    ],
    [
      "a role, and hardly begun: the example of the README",
      [
        [
          { field: "role", is: "any", of: ["diver"] },
          { field: "percent", is: "below", number: 15 },
        ],
      ],
      ["Dig"],
    ],
    [
      "no owner",
      [
        [
          { field: "owner", is: "empty" },
          { field: "kind", is: "any", of: ["work"] },
        ],
      ],
      ["Dig", "Dig", "Pour", "Pour"],
    ],
  ])("finds by %s", async (_, where, found) => {
    expect(names(await ask(question(where), pm))).toEqual(found);
  });

  it("speaks of days that move with today", async () => {
    await change(quay, [{ type: "setWish", activity: "dig", wish: { type: "startNotBefore", date: inDays(10) } }]);
    expect(
      names(
        await ask(
          question([
            [
              { field: "start", is: "within", from: "today+5", to: "today+16" },
              { field: "kind", is: "any", of: ["work"] },
            ],
          ]),
        ),
      ),
    ).toEqual(["Dig"]);
    expect(names(await ask(question([[{ field: "start", is: "within", from: "today-9", to: "today+2" }]])))).toEqual(
      [],
    );
    await change(quay, [{ type: "setWish", activity: "dig", wish: null }]);
  });

  it("gives sums that equal the sums of what they open, in all and by group", async () => {
    const answer = await ask(question([[{ field: "kind", is: "any", of: ["work"] }]], { group: "project" }));
    const sum = (rows: WatchAnswer["rows"]): number =>
      rows.reduce((total, { values }) => total + Number(values["planned"]), 0);
    expect(answer.sums["planned"]).toBe(sum(answer.rows));
    expect(answer.groups.map(({ name, count, sums }) => [name, count, sums["planned"]])).toEqual(
      ["Q-1 Quay", "S-1 Slip"].map((name) => [name, 2, sum(answer.rows.filter(({ group }) => group === name))]),
    );
  });

  it("lists an activity under each of its people, and counts it once in all", async () => {
    await change(quay, [
      { type: "addRow", table: "assignments", key: "more", row: { activity: "dig", person: "bo", plannedMinutes: 60 } },
    ]);
    const answer = await ask(
      question(
        [
          [
            { field: "project", is: "any", of: [quay] },
            { field: "kind", is: "any", of: ["work"] },
          ],
        ],
        { group: "people" },
      ),
    );
    expect(answer.rows.map(({ group, values }) => [group, values["name"], values["people"]])).toEqual([
      ["Ann", "Dig", "Ann, Bo"],
      ["Bo", "Dig", "Ann, Bo"],
      ["Bo", "Pour", "Bo"],
    ]);
    expect([answer.count, answer.groups.map(({ count }) => count)]).toEqual([2, [1, 2]]);
    await change(quay, [{ type: "removeRow", table: "assignments", key: "more" }]);
  });

  it("counts by two fields, the cells adding up to the whole", async () => {
    const answer = await ask(question([], { pivot: { rows: "kind", columns: "project", sum: null } }));
    expect(answer.pivot).toEqual({
      rows: ["branch", "milestone", "work"],
      columns: ["Q-1 Quay", "S-1 Slip"],
      cells: [
        [1, 1],
        [1, 1],
        [2, 2],
      ],
      rowTotals: [2, 2, 4],
      columnTotals: [4, 4],
      total: 8,
      moreRows: 0,
      moreColumns: 0,
    });
    expect(answer.pivot!.cells.flat().reduce((sum, cell) => sum + cell, 0)).toBe(answer.count);
  });

  it("asks about time and costs with their activity and project", async () => {
    const time = await ask({
      about: "time",
      where: [[{ field: "date", is: "after", date: "2026-01-01" }]],
      columns: ["date", "person", "name", "project", "hours", "amount", "note"],
      sort: [],
      group: null,
      pivot: null,
    });
    expect(time.rows.map(({ values }) => values)).toEqual([
      { date: "2026-03-03", person: "Ann", name: "Dig", project: "S-1 Slip", hours: 90, amount: 9000, note: "bucket" },
    ]);
    const costs = await ask({
      about: "costs",
      where: [[{ field: "amount", is: "atLeast", number: 123.45 }]],
      columns: ["date", "category", "amount"],
      sort: [],
      group: null,
      pivot: null,
    });
    expect(costs.rows.map(({ values }) => values)).toEqual([
      { date: "2026-03-04", category: "concrete", amount: 12_345 },
    ]);
  });

  it("asks about risks with each activity that they bear on, what they cost standing once", async () => {
    const revision = await change(
      slip,
      [
        {
          type: "addRow",
          table: "risks",
          key: "storm",
          row: {
            id: "storm",
            name: "Storm",
            probability: 0.25,
            effects: [
              { activity: "dig", minutes: { low: 480, likely: 960, high: 2400 } },
              { activity: "pour", minutes: { low: 0, likely: 480, high: 960 } },
            ],
            costMinor: { low: 10_000, likely: 20_000, high: 60_000 },
          },
        },
        {
          type: "addRow",
          table: "risks",
          key: "levy",
          row: {
            id: "levy",
            name: "Levy",
            probability: 0.5,
            effects: [],
            costMinor: { low: 100, likely: 100, high: 100 },
          },
        },
      ],
      other,
    );
    const asked = (where: WatchCondition[][], rest: Partial<WatchQuestion> = {}): WatchQuestion => ({
      about: "risks",
      where,
      columns: [
        "risk",
        "chance",
        "name",
        "project",
        "least",
        "likely",
        "most",
        "expected",
        "costLikely",
        "costExpected",
        "finish",
      ],
      sort: [
        { field: "chance", desc: true },
        { field: "name", desc: false },
      ],
      group: null,
      pivot: null,
      ...rest,
    });
    const all = await ask(asked([]));
    const { rows } = await ask(
      question([
        [
          { field: "project", is: "any", of: [slip] },
          { field: "kind", is: "any", of: ["work"] },
        ],
      ]),
    );
    expect(all.rows.map(({ values }) => values)).toEqual([
      {
        risk: "Levy",
        chance: 50,
        name: null,
        project: "S-1 Slip",
        least: null,
        likely: null,
        most: null,
        expected: null,
        costLikely: 100,
        costExpected: 50,
        finish: null,
      },
      {
        risk: "Storm",
        chance: 25,
        name: "Dig",
        project: "S-1 Slip",
        least: 1,
        likely: 2,
        most: 5,
        expected: 2 / 3,
        costLikely: 20_000,
        costExpected: 7500,
        finish: rows[0]!.values["finish"],
      },
      {
        risk: "Storm",
        chance: 25,
        name: "Pour",
        project: "S-1 Slip",
        least: 0,
        likely: 1,
        most: 2,
        expected: 0.25,
        costLikely: 0,
        costExpected: 0,
        finish: rows[1]!.values["finish"],
      },
    ]);
    expect(all.sums).toEqual({ costLikely: 20_100, costExpected: 7550 });
    const found = async (where: WatchCondition[][]): Promise<unknown[]> =>
      (await ask(asked(where))).rows.map(({ values }) => [values["risk"], values["name"]]);
    expect(await found([[{ field: "expected", is: "atLeast", number: 0.5 }]])).toEqual([["Storm", "Dig"]]);
    expect(
      await found([
        [
          { field: "costExpected", is: "below", number: 1 },
          { field: "costExpected", is: "atLeast", number: 0.5 },
        ],
      ]),
    ).toEqual([["Levy", null]]);
    expect(
      await found([
        [
          { field: "name", is: "has", text: "pour" },
          { field: "project", is: "any", of: [slip] },
        ],
      ]),
    ).toEqual([["Storm", "Pour"]]);
    const done = await change(
      slip,
      [
        { type: "setDataDate", date: "2026-03-05" },
        { type: "reportProgress", activity: "dig", actualStart: "2026-03-02", actualFinish: "2026-03-04" },
      ],
      other,
    );
    expect(
      (await ask(asked([[{ field: "risk", is: "has", text: "Storm" }]]))).rows.map(({ values }) => [
        values["name"],
        values["costLikely"],
      ]),
    ).toEqual([
      ["Dig", 0],
      ["Pour", 20_000],
    ]);
    await other.send("post", `/api/projects/${slip}/undo`, { revision: done });
    const counted = await ask(
      asked([], { group: "state", pivot: { rows: "risk", columns: null, sum: "costExpected" } }),
    );
    expect([counted.groups.map(({ name, count }) => [name, count]), counted.pivot!.cells]).toEqual([
      [
        ["not started", 2],
        [null, 1],
      ],
      [[50], [7500]],
    ]);
    await other.send("post", `/api/projects/${slip}/undo`, { revision });
    expect((await ask(asked([]))).count).toBe(0);
  });

  it.each(WATCH_ABOUT)("shows, sorts, groups, counts and asks for every field of %s", async (about) => {
    const revision = await change(
      slip,
      [
        {
          type: "addRow",
          table: "risks",
          key: "fog",
          row: {
            id: "fog",
            name: "Fog",
            probability: 0.5,
            effects: [{ activity: "dig", minutes: { low: 60, likely: 60, high: 60 } }],
          },
        },
        {
          type: "addRow",
          table: "risks",
          key: "tax",
          row: { id: "tax", name: "Tax", probability: 1, effects: [], costMinor: { low: 1, likely: 2, high: 3 } },
        },
      ],
      other,
    );
    const fields = Object.entries(WATCH_FIELDS[about]);
    const all = fields.map(([name]) => name);
    const base: WatchQuestion = { about, where: [], columns: all, sort: [], group: null, pivot: null };
    const { count, rows } = await ask(base);
    expect(count).toBeGreaterThan(0);
    expect(rows.every(({ values }) => all.every((name) => name in values))).toBe(true);
    for (const [name, { several, summed }] of fields) {
      const filled = await ask({
        ...base,
        where: [[{ field: name, is: "filled" }]],
        columns: [name],
        ...(several === true ? {} : { sort: [{ field: name, desc: true }] }),
      });
      const empty = await ask({
        ...base,
        where: [[{ field: name, is: "empty" }]],
        columns: [name],
        group: several === true ? null : name,
        pivot: { rows: several === true ? "project" : name, columns: null, sum: summed === true ? name : null },
      });
      expect([name, filled.count + empty.count]).toEqual([name, count]);
    }
    await other.send("post", `/api/projects/${slip}/undo`, { revision });
  });

  it.each([
    [{ ...question([]), columns: ["name", "nope"] }, /no field "nope"/],
    [question([[{ field: "name) or (1=1", is: "empty" }]]), /no field/],
    [question([[{ field: "name", is: "atLeast", number: 1 }]]), /"Activity" cannot be asked/],
    [question([], { sort: [{ field: "constructor", desc: false }] }), /no field "constructor"/],
    [question([], { pivot: { rows: "x", columns: null, sum: null } }), /no field "x"/],
    [question([], { pivot: { rows: "kind", columns: null, sum: "nope" }, group: "project" }), /no field "nope"/],
    [question([[{ field: "finish", is: "before", date: "tomorrow" }]]), /today\+30/],
  ])("refuses what cannot be asked, saying what", async (asked, why) => {
    const response = await controller.send("post", "/api/watch", asked);
    expect([response.status, response.body.message]).toEqual([422, expect.stringMatching(why)]);
  });
});

describe("the rows that are kept", () => {
  const tables = WRITERS.flatMap(({ tables: each }) => each);
  const snapshot = async (): Promise<string> =>
    JSON.stringify(
      await Promise.all(
        tables.map((table) =>
          world.database.query(`select * from ${table} where project_id = ? order by 1, 2, 3, 4`, [quay]),
        ),
      ),
    );

  it("are after any changes what they would be made from scratch", async () => {
    await change(quay, [
      { type: "setDataDate", date: "2026-03-04" },
      { type: "reportProgress", activity: "dig", actualStart: "2026-03-02", percent: 30 },
      { type: "setName", activity: "works", name: "All works" },
    ]);
    const revision = await change(quay, [
      { type: "addRow", table: "activities", key: "new", row: { id: "new", name: "New", durationMinutes: 480 } },
      { type: "addRow", table: "assignments", key: "n", row: { activity: "new", person: "bo", plannedMinutes: 480 } },
      { type: "setOwnValue", activity: "new", field: "zone", value: "south" },
    ]);
    await change(quay, [
      { type: "editRow", table: "people", key: "bo", set: { name: "Bo the mason" } },
      {
        type: "addRow",
        table: "risks",
        key: "frost",
        row: {
          id: "frost",
          name: "Frost",
          probability: 0.1,
          effects: [{ activity: "pour", minutes: { low: 480, likely: 480, high: 480 } }],
        },
      },
      { type: "setParked", activity: "new", parked: true },
      { type: "addRow", table: "blocks", key: "pour", row: { by: "rain", since: "2026-03-04", saidBy: "Bo" } },
    ]);
    await pm.send("post", `/api/projects/${quay}/undo`, { revision });
    await change(quay, [
      {
        type: "addRow",
        table: "risks",
        key: "swell",
        row: { id: "swell", name: "Swell", probability: 0.2, effects: [] },
      },
      { type: "editRow", table: "risks", key: "frost", set: { probability: 0.3 } },
    ]);
    const kept = await snapshot();
    expect(kept).toContain("Bo the mason");
    for (const table of tables) await world.database.query(`delete from ${table} where project_id = ?`, [quay]);
    await world.database.query("update project set kept_revision = 0 where id = ?", [quay]);
    expect(await fillRows(world.database)).toBe(1);
    expect(await snapshot()).toBe(kept);
    expect(await fillRows(world.database)).toBe(0);
  });

  it("change with the rate of whoever booked", async () => {
    const cost = async (): Promise<unknown> =>
      (await ask({ about: "time", where: [], columns: ["amount"], sort: [], group: null, pivot: null })).sums["amount"];
    expect(await cost()).toBe(9000);
    await change(
      slip,
      [{ type: "editRow", table: "people", key: "ann", set: { rates: [{ from: "2026-01-01", perHourMinor: 8000 }] } }],
      other,
    );
    expect(await cost()).toBe(12_000);
  });
});

describe("doing something with rows", () => {
  const act = (rows: [string, string][], what: object) => ({
    rows: rows.map(([project, activity]) => ({ project, activity })),
    act: what,
  });

  it("shows what it would move, does it in all projects or none, and is undone", async () => {
    const wanted = act(
      [
        [quay, "pour"],
        [slip, "dig"],
        [slip, "works"],
      ],
      { do: "pushOut", days: 3, reason: "storm" },
    );
    const effect = (await controller.send("post", "/api/watch/effect", wanted)).body;
    expect(
      effect.effects.map(
        ({
          code,
          effect: { activities },
        }: {
          code: string;
          effect: { activities: { name: string; days: number }[] };
        }) => [code, activities[0]!.name, activities[0]!.days],
      ),
    ).toEqual(expect.arrayContaining([["S-1", "Dig", 3]]));
    expect(effect.left).toEqual([expect.objectContaining({ name: "Works", why: "a branch: select what is below it" })]);
    const before = names(await ask(question([[{ field: "wish", is: "filled" }]])));
    const done = (await controller.send("post", "/api/watch/act", wanted)).body;
    expect(done.changed).toBe(2);
    expect(names(await ask(question([[{ field: "wish", is: "any", of: ["startNotBefore"] }]])))).toEqual([
      "Dig",
      "Pour",
    ]);
    for (const { project, revision } of done.revisions)
      expect((await controller.send("post", `/api/projects/${project}/undo`, { revision })).status).toBe(200);
    expect(names(await ask(question([[{ field: "wish", is: "filled" }]])))).toEqual(before);
  });

  it("leaves rows of projects that one may not change, and names them", async () => {
    const done = (
      await pm.send(
        "post",
        "/api/watch/act",
        act(
          [
            [quay, "pour"],
            [slip, "pour"],
          ],
          { do: "setOwner", to: "ann" },
        ),
      )
    ).body;
    expect([done.changed, done.left]).toEqual([
      1,
      [
        expect.objectContaining({
          project: "Slip",
          name: "Pour",
          why: expect.stringContaining("only the project's manager"),
        }),
      ],
    ]);
    expect(names(await ask(question([[{ field: "owner", is: "any", of: ["ann"] }]])))).toEqual(["Pour"]);
  });

  it("moves work to someone who is not in the plan yet", async () => {
    await change(quay, [{ type: "addRow", table: "people", key: "cy", row: { id: "cy", name: "Cy", role: "diver" } }]);
    const done = await controller.send(
      "post",
      "/api/watch/act",
      act([[slip, "pour"]], { do: "reassign", from: "bo", to: "cy" }),
    );
    expect(done.body).toMatchObject({ changed: 1, left: [] });
    const { rows } = await ask(question([[{ field: "people", is: "any", of: ["cy"] }]]));
    expect(rows.map(({ project, values }) => [project, values["people"]])).toEqual([[slip, "Cy"]]);
    expect(
      (await controller.send("post", "/api/watch/act", act([[slip, "pour"]], { do: "reassign", from: "bo", to: "cy" })))
        .body.left[0].why,
    ).toBe("they do not work on it");
  });

  it("writes own fields by name, where the project has them and the value fits", async () => {
    const done = (
      await controller.send(
        "post",
        "/api/watch/act",
        act(
          [
            [quay, "pour"],
            [slip, "pour"],
          ],
          { do: "setOwnValue", field: "Zone", value: "south" },
        ),
      )
    ).body;
    expect([done.changed, done.left[0].why]).toEqual([1, 'its project has no field "Zone"']);
    expect(
      (
        await controller.send(
          "post",
          "/api/watch/act",
          act([[quay, "pour"]], { do: "setOwnValue", field: "Zone", value: "east" }),
        )
      ).body.left[0].why,
    ).toMatch(/must be one of "north", "south"/);
  });
});

describe("what leaves", () => {
  const work = question([[{ field: "kind", is: "any", of: ["work"] }]]);
  const fetched = async (form: string, asked: WatchQuestion): Promise<Buffer> =>
    (
      await controller
        .send("post", `/api/watch/export/${form}`, asked)
        .buffer(true)
        .parse((response, done) => {
          const parts: Buffer[] = [];
          response.on("data", (part: Buffer) => parts.push(part));
          response.on("end", () => done(null, Buffer.concat(parts)));
        })
    ).body as Buffer;

  it("says in CSV and in a workbook what the page says, read by other programs", async () => {
    const { rows } = await ask(work);
    const expected = rows.map(({ values, currency }) => [
      values["name"],
      values["project"],
      values["people"],
      values["finish"],
      Number(values["planned"]) / 60,
      Number(values["bac"]) / 100,
      currency,
    ]);
    const csv = parse(await fetched("csv", work), { bom: true }) as string[][];
    expect(csv.slice(1)).toEqual(expected.map((row) => row.map((cell) => (cell === null ? "" : String(cell)))));
    expect(csv[0]).toEqual(["Activity", "Project", "People", "Finishes", "Planned hours", "BAC", "Currency"]);
    const sheet = (await readExcel(await fetched("xlsx", work))) as unknown as { data: unknown[][] }[] | unknown[][];
    const data = (Array.isArray(sheet[0]) ? sheet : (sheet[0] as { data: unknown[][] }).data) as unknown[][];
    expect(data.slice(1)).toEqual(expected);
  });

  it("keeps a spreadsheet from running what someone typed", async () => {
    const text = (
      await fetched("csv", { about: "costs", where: [], columns: ["note"], sort: [], group: null, pivot: null })
    ).toString();
    expect(text).toContain("'=1+1");
  });

  it("puts whole days into a calendar, the end shown as the day after (RFC 5545), read by another reader", async () => {
    const calendar = new ICAL.Component(ICAL.parse((await fetched("ics", work)).toString()) as never);
    const events = calendar.getAllSubcomponents("vevent").map((event) => new ICAL.Event(event));
    const { rows } = await ask({ ...work, columns: ["name", "start", "finish"] });
    expect(
      events.map(({ summary, startDate, endDate }) => [
        summary,
        startDate.isDate,
        startDate.toString(),
        endDate.toString(),
      ]),
    ).toEqual(
      rows
        .filter(({ values }) => values["start"] !== null)
        .map(({ values }) => [
          values["name"],
          true,
          values["start"],
          formatDate(addDays(parseDate(String(values["finish"]))!, 1)),
        ]),
    );
    expect(new Set(events.map(({ uid }) => uid)).size).toBe(events.length);
  });

  it("is fetched by a secret address until that is ended or its owner may no longer look", async () => {
    const made = (await controller.send("post", "/api/calendars", { subject: "due-soon" })).body as { path: string };
    const fetching = () => request(world.app.app).get(made.path);
    expect((await fetching()).text).toMatch(/^BEGIN:VCALENDAR/);
    const anew = (await controller.send("post", "/api/calendars", { subject: "due-soon" })).body as { path: string };
    expect((await fetching()).status).toBe(404);
    expect((await controller.get("/api/calendars/due-soon")).body.path).toBeNull();
    await world.database.query(`update account set roles = '["contributor"]' where login = 'cora'`);
    const refused = await request(world.app.app).get(anew.path);
    expect([refused.status, refused.type, refused.text]).toEqual([
      404,
      "text/plain",
      expect.stringMatching(/no calendar/),
    ]);
    await world.database.query(`update account set roles = '["controller"]' where login = 'cora'`);
    expect((await request(world.app.app).get(anew.path)).status).toBe(200);
    await controller.send("delete", "/api/calendars/due-soon");
    expect((await request(world.app.app).get(anew.path)).status).toBe(404);
  });

  it("has every deadline that is open, on its day", async () => {
    const { path } = (await controller.send("post", "/api/calendars", { subject: "deadlines" })).body as {
      path: string;
    };
    const fetched = await request(world.app.app).get(path);
    expect([fetched.status, fetched.text]).toEqual([200, expect.stringMatching(/^BEGIN:VCALENDAR/)]);
    const events = new ICAL.Component(ICAL.parse(fetched.text) as never)
      .getAllSubcomponents("vevent")
      .map((event) => new ICAL.Event(event));
    expect(events.map(({ summary, startDate }) => [summary, startDate.toString()])).toEqual([
      ["Open", "2026-03-13"],
      ["Open", "2026-03-13"],
    ]);
  });
});

describe("watchlists", () => {
  it("are found by their owner, by roles they are shared with, and by whoever has the link; and changed by their owner alone", async () => {
    const asked = question([[{ field: "name", is: "has", text: "dig" }]]);
    const made = (await pm.send("post", "/api/watchlists", { name: "Digging", question: asked, roles: ["controller"] }))
      .body as Watchlist;
    const finds = async (by: Caller): Promise<string[]> =>
      ((await by.get("/api/watchlists")).body as Watchlist[]).filter(({ ready }) => !ready).map(({ name }) => name);
    expect([await finds(pm), await finds(controller), await finds(other)]).toEqual([["Digging"], ["Digging"], []]);
    expect((await other.get(`/api/watchlists/${made.id}`)).body).toMatchObject({
      name: "Digging",
      owner: "Pia",
      mine: false,
      question: asked,
    });
    expect(
      (await controller.send("put", `/api/watchlists/${made.id}`, { name: "X", question: asked, roles: [] })).status,
    ).toBe(403);
    expect(
      (await pm.send("put", `/api/watchlists/${made.id}`, { name: "Digging on", question: asked, roles: [] })).status,
    ).toBe(200);
    expect([await finds(pm), await finds(controller)]).toEqual([["Digging on"], []]);
    expect((await controller.send("delete", `/api/watchlists/${made.id}`)).status).toBe(403);
    expect((await pm.send("delete", `/api/watchlists/${made.id}`)).status).toBe(200);
    expect((await pm.get(`/api/watchlists/${made.id}`)).status).toBe(404);
  });

  it("ship ready made, each answering, and cannot be changed", async () => {
    const ready = ((await controller.get("/api/watchlists")).body as Watchlist[]).filter((each) => each.ready);
    expect(ready.map(({ id }) => id)).toEqual(
      expect.arrayContaining(["overdue", "due-soon", "no-date", "no-owner", "no-estimate", "blocked"]),
    );
    for (const { question: asked } of ready) await ask(asked);
    expect((await controller.send("delete", "/api/watchlists/overdue")).body.message).toMatch(
      /ships with the application/,
    );
  });
});
