import { Writable } from "node:stream";
import { pino } from "pino";
import request from "supertest";
import { TestWorld, tokenOf } from "../testing/testWorld.ts";

let world: TestWorld;
const logged: string[] = [];
const log = new Writable({
  write: (line: Buffer, _encoding, done) => {
    logged.push(line.toString());
    done();
  },
});

beforeAll(async () => {
  world = await TestWorld.open({ logger: pino({ level: "warn" }, log) });
});
afterAll(() => world.drop());

describe("whoever watches over the server", () => {
  const get = (path: string) => request(world.app.app).get(path);

  it("hears that it runs, without the database being asked", async () => {
    const asked = jest.spyOn(world.database, "query");
    expect((await get("/api/health")).body).toEqual({ ok: true });
    expect(asked).not.toHaveBeenCalled();
    asked.mockRestore();
  });

  it("hears that calls may be sent to it, and that they may not while the database does not answer", async () => {
    expect((await get("/api/ready")).status).toBe(200);
    const silent = jest.spyOn(world.database, "query").mockReturnValue(new Promise(() => undefined));
    const began = performance.now();
    const { status, body } = await get("/api/ready");
    expect([status, body.code]).toEqual([503, "unavailable"]);
    expect(performance.now() - began).toBeLessThan(10_000);
    silent.mockRestore();
  });

  it("reads how it fares with a token for that and no other", async () => {
    const keeper = await world.caller("dagny", ["administrator"]);
    const made = async (purpose: string): Promise<string> =>
      tokenOf(await keeper.send("post", "/api/tokens", { name: purpose, purposes: [purpose], group: null }));
    const read = (token: string) => get("/api/feeds/metrics").set("Authorization", `Bearer ${token}`);
    expect((await get("/api/feeds/metrics")).status).toBe(401);
    expect((await read(await made("readFigures"))).status).toBe(403);
    const token = await made("readMetrics");
    await read(token);
    const { status, text, headers } = await read(token);
    expect([status, headers["content-type"]]).toEqual([200, "text/plain; version=0.0.4; charset=utf-8"]);
    const valueOf = (line: string): number => {
      const found = text.split("\n").find((each) => each.startsWith(`${line} `));
      if (found === undefined) throw new Error(`${line} is missing in ${text}`);
      return Number(found.slice(line.length));
    };
    expect(valueOf('chronometra_call_seconds_count{call="GET /api/ready",status="200"}')).toBe(1);
    expect(valueOf('chronometra_call_seconds_count{call="GET /api/ready",status="503"}')).toBe(1);
    expect(valueOf('chronometra_connections{pool="calls",state="free"}')).toBeGreaterThanOrEqual(0);
    expect(valueOf('chronometra_work_waiting{pool="plans"}')).toBe(0);
    expect(valueOf("chronometra_database_connections_open")).toBeGreaterThan(0);
    expect(valueOf("nodejs_eventloop_lag_p99_seconds")).toBeGreaterThanOrEqual(0);
    // What a call was about never stands there.
    expect(text).not.toMatch(/[0-9a-f]{8}-[0-9a-f]{4}-/);
    for (const line of text.split("\n").filter((each) => each !== "" && !each.startsWith("#")))
      expect(line).toMatch(/^[a-z_][a-z0-9_]*(\{[^}]*\})? [-+.\dNaInfe]+$/i);
  });

  it("finds in the log what someone was told of a failure that nobody expected", async () => {
    const broken = jest.spyOn(world.database, "query").mockRejectedValue(new Error("a secret of the inside"));
    const { status, body, headers } = await get("/api/ready");
    broken.mockRestore();
    const name = headers["x-request-id"] as string;
    expect([status, body.message]).toEqual([
      500,
      `Something went wrong on the server. Nothing was stored; try again. The log of the server has it as ${name}.`,
    ]);
    const line = logged.map((each) => JSON.parse(each) as { req: { id: string }; err: { message: string } });
    expect(line).toEqual([
      expect.objectContaining({
        req: expect.objectContaining({ id: name }),
        err: expect.objectContaining({ message: "a secret of the inside" }),
      }),
    ]);
  });

  it("hears that calls are to go to another while it is being stopped", async () => {
    world.app.close();
    const { status, body } = await get("/api/ready");
    expect([status, body.message]).toEqual([503, "This server is being stopped; send calls to another."]);
    expect((await get("/api/health")).status).toBe(200);
  });
});
