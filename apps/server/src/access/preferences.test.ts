import { TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let ines: Caller;
let tomas: Caller;

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
  tomas = await world.caller("tomas", ["projectManager"]);
});
afterAll(() => world.drop());

const keep = (who: Caller, name: string, value: string | null) =>
  who.send("put", `/api/preferences/${name}`, { value });
const kept = async (who: Caller): Promise<unknown> => (await who.get("/api/session")).body.preferences;

describe("how someone likes a page", () => {
  it("is kept for them alone, replaced, and forgotten", async () => {
    expect(await kept(ines)).toEqual({});
    await keep(ines, "plan.columns", "a");
    await keep(ines, "plan.columns", "b");
    await keep(tomas, "plan.columns", "c");
    expect([await kept(ines), await kept(tomas)]).toEqual([{ "plan.columns": "b" }, { "plan.columns": "c" }]);
    await keep(ines, "plan.columns", null);
    expect([await kept(ines), await kept(tomas)]).toEqual([{}, { "plan.columns": "c" }]);
  });

  it("has a name of plain letters, and a duration that a page can mean", async () => {
    expect((await keep(ines, "no good", "x")).status).toBe(422);
    expect((await keep(ines, "plan", "x".repeat(20_001))).status).toBe(422);
  });
});
