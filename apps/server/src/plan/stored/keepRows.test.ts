import { freezePlan, type Change } from "@chronometra/core";
import { smallPlan, TestWorld, type Caller } from "../../testing/testWorld.ts";
import { fillRows } from "../fillRows.ts";

const LENGTH = 120;
let world: TestWorld;
let ines: Caller;
let id: string;

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
  // One after the other, and half of them beside the way to the finish.
  const ids = Array.from({ length: LENGTH }, (_, i) => `a${i}`);
  const bundle = smallPlan({
    activities: [
      { id: "works", name: "Works “é”, 水", kind: "summary" },
      ...ids.map((each) => ({ id: each, name: `Step ${each}`, durationMinutes: 480, parent: "works" })),
      { id: "last", name: "Last", durationMinutes: 48_000 },
    ],
    links: ids.slice(1).map((to, i) => ({ from: ids[i]!, to })),
    assignments: [],
    costs: [],
  });
  const baseline = { number: 1, approvedOn: "2026-03-01", approvedBy: "x", reason: "y", ...freezePlan(bundle) };
  id = await world.addProject(ines.me, { ...bundle, baselines: [baseline] });
});
afterAll(() => world.drop());

const change = async (...changes: Change[]): Promise<void> => {
  const { revision } = (await ines.get(`/api/projects/${id}/plan`)).body as { revision: number };
  const { status } = await ines.send("post", `/api/projects/${id}/changes`, { revision, changes });
  expect(status).toBe(200);
};
const kept = (): Promise<Record<string, unknown>[]> =>
  world.database.query("select * from activity_row where project_id = ? order by activity_id", [id]);
const fromScratch = async (): Promise<Record<string, unknown>[]> => {
  await world.database.query("update project set kept_revision = 0 where id = ?", [id]);
  expect(await fillRows(world.database)).toBe(1);
  return kept();
};

describe("rows of which many change in the same columns", () => {
  it("are what they would be made from scratch: where only float moves, and where dates do", async () => {
    const before = await kept();
    await change({ type: "setDuration", activity: "last", minutes: 62_400 });
    const floats = await kept();
    expect(floats.filter((row, i) => row["total_float"] !== before[i]!["total_float"])).toHaveLength(LENGTH + 1);
    expect(await fromScratch()).toEqual(floats);

    await change({ type: "setDuration", activity: "a0", minutes: 960 });
    const dates = await kept();
    expect(dates.filter((row, i) => row["drift"] !== floats[i]!["drift"]).length).toBeGreaterThan(LENGTH - 2);
    expect(await fromScratch()).toEqual(dates);
  });

  it("are so where they lose what they had, and have it again", async () => {
    const before = await kept();
    await change({ type: "setParked", activity: "works", parked: true });
    const parked = await kept();
    expect(parked.filter((row) => row["total_float"] === null).length).toBeGreaterThan(LENGTH);
    expect(await fromScratch()).toEqual(parked);
    await change({ type: "setParked", activity: "works", parked: false });
    expect(await kept()).toEqual(before);
    await change({ type: "setName", activity: "works", name: 'Works "anew" \\ \' 水' });
    const named = await kept();
    expect(await fromScratch()).toEqual(named);
  });
});
