import { createProject } from "../apps/server/dist/begin/createProject.js";
import { inTransaction } from "../apps/server/dist/shared/database.js";
import { freezePlan, fromBundle, type Change } from "@chronometra/core";
import { limitLine, type Line } from "./measure.ts";
import { largePlan } from "./plans.ts";
import { openBenchServer } from "./server.ts";

const ACTIVITIES = 5_000;
const SAVES = 41;
/** Saves until a thread that has just begun has its code made ready; what they take is told beside. */
const WARM_UP = 20;
const LIMIT_MILLISECONDS = 60;
const LARGE_ACTIVITIES = 50_000;
const LARGE_SAVES = 15;
const LARGE_WARM_UP = 6;
const LARGE_MILLISECONDS = 250;
const MANY_ACTIVITIES = 10_000;
const MANY_CHANGES = 5_000;
const MANY_MILLISECONDS = 1_000;

/** A plan with progress, frozen as its own baseline. */
function approvedPlan(activities: number) {
  const bare = largePlan({ activities, linksEach: 2, calendars: 5, progress: 0.3 });
  const baseline = { number: 1, approvedOn: "2026-01-15", approvedBy: "x", reason: "y", ...freezePlan(bare) };
  return { ...bare, project: { ...bare.project, code: `L${activities}` }, baselines: [baseline] };
}

/** A list of very many changes, checked, applied and stored as one revision. */
export async function manyLines(url: string): Promise<Line[]> {
  const { database, me, address, headers, close } = await openBenchServer(url, "bench_many");
  const project = await inTransaction(database, (tx) =>
    createProject(tx, me, {
      plan: fromBundle(approvedPlan(MANY_ACTIVITIES)),
      programmeId: null,
      managerId: me.id,
      label: "bench",
    }),
  );
  const times: number[] = [];
  for (let revision = 1; revision <= 4; revision++) {
    const changes: Change[] = Array.from({ length: MANY_CHANGES }, (_, i) => ({
      type: "setDuration",
      activity: `a${4_000 + i}`,
      minutes: 480 * (1 + ((i + revision) % 9)),
    }));
    const from = performance.now();
    const response = await fetch(`${address}/api/projects/${project.id}/changes`, {
      method: "POST",
      headers,
      body: JSON.stringify({ revision, changes }),
    });
    await response.arrayBuffer();
    if (response.status !== 200) throw new Error(`a list was refused: ${response.status}`);
    times.push(performance.now() - from);
  }
  await close();
  // The first of a server sends the plan to its thread.
  const what = `A list of ${MANY_CHANGES} changes checked, applied and saved, ${MANY_ACTIVITIES} activities`;
  return [limitLine(what, Math.min(...times.slice(1)), MANY_MILLISECONDS)];
}

/** How often one change is stored into a plan of some size, and how long it may take. */
interface Saving {
  readonly activities: number;
  readonly saves: number;
  readonly warmUp: number;
  readonly limit: number;
}

const SAVINGS: readonly Saving[] = [
  { activities: ACTIVITIES, saves: SAVES, warmUp: WARM_UP, limit: LIMIT_MILLISECONDS },
  { activities: LARGE_ACTIVITIES, saves: LARGE_SAVES, warmUp: LARGE_WARM_UP, limit: LARGE_MILLISECONDS },
];

const aLength = (i: number): Change => ({ type: "setDuration", activity: `a${2000 + i}`, minutes: 4800 + i });
const aRow = (i: number): Change => ({
  type: "addRow",
  table: "activities",
  key: `n${i}`,
  row: { id: `n${i}`, name: "New", durationMinutes: 480 },
  before: "a2500",
});

/** One change stored through the server, figures made and kept with it: of a cell, and of a row put in the middle. */
export async function savingLines(url: string): Promise<Line[]> {
  const { database, me, address, headers, close } = await openBenchServer(url, "bench_saving");
  const lines: Line[] = [];
  for (const { activities, saves, warmUp, limit } of SAVINGS) {
    const project = await inTransaction(database, (tx) =>
      createProject(tx, me, {
        plan: fromBundle(approvedPlan(activities)),
        programmeId: null,
        managerId: me.id,
        label: "bench",
      }),
    );
    let revision = 1;
    const save = async (change: Change): Promise<number> => {
      const from = performance.now();
      const response = await fetch(`${address}/api/projects/${project.id}/changes`, {
        method: "POST",
        headers,
        body: JSON.stringify({ revision, changes: [change] }),
      });
      const result = (await response.json()) as { revision: number };
      const took = performance.now() - from;
      if (response.status !== 200) throw new Error(`a change was refused: ${response.status}`);
      revision = result.revision;
      return took;
    };
    for (const [what, change] of [["a length", aLength] as const, ["a row in the middle", aRow] as const]) {
      const times: number[] = [];
      for (let i = 0; i < saves; i++) times.push(await save(change(i)));
      const sorted = times.slice(warmUp).sort((a, b) => a - b);
      const value = sorted[Math.floor(sorted.length / 2)]!;
      const [least, most] = [sorted[0]!, sorted.at(-1)!].map((each) => each.toFixed(0));
      const spread = `median ${value.toFixed(0)} ms, least ${least} ms, most ${most} ms`;
      lines.push({
        what: `A change saved, figures included, ${activities} activities: ${what}`,
        measured: `${spread}; the first ${times[0]!.toFixed(0)} ms`,
        yardstick: `${limit} ms`,
        value,
        limit,
      });
    }
  }
  await close();
  return lines;
}
