import type { MessagePort } from "node:worker_threads";
import {
  BLOCK_RUNS,
  PlanProblems,
  prepare,
  simulateBlock,
  type SimulatedBlock,
  type Uncertain,
} from "@chronometra/core";

interface Job {
  readonly uncertain: Uncertain;
  readonly seed: number;
  readonly runs: number;
  /** The blocks that are computed here. */
  readonly blocks: readonly number[];
  /** Told after each. */
  readonly port: MessagePort;
}

/** Some blocks of a simulation, away from the thread that answers calls. */
export default function run({
  uncertain,
  seed,
  runs,
  blocks,
  port,
}: Job): SimulatedBlock[] | { readonly fault: string } {
  try {
    const prepared = prepare(uncertain);
    if (prepared.schedule.finish === null)
      return { fault: "Nothing in this plan has dates yet; give its activities durations first." };
    return blocks.map((block) => {
      const made = simulateBlock(prepared, seed, block, Math.min(BLOCK_RUNS, runs - block * BLOCK_RUNS));
      port.postMessage(block);
      return made;
    });
  } catch (error) {
    if (error instanceof PlanProblems) return { fault: `The plan cannot be simulated: ${error.problems[0]!.message}` };
    throw error;
  }
}
