import type { BodyOf } from "@chronometra/contract";
import { mendMany, type Change, type NotMended } from "@chronometra/core";
import { groundIn } from "../plan/held/computedPlan.ts";
import type { HeldPlan } from "../plan/held/heldPlan.ts";
import { Failure } from "../shared/failure.ts";
import { judged } from "./judged.ts";

/**
 * The changes that mend some of a plan's offences, and those that cannot be mended so. Throws a Failure where nothing
 * can.
 */
function mended(
  { plan, whole }: HeldPlan,
  { mend, activities }: BodyOf<"POST /api/projects/:project/quality/mend">,
): { changes: Change[]; left: NotMended[] } {
  const made = mendMany(plan, groundIn(whole), mend, new Set(activities));
  if (made.changes.length === 0)
    throw new Failure(
      "invalid",
      made.left.length === 0
        ? "There is nothing left to mend of those; load the page again."
        : `Nothing can be mended so: ${made.left
            .slice(0, 3)
            .map(({ name, why }) => `${name}: ${why}`)
            .join("; ")}.`,
    );
  return made;
}

/** What is worked out over a plan when its quality is looked at. */
export const QUALITY_WORKS = { judged, mended };
