import type { Announcement, Inbox } from "@chronometra/contract";
import { todayOf } from "../../shared/clock.ts";
import { smallPlan, TestWorld, type Caller } from "../../testing/testWorld.ts";

let world: TestWorld;
let tomas: Caller, radu: Caller, ines: Caller, cora: Caller, ann: Caller, zed: Caller, quill: Caller;
let port: string, yard: string, project: string;
let today: string;

const say = (who: Caller, over: object = {}) =>
  who.send("post", "/api/announcements", { project, group: null, text: "Closed on Friday.", until: today, ...over });
const texts = async (who: Caller): Promise<string[]> =>
  ((await who.get("/api/announcements")).body as Announcement[]).map(({ text }) => text);
const told = async (who: Caller): Promise<string[]> =>
  ((await who.get("/api/inbox")).body as Inbox).notices.map(({ subject }) => subject);
const group = async (name: string, parent: string | null): Promise<string> =>
  (await ines.send("post", "/api/programmes", { name, parent })).body.id as string;

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
  tomas = await world.caller("tomas", ["projectManager"]);
  radu = await world.caller("radu", ["projectManager"]);
  ann = await world.caller("ann", ["contributor"], "ann");
  zed = await world.caller("zed", ["contributor"], "zed");
  quill = await world.caller("quill", ["reader"]);
  port = await group("Port", null);
  yard = await group("Yard", port);
  cora = await world.caller("cora", ["controller"], null, { controller: [yard] });
  today = todayOf(tomas.me);
});
afterAll(() => world.drop());
beforeEach(async () => {
  for (const table of ["announcement", "notice", "mail"]) await world.database.query(`delete from ${table}`);
  await world.database.query("delete from plan_row where table_name = 'assignments'");
  project = await world.addProject(tomas.me, smallPlan(), yard);
});

describe("an announcement", () => {
  it("of a project is told once to all who work there, and stands for all who see it until its last day", async () => {
    expect((await say(tomas)).status).toBe(200);
    expect(await told(ann)).toEqual([expect.stringMatching(/^For all of T-.*: Closed on Friday\.$/)]);
    for (const who of [ann, quill, ines, cora, tomas]) expect(await texts(who)).toEqual(["Closed on Friday."]);
    expect([await texts(zed), await told(zed), await told(quill)]).toEqual([[], [], []]);
    await world.database.query("update announcement set until = '2020-01-01'");
    expect(await texts(ann)).toEqual([]);
  });

  it("of a group is for all of the projects below it", async () => {
    expect((await say(ines, { project: null, group: port, text: "Storm." })).status).toBe(200);
    expect([await texts(ann), await texts(zed), (await told(tomas)).length]).toEqual([["Storm."], [], 1]);
    expect((await say(cora, { project: null, group: port })).status).toBe(403);
    expect((await say(cora, { project: null, group: yard })).status).toBe(200);
  });

  it("is ended for all, and let stand again, by whoever may; refused to others, and without a subject or a day to come", async () => {
    const [{ id }] = (await say(tomas)).body as [Announcement];
    const end = (who: Caller, ended: boolean) => who.send("put", `/api/announcements/${id}`, { ended });
    expect((await end(radu, true)).status).toBe(403);
    expect((await end(ann, true)).status).toBe(403);
    expect((await end(tomas, true)).body).toEqual([]);
    expect(await texts(ann)).toEqual([]);
    expect((await end(ines, false)).status).toBe(200);
    expect(await texts(ann)).toEqual(["Closed on Friday."]);
    expect((await say(radu)).status).toBe(403);
    expect((await say(tomas, { until: "2020-01-01" })).body.message).toMatch(/is over/);
    expect((await say(tomas, { group: port })).status).toBe(422);
    expect((await say(tomas, { text: " " })).status).toBe(422);
    expect((await say(tomas, { project: "00000000-0000-0000-0000-000000000000" })).status).toBe(404);
  });
});
