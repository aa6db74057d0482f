import { get } from "node:http";
import { createConnection } from "mysql2/promise";
import { pino } from "pino";
import { addAccount, hashPassword } from "../apps/server/src/access/accounts.ts";
import { createApp } from "../apps/server/src/app.ts";
import { createProject } from "../apps/server/src/portfolio/createProject.ts";
import { inTransaction, openDatabase } from "../apps/server/src/shared/database.ts";
import { freezePlan, type PlanBundle } from "@chronometra/core";
import { leastOf, ratioLine, type Line } from "./measure.ts";
import { largePlan } from "./plans.ts";

const PROJECTS = 300;
const ACTIVITIES = 500;

function projectPlan(i: number): PlanBundle {
  const plan = largePlan({ activities: ACTIVITIES, linksEach: 2, calendars: 3, progress: 0.4 });
  const activities = plan.activities.map((activity, k) => (k % 50 === 49 ? { id: activity.id, name: `Milestone ${k}`, kind: "milestone" as const, deadline: "2027-06-30" } : activity));
  const whole = { ...plan, activities, project: { ...plan.project, code: `B-${i}`, name: `Project ${i}` } };
  return { ...whole, baselines: [{ number: 1, approvedOn: "2026-01-15", approvedBy: "x", reason: "y", ...freezePlan(whole) }] };
}

/** Reads a response to its end and makes nothing of it: what the browser does with it is not the server's time. */
const readAll = (address: string, cookie: string): Promise<void> =>
  new Promise((resolve, reject) => {
    get(address, { headers: { cookie } }, (response) => response.resume().on("end", resolve)).on("error", reject);
  });

/** The portfolio page from the server, against the same rows read by the bare driver. */
export async function portfolioLines(url: string): Promise<Line[]> {
  const database = await openDatabase(url);
  const me = await addAccount(database, { login: "bench", name: "Bench", passwordHash: await hashPassword("a benchmark's password"), roles: ["controller"], personId: null });
  for (let i = 0; i < PROJECTS; i++) await inTransaction(database, (tx) => createProject(tx, me, { bundle: projectPlan(i), programmeId: null, managerId: me.id, label: "bench" }));
  const { app } = createApp({ database, logger: pino({ level: "silent" }) });
  const server = app.listen(0);
  const address = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
  const first = await fetch(`${address}/api/session`);
  const jar = (response: Response): string => response.headers.get("set-cookie")!.split(";")[0]!;
  const { token } = (await first.json()) as { token: string };
  const signedIn = await fetch(`${address}/api/session`, { method: "POST", headers: { cookie: jar(first), "content-type": "application/json", "x-chronometra-token": token }, body: JSON.stringify({ login: "bench", password: "a benchmark's password" }) });
  const cookie = jar(signedIn);
  const page = await leastOf(25, () => readAll(`${address}/api/portfolio`, cookie));
  const bare = await createConnection(url);
  const rows = await leastOf(25, () => bare.query("select p.*, f.summary, f.people from project p join figures f on f.project_id = p.id and f.revision = p.revision"));
  await bare.end();
  server.closeAllConnections();
  server.close();
  await database.destroy();
  return [ratioLine(`Portfolio page from the server, ${PROJECTS} projects, ${PROJECTS * ACTIVITIES} activities`, page, "the same rows with the bare driver", rows, 3)];
}
