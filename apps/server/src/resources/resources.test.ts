import type { Calendar } from "@chronometra/core";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";
import { publicHolidays } from "./holidays.ts";

let world: TestWorld;
let ines: Caller;
let tomas: Caller;
let one: string;
let two: string;
let other: string;

const DAY: [string, string][] = [
  ["08:00", "12:00"],
  ["13:00", "17:00"],
];
const WEEK = { mon: DAY, tue: DAY, wed: DAY, thu: DAY, fri: DAY };
const closed = (from: string, to: string): Calendar => ({
  id: "std",
  name: "Standard",
  week: WEEK,
  exceptions: [{ from, to, shifts: [], label: "Shutdown" }],
});

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
  tomas = await world.caller("tomas", ["projectManager"]);
});
beforeEach(async () => {
  const plan = (code: string) =>
    smallPlan({
      project: {
        code: `${code}-${Math.random().toString(36).slice(2, 8)}`,
        name: code,
        currency: "EUR",
        start: "2026-03-02",
        calendar: "std",
      },
    });
  one = await world.addProject(tomas.me, plan("ONE"));
  two = await world.addProject(ines.me, plan("TWO"));
  other = await world.addProject(ines.me, {
    ...plan("OTHER"),
    calendars: [{ id: "std", name: "Standard", week: WEEK, dayMinutes: 450 }],
  });
});
afterAll(() => world.drop());

const calendarOf = async (project: string): Promise<Calendar> =>
  (await ines.get(`/api/projects/${project}/plan`)).body.tables.calendars.find(
    ([key]: [string]) => key === "std",
  )[1] as Calendar;

describe("a calendar used by several projects", () => {
  it("is told with where else it is used, whether it says the same there, and whether one may change it", async () => {
    const use = (await tomas.get(`/api/projects/${one}/shared`)).body.calendars.std as {
      id: string;
      same: boolean;
      mayEdit: boolean;
    }[];
    expect(use.find(({ id }) => id === two)).toMatchObject({ name: "TWO", same: true, mayEdit: false });
    expect(use.find(({ id }) => id === other)).toMatchObject({ same: false });
    expect((await ines.get(`/api/projects/${one}/shared`)).body.people.ann.length).toBeGreaterThanOrEqual(2);
  });

  it("of a closed project is not offered to be written, and comes back with it", async () => {
    const usedIn = async (): Promise<string[]> =>
      ((await ines.get(`/api/projects/${one}/shared`)).body.calendars.std as { id: string }[]).map(({ id }) => id);
    const { revision } = (await ines.get(`/api/projects/${two}/plan`)).body as { revision: number };
    await ines.send("post", `/api/projects/${two}/changes`, {
      revision,
      changes: [{ type: "setDataDate", date: "2026-03-06" }],
    });
    const { activities } = (await ines.get(`/api/projects/${two}/closing`)).body as { activities: { id: string }[] };
    expect(await usedIn()).toContain(two);
    expect(
      (
        await ines.send("post", `/api/projects/${two}/closing`, {
          word: "ended short",
          activities: Object.fromEntries(activities.map(({ id }) => [id, "dropped"])),
        })
      ).status,
    ).toBe(200);
    expect(await usedIn()).not.toContain(two);
    expect((await ines.get(`/api/projects/${two}/performance/person`)).body.broken).toEqual([]);
    expect((await ines.send("delete", `/api/projects/${two}/closing`, { reason: "taken up again" })).status).toBe(200);
    expect(await usedIn()).toContain(two);
  });

  it("is previewed in each project without storing anything, and written in all of them or none", async () => {
    const body = { projects: [one, two], rows: [{ table: "calendars", row: closed("2026-03-04", "2026-03-06") }] };
    const effect = (await ines.send("post", "/api/shared/effect", body)).body as {
      name: string;
      effect: { finish: { from: string; to: string; days: number } };
    }[];
    // Three days of dig's first week are closed, so what ended on Wednesday the 11th ends on Monday the 16th.
    expect(effect.map(({ name, effect: { finish } }) => [name, finish.from, finish.to])).toEqual([
      ["ONE", "2026-03-11", "2026-03-16"],
      ["TWO", "2026-03-11", "2026-03-16"],
    ]);
    expect(await calendarOf(one)).not.toHaveProperty("exceptions");
    const stored = await ines.send("post", "/api/shared", body);
    expect(stored.body).toHaveLength(2);
    expect([await calendarOf(one), await calendarOf(two)]).toEqual([
      closed("2026-03-04", "2026-03-06"),
      closed("2026-03-04", "2026-03-06"),
    ]);
    // Saying the same again stores nothing; what was stored is undone like any change.
    expect((await ines.send("post", "/api/shared", body)).body).toEqual([]);
    for (const { project, revision } of stored.body)
      expect((await ines.send("post", `/api/projects/${project}/undo`, { revision })).status).toBe(200);
    expect(await calendarOf(two)).not.toHaveProperty("exceptions");
  });

  it("is not written anywhere where one of the projects is not one's own, or would not hold", async () => {
    const rows = [{ table: "calendars", row: closed("2026-03-04", "2026-03-06") }];
    expect((await tomas.send("post", "/api/shared", { projects: [one, two], rows })).status).toBe(403);
    const never = [{ table: "calendars", row: { id: "std", name: "Standard", week: {} } }];
    const refused = await ines.send("post", "/api/shared", { projects: [one, two], rows: never });
    expect([refused.status, refused.body.message]).toEqual([422, expect.stringContaining("never works")]);
    expect(await calendarOf(one)).not.toHaveProperty("exceptions");
  });

  it("one that it rests on comes along where it is missing, and stays as it is where it is not", async () => {
    const nights: Calendar = { id: "nights", name: "Nights", base: "std", week: { mon: [["22:00", "24:00"]] } };
    const body = {
      projects: [other],
      rows: [
        { table: "calendars", row: closed("2026-03-04", "2026-03-06"), ifMissing: true },
        { table: "calendars", row: nights },
      ],
    };
    expect((await ines.send("post", "/api/shared", body)).status).toBe(200);
    expect(await calendarOf(other)).toEqual({ id: "std", name: "Standard", week: WEEK, dayMinutes: 450 });
    const history = (await ines.get(`/api/projects/${other}/history`)).body as { label: string }[];
    expect(history[0]!.label).toBe("Calendar Nights");
  });

  it("comes to a project that does not have it yet, with the person whose leave it holds", async () => {
    const leave: Calendar = {
      id: "leave-ann",
      name: "Ann's leave",
      base: "std",
      exceptions: [{ from: "2026-03-03", to: "2026-03-03", shifts: [] }],
    };
    const rows = [
      { table: "calendars", row: leave },
      { table: "people", row: { id: "ann", name: "Ann", calendar: "leave-ann" } },
    ];
    expect((await ines.send("post", "/api/shared", { projects: [one, two], rows })).status).toBe(200);
    const { tables } = (await ines.get(`/api/projects/${two}/plan`)).body;
    expect([tables.calendars.at(-1)[1], tables.people[0][1]]).toEqual([
      leave,
      { id: "ann", name: "Ann", calendar: "leave-ann" },
    ]);
  });
});

describe("public holidays", () => {
  // Dates that the states themselves publish: Easter 2026 is 5 April; Corpus Christi is kept in Bavaria and not in Berlin.
  it("are those of the country and region, movable feasts among them", async () => {
    const bavaria = (await publicHolidays("DE-BY", 2026, 2026)).map(({ from }) => from);
    expect(bavaria).toEqual(
      expect.arrayContaining([
        "2026-01-01",
        "2026-01-06",
        "2026-04-03",
        "2026-04-06",
        "2026-05-01",
        "2026-05-14",
        "2026-05-25",
        "2026-06-04",
        "2026-10-03",
        "2026-12-25",
        "2026-12-26",
      ]),
    );
    expect((await publicHolidays("DE-BE", 2026, 2026)).map(({ from }) => from)).not.toContain("2026-06-04");
    expect((await publicHolidays("FR", 2026, 2027)).filter(({ from }) => from.endsWith("07-14"))).toHaveLength(2);
  });

  it("lie in the years asked for, each ending no earlier than it begins", async () => {
    for (const place of ["NO", "GB-SCT", "IN", "TR", "JP", "US"])
      for (const { from, to } of await publicHolidays(place, 2025, 2028))
        expect([from <= to, from >= "2024-12-25" && from <= "2029-01-05"]).toEqual([true, true]);
  });

  it("are refused of a place that is none, and of too many years", async () => {
    expect((await ines.get("/api/holidays/ZZ/2026/2026")).status).toBe(404);
    expect((await ines.get("/api/holidays/DE-QQ/2026/2026")).status).toBe(404);
    expect((await ines.get("/api/holidays/DE/2026/2090")).status).toBe(422);
    const countries = (await ines.get("/api/holidays")).body as { code: string; regions: unknown[] }[];
    expect([countries.length > 150, countries.find(({ code }) => code === "DE")!.regions.length]).toEqual([true, 16]);
  });
});
