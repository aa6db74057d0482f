import { Writable } from "node:stream";
import { pino } from "pino";
import request from "supertest";
import { createApp } from "../start/app.ts";
import { TestWorld, type Caller } from "../testing/testWorld.ts";
import { mkdirSync, mkdtempSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { tmpdir } from "node:os";

let world: TestWorld;
let ines: Caller;

beforeAll(async () => {
  world = await TestWorld.open();
  ines = await world.caller("ines", ["controller"]);
});
afterAll(() => world.drop());

describe("a call that cannot be read", () => {
  it.each([
    ["a charset that nobody speaks", { "content-type": "application/json; charset=klingon" }, '{"a":1}'],
    ["an encoding that nobody speaks", { "content-type": "application/json", "content-encoding": "rot13" }, '{"a":1}'],
    ["a body that is no JSON", { "content-type": "application/json" }, '{"a":'],
    ["a body packed wrongly", { "content-type": "application/json", "content-encoding": "gzip" }, "not gzip"],
  ])("says so of %s, and stores nothing", async (_, headers, body) => {
    const call = ines.send("post", "/api/programmes");
    for (const [name, value] of Object.entries(headers)) call.set(name, value);
    const { status, body: said } = await call.send(body);
    expect([status, said.code]).toEqual([422, "invalid"]);
  });

  it.each([
    ["with an invisible character in a name", { name: "Locks\u0000", parent: null }, /^name holds .* \(U\+0000\)/],
    ["that turns the direction of what follows it", { name: "Locks \u202e", parent: null }, /^name holds .*direction/],
    ["with half a character", { name: "Locks \ud83d", parent: null }, /^name holds half a character/],
  ])("says so of a text %s", async (_, body, why) => {
    const { status, body: said } = await ines.send("post", "/api/programmes", body);
    expect([status, said.code, said.message]).toEqual([422, "invalid", expect.stringMatching(why)]);
  });

  it("says so of what is nested deeper than calls go", async () => {
    const deep = `{"name": ${"[".repeat(100_000)}${"]".repeat(100_000)}}`;
    const { status, body } = await ines.send("post", "/api/programmes").type("json").send(deep);
    expect([status, body.message]).toEqual([422, "What was sent is nested deeper than 64 levels"]);
  });

  it.each([
    ["without a boundary", "multipart/form-data", "x"],
    [
      "cut off",
      "multipart/form-data; boundary=b",
      '--b\r\nContent-Disposition: form-data; name="file"; filename="a.csv"\r\n\r\nName',
    ],
    ["with a broken header", "multipart/form-data; boundary=b", "--b\r\n\x01\x02\r\n\r\nx\r\n--b--\r\n"],
  ])("says so of an upload %s", async (_, type, body) => {
    const { status, body: said } = await ines.send("post", "/api/imports").set("content-type", type).send(body);
    expect([status, said.code]).toEqual([422, "invalid"]);
  });

  it("says so of an address that is wrongly encoded", async () => {
    const { status, body } = await ines.get("/api/projects/%E0%A4%A/plan");
    expect([status, body.code]).toEqual([422, "invalid"]);
  });

  it("tells of a known path by another method which methods there are, and of an unknown path that there is nothing", async () => {
    const wrong = await ines.send("put", "/api/portfolio");
    expect([wrong.status, wrong.headers["allow"], wrong.body.code]).toEqual([405, "GET", "wrongMethod"]);
    expect((await ines.send("delete", "/api/projects/x/plan")).headers["allow"]).toBe("GET");
    expect((await ines.get("/api/nowhere")).status).toBe(404);
  });

  it("of whoever may not call nothing is read", async () => {
    const long = `{"login": "${"x".repeat(3_000_000)}"`;
    expect(
      (await request(world.app.app).post("/api/programmes").set("content-type", "application/json").send(long)).status,
    ).toBe(401);
  });

  it("says in plain words what is missing or too long, never in a schema's", async () => {
    const messages = [
      (await ines.send("post", "/api/programmes", {})).body.message,
      (await ines.send("post", "/api/programmes", { name: 3, other: 1 })).body.message,
      (await ines.send("post", "/api/portfolio/data-date", { date: "soon" })).body.message,
      (await ines.send("post", "/api/reports/decision", { ids: [], decision: "perhaps" })).body.message,
    ] as string[];
    for (const message of messages)
      expect(message).not.toMatch(
        /Invalid (input|option|string)|Unrecognized|expected .* received|Too (small|big)|ZodError|undefined/,
      );
    expect(messages[0]).toMatch(/name: is missing/);
  });
});

describe("files of the client", () => {
  it("are the page for any path that is no file, and nothing where a file is gone", async () => {
    const folder = mkdtempSync(join(tmpdir(), "chronometra-web-"));
    writeFileSync(join(folder, "index.html"), "<title>page</title>");
    const { app } = createApp({ database: world.database, logger: pino({ level: "silent" }), webFolder: folder });
    expect((await request(app).get("/projects/x/plan")).text).toContain("page");
    const gone = await request(app).get("/assets/index-old.js");
    expect([gone.status, gone.text.includes("<title>")]).toEqual([404, false]);
    expect((await request(app).get("/robots.txt")).status).toBe(404);
    expect((await request(app).get("/")).headers["link"]).toBeUndefined();
  });

  it("are fetched beside what a page begins with: what runs all pages, and what those need that people begin with, nothing twice", async () => {
    const folder = mkdtempSync(join(tmpdir(), "chronometra-web-"));
    writeFileSync(join(folder, "index.html"), "<title>page</title>");
    mkdirSync(join(folder, ".vite"));
    const manifest = {
      "index.html": { file: "assets/index.js" },
      "src/main.tsx": { file: "assets/main.js", imports: ["_common.js", "index.html"] },
      "src/access/first.tsx": { file: "assets/first.js", imports: ["index.html"] },
      "_common.js": { file: "assets/common.js" },
      "_lines.js": { file: "assets/lines.js", imports: ["_common.js", "_lines.js"] },
      "src/collect/DeskPage.tsx": { file: "assets/desk.js", imports: ["_common.js", "_lines.js", "index.html"] },
    };
    writeFileSync(join(folder, ".vite", "manifest.json"), JSON.stringify(manifest));
    const { app } = createApp({ database: world.database, logger: pino({ level: "silent" }), webFolder: folder });
    const linkOf = async (path: string, cookie: string): Promise<unknown> =>
      (await request(app).get(path).set("cookie", cookie)).headers["link"];
    const hint = (...names: string[]): string =>
      names.map((name) => `</assets/${name}.js>; rel=modulepreload`).join(", ");
    // What the page asks for first as well.
    const calls = ["/api/desk", "/api/period"]
      .map((call) => `<${call}>; rel=preload; as=fetch; crossorigin`)
      .join(", ");
    expect(await linkOf("/desk", "chronometra=x")).toBe(`${calls}, ${hint("main", "common", "desk", "lines")}`);
    expect(await linkOf("/projects/x/plan", "chronometra=x")).toBe(hint("main", "common"));
    // Who has no session is shown the way in, and fetches nothing of the pages.
    for (const path of ["/desk", "/projects/x/plan"])
      for (const cookie of ["", "other=1; notchronometra=x"]) expect(await linkOf(path, cookie)).toBe(hint("first"));
  });
});

describe("the log", () => {
  it("of a call that failed holds neither cookies nor tokens nor what is secret in an address", async () => {
    let log = "";
    const stream = new Writable({
      write: (chunk: Buffer, _encoding, done) => {
        log += chunk.toString();
        done();
      },
    });
    const broken = {
      ...world.database,
      getRepository: () => {
        throw new Error("a bug");
      },
      query: () => Promise.reject(new Error("a bug")),
    } as never;
    const { app } = createApp({ database: broken, sessions: world.database, logger: pino({ level: "warn" }, stream) });
    const answer = await request(app)
      .get("/api/feeds/calendar/s3cr3t")
      .set("cookie", "chronometra=c00kie")
      .set("authorization", "Bearer t0ken")
      .set("x-chronometra-token", "csrf");
    expect(answer.status).toBe(500);
    expect(log).toContain("a bug");
    for (const secret of ["s3cr3t", "c00kie", "t0ken", "csrf"]) expect(log).not.toContain(secret);
  });
});
