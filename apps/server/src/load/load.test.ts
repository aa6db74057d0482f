import type { Load, LoadCell } from "@chronometra/contract";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let pm: Caller;
let project: string;

const load = async (from: string, weeks: number): Promise<Load> => {
  const response = await pm.get(`/api/load/${from}/${weeks}`);
  if (response.status !== 200) throw new Error(response.text);
  return response.body as Load;
};
const cell = async (person: string, monday: string): Promise<LoadCell> =>
  (await pm.get(`/api/load/${person}/${monday}/work`)).body as LoadCell;

beforeAll(async () => {
  world = await TestWorld.open();
  pm = await world.caller("pia", ["projectManager"]);
  project = await world.addProject(pm.me, smallPlan());
  await world.addProject(
    pm.me,
    smallPlan({
      people: [
        { id: "ann", name: "Ann", calendar: "half" },
        { id: "bo", name: "Bo" },
      ],
      calendars: [
        ...smallPlan().calendars,
        { id: "half", name: "Half", base: "std", exceptions: [{ from: "2026-03-05", to: "2026-03-06", shifts: [] }] },
      ],
    }),
  );
});
afterAll(() => world.drop());

describe("load", () => {
  it("sums what is asked of someone in all projects, against the least time that any of them knows", async () => {
    const { weeks, people } = await load("2026-03-04", 3);
    expect(weeks).toEqual(["2026-03-02", "2026-03-09", "2026-03-16"]);
    const ann = people.find(({ id }) => id === "ann")!;
    // 40 h in each of two plans; in one of them Ann is away on two days.
    expect(ann).toMatchObject({ capacity: [1440, 2400, 2400], demand: [4800, 0, 0], things: [2, 0, 0] });
    // 24 h in each, from Monday 9 on.
    expect(people.find(({ id }) => id === "bo")!.demand).toEqual([0, 2880, 0]);
  });

  it("expects everywhere the same of someone: the least that any plan knows, whichever plan comes first", async () => {
    const ann = await world.caller("ann", ["contributor"], "ann");
    const own = (await ann.get("/api/desk/week/2026-03-02")).body as { days: { expectedMinutes: number }[] };
    expect(own.days.map(({ expectedMinutes }) => expectedMinutes)).toEqual([480, 480, 480, 0, 0, 0, 0]);
    const { people } = (await pm.get("/api/time/2026-03-02")).body as {
      people: { id: string; expectedMinutes: number }[];
    };
    expect(people.find(({ id }) => id === "ann")!.expectedMinutes).toBe(1440);
    expect((await load("2026-03-02", 1)).people.find(({ id }) => id === "ann")!.capacity).toEqual([1440]);
  });

  it("opens a week into the work that it is, adding up to it", async () => {
    const rows = await cell("ann", "2026-03-02");
    expect(rows.map(({ name, minutes, mayEdit }) => [name, minutes, mayEdit])).toEqual([
      ["Dig", 2400, true],
      ["Dig", 2400, true],
    ]);
    expect(await cell("ann", "2026-03-16")).toEqual([]);
  });

  it("follows work that is moved to someone else, within the same answer to a watchlist's act", async () => {
    await pm.send("post", "/api/watch/act", {
      rows: [{ project, activity: "dig" }],
      act: { do: "reassign", from: "ann", to: "bo" },
    });
    const { people } = await load("2026-03-02", 1);
    expect(people.map(({ id, demand }) => [id, demand])).toEqual([
      ["ann", [2400]],
      ["bo", [2400]],
    ]);
  });

  it("tells of whoever has time, also where nothing is asked of them", async () => {
    await world.addProject(
      pm.me,
      smallPlan({
        people: [
          { id: "ann", name: "Ann" },
          { id: "bo", name: "Bo" },
          { id: "idle", name: "Ida" },
        ],
      }),
    );
    expect((await load("2026-03-02", 1)).people.find(({ id }) => id === "idle")).toMatchObject({
      name: "Ida",
      capacity: [2400],
      demand: [0],
      things: [0],
    });
  });

  it("refuses days and spans that are none", async () => {
    expect((await pm.get("/api/load/soon/3")).body.message).toMatch(/is no date/);
    expect((await pm.get("/api/load/2026-03-02/0")).body.message).toMatch(/1 to 106/);
  });
});
