import {
  endpoints,
  ROLES,
  TOKEN_PURPOSES,
  type EndpointKey,
  type Role,
  type TokenPurpose,
  type Tokens,
} from "@chronometra/contract";
import { pino } from "pino";
import request from "supertest";
import { createApp } from "../start/app.ts";
import { PASSWORD, smallPlan, TestWorld, tokenOf, type Caller } from "../testing/testWorld.ts";
import { AccountEntity, SessionEntity } from "./accountEntity.ts";
import { ACCESS } from "./accessTable.ts";

let world: TestWorld;
let project: string;
const callers = new Map<Role, Caller>();
const KEYS = Object.keys(endpoints) as EndpointKey[];

beforeAll(async () => {
  world = await TestWorld.open();
  for (const role of ROLES)
    callers.set(role, await world.caller(role.toLowerCase(), [role], role === "contributor" ? "ann" : null));
  project = await world.addProject(callers.get("projectManager")!.me, smallPlan());
});
afterAll(() => world.drop());

// A stream that is open never ends: it is asked of a project that is not there.
const addressOf = (key: EndpointKey): string =>
  key
    .replace(/^\w+ /, "")
    .replace(":project", project)
    .replace(":form", "json")
    .replace(":number", "1")
    .replace(/:\w+/g, "00000000-0000-0000-0000-000000000000");
const methodOf = (key: EndpointKey) =>
  key.slice(0, key.indexOf(" ")).toLowerCase() as "get" | "post" | "put" | "delete";

/** The roles that a call is for; `null` where it is not for roles. */
function rolesOf(key: EndpointKey): readonly Role[] | null {
  const access = ACCESS[key];
  return typeof access === "string" || "token" in access ? null : "house" in access ? access.house : access;
}

/** What a token must be made for to call something; `null` where it is not for other systems. */
function purposeOf(key: EndpointKey): TokenPurpose | null {
  const access = ACCESS[key];
  return typeof access === "object" && "token" in access ? access.token : null;
}

describe("who may do what", () => {
  it("every call of the contract is served, and every one stands in the table", () => {
    expect([...world.app.served].sort()).toEqual([...KEYS].sort());
    expect(Object.keys(ACCESS).sort()).toEqual([...KEYS].sort());
  });

  it.each(KEYS)("%s is closed to whoever is not signed in, unless the table opens it", async (key) => {
    const response = await request(world.app.app)[methodOf(key)](addressOf(key)).send({});
    if (ACCESS[key] !== "anyone")
      expect([response.status, response.body]).toEqual([401, expect.objectContaining({ code: "signInNeeded" })]);
    else expect(response.status).not.toBe(401);
  });

  const walk = KEYS.filter((key) => rolesOf(key) !== null).flatMap((key) => ROLES.map((role) => [role, key] as const));
  it.each(walk)("%s may call %s exactly where the table says so", async (role, key) => {
    const method = methodOf(key);
    const caller = callers.get(role)!;
    const response = await (method === "get" ? caller.get(addressOf(key)) : caller.send(method, addressOf(key), {}));
    const allowed = rolesOf(key)!.includes(role);
    if (allowed) expect([key, response.status]).not.toEqual([key, 403]);
    else {
      expect([response.status, response.body.code]).toEqual([403, "notAllowed"]);
      // It says who may, and what to do.
      expect(response.body.message).toMatch(
        /^(Only people with a reading role see plans|This is for [a-z, ]+)\. .*an administrator/,
      );
    }
  });

  const PURPOSES = Object.keys(TOKEN_PURPOSES) as TokenPurpose[];
  const forSystems = KEYS.filter((key) => purposeOf(key) !== null);
  const withToken = (key: EndpointKey, token: string) =>
    request(world.app.app)[methodOf(key)](addressOf(key)).set("Authorization", `Bearer ${token}`).send({});
  const tokenFor = async (purposes: TokenPurpose[]): Promise<{ id: string; token: string }> =>
    (await callers.get("administrator")!.send("post", "/api/tokens", { name: "Elsewhere", purposes })).body;

  it.each(PURPOSES)("a token made to %s does that and nothing else, and nothing for people", async (purpose) => {
    const { token } = await tokenFor([purpose]);
    for (const key of forSystems) {
      const { status, body } = await withToken(key, token);
      if (purposeOf(key) === purpose) expect([key, [200, 404, 422].includes(status)]).toEqual([key, true]);
      else
        expect([key, status, body.message]).toEqual([key, 403, expect.stringMatching(/^This token is not made to /)]);
    }
    for (const key of KEYS.filter((each) => rolesOf(each) !== null)) {
      const { status } = await withToken(key, token);
      expect([key, status]).toEqual([key, 401]);
    }
  });

  it("a token is refused from the day after its last one, and once it is revoked", async () => {
    const first = await tokenFor(PURPOSES);
    const second = await tokenFor(PURPOSES);
    await world.database.query("update api_token set last_day = '2020-01-31' where id = ?", [first.id]);
    expect((await callers.get("administrator")!.send("delete", `/api/tokens/${second.id}`)).status).toBe(200);
    for (const key of forSystems)
      for (const { token } of [first, second]) {
        const { status, body } = await withToken(key, token);
        expect([key, status, body.code]).toEqual([key, 401, "signInNeeded"]);
      }
    const list = (await callers.get("administrator")!.get("/api/tokens")).body as Tokens;
    expect(list.find(({ id }) => id === first.id)).toMatchObject({ ended: true, lastDay: "2020-01-31" });
    expect(list.some(({ id }) => id === second.id)).toBe(false);
  });

  it("a token is made for something, a group that is there, and a day to come", async () => {
    const make = async (body: object) =>
      (await callers.get("administrator")!.send("post", "/api/tokens", { name: "Elsewhere", ...body })).body.message;
    expect(await make({ purposes: [] })).toMatch(/say what the system may do/);
    expect(await make({ purposes: ["sendTime"], group: "nowhere" })).toMatch(/no such group any more/);
    expect(await make({ purposes: ["sendTime"], lastDay: "2020-01-31" })).toMatch(/has passed already/);
  });

  it("a project manager changes own projects only", async () => {
    const other = await world.caller("otherpm", ["projectManager"]);
    const body = { revision: 1, changes: [{ type: "setName", activity: "dig", name: "Dredge" }] };
    expect((await other.send("post", `/api/projects/${project}/changes`, body)).status).toBe(403);
    expect((await callers.get("projectManager")!.send("post", `/api/projects/${project}/changes`, body)).status).toBe(
      200,
    );
  });
});

describe("signing in", () => {
  it("keeps passwords as argon2id", async () => {
    const [account] = await world.database.getRepository(AccountEntity).find({ take: 1 });
    expect(account!.passwordHash).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
  });

  it("keeps sessions in the database, in a cookie that scripts cannot read, and ends them on signing out", async () => {
    const caller = await world.caller("leaver", ["reader"]);
    const holding = async (): Promise<number> =>
      (await world.database.getRepository(SessionEntity).find()).filter(({ data }) => data.includes(caller.me.id))
        .length;
    expect(await holding()).toBe(1);
    const out = await caller.send("delete", "/api/session");
    expect(out.status).toBe(200);
    expect(await holding()).toBe(0);
    expect((await caller.get("/api/portfolio")).status).toBe(401);
    const other = await world.caller("stayer", ["reader"]);
    const cookie = (await other.get("/api/session")).headers["set-cookie"]![0]!;
    expect(cookie).toMatch(/HttpOnly/);
    expect(cookie).toMatch(/SameSite=Lax/);
  });

  it("keeps nothing of whoever only comes by", async () => {
    const kept = async (): Promise<number> => world.database.getRepository(SessionEntity).count();
    const before = await kept();
    for (const cookie of ["", "chronometra=s%3Ainvented.signature"]) {
      const visit = await request(world.app.app).get("/api/session").set("cookie", cookie);
      expect([visit.status, visit.headers["set-cookie"]]).toEqual([200, undefined]);
      expect(tokenOf(visit)).toMatch(/.{20}/);
    }
    expect((await request(world.app.app).get("/api/portfolio")).status).toBe(401);
    expect(await kept()).toBe(before);
  });

  it("gives a new session id, so that one set before cannot be ridden on", async () => {
    const rider = await world.caller("rider", ["reader"]);
    const before = await rider.get("/api/session");
    const after = await rider.send("post", "/api/session", { login: "rider", password: PASSWORD });
    expect(after.headers["set-cookie"]![0]!.split(";")[0]).not.toBe(before.headers["set-cookie"]![0]!.split(";")[0]);
  });

  it("says the same of an unknown name and of a wrong password, and stops someone who goes on trying", async () => {
    const { attempt: from } = await trying();
    const unknown = await from("nobody", "not it");
    const wrong = await from("reader", "not it");
    expect(wrong.status).toBe(401);
    expect(wrong.body).toEqual(unknown.body);
    for (let i = 0; i < 5; i++) await from("reader", "not it");
    await goOn("reader");
    const stopped = await from("reader", PASSWORD);
    expect([stopped.status, stopped.body.code, Number(stopped.headers["retry-after"]) > 0]).toEqual([
      429,
      "tooMany",
      true,
    ]);
    // Another server beside this one counts on from there.
    const beside = await trying();
    expect((await beside.attempt("reader", PASSWORD)).status).toBe(429);
    await world.database.query("update sign_in_miss set last_at = last_at - 3600000");
    expect((await beside.attempt("reader", PASSWORD)).status).toBe(200);
    expect(await world.database.query("select who from sign_in_miss where who like 'reader%'")).toEqual([]);
  });

  it("shuts out nobody else behind the same address, and is not passed by forged headers, nor by many at once", async () => {
    const { attempt } = await trying();
    const many = await Promise.all(Array.from({ length: 12 }, (_, i) => attempt("approver", "not it", `10.0.0.${i}`)));
    const statuses = many.map(({ status }) => status);
    // Five are free, though they come together; what is over is not looked at.
    expect([statuses.filter((status) => status === 401).length >= 5, statuses.includes(429)]).toEqual([true, true]);
    await goOn("approver");
    expect((await attempt("approver", PASSWORD, "10.9.9.9")).status).toBe(429);
    expect((await attempt("contributor", PASSWORD)).status).toBe(200);
  });

  it("believes a proxy that is named where a call comes from, and no other", async () => {
    const { attempt } = await trying({ proxies: "loopback" });
    for (let i = 0; i < 6; i++) await attempt("controller", "not it", "10.0.0.1");
    await goOn("controller");
    expect([
      (await attempt("controller", PASSWORD, "10.0.0.1")).status,
      (await attempt("controller", PASSWORD, "10.0.0.2")).status,
    ]).toEqual([429, 200]);
  });

  it("guesses at the current password are limited as those at signing in", async () => {
    const guessing = await world.caller("guessed", ["reader"]);
    for (let i = 0; i < 6; i++)
      await guessing.send("put", "/api/session/password", { current: `guess ${i}`, next: "another password" });
    await goOn("guessed");
    expect(
      (await guessing.send("put", "/api/session/password", { current: PASSWORD, next: "another password" })).status,
    ).toBe(429);
  });

  /** As if someone had missed some more just now: the first pauses are so short that a slow machine waits them out. */
  const goOn = (login: string): Promise<unknown> =>
    world.database.query("update sign_in_miss set misses = misses + 8, last_at = ? where who like ? and misses >= 5", [
      Date.now(),
      `${login} %`,
    ]);

  /** A server beside the world's own, and tries at its door. */
  async function trying(
    options: { proxies?: string } = {},
  ): Promise<{ attempt: (login: string, password: string, forwardedFor?: string) => Promise<request.Response> }> {
    const agent = request.agent(
      createApp({ database: world.database, logger: pino({ level: "silent" }), ...options }).app,
    );
    const token = tokenOf(await agent.get("/api/session"));
    const attempt = async (login: string, password: string, forwardedFor?: string): Promise<request.Response> =>
      agent
        .post("/api/session")
        .set({
          "x-chronometra-token": token,
          ...(forwardedFor === undefined ? {} : { "x-forwarded-for": forwardedFor }),
        })
        .send({ login, password });
    return { attempt };
  }

  it("changes nothing for a call without the session's token", async () => {
    const agent = request.agent(world.app.app);
    await agent.get("/api/session");
    const refused = await agent.post("/api/session").send({ login: "reader", password: PASSWORD });
    expect([refused.status, refused.body.code]).toEqual([403, "tokenMissing"]);
  });

  it("sends the headers that keep a page from being framed or scripted from outside", async () => {
    const { headers } = await request(world.app.app).get("/api/session");
    expect(headers["content-security-policy"]).toMatch(/script-src 'self'/);
    expect(headers["content-security-policy"]).toMatch(/frame-ancestors 'self'/);
    expect(headers["x-content-type-options"]).toBe("nosniff");
    expect(headers["x-powered-by"]).toBeUndefined();
  });
});

describe("accounts", () => {
  it("an administrator adds someone, who can sign in and change the password, which ends other sessions", async () => {
    const admin = callers.get("administrator")!;
    const added = await admin.send("post", "/api/accounts", {
      login: "Nils",
      name: "Nils",
      roles: ["reader"],
      person: null,
      password: "ten letters",
    });
    expect([added.status, added.body.login]).toEqual([200, "nils"]);
    expect(
      (
        await admin.send("post", "/api/accounts", {
          login: "nils",
          name: "Nils",
          roles: [],
          person: null,
          password: "ten letters",
        })
      ).status,
    ).toBe(409);
    const short = await admin.send("post", "/api/accounts", {
      login: "kurt",
      name: "Kurt",
      roles: [],
      person: null,
      password: "short",
    });
    expect([short.status, short.body.message]).toEqual([422, "password: a password has at least 10 characters"]);
    expect(
      (
        await admin.send("put", `/api/accounts/${added.body.id}`, {
          name: "Nils B.",
          roles: ["reader", "approver"],
          person: "ann",
        })
      ).body,
    ).toMatchObject({ name: "Nils B.", person: "ann" });
  });

  it("someone must remain administrator", async () => {
    const admin = callers.get("administrator")!;
    const refused = await admin.send("put", `/api/accounts/${admin.me.id}`, {
      name: "Admin",
      roles: ["reader"],
      person: null,
    });
    expect([refused.status, refused.body.message]).toEqual([
      422,
      expect.stringContaining("Someone must remain administrator"),
    ]);
  });

  it("one's own password needs the current one, and ends all other sessions", async () => {
    const one = await world.caller("twice", ["reader"]);
    expect(
      (await one.send("put", "/api/session/password", { current: "wrong", next: "another password" })).status,
    ).toBe(422);
    const elsewhere = request.agent(world.app.app);
    const token = tokenOf(await elsewhere.get("/api/session"));
    await elsewhere.post("/api/session").set("x-chronometra-token", token).send({ login: "twice", password: PASSWORD });
    expect((await elsewhere.get("/api/portfolio")).status).toBe(200);
    expect(
      (await one.send("put", "/api/session/password", { current: PASSWORD, next: "another password" })).status,
    ).toBe(200);
    expect((await elsewhere.get("/api/portfolio")).status).toBe(401);
    expect((await one.get("/api/portfolio")).status).toBe(200);
  });
});
