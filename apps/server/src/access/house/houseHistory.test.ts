import fc from "fast-check";
import { DEFAULT_THRESHOLDS } from "@chronometra/core";
import type { HouseHistory } from "@chronometra/contract";
import { differingFields, type NotedField } from "../../shared/noted/noteHouse.ts";
import { TestWorld, type Caller } from "../../testing/testWorld.ts";

let world: TestWorld;
let ines: Caller, dagny: Caller, tomas: Caller;

const history = async (about = "", who = ines): Promise<HouseHistory["changes"]> =>
  ((await who.get(`/api/house-history?about=${about}`)).body as HouseHistory).changes;
const ok = async (call: Promise<{ status: number; body: { message?: string } }>): Promise<void> => {
  const { status, body } = await call;
  expect([status, body.message]).toEqual([200, undefined]);
};

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
  dagny = await world.caller("dagny", ["administrator"]);
  tomas = await world.caller("tomas", ["projectManager"]);
});
afterAll(() => world.drop());
beforeEach(() => world.database.query("delete from house_change"));

describe("the history of the house", () => {
  it("says of accounts and of one’s own settings what was and what is, and never a password", async () => {
    const account = { name: "Wim", roles: ["reader"], only: {}, person: null };
    await ok(dagny.send("post", "/api/accounts", { ...account, login: "wim", password: "a long first password" }));
    const [{ id }] = (await world.database.query("select id from account where login = 'wim'")) as [{ id: string }];
    const port = (await ines.send("post", "/api/programmes", { name: "Port", parent: null })).body.id as string;
    const changed = {
      ...account,
      roles: ["reader", "approver"],
      only: { reader: [port] },
      password: "a long second password",
    };
    await ok(dagny.send("put", `/api/accounts/${id}`, changed));
    await ok(dagny.send("put", `/api/accounts/${id}`, { ...changed, password: undefined }));
    await ok(tomas.send("put", "/api/session/time-zone", { timeZone: "Europe/Lisbon" }));
    const [zone, edited, added] = await history();
    expect(zone).toMatchObject({ about: "settings", by: "Tomas", lines: [{ was: "–", is: "Europe/Lisbon" }] });
    expect(edited).toMatchObject({ about: "account", by: "Dagny", subject: "Wim" });
    expect(edited!.lines).toEqual([
      { field: "roles", was: "readers", is: "readers, approvers" },
      { field: "only for these groups, of readers", was: "–", is: "Port" },
      { field: "password", was: "–", is: "a new one" },
    ]);
    expect(added!.lines).toContainEqual({ field: "signs in as", was: "–", is: "wim" });
    expect(await history()).toHaveLength(3);
    expect(JSON.stringify(await history())).not.toContain("long");
  });

  it("says the same of limits, of the house and of groups, of checks, of rates", async () => {
    await ok(ines.send("put", "/api/portfolio/thresholds", { ...DEFAULT_THRESHOLDS, spiBelow: 0.95, driftOver: 10 }));
    const group = (await ines.send("post", "/api/programmes", { name: "Yard", parent: null })).body.id as string;
    await ok(ines.send("put", `/api/programmes/${group}/thresholds`, { thresholds: DEFAULT_THRESHOLDS }));
    await ok(ines.send("put", "/api/portfolio/quality-limits", { 1: 0.1 }));
    const exchange = {
      currency: "EUR",
      minorDigits: 2,
      rates: [{ currency: "ISK", from: "2026-01-01", rate: 0.0068 }],
    };
    await ok(ines.send("put", "/api/portfolio/exchange", { exchange }));
    expect((await history("limits")).map(({ subject }) => subject)).toEqual(["limits of Yard", "limits of the house"]);
    expect((await history("limits"))[1]!.lines).toEqual([
      { field: "SPI below", was: "0.9", is: "0.95" },
      { field: "Finish late by more than", was: "none", is: "10 d" },
    ]);
    expect((await history("quality"))[0]!.lines).toEqual([{ field: expect.any(String), was: "–", is: "10 %" }]);
    expect((await history("exchange"))[0]!.lines).toContainEqual({
      ...{ field: "1 ISK from 1 Jan 2026", was: "–", is: "0.0068 EUR" },
    });
  });

  it("says it of calendars and people of the register, of rates that there are new ones and not which", async () => {
    const week = { mon: [["08:00", "16:00"]], tue: [["08:00", "16:00"]] };
    const calendar = { id: "yard", name: "Yard", week };
    const write = (change: object, seen: object | null) =>
      ines.send("post", "/api/register", { change, seen, projects: [] });
    await ok(write({ table: "calendars", row: calendar }, null) as never);
    const off = { ...calendar, exceptions: [{ from: "2026-12-24", to: "2026-12-26", shifts: [] }] };
    await ok(write({ table: "calendars", row: off }, calendar) as never);
    const person = { id: "ann", name: "Ann", rates: [{ from: "2026-01-01", perHourMinor: 6123 }] };
    await ok(write({ table: "people", row: person }, null) as never);
    const dearer = { ...person, rates: [{ from: "2026-01-01", perHourMinor: 7234 }] };
    await ok(write({ table: "people", row: dearer }, person) as never);
    await ok(ines.send("delete", "/api/register/calendars/yard") as never);
    const [gone, rates, , days] = await history("register");
    expect(gone!.lines).toContainEqual({ field: "name", was: "Yard", is: "–" });
    expect(rates!.lines).toEqual([{ field: "rates", was: "since 1 Jan 2026", is: "since 1 Jan 2026 (other details)" }]);
    expect(days!.lines).toEqual([{ field: "days off and other days", was: "–", is: "24 Dec 2026 to 26 Dec 2026 off" }]);
    expect(JSON.stringify(await history())).not.toMatch(/6123|7234|61\.23|72\.34/);
  });

  it("is for administrators and controllers of the house, older ones page by page, and empty at first", async () => {
    expect(await history("", dagny)).toEqual([]);
    expect((await tomas.get("/api/house-history")).status).toBe(403);
    for (let i = 0; i < 205; i++)
      await world.database.query(
        "insert into house_change (at, account_id, about, subject, `lines`) values (now(), ?, 'limits', ?, '[]')",
        [ines.me.id, `n${i}`],
      );
    const first = (await ines.get("/api/house-history")).body as HouseHistory;
    expect([first.changes.length, first.changes[0]!.subject]).toEqual([200, "n204"]);
    const rest = (await ines.get(`/api/house-history?before=${first.older}`)).body as HouseHistory;
    expect([rest.changes.map(({ subject }) => subject), rest.older]).toEqual([["n4", "n3", "n2", "n1", "n0"], null]);
  });
});

describe("what differs", () => {
  const fields = fc.uniqueArray(
    fc.record({ field: fc.constantFrom("a", "b", "c", "d"), words: fc.constantFrom("", "x", "y") }),
    {
      selector: ({ field }) => field,
    },
  );

  it("is nothing between the same, and turned round the other way round (law)", () => {
    fc.assert(
      fc.property(fields, fields, (was: NotedField[], is: NotedField[]) => {
        expect(differingFields(was, was)).toEqual([]);
        const turned = differingFields(is, was).map((line) => ({ field: line.field, was: line.is, is: line.was }));
        expect(turned).toHaveLength(differingFields(was, is).length);
        expect(turned).toEqual(expect.arrayContaining(differingFields(was, is)));
      }),
    );
  });
});
