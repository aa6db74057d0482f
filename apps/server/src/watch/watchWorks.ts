import { pushOut, type Change } from "@chronometra/core";
import type { HeldPlan } from "../plan/held/heldPlan.ts";

interface Asked {
  readonly ids: readonly string[];
  readonly days: number;
  readonly reason: string;
}

/** Work put off by some working days, and what cannot be. */
function pushedOut(
  { whole: { bundle, computed } }: HeldPlan,
  { ids, days, reason }: Asked,
): { changes: Change[]; left: { id: string; name: string; why: string }[] } {
  const { changes, left } = pushOut(bundle, computed.schedule, ids, days, reason);
  return { changes, left: [...left] };
}

/** What is worked out over a plan when something is done with rows of a watchlist. */
export const WATCH_WORKS = { pushedOut };
