import type { Boxes, BoxLookBack, GatheredView } from "@chronometra/contract";
import type { Change } from "@chronometra/core";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let pia: Caller, cora: Caller, ann: Caller;
let project: string;

beforeAll(async () => {
  world = await TestWorld.open();
  pia = await world.caller("pia", ["projectManager"]);
  cora = await world.caller("cora", ["controller"]);
  ann = await world.caller("ann", ["contributor"], "ann");
  const plan = smallPlan();
  project = await world.addProject(pia.me, {
    ...plan,
    project: { ...plan.project, dataDate: "2026-03-04" },
    timeEntries: [{ activity: "dig", person: "ann", date: "2026-03-03", minutes: 300, state: "posted" }],
  });
});
afterAll(() => world.drop());

const boxes = async (by = pia): Promise<Boxes> => (await by.get(`/api/projects/${project}/boxes`)).body as Boxes;
const store = async (changes: Change[], by = pia, revision?: number) =>
  by.send("post", `/api/projects/${project}/changes`, { revision: revision ?? (await boxes(by)).revision, changes });
const box = (id: string, first: string, last: string, more: object = {}): Change => ({
  type: "addRow",
  ...{ table: "timeboxes" as const, key: id, row: { id, name: `Box ${id}`, first, last, ...more } },
});
const into = (activity: string, at: string | null, rank = 1): Change => ({
  ...{ type: "addRow", table: "boxed", key: activity, row: { ...(at === null ? {} : { box: at }), rank } },
});
const moved = (activity: string, at: string | null): Change => ({
  ...{ type: "editRow", table: "boxed", key: activity, set: { box: at } },
});

describe("timeboxes of a project", () => {
  it("are empty at first, and all that is not finished waits", async () => {
    const told = await boxes();
    expect(told).toMatchObject({ boxes: [], mayEdit: true, branches: [{ id: "works", name: "Works" }] });
    expect(told.waiting.map(({ id, path }) => [id, path])).toEqual([
      ["dig", "Works"],
      ["pour", "Works"],
      ["open", ""],
    ]);
  });

  it("hold what is put in them, its hours and what is left, and give it its dates", async () => {
    const first = await store([
      box("1", "2026-03-02", "2026-03-06"),
      box("2", "2026-03-16", "2026-03-20", { branch: "works" }),
      into("dig", "1"),
      into("pour", "2"),
    ]);
    expect(first.status).toBe(200);
    const told = await boxes(cora);
    expect(told.boxes.map(({ id, branch, count, spills }) => [id, branch?.name ?? null, count, spills])).toEqual([
      ["1", null, 1, 1],
      ["2", "Works", 1, 0],
    ]);
    expect(told.boxes[0]).toMatchObject({
      bookedMinutes: 300,
      plannedMinutes: 2400,
      capacityMinutes: 2400,
      daysLeft: 0,
    });
    expect(told.boxes[0]!.burnt.map(({ leftMinutes }) => leftMinutes)).toEqual([2700, 2700, 2400, 2400, 2400, 2400]);
    expect(told.boxes[1]!.works[0]).toMatchObject({ start: "2026-03-16", people: ["Bo"], state: "notStarted" });
    expect(told.waiting.map(({ id }) => id)).toEqual(["open"]);
    // The same day stands on the page of deadlines and in the plan as the open format has it.
    const file = await pia.get(`/api/projects/${project}/export/json1`);
    const bundle = JSON.parse(file.text ?? String(file.body)) as { activities: { id: string }[] };
    expect(bundle.activities.find(({ id }) => id === "pour")).toMatchObject({
      wish: { type: "startNotBefore", date: "2026-03-16", reason: "timebox “Box 2”" },
    });
  });

  it("remember what was meant for them, what came in later and what moved on, an undo too", async () => {
    await store([moved("dig", "2")]);
    const undone = await store([moved("dig", "1")]);
    expect(undone.status).toBe(200);
    const back = async (id: string): Promise<BoxLookBack["lines"]> =>
      ((await pia.get(`/api/projects/${project}/boxes/${id}/back`)).body as BoxLookBack).lines;
    // The lists were stored long after the box had begun.
    expect(await back("1")).toEqual([
      ...[{ activity: "dig", name: "Dig", plannedMinutes: 2400, meant: false, fate: "open", to: null }].map((line) => ({
        ...line,
        cameOn: expect.stringMatching(/^\d{4}-\d\d-\d\d$/) as string,
      })),
    ]);
    expect((await back("2")).map(({ activity, fate, to }) => [activity, fate, to])).toEqual([
      ["pour", "open", null],
      ["dig", "movedOn", "Box 1"],
    ]);
    expect((await pia.get(`/api/projects/${project}/boxes/none/back`)).status).toBe(404);
  });

  it("are filled by two at once: what each moves is kept, the same thing moved twice is told", async () => {
    const { revision } = await boxes();
    expect((await store([moved("dig", "2")], pia, revision)).status).toBe(200);
    expect(
      (
        await store(
          [
            { type: "addRow", table: "activities", key: "new", row: { id: "new", name: "New" }, before: "dig" },
            into("new", "1"),
          ],
          cora,
          revision,
        )
      ).status,
    ).toBe(200);
    const twice = await store([moved("dig", null)], cora, revision);
    expect([twice.status, JSON.stringify(twice.body)]).toEqual([409, expect.stringMatching(/Dig: timebox/)]);
    const told = await boxes();
    expect(told.boxes.map(({ works }) => works.map(({ id }) => id))).toEqual([["new"], ["dig", "pour"]]);
    // With neither duration nor hours it lasts the whole box.
    expect(told.boxes[0]!.works[0]).toMatchObject({ leftMinutes: 0, finish: "2026-03-11" });
  });

  it("know what stood in them from the beginning, and that a place in one is no move", async () => {
    // As a plan that began with another's boxes: nobody put anything into them here.
    await world.database.query("update change_list set touched = '[]' where project_id = ?", [project]);
    const back = async (id: string): Promise<unknown[]> =>
      ((await pia.get(`/api/projects/${project}/boxes/${id}/back`)).body as BoxLookBack).lines.map(
        ({ activity, meant, fate, to }) => [activity, meant, fate, to],
      );
    const rank: Change = { type: "editRow", table: "boxed", key: "pour", set: { rank: 9 } };
    expect((await store([rank])).status).toBe(200);
    expect(await back("2")).toEqual([
      ["dig", true, "open", null],
      ["pour", true, "open", null],
    ]);
    const all = await boxes();
    await store([moved("dig", "1"), moved("dig", null), moved("dig", "1")]);
    expect((await back("2")).find((line) => (line as string[])[0] === "dig")).toEqual([
      "dig",
      true,
      "movedOn",
      "Box 1",
    ]);
    await pia.send("post", `/api/projects/${project}/undo`, { revision: all.revision + 1 });
  });

  it("stand beside milestones that gather: counts, hours and how far, and nobody else's plan", async () => {
    const rows = ["dig", "new"].map((key): Change => ({
      type: "addRow",
      table: "gathered",
      key,
      row: { milestone: "open" },
    }));
    expect((await store(rows)).status).toBe(200);
    const { body } = await cora.get(`/api/projects/${project}/milestones/open`);
    expect(body).toMatchObject({
      ...{ name: "Open", count: 2, notStarted: 2, complete: 0, blocked: 0, percentComplete: null, mayEdit: true },
      ...{ plannedMinutes: 2400, bookedMinutes: 300, leftMinutes: 2400, reached: false, deadline: "2026-03-13" },
    });
    expect((body as GatheredView).works.map(({ id, linked }) => [id, linked])).toEqual([
      ["new", false],
      ["dig", false],
    ]);
    expect((body as GatheredView).trend[0]).toEqual({ until: "2026-03-08", complete: 0, bookedMinutes: 300 });
    expect((await cora.get(`/api/projects/${project}/milestones/dig`)).status).toBe(404);
    expect((await ann.get(`/api/projects/${project}/milestones/open`)).status).toBe(403);
  });

  it("are no place for what begins by another wish, and not for everybody", async () => {
    const refused = await store([{ type: "setWish", activity: "pour", wish: { type: "startOn", date: "2026-03-17" } }]);
    expect([refused.status, JSON.stringify(refused.body)]).toEqual([
      422,
      expect.stringMatching(/stands in the timebox/),
    ]);
    expect((await ann.get(`/api/projects/${project}/boxes`)).status).toBe(403);
    expect((await store([moved("pour", null)], ann, 1)).status).toBe(403);
  });
});
