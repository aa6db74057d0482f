import { cpus } from "node:os";
import { blocksOf, prepare, simulateBlock } from "@chronometra/core";
import { leastOf, type Line } from "./measure.ts";
import { largePlan } from "./plans.ts";

const RUNS = 10_000;
const SECONDS = 10;
const SAMPLE_BLOCKS = 4;

/** A simulation of 10 000 runs over 2 000 activities: some of its blocks measured on one core, the rest reckoned for two. */
export async function chancesLines(): Promise<Line[]> {
  const prepared = prepare({ plan: largePlan({ activities: 2000, linksEach: 2, calendars: 3 }), ranges: new Map(), risks: [], otherwise: "usual", correlation: 0.2 });
  const milliseconds = await leastOf(3, () => {
    for (let block = 0; block < SAMPLE_BLOCKS; block++) simulateBlock(prepared, 1, block);
  });
  const seconds = ((milliseconds / SAMPLE_BLOCKS) * blocksOf(RUNS)) / 2 / 1000;
  return [{ what: `Chances, ${RUNS} runs of 2 000 activities on two cores (of ${cpus().length}), from ${SAMPLE_BLOCKS} blocks on one`, measured: `${seconds.toFixed(1)} s`, yardstick: `${SECONDS} s`, value: seconds / SECONDS, limit: 1 }];
}
