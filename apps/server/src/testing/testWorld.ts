import { randomBytes, randomUUID } from "node:crypto";
import type { Account, Me, Role } from "@chronometra/contract";
import { fromBundle, type PlanBundle } from "@chronometra/core";
import { createConnection } from "mysql2/promise";
import { pino } from "pino";
import request from "supertest";
import { DataSource } from "typeorm";
import { addAccount, hashPassword } from "../access/accounts.ts";
import { createApp, type AppOptions } from "../start/app.ts";
import { ReportingPeriodEntity } from "../cycle/cycleEntities.ts";
import { createProject } from "../begin/createProject.ts";
import { inTransaction } from "../shared/database.ts";
import { stopWorkers } from "../shared/workers.ts";
import { openDatabase } from "../start/openDatabase.ts";
import { TOKEN_HEADER } from "../access/serve.ts";

export const PASSWORD = "a long test password";

/**
 * A database of its own for one test file, with the schema in it.
 * @param before SQL of what is in it before the schema is brought up to date
 */
export async function freshDatabase(
  before?: string,
): Promise<{ url: string; database: DataSource; drop: () => Promise<void> }> {
  const server = process.env["CHRONOMETRA_TEST_DATABASE"]!;
  const name = `t_${randomBytes(6).toString("hex")}`;
  const admin = new DataSource({ type: "mariadb", url: `${server}/mysql` });
  await admin.initialize();
  await admin.query(`create database ${name}`);
  const url = `${server}/${name}`;
  if (before !== undefined) {
    const filling = await createConnection({ uri: url, multipleStatements: true });
    await filling.query(before);
    await filling.end();
  }
  const database = await openDatabase(url);
  return {
    url,
    database,
    drop: async () => {
      await stopWorkers();
      await database.destroy();
      await admin.query(`drop database ${name}`);
      await admin.destroy();
    },
  };
}

/** Someone signed in over HTTP. */
export interface Caller {
  readonly me: Me;
  get(path: string): request.Test;
  send(method: "post" | "put" | "delete", path: string, body?: object): request.Test;
}

/**
 * No sentence of the server says a date as files do; what is quoted of a caller stays as they wrote it, and so does how
 * to write one.
 */
function speaksToPeople({ body }: request.Response): void {
  const said = Array.isArray(body)
    ? (body as { label?: unknown }[]).map((each) => each?.label)
    : [(body as { message?: unknown } | null)?.message];
  for (const words of said)
    if (
      typeof words === "string" &&
      !words.includes("YYYY-MM-DD") &&
      /\d{4}-\d{2}-\d{2}/.test(words.replace(/"[^"]*"|“[^”]*”/g, ""))
    )
      throw new Error(`A sentence says a date as files do: ${words}`);
}

/** An installation without a port: its database, its app, and people of every role. */
export class TestWorld {
  private constructor(
    readonly url: string,
    readonly database: DataSource,
    readonly app: ReturnType<typeof createApp>,
    readonly drop: () => Promise<void>,
    private readonly passwordHash: string,
  ) {}

  static async open(options: Partial<AppOptions> = {}): Promise<TestWorld> {
    const { url, database, drop } = await freshDatabase();
    const app = createApp({
      database,
      logger: pino({ level: "silent" }),
      ...options,
      mail: { togetherMilliseconds: 0, ...options.mail },
    });
    return new TestWorld(url, database, app, drop, await hashPassword(PASSWORD));
  }

  addAccount(login: string, roles: Role[], person: string | null = null, only: Account["only"] = {}): Promise<Me> {
    return addAccount(this.database, {
      login,
      name: login.charAt(0).toUpperCase() + login.slice(1),
      passwordHash: this.passwordHash,
      roles,
      only,
      personId: person,
    });
  }

  /** Adds an account and signs it in. */
  async caller(
    login: string,
    roles: Role[],
    person: string | null = null,
    only: Account["only"] = {},
  ): Promise<Caller> {
    const me = await this.addAccount(login, roles, person, only);
    const agent = request.agent(this.app.app);
    const first = await agent.get("/api/session");
    const signedIn = await agent
      .post("/api/session")
      .set(TOKEN_HEADER, tokenOf(first))
      .send({ login, password: PASSWORD });
    if (signedIn.status !== 200) throw new Error(`${login} could not sign in: ${signedIn.text}`);
    const token = tokenOf(signedIn);
    return {
      me,
      get: (path) => agent.get(path).expect(speaksToPeople),
      send: (method, path, body) => agent[method](path).set(TOKEN_HEADER, token).send(body).expect(speaksToPeople),
    };
  }

  /** Stores a plan as a project of that manager; gives its id. */
  async addProject(manager: Me, bundle: PlanBundle, programmeId: string | null = null): Promise<string> {
    const project = await inTransaction(this.database, (tx) =>
      createProject(tx, manager, {
        plan: fromBundle(bundle),
        programmeId,
        managerId: manager.id,
        label: "Brought by a test",
      }),
    );
    return project.id;
  }

  async openPeriod(number: number, fromDate: string, dataDate: string): Promise<void> {
    await this.database
      .getRepository(ReportingPeriodEntity)
      .insert({ number, fromDate, dataDate, issueBy: `${dataDate}T18:00` });
  }
}

export const tokenOf = (response: request.Response): string => (response.body as { token: string }).token;

const DAY: [string, string][] = [
  ["08:00", "12:00"],
  ["13:00", "17:00"],
];

/** A small plan: dig, pour after it, a milestone after that; two people, material at the start, Monday 2 March 2026. */
export function smallPlan(extra: Partial<PlanBundle> = {}): PlanBundle {
  const { project, ...rest } = extra;
  return {
    format: "chronometra-plan",
    version: 1,
    project: {
      code: `T-${randomUUID().slice(0, 8)}`,
      name: "Slipway",
      currency: "EUR",
      start: "2026-03-02",
      calendar: "std",
      ...project,
    },
    calendars: [{ id: "std", name: "Standard", week: { mon: DAY, tue: DAY, wed: DAY, thu: DAY, fri: DAY } }],
    people: [
      { id: "ann", name: "Ann", rates: [{ from: "2026-01-01", perHourMinor: 6000 }] },
      { id: "bo", name: "Bo", rates: [{ from: "2026-01-01", perHourMinor: 3000 }] },
    ],
    activities: [
      { id: "works", name: "Works", kind: "summary" },
      { id: "dig", name: "Dig", parent: "works", durationMinutes: 2400 },
      { id: "pour", name: "Pour", parent: "works", durationMinutes: 1440 },
      { id: "open", name: "Open", kind: "milestone", deadline: "2026-03-13" },
    ],
    links: [
      { from: "dig", to: "pour" },
      { from: "pour", to: "open" },
    ],
    assignments: [
      { activity: "dig", person: "ann", plannedMinutes: 2400 },
      { activity: "pour", person: "bo", plannedMinutes: 1440 },
    ],
    costs: [{ id: "c1", activity: "pour", category: "material", plannedMinor: 100_000, timing: "start" }],
    ...rest,
  };
}
