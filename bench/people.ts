import { spawn, type ChildProcess } from "node:child_process";
import { readFileSync } from "node:fs";
import { createConnection } from "mysql2/promise";
import type { Line } from "./measure.ts";

const PEOPLE = 50;
const THOUGHT_MILLISECONDS = 1000;
const PHASE_MILLISECONDS = 25_000;
const LIMIT_MILLISECONDS = 150;
const PORT = 4790;
/** Until threads that have nothing to do have ended. */
const REST_MILLISECONDS = 70_000;
const PASSWORD = "saltmarrow";

interface Session {
  readonly cookie: string;
  readonly token: string;
}

interface Person extends Session {
  readonly calls: readonly Call[];
}

const address = `http://127.0.0.1:${PORT}`;
const cookieOf = (response: Response): string => response.headers.get("set-cookie")!.split(";")[0]!;

async function signIn(login: string): Promise<Session> {
  const first = await fetch(`${address}/api/session`);
  const signedIn = await fetch(`${address}/api/session`, {
    method: "POST",
    headers: {
      cookie: cookieOf(first),
      "content-type": "application/json",
      "x-chronometra-token": ((await first.json()) as { token: string }).token,
    },
    body: JSON.stringify({ login, password: PASSWORD }),
  });
  if (signedIn.status !== 200) throw new Error(`${login} cannot sign in: ${signedIn.status}`);
  return { cookie: cookieOf(signedIn), token: ((await signedIn.json()) as { token: string }).token };
}

async function call({ cookie, token }: Session, path: string, body?: object): Promise<Response> {
  const response = await fetch(`${address}${path}`, {
    method: body === undefined ? "GET" : "POST",
    headers: { cookie, "content-type": "application/json", "x-chronometra-token": token },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`);
  return response;
}

/** The demo world on a server of its own process, as it is really run. */
async function startDemo(url: string): Promise<ChildProcess> {
  const admin = await createConnection(url);
  await admin.query("create database bench_people");
  await admin.end();
  const server = spawn("ops/serve", {
    env: {
      ...process.env,
      CHRONOMETRA_DATABASE: url.replace(/[^/]+$/, "bench_people"),
      CHRONOMETRA_PORT: String(PORT),
    },
    stdio: ["ignore", "pipe", "inherit"],
  });
  await new Promise<void>((resolve, reject) => {
    server.stdout!.on("data", (chunk: Buffer) => chunk.toString().includes("is ready") && resolve());
    server.on("exit", (code) => reject(new Error(`the server ended with ${code} before it was ready`)));
  });
  return server;
}

/** The resident memory of a process in megabytes. */
function residentOf({ pid }: ChildProcess): number {
  const kilobytes = /VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))![1]!;
  return Math.round(Number(kilobytes) / 1024);
}

type Call = (project: string) => [path: string, body?: object];

const LOOKING: readonly Call[] = [
  () => ["/api/portfolio"],
  (project) => [`/api/projects/${project}`],
  (project) => [`/api/projects/${project}/plan`],
  (project) => [`/api/projects/${project}/quality`],
  () => ["/api/deadlines"],
  () => ["/api/find", { text: "pour" }],
];
const PLANNING: readonly Call[] = [
  ...LOOKING,
  (project) => [
    `/api/projects/${project}/effect`,
    { revision: 1, changes: [{ type: "setDataDate", date: "2026-12-04" }] },
  ],
];
const BOOKING: readonly Call[] = [() => ["/api/desk"], () => ["/api/session"]];

/** What people do all day. */
const CALLS: Readonly<Record<string, readonly Call[]>> = {
  ines: PLANNING,
  tomas: LOOKING,
  margit: LOOKING,
  quill: LOOKING,
  amadou: BOOKING,
  brigid: BOOKING,
};

/** Everyone at work for a while; gives the times of all calls, sorted. */
async function atWork(people: readonly Person[], projects: readonly string[]): Promise<number[]> {
  const times: number[] = [];
  const until = performance.now() + PHASE_MILLISECONDS;
  await Promise.all(
    people.map(async ({ calls, ...session }, person) => {
      await pause(Math.random() * THOUGHT_MILLISECONDS);
      for (let i = person; performance.now() < until; i++) {
        const [path, body] = calls[i % calls.length]!(projects[(i * 7) % projects.length]!);
        const from = performance.now();
        await (await call(session, path, body)).arrayBuffer();
        times.push(performance.now() - from);
        await pause(THOUGHT_MILLISECONDS * (0.5 + Math.random()));
      }
    }),
  );
  return times.sort((a, b) => a - b);
}

const pause = (milliseconds: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, milliseconds));

function lineOf(what: string, times: readonly number[]): Line {
  const at = (share: number): number => times[Math.floor(times.length * share)]!;
  return {
    what,
    measured: `${times.length} calls, p50 ${at(0.5).toFixed(0)} ms, p95 ${at(0.95).toFixed(0)} ms, most ${times.at(-1)!.toFixed(0)} ms`,
    yardstick: "p95 in milliseconds",
    value: at(0.95),
    limit: LIMIT_MILLISECONDS,
  };
}

/** Does something again and again while others work; gives how often. */
async function beside<T>(
  work: () => Promise<unknown>,
  others: () => Promise<T>,
): Promise<{ result: T; count: number }> {
  let going = true;
  let count = 0;
  const busy = (async () => {
    for (; going; count++) await work();
  })();
  const result = await others();
  going = false;
  await busy;
  return { result, count };
}

/** Fifty people at work on the demo world: alone, beside two simulations, beside exports; and what the server takes up. */
export async function peopleLines(url: string): Promise<Line[]> {
  const server = await startDemo(url);
  try {
    await pause(REST_MILLISECONDS);
    const atRest = residentOf(server);
    const logins = Object.keys(CALLS);
    const people: Person[] = [];
    for (let i = 0; i < PEOPLE; i++) {
      const login = logins[i % logins.length]!;
      people.push({ ...(await signIn(login)), calls: CALLS[login]! });
    }
    const controller = people[0]!;
    const { projects } = (await (await call(controller, "/api/portfolio")).json()) as { projects: { id: string }[] };
    const ids = projects.map(({ id }) => id);
    const work = (): Promise<number[]> => atWork(people, ids);
    await work();
    const alone = await work();
    const simulate = (i: number): Promise<Response> =>
      call(controller, `/api/projects/${ids[i]}/chances`, {
        runs: 10_000,
        seed: i,
        otherwise: "usual",
        correlation: 0.2,
      });
    const simulated = await beside(() => Promise.all([simulate(0), simulate(1)]), work);
    const exported = await beside(() => call(controller, `/api/projects/${ids[0]}/export/xlsx`), work);
    await pause(REST_MILLISECONDS);
    const memory = (what: string, megabytes: number, limit: number): Line => ({
      what,
      measured: `${megabytes} MB resident`,
      yardstick: "megabytes",
      value: megabytes,
      limit,
    });
    return [
      lineOf(`${PEOPLE} people at work, 1 s thought, demo`, alone),
      lineOf(`The same beside two simulations at a time, ${simulated.count} rounds`, simulated.result),
      lineOf(`The same beside exports of a workbook, ${exported.count} of them`, exported.result),
      memory("The server with the demo at rest", atRest, 250),
      memory("The server at rest after that work", residentOf(server), 400),
    ];
  } finally {
    server.kill("SIGKILL");
  }
}
