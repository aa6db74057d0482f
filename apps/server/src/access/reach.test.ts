import {
  endpoints,
  TOKEN_PURPOSES,
  type Account,
  type EndpointKey,
  type Found,
  type Groups,
  type ImportView,
  type LifeCycle,
  type Load,
} from "@chronometra/contract";
import request from "supertest";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";
import { ACCESS } from "./accessTable.ts";

let world: TestWorld;
let ines: Caller, tomas: Caller, margit: Caller, zed: Caller;
/** Holders of a role for the group of locks alone. */
let reader: Caller, controller: Caller, manager: Caller, approver: Caller;
let port: string, locks: string, north: string, yard: string;
/** A project below the locks, and one elsewhere, in which everything bears a name that says so. */
let seen: string, hidden: string;

const SECRET = /hidden|unseen/i;
const plan = (what: string) => {
  const base = smallPlan();
  return {
    ...base,
    project: { ...base.project, code: `${what.toUpperCase()}-1`, name: `${what} dock` },
    calendars: base.calendars!.map((calendar) => ({ ...calendar, id: "std", name: `${what} calendar` })),
    people: [
      { id: "ann", name: "Ann", rates: [{ from: "2026-01-01", perHourMinor: 6000 }] },
      { id: what === "Hidden" ? "zed" : "bo", name: what === "Hidden" ? "Zed Unseen" : "Bo", role: `${what} diver` },
    ],
    activities: base.activities!.map((activity) => ({ ...activity, name: `${what} ${activity.name}` })),
    assignments: [
      { activity: "dig", person: what === "Hidden" ? "zed" : "bo", plannedMinutes: 2400 },
      { activity: "pour", person: "ann", plannedMinutes: 1440 },
    ],
    costs: [{ id: "c1", activity: "pour", category: `${what} timber`, plannedMinor: 100, timing: "start" as const }],
  };
};
const CYCLE: LifeCycle = {
  kind: "Renewal",
  stages: [{ id: "idea", name: "Idea", gate: "Go", conditions: [] }],
};
const group = async (name: string, parent: string | null): Promise<string> =>
  (await ines.send("post", "/api/programmes", { name, parent })).body.id as string;
const ok = async (call: Promise<{ status: number; body: unknown }>): Promise<void> => {
  const { status, body } = await call;
  expect([status, body]).toEqual([200, expect.anything()]);
};

/** All that a project can show on pages of several. */
async function live(project: string, person: Caller, what: string): Promise<void> {
  const base = `/api/projects/${project}`;
  await ok(tomas.send("post", `${base}/approvals`, { word: `${what} as agreed` }));
  await ok(tomas.send("put", `${base}/gates`, { field: "lifeCycle", was: null, value: "renewal" }));
  await ok(tomas.send("post", `${base}/gates/idea`, { word: `${what} asks` }));
  await ok(tomas.send("post", `${base}/whatifs`, { name: `${what} idea` }));
  await ok(
    tomas.send("post", `${base}/documents`, { about: "project", aboutId: "", name: what, link: "https://a.example/" }),
  );
  await ok(tomas.send("post", "/api/talk", { place: { about: "project", project, aboutId: "" }, text: what }));
  await ok(person.send("put", "/api/desk/block", { project, activity: "dig", by: `${what} permit` }));
  await ok(
    person.send("post", "/api/desk/reports", { project, activity: "dig", date: "2026-03-02", minutes: 60, note: what }),
  );
}

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
  tomas = await world.caller("tomas", ["projectManager", "controller"]);
  margit = await world.caller("margit", ["approver"]);
  zed = await world.caller("zed", ["contributor"], "zed");
  const bo = await world.caller("bo", ["contributor"], "bo");
  port = await group("Port", null);
  locks = await group("Locks", port);
  north = await group("North", locks);
  yard = await group("Hidden yard", port);
  const only = (role: keyof Account["only"]): Account["only"] => ({ [role]: [locks] });
  reader = await world.caller("rita", ["reader"], null, only("reader"));
  controller = await world.caller("cora", ["controller"], null, only("controller"));
  manager = await world.caller("mona", ["projectManager"], null, only("projectManager"));
  approver = await world.caller("abel", ["approver"], null, only("approver"));
  await world.openPeriod(1, "2026-03-02", "2026-03-06");
  await ok(ines.send("put", "/api/life-cycles/renewal", { was: null, value: CYCLE }));
  seen = await world.addProject(tomas.me, plan("Seen"), north);
  hidden = await world.addProject(tomas.me, plan("Hidden"), yard);
  await live(seen, bo, "Seen");
  await live(hidden, zed, "Hidden");
});
afterAll(() => world.drop());

const FORMS: Record<string, string> = {
  ":of": "",
  ":form": "json",
  ":number": "open",
  ":edition": "newest",
  ":by": "person",
  ":from/:weeks": "2026-03-02/8",
  ":from/:to/:target": "plan/plan/open",
  ":place/:from/:to": "PT/2026-01-01/2026-12-31",
  ":from/:to": "plan/plan",
  ":person/:monday": "ann/2026-03-02",
  ":activity": "dig",
  ":milestone": "open",
  ":state": "plan",
  ":since": "1",
  ":revision": "2",
  ":days": "5",
  ":date": "2026-03-02",
};
const addressOf = (key: EndpointKey, project: string): string =>
  Object.entries({ ...FORMS, ":of": project, ":project": project })
    .reduce((address, [name, value]) => address.replace(name, value), key.replace(/^\w+ /, ""))
    .replace(/:\w+/g, "00000000-0000-0000-0000-000000000000");
const accessOf = (key: EndpointKey): object => Object(ACCESS[key]) as object;
const isForPeople = (key: EndpointKey): boolean => ACCESS[key] !== "anyone" && !("token" in accessOf(key));
const reads = (Object.keys(endpoints) as EndpointKey[]).filter(
  (key) => key.startsWith("GET ") && isForPeople(key) && key !== "GET /api/news",
);

describe("a role that was given for a group", () => {
  it.each(reads)("%s tells of what lies there, and of nothing else", async (key) => {
    for (const caller of [reader, controller, manager, approver]) {
      const { text = "" } = await caller.get(addressOf(key, seen));
      expect(text).not.toMatch(SECRET);
    }
  });

  it("is what a token that is made for it reads by, and what it may send is for nothing else", async () => {
    const keeper = await world.caller("keeper", ["administrator"]);
    const purposes = Object.keys(TOKEN_PURPOSES);
    const made = async (only: string | null): Promise<string> =>
      (await keeper.send("post", "/api/tokens", { name: `Of ${only}`, purposes, group: only })).body.token as string;
    const [ours, all] = [await made(locks), await made(null)];
    const read = (path: string, token: string) =>
      request(world.app.app).get(path).set("Authorization", `Bearer ${token}`);
    const feeds = (Object.keys(endpoints) as EndpointKey[]).filter(
      (key) => key.startsWith("GET ") && "token" in accessOf(key),
    );
    for (const key of feeds)
      for (const list of ["overdue"]) {
        const path = key.replace("GET ", "").replace(":watchlist", list);
        expect([key, (await read(path, ours)).text]).toEqual([key, expect.not.stringMatching(SECRET)]);
      }
    expect((await read("/api/feeds/projects", ours)).body).toEqual([
      { id: seen, code: "SEEN-1", name: "Seen dock", groups: ["Port", "Locks", "North"], closed: false },
    ]);
    expect((await read("/api/feeds/projects", all)).text).toMatch(SECRET);
    expect((await read("/api/feeds/figures?project=HIDDEN-1", ours)).status).toBe(404);
    expect((await read("/api/feeds/figures?project=HIDDEN-1", all)).status).toBe(200);
    const line = (project: string, activity: string) => ({
      ...{ reference: project, project, activity, date: "2026-03-03", amount: 3 },
    });
    const send = (token: string, lines: object[]) =>
      request(world.app.app).post("/api/feeds/costs").set("Authorization", `Bearer ${token}`).send({ lines });
    const lines = [line("HIDDEN-1", "dig"), line("SEEN-1", "dig")];
    expect((await send(ours, lines)).body).toMatchObject({ matched: 1, unmatched: 1 });
    // What was matched by hand for others is not for it either.
    expect((await send(all, lines)).body).toMatchObject({ matched: 2 });
  });

  it.each(reads.filter((key) => /:project\b|:of\b/.test(key)))(
    "%s of another project is as if it were not there",
    async (key) => {
      for (const caller of [reader, controller, manager, approver]) {
        const { status, text = "" } = await caller.get(addressOf(key, hidden));
        // Whoever works on a project may ask for its documents, and is given those of their own work.
        if (key !== "GET /api/projects/:project/documents") expect([403, 404]).toContain(status);
        expect(text).not.toMatch(SECRET);
      }
    },
  );

  it("is told of the same by the whole house's reader, so that there is something to be hidden", async () => {
    for (const path of ["portfolio", "deadlines", "approvals", "gates", "blocked/5", "load/2026-03-02/8", "cycle"])
      expect([path, (await margit.get(`/api/${path}`)).text]).toEqual([path, expect.stringMatching(SECRET)]);
  });

  it("asks questions of what lies there, and finds it", async () => {
    for (const about of ["activities", "time", "costs", "risks"]) {
      const columns = about === "activities" ? ["name", "project", "programme"] : ["project"];
      const question = { about, where: [], columns, sort: [], group: null, pivot: null };
      const { status, text } = await reader.send("post", "/api/watch", question);
      expect([about, status]).toEqual([about, 200]);
      expect(text).not.toMatch(SECRET);
      if (about === "activities") expect(text).toMatch(/Seen Dig/);
    }
    for (const text of ["hidden", "dig", "HIDDEN-1", "unseen", "period 1", "yard"]) {
      const found = (await reader.send("post", "/api/find", { text })).body as Found;
      expect(JSON.stringify({ ...found, readAs: [] })).not.toMatch(SECRET);
    }
    expect(((await reader.send("post", "/api/find", { text: "seen dig" })).body as Found).activities).toHaveLength(1);
  });

  it("knows the people of what lies there, where a file is brought, and acts on nothing else", async () => {
    let view = (
      await manager.send("post", "/api/imports").attach("file", Buffer.from("Name,Duration\nDig,3d\n"), "a.csv")
    ).body as ImportView;
    while (view.state === "reading") view = (await manager.get(`/api/imports/${view.id}`)).body as ImportView;
    expect(view.known.people.map(({ name }) => name)).toEqual(["Ann", "Bo"]);
    const act = { rows: [{ project: hidden, activity: "dig" }], act: { do: "setOwner", to: null } };
    const { status, text } = await controller.send("post", "/api/watch/effect", act);
    expect([status, SECRET.test(text)]).toEqual([404, false]);
  });

  it("shows its groups, those below, and what they are part of", async () => {
    const { groups, mayEdit } = (await controller.get("/api/programmes")).body as Groups;
    expect([groups.map(({ name }) => name), mayEdit]).toEqual([["Port", "Locks", "North"], false]);
    expect((await reader.get(`/api/status-reports/${locks}`)).status).toBe(200);
    for (const other of [port, "house", yard])
      expect((await reader.get(`/api/status-reports/${other}`)).status).toBe(404);
    expect((await reader.get(`/api/programmes/${yard}/periods`)).body).toEqual([]);
    const names = async (id: string, who = reader): Promise<string[]> =>
      ((await who.get(`/api/programmes/${id}/load/2026-03-02/8`)).body as Load).people.map(({ name }) => name);
    expect([await names(locks), await names(yard)]).toEqual([["Ann", "Bo"], []]);
    expect(await names(yard, margit)).toEqual(["Ann", "Zed Unseen"]);
  });

  it("opens what-ifs and documents of what lies there alone", async () => {
    const whatIf = async (project: string) =>
      ((await margit.get(`/api/projects/${project}/whatifs`)).body as { id: string }[])[0]!.id;
    for (const [project, status] of [
      [seen, 200],
      [hidden, 404],
    ] as const)
      for (const path of ["", "/alone"])
        expect((await reader.get(`/api/whatifs/${await whatIf(project)}${path}`)).status).toBe(status);
    const talk = (project: string): Promise<{ status: number; text: string }> =>
      reader.get(`/api/talk?about=project&project=${project}&id=`);
    expect([(await talk(seen)).status, (await talk(hidden)).status]).toEqual([200, 404]);
    // Nobody who does not see a project can be called there, nor hears whom else one could call.
    expect((await talk(seen)).text).not.toMatch(SECRET);
    expect((await margit.get(`/api/talk?about=project&project=${hidden}&id=`)).text).toMatch(SECRET);
    expect((await reader.get(`/api/projects/${hidden}/documents`)).body.documents).toEqual([]);
    expect((await reader.get(`/api/projects/${seen}/documents`)).body.documents).toHaveLength(1);
  });
});

describe("what a role that was given for a group allows", () => {
  it("is to be sent reports of what lies there", async () => {
    const send = (subject: string) =>
      tomas.send("put", `/api/status-reports/${subject}/recipients`, { add: { accounts: [reader.me.id] } });
    for (const subject of [seen, locks]) expect((await send(subject)).status).toBe(200);
    for (const subject of [hidden, port, "house"]) expect((await send(subject)).status).toBe(422);
  });

  const changed = async (who: Caller, project: string) => {
    const { body } = await ines.get(`/api/projects/${project}`);
    const changes = [{ type: "setName", activity: "pour", name: `Pour by ${who.me.name}` }];
    return (await who.send("post", `/api/projects/${project}/changes`, { revision: body.revision, changes })).status;
  };

  it("is done there, and not elsewhere nor for the whole house", async () => {
    expect([await changed(controller, seen), await changed(controller, hidden)]).toEqual([200, 404]);
    expect((await controller.send("put", `/api/programmes/${north}/thresholds`, { thresholds: null })).status).toBe(
      200,
    );
    expect((await controller.send("put", `/api/programmes/${yard}/thresholds`, { thresholds: null })).status).toBe(403);
    for (const [method, path, body] of [
      ["put", "/api/portfolio/fields", { fields: [], seen: [] }],
      ["post", "/api/periods", {}],
      ["delete", `/api/programmes/${north}`, undefined],
      ["put", "/api/life-cycles/renewal", { was: CYCLE, value: CYCLE }],
    ] as const)
      expect([path, (await controller.send(method, path, body)).status]).toEqual([path, 403]);
    const { body } = await controller.send("post", "/api/portfolio/data-date", { date: "2026-03-06" });
    expect(body).toMatchObject({ moved: ["SEEN-1"], refused: [] });
  });

  it("is decided there alone", async () => {
    const open = (await margit.get("/api/approvals")).body as { id: string; project: string }[];
    const decide = (project: string) =>
      approver.send("post", `/api/approvals/${open.find((each) => each.project === project)!.id}/decision`, {
        decision: "sendBack",
        reason: "not yet",
      });
    expect((await decide(hidden)).status).toBe(403);
    expect((await decide(seen)).status).toBe(200);
    const { asked } = (await margit.get(`/api/projects/${hidden}/gates`)).body as { asked: { id: number } };
    const gate = { asked: asked.id, decision: "passed", word: "So be it", actions: [] };
    expect((await approver.send("post", `/api/projects/${hidden}/gates/idea/decision`, gate)).status).toBe(404);
    const deciders = async (project: string) =>
      ((await margit.get(`/api/projects/${project}/gates`)).body as { deciders: { name: string }[] }).deciders.map(
        ({ name }) => name,
      );
    expect([await deciders(seen), await deciders(hidden)]).toEqual([["Abel", "Margit"], ["Margit"]]);
  });

  it("begins projects there alone, and changes what one manages wherever it lies", async () => {
    const begin = (programme: string | null, code: string) =>
      manager.send("post", "/api/projects", {
        ...{ code, name: code, currency: "EUR", start: "2026-03-02" },
        programme,
      });
    expect([(await begin(yard, "A")).status, (await begin(null, "B")).status]).toEqual([403, 403]);
    const { project } = (await begin(north, "C")).body as { project: string };
    const standing = (programme: string | null) =>
      manager.send("put", `/api/projects/${project}/standing`, { programme });
    expect([(await standing(yard)).status, (await standing(locks)).status]).toEqual([403, 200]);
    await ok(ines.send("put", `/api/projects/${project}/standing`, { programme: yard }));
    expect((await manager.get(`/api/projects/${project}`)).status).toBe(200);
    expect((await reader.get(`/api/projects/${project}`)).status).toBe(404);
    const { groups } = (await manager.get("/api/programmes")).body as Groups;
    expect(groups.map(({ name }) => name)).toContain("Hidden yard");
  });

  it("follows the groups: what is put below one is reached at once", async () => {
    const deep = await group("Deep", yard);
    await ok(ines.send("put", `/api/projects/${hidden}/standing`, { programme: deep }));
    expect((await reader.get(`/api/projects/${hidden}`)).status).toBe(404);
    await ok(ines.send("put", `/api/programmes/${deep}`, { name: "Deep", parent: north }));
    expect((await reader.get(`/api/projects/${hidden}`)).status).toBe(200);
    await ok(ines.send("put", `/api/programmes/${deep}`, { name: "Deep", parent: yard }));
    expect((await reader.get(`/api/projects/${hidden}`)).status).toBe(404);
  });
});

describe("giving a role for groups", () => {
  it("is written with the account, and refused where it makes no sense", async () => {
    const dagny = await world.caller("dagny", ["administrator"]);
    const write = (roles: string[], only: object) =>
      dagny.send("put", `/api/accounts/${reader.me.id}`, { name: "Rita", roles, only, person: null });
    expect((await write(["reader"], { reader: [yard, locks] })).body.only).toEqual({ reader: [yard, locks] });
    expect((await reader.get(`/api/projects/${hidden}`)).status).toBe(200);
    for (const [roles, only] of [
      [["reader"], { reader: [] }],
      [["reader"], { reader: ["gone"] }],
      [["reader"], { approver: [locks] }],
      [["contributor"], { contributor: [locks] }],
    ] as [string[], object][])
      expect([only, (await write(roles, only)).status]).toEqual([only, 422]);
    expect((await write(["reader"], {})).body.only).toEqual({});
    expect((await reader.get("/api/portfolio")).text).toMatch(SECRET);
    await ok(write(["reader"], { reader: [locks] }));
  });
});
