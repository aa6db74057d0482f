import { spawn, type ChildProcess } from "node:child_process";
import { createServer } from "node:net";
import { join } from "node:path";
import request from "supertest";
import { PASSWORD, tokenOf } from "./testWorld.ts";

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const probe = createServer().listen(0, "127.0.0.1", () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });

/** What is built is at hand in a fraction of the time; by hand, the sources as they are now are run. */
const START =
  process.env["CHRONOMETRA_TEST_SERVER"] === "built"
    ? ["--enable-source-maps", "dist/main.js"]
    : ["--conditions=development", "--import", "tsx", "src/main.ts"];

const running = new Set<ChildProcess>();

/** A server of its own process on a database, as it is really run. */
export async function startServer(
  url: string,
  env: Readonly<Record<string, string>> = {},
): Promise<{ address: string; kill: () => void }> {
  const port = await freePort();
  const server = spawn(process.execPath, START, {
    cwd: join(__dirname, "../.."),
    env: {
      ...process.env,
      CHRONOMETRA_DATABASE: url,
      CHRONOMETRA_PORT: String(port),
      CHRONOMETRA_EMPTY: "1",
      CHRONOMETRA_SECRET: "a secret of tests",
      ...env,
    },
    stdio: ["ignore", "pipe", "inherit"],
  });
  running.add(server);
  await new Promise<void>((resolve, reject) => {
    server.stdout!.on("data", (chunk: Buffer) => chunk.toString().includes("is ready") && resolve());
    server.on("exit", (code) => reject(new Error(`the server ended with ${code} before it was ready`)));
  });
  return { address: `http://127.0.0.1:${port}`, kill: () => void server.kill("SIGKILL") };
}

/** Ends all that were started. */
export const killServers = (): void => running.forEach((server) => server.kill("SIGKILL"));

/** Someone signed in at an address. */
export async function signInAt(
  address: string,
  login: string,
): Promise<{
  get: (path: string) => request.Test;
  send: (method: "post" | "put" | "delete", path: string, body?: object) => request.Test;
}> {
  const agent = request.agent(address);
  const first = tokenOf(await agent.get("/api/session"));
  const signedIn = await agent
    .post("/api/session")
    .set("x-chronometra-token", first)
    .send({ login, password: PASSWORD });
  const token = tokenOf(signedIn);
  return {
    get: (path) => agent.get(path),
    send: (method, path, body) => agent[method](path).set("x-chronometra-token", token).send(body),
  };
}
