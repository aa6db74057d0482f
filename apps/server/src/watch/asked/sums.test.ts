import type { Portfolio, WatchAnswer, WatchCondition, WatchQuestion } from "@chronometra/contract";
import { freezePlan, type PlanBundle } from "@chronometra/core";
import { parse } from "csv-parse/sync";
import { smallPlan, TestWorld, type Caller } from "../../testing/testWorld.ts";

// Three projects in currencies of two, no and three digits, their work in branches within branches.

let world: TestWorld;
let cora: Caller;

const RATES = {
  currency: "EUR",
  minorDigits: 2,
  rates: [
    { currency: "KWD", from: "2026-01-01", rate: 2.75 },
    { currency: "JPY", from: "2026-01-01", rate: 0.006 },
  ],
};

/** Works holds a yard, the yard two lots; each lot costs so much. */
function plan(code: string, currency: string, minorDigits: number, minor: number): PlanBundle {
  const bare = smallPlan({
    project: { code, name: code, currency, minorDigits, dataDate: "2026-03-06" } as never,
    activities: [
      { id: "works", name: "Works", kind: "summary" },
      { id: "yard", name: "Yard", kind: "summary", parent: "works" },
      { id: "north", name: "North lot", parent: "yard", durationMinutes: 2400, credit: { rule: "reported" } },
      { id: "south", name: "South lot", parent: "yard", durationMinutes: 2400 },
    ],
    links: [],
    people: [
      { id: "ann", name: "Ann" },
      { id: "bo", name: "Bo" },
    ],
    assignments: [
      { activity: "north", person: "ann", plannedMinutes: 60 },
      { activity: "north", person: "bo", plannedMinutes: 60 },
      { activity: "south", person: "bo", plannedMinutes: 60 },
    ],
    costs: ["north", "south"].map((activity) => ({
      id: `c-${activity}`,
      activity,
      category: "stone",
      plannedMinor: minor,
    })),
    actualCosts: [{ activity: "north", date: "2026-03-05", amountMinor: minor, category: "stone" }],
  });
  return {
    ...bare,
    baselines: [{ number: 1, approvedOn: "2026-03-01", approvedBy: "x", reason: "y", ...freezePlan(bare) }],
  };
}

const question = (where: WatchCondition[][], rest: Partial<WatchQuestion> = {}): WatchQuestion => ({
  about: "activities",
  where,
  columns: ["name", "bac"],
  sort: [],
  group: null,
  pivot: null,
  ...rest,
});
async function ask(asked: WatchQuestion): Promise<WatchAnswer> {
  const response = await cora.send("post", "/api/watch", asked);
  if (response.status !== 200) throw new Error(response.text);
  return response.body as WatchAnswer;
}
const rates = async (exchange: object | null): Promise<void> =>
  expect((await cora.send("put", "/api/portfolio/exchange", { exchange })).status).toBe(200);

beforeAll(async () => {
  world = await TestWorld.open();
  cora = await world.caller("cora", ["controller"]);
  const pm = await world.caller("pia", ["projectManager"]);
  await world.addProject(pm.me, plan("E-1", "EUR", 2, 100_00));
  await world.addProject(pm.me, plan("J-1", "JPY", 0, 5_280_624));
  await world.addProject(pm.me, plan("K-1", "KWD", 3, 1_125));
});
afterAll(() => world.drop());

describe("sums over several currencies", () => {
  // 100.00 euro; 5 280 624 yen at 0.006 are 31 683.744; 1.125 dinar at 2.75 are 3.09375: two of each, rounded once a
  // project.
  const [eur, jpy, kwd] = [200_00, 63_367_49, 6_19];

  it("are not made without rates, and say which are missing", async () => {
    await rates(null);
    expect(await ask(question([]))).toMatchObject({
      money: { currency: null, missing: ["EUR", "JPY", "KWD"] },
      sums: { bac: null },
    });
    await rates({ ...RATES, rates: RATES.rates.slice(1) });
    const answer = await ask(question([], { group: "project", pivot: { rows: "kind", columns: null, sum: "bac" } }));
    expect([answer.money.missing, answer.sums["bac"], answer.pivot!.total]).toEqual([["KWD"], null, null]);
  });

  it("are converted at the rates of the day, project by project; groups and pivot add up to the whole", async () => {
    await rates(RATES);
    const answer = await ask(
      question([], { group: "project", pivot: { rows: "project", columns: "kind", sum: "bac" } }),
    );
    expect(answer.money).toMatchObject({
      currency: "EUR",
      minorDigits: 2,
      missing: [],
      used: [{ currency: "JPY" }, { currency: "KWD" }],
    });
    expect(answer.groups.map(({ sums }) => sums["bac"])).toEqual([eur, jpy, kwd]);
    expect(answer.sums["bac"]).toBe(eur + jpy + kwd);
    expect([answer.pivot!.rowTotals, answer.pivot!.total]).toEqual([[eur, jpy, kwd], eur + jpy + kwd]);
    const { exchange, on } = (await cora.get("/api/portfolio")).body as Portfolio;
    expect([exchange!.currency, on]).toEqual(["EUR", answer.money.on]);
  });

  it("leave amounts of one currency as they are, each row with the digits of its own", async () => {
    const { rows } = await ask(question([]));
    expect(new Map(rows.map(({ currency, minorDigits }) => [currency, minorDigits]))).toEqual(
      new Map([
        ["EUR", 2],
        ["JPY", 0],
        ["KWD", 3],
      ]),
    );
    const yen = rows.find(({ currency }) => currency === "JPY")!;
    expect(await ask(question([[{ field: "project", is: "any", of: [yen.project] }]]))).toMatchObject({
      money: { currency: "JPY", minorDigits: 0, used: [] },
      sums: { bac: 2 * 5_280_624 },
    });
  });

  it("are sorted by what they are worth", async () => {
    const { rows } = await ask({
      about: "costs",
      where: [],
      columns: ["amount"],
      sort: [{ field: "amount", desc: true }],
      group: null,
      pivot: null,
    });
    expect(rows.map(({ currency }) => currency)).toEqual(["JPY", "EUR", "KWD"]);
  });

  it("leave as files in whole units of each currency", async () => {
    const file = await cora
      .send("post", "/api/watch/export/csv", question([[{ field: "name", is: "has", text: "North" }]]))
      .buffer(true)
      .parse((response, done) => {
        const parts: Buffer[] = [];
        response.on("data", (part: Buffer) => parts.push(part));
        response.on("end", () => done(null, Buffer.concat(parts)));
      });
    expect(
      (parse(file.body as Buffer, { bom: true }) as string[][])
        .slice(1)
        .map(([, bac, currency]) => [bac, currency])
        .sort(),
    ).toEqual([
      ["1.125", "KWD"],
      ["100", "EUR"],
      ["5280624", "JPY"],
    ]);
  });
});

describe("a total counts nothing twice", () => {
  const ofEuros = async (where: WatchCondition[], rest: Partial<WatchQuestion> = {}): Promise<WatchAnswer> => {
    const { rows } = await ask(question([]));
    return ask(
      question(
        [[{ field: "project", is: "any", of: [rows.find(({ currency }) => currency === "EUR")!.project] }, ...where]],
        rest,
      ),
    );
  };

  it.each<[string, WatchCondition[], number, number]>([
    ["branches beside what is below them", [], 4, 200_00],
    ["a branch beside a part of what is below it", [{ field: "name", is: "hasNot", text: "South" }], 3, 100_00],
    [
      "branches alone: the topmost that have none below them",
      [{ field: "kind", is: "any", of: ["summary"] }],
      2,
      200_00,
    ],
    ["one branch alone", [{ field: "name", is: "has", text: "Yard" }], 1, 200_00],
  ])("%s", async (_, where, count, bac) => {
    const answer = await ofEuros(where);
    expect([answer.count, answer.sums["bac"]]).toEqual([count, bac]);
    const byKind = await ofEuros(where, { group: "kind", pivot: { rows: "kind", columns: null, sum: "bac" } });
    expect(byKind.groups.reduce((sum, { sums }) => sum + sums["bac"]!, 0)).toBe(bac);
    expect([byKind.pivot!.rowTotals.reduce((sum, each) => sum + each, 0), byKind.pivot!.total]).toEqual([bac, bac]);
  });

  it("nor under several names: two people on one lot make two groups and one amount", async () => {
    const answer = await ofEuros([{ field: "kind", is: "any", of: ["work"] }], {
      group: "people",
      pivot: { rows: "people", columns: null, sum: "bac" },
    });
    expect(answer.groups.map(({ name, sums }) => [name, sums["bac"]])).toEqual([
      ["Ann", 100_00],
      ["Bo", 200_00],
    ]);
    expect([answer.sums["bac"], answer.pivot!.rowTotals, answer.pivot!.columnTotals, answer.pivot!.total]).toEqual([
      200_00,
      [100_00, 200_00],
      [200_00],
      200_00,
    ]);
  });
});

describe("groups of which no row was sent", () => {
  it("are all told with their counts, and their rows fetched by name; all rows can be fetched", async () => {
    const asked = question([[{ field: "kind", is: "any", of: ["work"] }]], { group: "project" });
    const answer = await ask(asked);
    expect([answer.groupCount, answer.groups.map(({ count }) => count)]).toEqual([3, [2, 2, 2]]);
    const rows = async (group?: string | null) =>
      (await cora.send("post", "/api/watch/rows", { question: asked, ...(group === undefined ? {} : { group }) }))
        .body as WatchAnswer["rows"];
    for (const { name } of answer.groups)
      expect(await rows(name)).toEqual(answer.rows.filter(({ group }) => group === name));
    expect(await rows()).toEqual(answer.rows);
    expect(await rows("nowhere")).toEqual([]);
    const owners = question([[{ field: "kind", is: "any", of: ["work"] }]], { group: "owner" });
    expect(
      ((await cora.send("post", "/api/watch/rows", { question: owners, group: null })).body as unknown[]).length,
    ).toBe(6);
  });
});
