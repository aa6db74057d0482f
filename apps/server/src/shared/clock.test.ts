import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";
import { dayOf, isTimeZone } from "./clock.ts";

describe("a day", () => {
  it.each([
    ["Pacific/Auckland", "2026-11-29"],
    ["UTC", "2026-11-28"],
    ["America/Los_Angeles", "2026-11-28"],
  ])("in %s, late on 28 November by the world's clock, is %s", (timeZone, day) =>
    expect(dayOf({ timeZone }, new Date("2026-11-28T20:00:00Z"))).toBe(day),
  );

  it("begins at midnight of the zone, also where clocks are put back", () => {
    const berlin = { timeZone: "Europe/Berlin" };
    expect(
      ["2026-10-24T21:59:59Z", "2026-10-24T22:00:00Z", "2026-10-25T22:59:59Z", "2026-10-25T23:00:00Z"].map((at) =>
        dayOf(berlin, new Date(at)),
      ),
    ).toEqual(["2026-10-24", "2026-10-25", "2026-10-25", "2026-10-26"]);
    expect([isTimeZone("Europe/Berlin"), isTimeZone("Mars/Base")]).toEqual([true, false]);
  });
});

describe("people west and east of the server", () => {
  let world: TestWorld;
  let ann: Caller;
  let bo: Caller;
  let project: string;
  beforeAll(async () => {
    world = await TestWorld.open();
    const tomas = await world.caller("tomas", ["projectManager"]);
    ann = await world.caller("ann", ["contributor"], "ann");
    bo = await world.caller("bo", ["contributor"], "bo");
    await ann.send("put", "/api/session/time-zone", { timeZone: "Pacific/Kiritimati" });
    await bo.send("put", "/api/session/time-zone", { timeZone: "Pacific/Pago_Pago" });
    project = await world.addProject(tomas.me, smallPlan());
  });
  afterAll(() => world.drop());

  it("each have a today of their own, the same on desk and week, and book for it", async () => {
    const todays = [];
    for (const [who, timeZone] of [
      [ann, "Pacific/Kiritimati"],
      [bo, "Pacific/Pago_Pago"],
    ] as const) {
      const day = dayOf({ timeZone }, new Date());
      const desk = (await who.get("/api/desk")).body as { today: string };
      const week = (await who.get(`/api/desk/week/${day}`)).body as { today: string };
      expect([desk.today, week.today]).toEqual([day, day]);
      const activity = who === ann ? "dig" : "pour";
      expect((await who.send("post", "/api/desk/reports", { project, activity, date: day, minutes: 30 })).status).toBe(
        200,
      );
      todays.push(day);
    }
    // A day and an hour apart: they are never on the same day.
    expect(todays[0]).not.toBe(todays[1]);
  });

  it("say where they are by a zone that there is", async () => {
    expect((await ann.send("put", "/api/session/time-zone", { timeZone: "Mars/Base" })).body.message).toMatch(
      /is no time zone/,
    );
    expect((await ann.send("put", "/api/session/time-zone", { timeZone: null })).status).toBe(200);
    expect(((await ann.get("/api/session")).body as { me: { timeZone: string } }).me.timeZone).toBe(
      Intl.DateTimeFormat().resolvedOptions().timeZone,
    );
    await ann.send("put", "/api/session/time-zone", { timeZone: "Pacific/Kiritimati" });
  });
});
