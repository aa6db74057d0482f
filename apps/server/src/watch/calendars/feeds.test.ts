import ICAL from "ical.js";
import request from "supertest";
import { sentDays } from "./sentDays.ts";
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

const NOW = new Date("2026-12-01T10:00:00Z");
const yearsLater = (years: number): Date => new Date(NOW.getTime() + years * 365 * 24 * 3_600_000);
const day = (id: string, from = "2026-12-04") => ({ id, from, to: from, title: id, words: "", path: "/" });

describe("what was sent at an address", () => {
  it("is known of what comes back, by two who ask at once too, and forgotten of what is long gone", async () => {
    const send = async (days: ReturnType<typeof day>[], at = NOW) =>
      (await sentDays(world.database, "h", days, at)).map(({ id, sequence }) => `${id} ${sequence}`);
    const both = await Promise.all([send([day("a"), day("b")]), send([day("a"), day("b")])]);
    expect(both).toEqual([
      ["a 0", "b 0"],
      ["a 0", "b 0"],
    ]);
    expect(await send([day("a", "2026-12-05")])).toEqual(["a 1"]);
    expect(await send([day("a", "2026-12-05"), day("b", "2026-12-07")])).toEqual(["a 1", "b 1"]);
    await send([day("a", "2026-12-05")], yearsLater(2));
    expect(await send([day("a", "2026-12-05"), day("b")], yearsLater(2))).toEqual(["a 1", "b 0"]);
  });
});

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
