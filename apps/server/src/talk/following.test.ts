import type { Followed, Inbox, TalkPlace, WatchAnswer } from "@chronometra/contract";
import { Post } from "../tell/post.ts";
import { tellDifferences } from "../tell/moved/differences.ts";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";

let world: TestWorld;
let tomas: Caller, margit: Caller, quill: Caller, bo: Caller, zed: Caller;
let project: string;

const at = (aboutId = "dig", about: TalkPlace["about"] = "activity"): TalkPlace => ({ about, project, aboutId });
const follow = (who: Caller, place: TalkPlace, change: object) =>
  who.send("put", "/api/following", { place, ...change });
const followed = async (who: Caller): Promise<Followed[]> => (await who.get("/api/following")).body as Followed[];
const told = async (who: Caller) =>
  ((await who.get("/api/inbox")).body as Inbox).notices.map(({ kind, link }) => `${kind} ${link?.split("/").at(-1)}`);
const change = async (changes: object[]): Promise<void> => {
  const { revision } = (await tomas.get(`/api/projects/${project}/plan`)).body as { revision: number };
  const body = { revision, changes, label: "x" };
  expect((await tomas.send("post", `/api/projects/${project}/changes`, body)).status).toBe(200);
};
const tell = () => tellDifferences(world.database, new Post({}));

beforeAll(async () => {
  world = await TestWorld.open();
  tomas = await world.caller("tomas", ["projectManager"]);
  margit = await world.caller("margit", ["approver"]);
  quill = await world.caller("quill", ["reader"]);
  bo = await world.caller("bo", ["contributor"], "bo");
  zed = await world.caller("zed", ["contributor"], "zed");
});
afterAll(() => world.drop());
beforeEach(async () => {
  for (const table of ["following", "notice"]) await world.database.query(`delete from ${table}`);
  project = await world.addProject(tomas.me, smallPlan());
});

describe("what someone follows", () => {
  it("is listed with what is kept at hand, as far as they see it, and is theirs alone", async () => {
    await follow(quill, at(), { follows: true });
    await follow(quill, at("", "project"), { pinned: true });
    expect(
      (await followed(quill)).map(({ place, follows, pinned, link }) => [place.about, follows, pinned, link]),
    ).toEqual([
      ["activity", true, false, `/projects/${project}/plan?at=dig`],
      ["project", false, true, `/projects/${project}/charter`],
    ]);
    expect(await followed(tomas)).toEqual([]);
    expect((await follow(zed, at(), { follows: true })).status).toBe(404);
    // Whoever only works there follows too, and opens what they may.
    await follow(bo, at(), { follows: true });
    expect((await followed(bo))[0]!.link).toContain("/talk?about=activity");
    await follow(quill, at(), { follows: false });
    await follow(quill, at("", "project"), { pinned: false });
    expect(await followed(quill)).toEqual([]);
  });

  it("is told: dates, promises, and what is said, until they end it", async () => {
    const { id } = (await tomas.send("post", `/api/projects/${project}/approvals`, { word: "go" })).body as {
      id: string;
    };
    await margit.send("post", `/api/approvals/${id}/decision`, { decision: "approve", reason: "go" });
    await tell();
    await follow(quill, at(), { follows: true });
    await follow(margit, at("", "project"), { follows: true });
    await follow(bo, at(), { follows: true });
    await change([{ type: "setDuration", activity: "dig", minutes: 4800 }]);
    await tell();
    expect(await told(quill)).toEqual(["moved plan"]);
    expect(await told(margit)).toContain("deadline dates");
    expect(await told(bo)).toContain("moved desk");
    await tomas.send("post", "/api/talk", { place: at(), text: "Rock at the bottom." });
    expect((await told(quill))[0]).toMatch(/^talk /);
    await follow(quill, at(), { follows: false });
    await world.database.query("delete from notice");
    await tomas.send("post", "/api/talk", { place: at(), text: "More of it." });
    await change([{ type: "setDuration", activity: "dig", minutes: 9600 }]);
    await tell();
    expect(await told(quill)).toEqual([]);
  });

  it("is not told any more once they do not see the project", async () => {
    const { id } = (await tomas.send("post", `/api/projects/${project}/approvals`, { word: "go" })).body as {
      id: string;
    };
    await margit.send("post", `/api/approvals/${id}/decision`, { decision: "approve", reason: "go" });
    await tell();
    await follow(quill, at(), { follows: true });
    await world.database.query("update account set roles = ? where id = ?", ['["contributor"]', quill.me.id]);
    await change([{ type: "setDuration", activity: "dig", minutes: 4800 }]);
    await tell();
    await world.database.query("update account set roles = ? where id = ?", ['["reader"]', quill.me.id]);
    expect(await told(quill)).toEqual([]);
  });

  it("is a watchlist", async () => {
    await follow(quill, at("pour"), { follows: true });
    const ask = async (who: Caller): Promise<unknown[]> => {
      const question = {
        ...{ about: "activities", where: [[{ field: "followed", is: "yes" }]], columns: ["name", "followed"] },
        ...{ sort: [{ field: "followed", desc: true }], group: null, pivot: null },
      };
      return ((await who.send("post", "/api/watch", question)).body as WatchAnswer).rows.map(
        ({ activity }) => activity,
      );
    };
    expect([(await ask(quill)).length, await ask(tomas)]).toEqual([1, []]);
    expect((await quill.get("/api/watchlists")).text).toContain("What you follow");
  });
});
