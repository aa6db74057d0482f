import { MessageChannel } from "node:worker_threads";
import { Piscina } from "piscina";
import { blocksOf, type Uncertain } from "@chronometra/core";
import { leastOf, limitLine, type Line } from "./measure.ts";
import { largePlan } from "./plans.ts";

const RUNS = 10_000;
const MILLISECONDS = 10_000;
const THREADS = 2;

/** A simulation as the server makes it: 10 000 runs over 2 000 activities in two threads, by the built worker: from source, what TypeScript is read with would be measured as well. */
export async function chancesLines(): Promise<Line[]> {
  const uncertain: Uncertain = {
    plan: largePlan({ activities: 2000, linksEach: 2, calendars: 3 }),
    ranges: new Map(),
    risks: [],
    otherwise: "usual",
    correlation: 0.2,
  };
  const pool = new Piscina({
    maxThreads: THREADS,
    execArgv: [],
    filename: new URL("../apps/server/dist/chances/chancesWorker.js", import.meta.url).href,
  });
  const job = async (runs: number, thread: number): Promise<void> => {
    const { port1, port2 } = new MessageChannel();
    const blocks = Array.from({ length: blocksOf(runs) }, (_, block) => block).filter(
      (block) => block % THREADS === thread,
    );
    await pool
      .run({ uncertain, seed: 1, runs, blocks, port: port2 }, { transferList: [port2] })
      .finally(() => port1.close());
  };
  const simulate = (runs: number): Promise<unknown> =>
    Promise.all(Array.from({ length: THREADS }, (_, thread) => job(runs, thread)));
  await simulate(500);
  const took = await leastOf(2, () => simulate(RUNS));
  await pool.destroy();
  return [limitLine(`Chances, ${RUNS} runs of 2 000 activities in ${THREADS} threads`, took, MILLISECONDS)];
}
