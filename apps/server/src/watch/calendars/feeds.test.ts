import ICAL from "ical.js";
import request from "supertest";
import { smallPlan, TestWorld, type Caller } from "../../testing/testWorld.ts";

let world: TestWorld;
let controller: Caller;

beforeAll(async () => {
  world = await TestWorld.open();
  controller = await world.caller("cora", ["controller"]);
  for (const code of ["ONE", "TWO"])
    await world.addProject(controller.me, smallPlan({ project: { ...smallPlan().project, code } }));
});
afterAll(() => world.drop());

describe("what a calendar program fetches", () => {
  it("says what moved, and nothing where nothing did; leads back into the app", async () => {
    const made = (await controller.send("post", "/api/calendars", { subject: "deadlines" })).body as { path: string };
    const fetching = (etag = "") =>
      request(world.app.app).get(made.path).set("Host", "plans.example.org").set("If-None-Match", etag);
    const eventsIn = (text: string) =>
      new ICAL.Component(ICAL.parse(text) as never).getAllSubcomponents("vevent").map((event) => ({
        on: event.getFirstPropertyValue("dtstart")!.toString(),
        sequence: event.getFirstPropertyValue("sequence"),
        changed: event.getFirstPropertyValue("last-modified")!.toString(),
        url: event.getFirstPropertyValue("url"),
        transparent: event.getFirstPropertyValue("transp"),
      }));
    const first = await fetching();
    const [before] = eventsIn(first.text);
    expect(before).toMatchObject({ sequence: 0, transparent: "TRANSPARENT" });
    expect(before!.url).toMatch(/^http:\/\/plans\.example\.org\/projects\//);
    expect(first.text).toMatch(/REFRESH-INTERVAL;VALUE=DURATION:PT1H/);
    const [, project, activity] = /\/projects\/([^/]+)\/plan\?at=(.+)$/.exec(String(before!.url))!;
    expect((await fetching(first.get("etag"))).status).toBe(304);
    const { revision } = (await controller.get(`/api/projects/${project}/plan`)).body as { revision: number };
    const moved = async (date: string, at: number) =>
      controller.send("post", `/api/projects/${project}/changes`, {
        revision: at,
        changes: [{ type: "setDeadline", activity, date }],
      });
    await new Promise((later) => setTimeout(later, 1100));
    expect((await moved("2026-03-17", revision)).status).toBe(200);
    const after = eventsIn((await fetching(first.get("etag"))).text);
    const own = after.find(({ url }) => url === before!.url)!;
    expect(own).toMatchObject({ on: "2026-03-17", sequence: 1 });
    expect(own.changed > before!.changed).toBe(true);
    expect(after.filter((each) => each !== own).map(({ sequence }) => sequence)).toEqual(after.slice(1).map(() => 0));
    await moved("2026-03-13", revision + 1);
    expect(eventsIn((await fetching()).text).find(({ url }) => url === before!.url)).toMatchObject({ sequence: 2 });
  });
});
