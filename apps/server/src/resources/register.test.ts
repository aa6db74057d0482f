import type { Register } from "@chronometra/contract";
import type { Person, PlanBundle } from "@chronometra/core";
import { Register1817000000000 } from "../start/migrations/1817000000000-register.ts";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let cora: Caller;
let pia: Caller;
let one: string;
let two: string;
let isk: string;

const ANN: Person = { id: "ann", name: "Ann", rates: [{ from: "2026-01-01", perHourMinor: 6000 }] };
const plan = (code: string, extra: Partial<PlanBundle> = {}, money: object = {}): PlanBundle =>
  smallPlan({
    ...extra,
    project: { code, name: code, currency: "EUR", start: "2026-03-02", calendar: "std", ...money },
  });
const register = async (by: Caller = cora): Promise<Register> => (await by.get("/api/register")).body as Register;
const personIn = async (project: string, id: string): Promise<Person> =>
  ((await cora.get(`/api/projects/${project}/plan`)).body.tables.people as [string, Person][]).find(
    ([key]) => key === id,
  )![1];
const figuresOf = async (): Promise<unknown> => (await cora.get("/api/portfolio")).body.projects;
const put = (change: object, seen: unknown, projects: string[] = [], by: Caller = cora) =>
  by.send("post", "/api/register", { change, seen, projects });

beforeAll(async () => {
  world = await TestWorld.open();
  cora = await world.caller("cora", ["controller"]);
  pia = await world.caller("pia", ["projectManager"]);
  one = await world.addProject(pia.me, plan("ONE"));
  two = await world.addProject(cora.me, plan("TWO", { people: [ANN, { id: "bo", name: "Bo", role: "mason" }] }));
  await world.addProject(cora.me, plan("THREE", { people: [ANN, { id: "bo", name: "Bo", role: "mason" }] }));
  isk = await world.addProject(
    cora.me,
    plan(
      "ISK",
      {
        people: [
          { ...ANN, rates: [{ from: "2026-01-01", perHourMinor: 900_000 }] },
          { id: "bo", name: "Bo" },
          { id: "kol", name: "Kolbeinn", rates: [{ from: "2026-01-01", perHourMinor: 7000 }] },
        ],
        costs: [],
      },
      { currency: "ISK", minorDigits: 0 },
    ),
  );
});
afterAll(() => world.drop());

describe("the register", () => {
  it("begins with what projects have, when it is made: what most say, in the money of most; no figure moves", async () => {
    const before = await figuresOf();
    const runner = world.database.createQueryRunner();
    try {
      await new Register1817000000000().down(runner);
      await new Register1817000000000().up(runner);
    } finally {
      await runner.release();
    }
    const { people, currency, missing } = await register();
    expect(currency).toBe("EUR");
    expect(missing).toEqual({ calendars: 0, people: 0, teams: 0, categories: 0 });
    expect(people.map(({ row }) => row)).toEqual([
      { id: "ann", name: "Ann" },
      // Two of the three that are counted in the register's money say so.
      { id: "bo", name: "Bo", role: "mason" },
      { id: "kol", name: "Kolbeinn" },
    ]);
    expect((await cora.get("/api/register/rates")).body).toEqual({ ann: ANN.rates, bo: [], kol: [] });
    expect(await figuresOf()).toEqual(before);
  });

  it("tells where each row is used and whether it says the same there, rates of another money aside", async () => {
    const { people, calendars } = await register();
    const use = (id: string) =>
      people.find(({ row }) => row.id === id)!.projects.map(({ code, same }) => `${code} ${same ? "same" : "differs"}`);
    expect(use("ann")).toEqual(["ISK same", "ONE same", "THREE same", "TWO same"]);
    expect(use("bo")).toEqual(["ISK differs", "ONE differs", "THREE same", "TWO same"]);
    expect(calendars.map(({ row, projects }) => [row.id, projects.length])).toEqual([["std", 4]]);
  });

  it("takes in what projects have that it has not", async () => {
    await world.addProject(
      cora.me,
      plan("LATE", { people: [...smallPlan().people!, { id: "new", name: "Newcomer" }] }),
    );
    expect((await register()).missing).toMatchObject({ people: 1 });
    expect((await cora.send("post", "/api/register/missing", {})).body).toEqual({ taken: 1 });
    expect((await register()).people.map(({ row }) => row.id)).toContain("new");
    expect((await cora.send("post", "/api/register/missing", {})).body).toEqual({ taken: 0 });
  });

  it("shows what a change would move, then writes it to the projects that are named, each in its own money, and it can be undone", async () => {
    const bo = { id: "bo", name: "Bo the mason", role: "mason", rates: [{ from: "2026-01-01", perHourMinor: 5000 }] };
    const order = { change: { table: "people", row: bo }, projects: [one, isk] };
    const seen = { id: "bo", name: "Bo", role: "mason" };
    const effect = await cora.send("post", "/api/register/effect", { ...order, seen });
    expect(effect.body.map(({ code }: { code: string }) => code)).toEqual(["ONE", "ISK"]);
    const stored = (await put(order.change, seen, order.projects)).body as { project: string; revision: number }[];
    expect(stored.map(({ project }) => project).sort()).toEqual([one, isk].sort());
    expect(await personIn(one, "bo")).toEqual(bo);
    expect(await personIn(isk, "bo")).toEqual({ id: "bo", name: "Bo the mason", role: "mason" });
    expect(await personIn(two, "bo")).toEqual(seen);
    const { revision } = stored.find(({ project }) => project === one)!;
    expect((await cora.send("post", `/api/projects/${one}/undo`, { revision })).status).toBe(200);
    expect((await personIn(one, "bo")).name).toBe("Bo");
  });

  it("is written back as it was, and refuses that once someone has changed it since", async () => {
    const [was, now] = [
      { id: "kol", name: "Kolbeinn" },
      { id: "kol", name: "Kolbeinn", role: "pilot" },
    ];
    expect((await put({ table: "people", row: now }, was)).status).toBe(200);
    expect((await put({ table: "people", row: was }, now)).status).toBe(200);
    expect((await register()).people.find(({ row }) => row.id === "kol")!.row).toEqual(was);
    expect((await put({ table: "people", row: was }, now)).status).toBe(409);
  });

  it("overwrites nothing that its writer has not seen", async () => {
    const stale = await put(
      { table: "people", row: { id: "bo", name: "Bob" } },
      { id: "bo", name: "Bo", role: "mason" },
    );
    expect([stale.status, stale.body.message]).toEqual([
      409,
      expect.stringMatching(/changed by someone else meanwhile/),
    ]);
    expect((await put({ table: "people", row: { id: "ann", name: "Ann the second" } }, null)).status).toBe(409);
  });

  it("writes all or nothing: a project that one may not change stops the whole", async () => {
    const admin = await world.caller("dagny", ["administrator"]);
    const fresh = { table: "calendars", row: { id: "short", name: "Short days", base: "std", dayMinutes: 360 } };
    expect((await put(fresh, null, [one], admin)).status).toBe(403);
    expect((await register()).calendars.map(({ row }) => row.id)).toEqual(["std"]);
    expect((await put(fresh, null, [], admin)).status).toBe(200);
    expect((await register(admin)).calendars.map(({ row }) => row.id)).toEqual(["short", "std"]);
  });

  it.each([
    [{ table: "people", row: { id: "x", name: "X", calendar: "nowhere" } }, /no calendar "nowhere"/],
    [{ table: "calendars", row: { id: "std", name: "Standard", base: "short" } }, /would rest on itself/],
    [{ table: "teams", row: { id: "t", name: "Divers", members: ["nobody"] } }, /no person "nobody"/],
    [{ table: "calendars", row: { id: "std2", name: "standard", base: "std" } }, /has “Standard” already/],
  ])("refuses what does not hold together, saying why", async (change, why) => {
    const { calendars } = await register();
    const seen = calendars.find(({ row }) => row.id === change.row.id)?.row ?? null;
    const { status, body } = await put(change, seen);
    expect([status, body.message]).toEqual([422, expect.stringMatching(why)]);
  });

  it("gives a project rows with the calendars they need, teams by their name with those who are there", async () => {
    await put({ table: "people", row: { id: "cy", name: "Cy", calendar: "short" } }, null);
    await put({ table: "teams", row: { id: "t1", name: "Divers", members: ["ann", "kol"] } }, null);
    const order = {
      rows: [
        { table: "people", id: "cy" },
        { table: "teams", id: "t1" },
      ],
    };
    const effect = await pia.send("post", `/api/projects/${one}/register/effect`, order);
    expect([effect.status, effect.body[0].effect.finish]).toEqual([200, null]);
    await pia.send("post", `/api/projects/${one}/register`, order);
    expect(await personIn(one, "cy")).toEqual({ id: "cy", name: "Cy", calendar: "short" });
    const { tables } = (await pia.get(`/api/projects/${one}/plan`)).body;
    expect(tables.calendars.map(([key]: [string]) => key)).toContain("short");
    expect(tables.teams.map(([, row]: [string, object]) => row)).toEqual([
      { id: "t1", name: "Divers", members: ["ann"] },
    ]);
    expect((await pia.send("post", `/api/projects/${one}/register`, order)).body).toEqual([]);
    expect((await pia.send("post", `/api/projects/${two}/register`, order)).status).toBe(403);
  });

  it("keeps rows that others lean on, and removes the rest; projects keep theirs", async () => {
    const leaning = await cora.send("delete", "/api/register/calendars/short");
    expect([leaning.status, leaning.body.message]).toEqual([
      422,
      expect.stringMatching(/is used by Cy in the register/),
    ]);
    expect((await cora.send("delete", "/api/register/people/cy")).status).toBe(200);
    expect((await cora.send("delete", "/api/register/people/cy")).status).toBe(404);
    expect(await personIn(one, "cy")).toMatchObject({ name: "Cy" });
  });

  it("tells what an hour costs to nobody but those who keep it", async () => {
    for (const role of ["projectManager", "approver", "reader"] as const) {
      const caller = await world.caller(`some-${role}`, [role]);
      expect((await caller.get("/api/register/rates")).status).toBe(403);
      expect(JSON.stringify(await register(caller))).not.toContain("perHourMinor");
      expect((await put({ table: "categories", row: { id: "c", name: "Tugs" } }, null, [], caller)).status).toBe(403);
    }
    const contributor = await world.caller("conny", ["contributor"], "ann");
    expect((await contributor.get("/api/register")).status).toBe(403);
  });
});

describe("a register and what is a project's own", () => {
  let house: TestWorld;
  let keeper: Caller;
  const told = async (): Promise<Register> => (await keeper.get("/api/register")).body as Register;
  const tables = async (project: string): Promise<Record<string, [string, Record<string, unknown>][]>> =>
    (await keeper.get(`/api/projects/${project}/plan`)).body.tables;
  const keep = (change: object, seen: unknown, projects: string[] = []) =>
    keeper.send("post", "/api/register", { change, seen, projects });

  beforeAll(async () => {
    house = await TestWorld.open();
    keeper = await house.caller("kim", ["controller"]);
  });
  afterAll(() => house.drop());

  it("is empty in an empty house, and its money is not settled by whoever has no rate", async () => {
    expect(await told()).toMatchObject({ people: [], calendars: [], missing: { people: 0 } });
    expect((await keeper.send("post", "/api/register/missing", {})).body).toEqual({ taken: 0 });
    expect((await keep({ table: "categories", row: { id: "c1", name: "Tugs" } }, null)).status).toBe(200);
    const yen = { currency: "JPY", minorDigits: 0 };
    await house.addProject(keeper.me, plan("YEN", { people: [ANN, { id: "bo", name: "Bo" }] }, yen));
    expect(await told()).toMatchObject(yen);
    await keeper.send("post", "/api/register/missing", {});
    for (const code of ["E-1", "E-2", "E-3"]) await house.addProject(keeper.me, plan(code));
    // Rates are kept in it now: whatever comes, it stays.
    expect(await told()).toMatchObject(yen);
  });

  it("leaves leave where it is: nobody differs by it, and it stays when they are written", async () => {
    const project = await house.addProject(
      keeper.me,
      plan(
        "LEAVE",
        {
          calendars: [
            ...smallPlan().calendars,
            { id: "short", name: "Short", base: "std", dayMinutes: 360 },
            {
              id: "leave-ann",
              name: "Ann’s days",
              base: "std",
              exceptions: [{ from: "2026-03-04", to: "2026-03-06", shifts: [] }],
            },
          ],
          people: [
            { ...ANN, calendar: "leave-ann" },
            { id: "bo", name: "Bo" },
          ],
        },
        { currency: "JPY", minorDigits: 0 },
      ),
    );
    await keeper.send("post", "/api/register/missing", {});
    const before = await told();
    expect(before.calendars.map(({ row }) => row.id)).toEqual(["short", "std"]);
    const ann = before.people.find(({ row }) => row.id === "ann")!;
    expect(ann.row).toEqual({ id: "ann", name: "Ann" });
    expect(ann.projects.map(({ code, same }) => [code, same])).toContainEqual(["LEAVE", true]);

    const next = { id: "ann", name: "Ann", role: "diver", calendar: "short", rates: ANN.rates };
    const seen = { id: "ann", name: "Ann", rates: ANN.rates };
    expect((await keep({ table: "people", row: next }, seen, [project])).status).toBe(200);
    const { people, calendars } = await tables(project);
    expect(people!.find(([key]) => key === "ann")![1]).toEqual({ ...next, calendar: "leave-ann" });
    expect(calendars!.find(([key]) => key === "leave-ann")![1]).toEqual({
      id: "leave-ann",
      name: "Ann’s days",
      base: "short",
      exceptions: [{ from: "2026-03-04", to: "2026-03-06", shifts: [] }],
    });
    const after = (await told()).people.find(({ row }) => row.id === "ann")!;
    expect(after.projects.find(({ code }) => code === "LEAVE")!.same).toBe(true);
  });

  it("takes money of other digits for other money: no rate becomes a hundredfold", async () => {
    const project = await house.addProject(keeper.me, plan("FINE", {}, { currency: "JPY", minorDigits: 2 }));
    const seen = { id: "bo", name: "Bo" };
    const bo = { id: "bo", name: "Bo", role: "mason", rates: [{ from: "2026-01-01", perHourMinor: 4 }] };
    expect((await keep({ table: "people", row: bo }, seen, [project])).status).toBe(200);
    expect((await tables(project)).people!.find(([key]) => key === "bo")![1]).toEqual({
      id: "bo",
      name: "Bo",
      role: "mason",
      rates: [{ from: "2026-01-01", perHourMinor: 3000 }],
    });
  });

  it("neither takes in nor counts who stands for a role, and what is closed", async () => {
    const open = await house.addProject(
      keeper.me,
      plan("OPEN", { people: [...smallPlan().people!, { id: "someone", name: "A diver" }] }),
    );
    const { body } = await keeper.get(`/api/projects/${open}/plan`);
    await keeper.send("post", `/api/projects/${open}/changes`, {
      revision: body.revision,
      changes: [{ type: "addRow", table: "placeholders", key: "someone", row: { person: "someone" } }],
    });
    expect((await told()).missing.people).toBe(0);
    const used = async (): Promise<number> =>
      (await told()).people.find(({ row }) => row.id === "ann")!.projects.length;
    const before = await used();
    await house.database.query(
      "insert into project_closing (project_id, closed_by, closed_at, word) values (?, ?, now(3), 'done')",
      [open, keeper.me.id],
    );
    expect(await used()).toBe(before - 1);
    expect((await keeper.send("post", "/api/register/missing", {})).body).toEqual({ taken: 0 });
  });

  it("is made by the migration as it is taken in from projects", async () => {
    const sorted = async (): Promise<unknown> => {
      const { people, calendars, teams, categories } = await told();
      return [people, calendars, teams, categories].map((rows) => rows.map(({ row }) => row));
    };
    await house.database.query("delete from register_row");
    await house.database.query("delete from setting where name = 'register'");
    await keeper.send("post", "/api/register/missing", {});
    const takenIn = await sorted();
    const runner = house.database.createQueryRunner();
    try {
      await new Register1817000000000().down(runner);
      await new Register1817000000000().up(runner);
    } finally {
      await runner.release();
    }
    expect(await sorted()).toEqual(takenIn);
  });
});
