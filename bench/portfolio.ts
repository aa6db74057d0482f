import { get } from "node:http";
import { createConnection } from "mysql2/promise";
import { createProject } from "../apps/server/dist/begin/createProject.js";
import { FACTS_SQL } from "../apps/server/dist/portfolio/facts.js";
import { inTransaction } from "../apps/server/dist/shared/database.js";
import { freezePlan, fromBundle, type PlanBundle } from "@chronometra/core";
import { findLines, nameOf } from "./find.ts";
import { leastOf, ratioLine, type Line } from "./measure.ts";
import { largePlan } from "./plans.ts";
import { watchLines } from "./watch.ts";
import { openBenchServer } from "./server.ts";

const PROJECTS = 300;
const ACTIVITIES = 500;

function projectPlan(i: number): PlanBundle {
  const plan = largePlan({ activities: ACTIVITIES, linksEach: 2, calendars: 3, progress: 0.4 });
  const activities = plan.activities.map((activity, k) =>
    k % 50 === 49
      ? { id: activity.id, name: `Milestone ${k}`, kind: "milestone" as const, deadline: "2027-06-30" }
      : { ...activity, name: nameOf(k + i) },
  );
  const whole = { ...plan, activities, project: { ...plan.project, code: `B-${i}`, name: `Project ${i}` } };
  return {
    ...whole,
    baselines: [{ number: 1, approvedOn: "2026-01-15", approvedBy: "x", reason: "y", ...freezePlan(whole) }],
  };
}

/** What the page says of each project, read in one piece. */
const FIGURES_SQL = `select p.id, p.code, json_value(p.head, '$.name') as name, p.programme_id as programme, p.manager_id as managerId, p.revision, f.line as summary, f.people
  from project p join figures f on f.project_id = p.id and f.revision = p.revision`;

/** Reads a response to its end and makes nothing of it: what the browser does with it is not the server's time. */
const readAll = (address: string, cookie: string): Promise<void> =>
  new Promise((resolve, reject) => {
    get(address, { headers: { cookie } }, (response) => response.resume().on("end", resolve)).on("error", reject);
  });

/** The portfolio page from the server, against the same rows read by the bare driver. */
export async function portfolioLines(url: string): Promise<Line[]> {
  const { database, me, address, headers, close } = await openBenchServer(url, "bench_portfolio");
  for (let i = 0; i < PROJECTS; i++)
    await inTransaction(database, (tx) =>
      createProject(tx, me, { plan: fromBundle(projectPlan(i)), programmeId: null, managerId: me.id, label: "bench" }),
    );
  const page = await leastOf(25, () => readAll(`${address}/api/portfolio`, headers.cookie));
  const bare = await createConnection(url.replace(/[^/]+$/, "bench_portfolio"));
  const rows = await leastOf(25, async () => {
    await bare.query(FACTS_SQL);
    await bare.query(FIGURES_SQL);
  });
  await bare.end();
  const watched = await watchLines(database, me, PROJECTS * ACTIVITIES);
  const found = await findLines(database, me, PROJECTS * ACTIVITIES);
  await close();
  return [
    ...watched,
    ...found,
    ratioLine(
      `Portfolio page from the server, ${PROJECTS} projects, ${PROJECTS * ACTIVITIES} activities`,
      page,
      "the same rows with the bare driver",
      rows,
      3,
    ),
  ];
}
