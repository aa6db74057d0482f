import { createConnection } from "mysql2/promise";
import { pino } from "pino";
import type { DataSource } from "typeorm";
import { addAccount, hashPassword } from "../apps/server/dist/access/accounts.js";
import { createApp } from "../apps/server/dist/start/app.js";
import { openDatabase } from "../apps/server/dist/start/openDatabase.js";
import type { Me } from "@chronometra/contract";

const PASSWORD = "a benchmark's password";

/** A server of its own database, with one controller. */
export interface BenchServer {
  readonly database: DataSource;
  readonly me: Me;
  readonly address: string;
  readonly login: string;
  readonly password: string;
  /** Headers of the controller's session. */
  readonly headers: {
    readonly cookie: string;
    readonly "content-type": string;
    readonly "x-chronometra-token": string;
  };
  readonly close: () => Promise<void>;
}

/** Opens an empty database beside the one given and serves it. */
export async function openBenchServer(url: string, name: string, webFolder?: string): Promise<BenchServer> {
  const admin = await createConnection(url);
  await admin.query(`create database ${name}`);
  await admin.end();
  const database = await openDatabase(url.replace(/[^/]+$/, name));
  const me = await addAccount(database, {
    login: "bench",
    name: "Bench",
    passwordHash: await hashPassword(PASSWORD),
    roles: ["controller"],
    personId: null,
  });
  const { app, close } = createApp({
    database,
    logger: pino({ level: "silent" }),
    ...(webFolder === undefined ? {} : { webFolder }),
  });
  const server = app.listen(0);
  const address = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
  const first = await fetch(`${address}/api/session`);
  const jar = (response: Response): string => response.headers.get("set-cookie")!.split(";")[0]!;
  const { token } = (await first.json()) as { token: string };
  const signedIn = await fetch(`${address}/api/session`, {
    method: "POST",
    headers: { cookie: jar(first), "content-type": "application/json", "x-chronometra-token": token },
    body: JSON.stringify({ login: "bench", password: PASSWORD }),
  });
  const session = (await signedIn.json()) as { token: string };
  return {
    database,
    me,
    address,
    login: "bench",
    password: PASSWORD,
    headers: { cookie: jar(signedIn), "content-type": "application/json", "x-chronometra-token": session.token },
    close: async () => {
      close();
      server.closeAllConnections();
      server.close();
      await database.destroy();
    },
  };
}
