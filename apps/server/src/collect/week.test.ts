import type { WeekView } from "@chronometra/contract";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";
import { ReportEntity } from "./kept/reportEntity.ts";

let world: TestWorld;
let tomas: Caller;
let ann: Caller;
let project: string;

const DAY: [string, string][] = [
  ["08:00", "12:00"],
  ["13:00", "17:00"],
];
const CALENDARS = [
  { id: "std", name: "Standard", week: { mon: DAY, tue: DAY, wed: DAY, thu: DAY, fri: DAY } },
  {
    id: "leave-ann",
    name: "Ann's days",
    base: "std",
    exceptions: [{ from: "2026-03-06", to: "2026-03-06", shifts: [] }],
  },
];

beforeAll(async () => {
  world = await TestWorld.open();
  tomas = await world.caller("tomas", ["projectManager"]);
  ann = await world.caller("ann", ["contributor"], "ann");
});
beforeEach(async () => {
  await world.database.query("delete from report");
  await world.database.query("delete from plan_row where table_name = 'assignments'");
  project = await world.addProject(
    tomas.me,
    smallPlan({
      calendars: CALENDARS,
      people: [
        { id: "ann", name: "Ann", calendar: "leave-ann" },
        { id: "bo", name: "Bo" },
      ],
      project: {
        code: `W-${Math.random().toString(36).slice(2, 9)}`,
        name: "Slipway",
        currency: "EUR",
        start: "2026-03-02",
        calendar: "std",
        dataDate: "2026-03-02",
      },
    }),
  );
});
afterAll(() => world.drop());

const week = async (date = "2026-03-04"): Promise<WeekView> =>
  (await ann.get(`/api/desk/week/${date}`)).body as WeekView;
const write = (...cells: { date: string; minutes: number; activity?: string; note?: string }[]) =>
  ann.send("put", "/api/desk/week", { cells: cells.map((cell) => ({ project, activity: "dig", ...cell })) });
const row = async (activity = "dig") =>
  (await week()).rows.find((each) => each.project === project && each.activity === activity)!;
const accept = async (): Promise<void> => {
  const ids = (await world.database.getRepository(ReportEntity).findBy({ state: "submitted" })).map(({ id }) => id);
  const done = await tomas.send("post", "/api/reports/decision", { ids, decision: "accept" });
  if (done.status !== 200) throw new Error(done.text);
};

describe("a person's week", () => {
  it("begins on Monday, and expects what their calendar works, leave taken off", async () => {
    const { from, days } = await week("2026-03-08");
    expect([from, days.map(({ expectedMinutes }) => expectedMinutes)]).toEqual([
      "2026-03-02",
      [480, 480, 480, 480, 0, 0, 0],
    ]);
    expect((await ann.get("/api/desk/week/2026-02-30")).status).toBe(422);
  });

  it("shows open work and what was booked; a cell written again replaces what waits, with its note", async () => {
    expect(
      (await write({ date: "2026-03-03", minutes: 120, note: "first pile" }, { date: "2026-03-04", minutes: 90 }))
        .status,
    ).toBe(200);
    expect((await row()).cells.map(({ waiting }) => waiting)).toEqual([0, 120, 90, 0, 0, 0, 0]);
    await write({ date: "2026-03-03", minutes: 180 });
    expect((await row()).cells[1]).toEqual({ posted: 0, waiting: 180, returned: 0, notes: ["first pile"] });
    await write({ date: "2026-03-03", minutes: 0 });
    expect((await row()).cells[1]).toMatchObject({ waiting: 0 });
  });

  it("what is accepted stays: more is added to it, less is refused in words, and nothing of the list is stored then", async () => {
    await write({ date: "2026-03-03", minutes: 120 });
    await accept();
    await write({ date: "2026-03-03", minutes: 150 });
    expect((await row()).cells[1]).toMatchObject({ posted: 120, waiting: 30 });
    const less = await write({ date: "2026-03-04", minutes: 60 }, { date: "2026-03-03", minutes: 60 });
    expect([less.status, less.body.message]).toEqual([
      422,
      expect.stringContaining("2 h of 3 Mar 2026 are accepted already"),
    ]);
    expect((await row()).cells.slice(1, 3)).toMatchObject([{ posted: 120, waiting: 30 }, { waiting: 0 }]);
  });

  it("a report that says a percent too is left as it is, and counts", async () => {
    await ann.send("post", "/api/desk/reports", {
      project,
      activity: "dig",
      date: "2026-03-03",
      minutes: 60,
      percent: 20,
    });
    await write({ date: "2026-03-03", minutes: 100 });
    expect((await row()).cells[1]).toMatchObject({ waiting: 100 });
    expect(await world.database.getRepository(ReportEntity).countBy({ state: "submitted", percent: 20 })).toBe(1);
    expect((await write({ date: "2026-03-03", minutes: 30 })).status).toBe(422);
  });

  it("holds 24 hours a day, nothing of others' work, and nothing that has not come", async () => {
    expect((await write({ date: "2026-03-03", minutes: 1441 })).status).toBe(422);
    expect((await write({ date: "2026-03-03", minutes: 60, activity: "pour" })).body.message).toMatch(
      /not assigned to you/,
    );
    expect((await write({ date: "2099-03-03", minutes: 60 })).body.message).toMatch(/has not come yet/);
    expect((await week()).rows.filter((each) => each.project === project).map(({ activity }) => activity)).toEqual([
      "dig",
    ]);
  });
});
