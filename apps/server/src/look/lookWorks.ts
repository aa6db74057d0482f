import type { ActivityLook, ProjectLook } from "@chronometra/contract";
import type { HeldPlan } from "../plan/held/heldPlan.ts";
import { summarise } from "../writers/summarise.ts";
import { activityLook } from "./activityLook.ts";
import { curveOf, figureRows, type IssuedPoint } from "./lookService.ts";

/** What is worked out over a plan when its figures are looked at. */
export const LOOK_WORKS = {
  looked: (
    { whole }: HeldPlan,
    { issued, lockedTo }: { readonly issued: readonly IssuedPoint[]; readonly lockedTo: string | null },
  ): Pick<ProjectLook, "summary" | "rows" | "curve"> => ({
    summary: summarise(whole),
    rows: figureRows(whole),
    curve: curveOf(whole, issued, lockedTo),
  }),

  activity: ({ whole }: HeldPlan, id: string): ActivityLook | null => activityLook(whole, id),
};
