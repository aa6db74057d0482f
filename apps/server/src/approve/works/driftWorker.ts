import type { MessagePort } from "node:worker_threads";
import { driftLedger, PlanProblems, type DriftLedger, type PlanBundle } from "@chronometra/core";

interface Job {
  readonly before: PlanBundle;
  readonly after: PlanBundle;
  readonly target: string | null;
  /** Told the share that is done, by hundredths. */
  readonly port: MessagePort;
}

const HUNDRED = 100;

/** Takes a date's movement between two states of a plan apart, away from the thread that answers calls. */
export default function run({ before, after, target, port }: Job): DriftLedger | { readonly fault: string } {
  let told = 0;
  try {
    return driftLedger(before, after, target, (share) => {
      const hundredths = Math.floor(share * HUNDRED);
      if (hundredths > told) port.postMessage((told = hundredths) / HUNDRED);
    });
  } catch (error) {
    if (error instanceof PlanProblems) return { fault: error.problems[0]!.message };
    throw error;
  }
}
