import type { AddressInfo } from "node:net";
import type { PlanNews } from "@chronometra/contract";
import { createApp } from "../../start/app.ts";
import { pino } from "pino";
import { HeldPresence } from "./presence.ts";
import { smallPlan, TestWorld, type Caller } from "../../testing/testWorld.ts";

let world: TestWorld;
let tomas: Caller;
let ines: Caller;
let project: string;

beforeAll(async () => {
  // Two servers that are to honour each other's sessions share a secret.
  process.env["CHRONOMETRA_SECRET"] = "shared by both";
  world = await TestWorld.open();
  tomas = await world.caller("tomas", ["projectManager"]);
  ines = await world.caller("ines", ["controller"]);
  project = await world.addProject(tomas.me, smallPlan());
});
afterAll(() => world.drop());

const rename = (who: Caller, revision: number, name: string) =>
  who.send("post", `/api/projects/${project}/changes`, {
    revision,
    changes: [{ type: "setName", activity: "dig", name }],
  });

describe("what was stored since a revision", () => {
  it("is given in order with who did it, nothing where nothing was", async () => {
    expect((await ines.get(`/api/projects/${project}/changes/1`)).body).toEqual({ revision: 1, changes: [], by: [] });
    await rename(tomas, 1, "Dredge");
    await rename(ines, 2, "Dig deep");
    const since = (await ines.get(`/api/projects/${project}/changes/1`)).body;
    expect(since).toEqual({
      revision: 3,
      by: ["Tomas", "Ines"],
      changes: [
        { type: "setName", activity: "dig", name: "Dredge" },
        { type: "setName", activity: "dig", name: "Dig deep" },
      ],
    });
    expect((await ines.get(`/api/projects/${project}/changes/x`)).status).toBe(422);
  });
});

const cookieOf = async (who: Caller): Promise<string> =>
  ((await who.get("/api/session")).headers["set-cookie"] as unknown as string[])[0]!.split(";")[0]!;

/** Reads a stream through a server of its own until something holds of what it says. */
async function listenWith(
  options: { newsBeatMilliseconds?: number },
  cookie: string,
  ...pages: string[]
): Promise<{ until: (holds: (news: PlanNews) => boolean) => Promise<PlanNews>; close: () => Promise<void> }> {
  // A server beside the one that stores: what it tells, it has from the database.
  const beside = createApp({ database: world.database, logger: pino({ level: "silent" }), ...options });
  const server = beside.app.listen(0);
  const { port } = server.address() as AddressInfo;
  const abort = new AbortController();
  const response = await fetch(`http://127.0.0.1:${port}/api/news?${pages.map((page) => `on=${page}`).join("&")}`, {
    headers: { cookie },
    signal: abort.signal,
  });
  expect([response.status, response.headers.get("content-type")]).toEqual([200, "text/event-stream"]);
  const reader = response.body!.getReader();
  let text = "";
  const until = async (holds: (news: PlanNews) => boolean): Promise<PlanNews> => {
    for (;;) {
      for (let end = text.indexOf("\n\n"); end >= 0; end = text.indexOf("\n\n")) {
        const event = text.slice(0, end);
        text = text.slice(end + 2);
        if (!event.startsWith("data: ")) continue;
        const news = JSON.parse(event.slice(6)) as PlanNews;
        if (holds(news)) return news;
      }
      const { value, done } = await reader.read();
      if (done) throw new Error("the stream ended");
      text += Buffer.from(value).toString();
    }
  };
  const close = async (): Promise<void> => {
    abort.abort();
    beside.close();
    await new Promise((resolve) => server.close(resolve));
  };
  return { until, close };
}

const listen = (cookie: string, ...pages: string[]) => listenWith({}, cookie, ...pages);

describe("the stream of open plans", () => {
  it("tells a new revision stored through another server, and who is where until they leave", async () => {
    const stream = await listen(await cookieOf(ines), `${project}.page-a`);
    try {
      const first = await stream.until(({ present }) => present.length > 0);
      expect(first).toMatchObject({ project, present: [{ client: "page-a", name: "Ines", activity: null }] });
      await rename(tomas, first.revision, "Third name");
      expect((await stream.until(({ revision }) => revision > first.revision)).revision).toBe(first.revision + 1);
      await tomas.send("put", `/api/projects/${project}/presence`, { client: "page-b", activity: "pour" });
      const { present } = await stream.until((news) => news.present.length > 1);
      expect(present).toEqual([
        expect.objectContaining({ client: "page-a" }),
        { client: "page-b", name: "Tomas", activity: "pour" },
      ]);
      await world.database.query("update presence set seen_at = seen_at - 60000");
      await stream.until((news) => news.present.length === 0);
      await world.app.sweep();
      expect(await world.database.query("select count(*) as n from presence")).toEqual([{ n: "0" }]);
    } finally {
      await stream.close();
    }
  });

  it("ends when its caller signs out elsewhere, or may see a plan no more, and tells nothing of it then", async () => {
    const group = (await ines.send("post", "/api/programmes", { name: "Locks", parent: null })).body as { id: string };
    const rita = await world.caller("rita", ["reader"], null, { reader: [group.id] });
    const inGroup = await world.addProject(tomas.me, smallPlan(), group.id);
    const often = { newsBeatMilliseconds: 100 };
    const gone = await listenWith(often, await cookieOf(rita), `${inGroup}.page-r`);
    await gone.until(({ present }) => present.length > 0);
    await world.database.query("update project set programme_id = null where id = ?", [inGroup]);
    await expect(gone.until(() => false)).rejects.toThrow("the stream ended");
    await gone.close();
    const wim = await world.caller("wim", ["reader"]);
    const stream = await listenWith(often, await cookieOf(wim), `${project}.page-w`);
    await stream.until(({ present }) => present.length > 0);
    expect((await wim.send("delete", "/api/session")).status).toBe(200);
    await expect(stream.until(() => false)).rejects.toThrow("the stream ended");
    await stream.close();
  });

  it("tells of several plans at once, of each its own, and passes over those that are not there", async () => {
    const other = await world.addProject(tomas.me, smallPlan());
    const stream = await listen(
      await cookieOf(ines),
      `${project}.page-a`,
      `${other}.page-c`,
      "none.page-d",
      "nonsense",
    );
    try {
      const told = new Map<string, PlanNews>();
      await stream.until((news) => told.set(news.project, news).size === 2);
      expect([...told.keys()].toSorted()).toEqual([project, other].toSorted());
      const was = told.get(other)!.revision;
      await tomas.send("post", `/api/projects/${other}/changes`, {
        revision: was,
        changes: [{ type: "setName", activity: "dig", name: "Here" }],
      });
      const news = await stream.until(({ revision, project: of }) => of === other && revision > was);
      expect(news.present.map(({ client }) => client)).toEqual(["page-c"]);
    } finally {
      await stream.close();
    }
  });

  it("opened anew through another server it takes its pages along: where they stand is not lost when the one before ends", async () => {
    const cookie = await cookieOf(ines);
    const stands = async () =>
      (await world.database.query(
        "select client, activity_id as activity from presence where project_id = ? order by client",
        [project],
      )) as object[];
    const before = await listen(cookie, `${project}.page-a`, `${project}.page-gone`);
    await ines.send("put", `/api/projects/${project}/presence`, { client: "page-a", activity: "pour" });
    const after = await listen(cookie, `${project}.page-a`, `${project}.page-new`);
    await before.close();
    await after.until(({ present }) => present.every(({ client }) => client !== "page-gone"));
    expect(await stands()).toEqual([
      { client: "page-a", activity: "pour" },
      { client: "page-new", activity: null },
    ]);
    await after.close();
    for (let i = 0; i < 100 && (await stands()).length > 0; i++)
      await new Promise((resolve) => setTimeout(resolve, 20));
    expect(await stands()).toEqual([]);
  });

  it("that is ended before it has begun leaves nobody there", async () => {
    const take = HeldPresence.prototype.take;
    const ended = new AbortController();
    const slow = jest.spyOn(HeldPresence.prototype, "take").mockImplementation(async function (this: HeldPresence) {
      ended.abort();
      await new Promise((resolve) => setTimeout(resolve, 100));
      await take.call(this);
    });
    const letGo = jest.spyOn(HeldPresence.prototype, "letGo");
    const server = world.app.app.listen(0);
    try {
      const { port } = server.address() as AddressInfo;
      const call = fetch(`http://127.0.0.1:${port}/api/news?on=${project}.page-z`, {
        headers: { cookie: await cookieOf(ines) },
        signal: ended.signal,
      });
      await expect(call).rejects.toThrow();
      for (let i = 0; i < 100 && letGo.mock.results.length === 0; i++)
        await new Promise((resolve) => setTimeout(resolve, 20));
      await letGo.mock.results[0]!.value;
      expect(await world.database.query("select client from presence where client = 'page-z'")).toEqual([]);
    } finally {
      slow.mockRestore();
      letGo.mockRestore();
      await new Promise((resolve) => server.close(resolve));
    }
  });

  it("is refused to whoever may not look, of a project that is not there, and of none", async () => {
    const contributor = await world.caller("amadou", ["contributor"], "ann");
    expect((await contributor.get(`/api/news?on=${project}.page`)).status).toBe(403);
    expect((await ines.get("/api/news?on=none.page")).status).toBe(404);
    expect([(await ines.get("/api/news")).status, (await ines.get(`/api/news?on=${project}`)).status]).toEqual([
      422, 422,
    ]);
  });
});
