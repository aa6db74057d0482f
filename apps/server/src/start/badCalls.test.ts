import { TOKEN_PURPOSES } from "@chronometra/contract";
import request from "supertest";
import { TOKEN_HEADER } from "../access/serve.ts";
import { BadCalls, type BadCall } from "../testing/badCalls.ts";
import { PASSWORD, smallPlan, TestWorld, tokenOf, type Caller } from "../testing/testWorld.ts";

const COUNT = Number(process.env["CHRONOMETRA_BAD_CALLS"] ?? 400);
const SEED = Number(process.env["CHRONOMETRA_SEED"] ?? 7);
const AT_ONCE = 4;
/** Streams, and what would end the session of whoever calls. */
const SKIPPED = new Set(["GET /api/news", "DELETE /api/session", "POST /api/session", "PUT /api/session/password"]);

let world: TestWorld;
let tomas: Caller;
let token: string;
let calls: BadCalls;

/** The ids of all that stands in an answer. */
function idsIn(value: unknown, found = new Set<string>()): Set<string> {
  if (value === null || typeof value !== "object") return found;
  const { id } = value as { id?: unknown };
  if (typeof id === "string") found.add(id);
  for (const each of Object.values(value)) idsIn(each, found);
  return found;
}

beforeAll(async () => {
  world = await TestWorld.open();
  tomas = await world.caller("tomas", [
    ...(["administrator", "controller", "projectManager", "approver", "contributor", "reader"] as const),
  ]);
  await world.addAccount("dagny", ["administrator"]);
  await world.openPeriod(1, "2026-03-02", "2026-03-06");
  const project = await world.addProject(tomas.me, smallPlan());
  const base = `/api/projects/${project}`;
  const done = async (call: Promise<{ status: number; body: unknown }>): Promise<void> => {
    const { status, body } = await call;
    expect([status, body]).toEqual([200, expect.anything()]);
  };
  await done(tomas.send("post", "/api/programmes", { name: "Port", parent: null }));
  await done(tomas.send("post", `${base}/approvals`, { word: "as agreed" }));
  await done(tomas.send("post", `${base}/whatifs`, { name: "Later" }));
  const here = { about: "project", aboutId: "" };
  await done(tomas.send("post", `${base}/documents`, { ...here, name: "Chart", link: "https://a.example/" }));
  await done(tomas.send("post", "/api/talk", { place: { ...here, project }, text: "Noted" }));
  const purposes = Object.keys(TOKEN_PURPOSES);
  token = tokenOf(await tomas.send("post", "/api/tokens", { name: "Payroll", purposes, group: null }));
  const found = new Set<string>();
  for (const path of ["/api/portfolio", "/api/programmes", `${base}/plan`, `${base}/whatifs`, `${base}/documents`])
    idsIn((await tomas.get(path)).body, found);
  const whatif = [...idsIn((await tomas.get(`${base}/whatifs`)).body)][0]!;
  calls = new BadCalls(
    [...found].filter((id) => id !== tomas.me.id),
    { project, of: project, whatif, activity: "dig", milestone: "open", from: "plan", to: "plan", number: "1" },
  );
});
afterAll(() => world.drop());

/** Someone who goes on calling whatever happens; signed in again where a call of theirs ended their session. */
async function bad(agent: ReturnType<typeof request.agent>, session: string, call: BadCall) {
  const sent = agent[call.method](call.path).timeout(60_000);
  if (call.ofSystem) sent.set("Authorization", `Bearer ${token}`);
  else sent.set(TOKEN_HEADER, session);
  // As text, since what is no object is to be sent as well.
  const written = call.body === undefined ? undefined : JSON.stringify(call.body);
  const { status, text, body, headers } = await sent.type("json").send(written);
  return { status, text, type: String(headers["content-type"]), said: body as { code?: unknown; message?: unknown } };
}

describe(`${COUNT} calls that have gone wrong in some way`, () => {
  it("are answered in words or done, never with a failure that nobody expected", async () => {
    const agent = request.agent(world.app.app);
    const first = tokenOf(await agent.get("/api/session"));
    const signedIn = await agent
      .post("/api/session")
      .set(TOKEN_HEADER, first)
      .send({ login: "tomas", password: PASSWORD });
    const session = tokenOf(signedIn);
    const wrong: unknown[] = [];
    const counts = new Map<number, number>();
    const next = calls.some(COUNT, SEED, SKIPPED).values();
    const keepCalling = async (): Promise<void> => {
      for (const call of next) {
        const { status, text, type, said } = await bad(agent, session, call).catch((error: unknown) => ({
          ...{ status: 0, text: String(error), type: "", said: {} as { code?: unknown; message?: unknown } },
        }));
        counts.set(status, (counts.get(status) ?? 0) + 1);
        // Programs that read calendars show people what a text says.
        const isTold =
          status < 400 ||
          type.startsWith("text/plain") ||
          (typeof said.code === "string" && typeof said.message === "string");
        if (status >= 500 || status < 200 || !isTold)
          wrong.push([call.key, status, text?.slice(0, 200), JSON.stringify(call).slice(0, 600)]);
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, keepCalling));
    if (COUNT > 1000) console.info(Object.fromEntries(counts));
    expect(wrong).toEqual([]);
    expect(counts.get(200)).toBeGreaterThan(COUNT / 20);
    expect((await agent.get("/api/portfolio")).status).toBe(200);
  }, 3_600_000);
});
