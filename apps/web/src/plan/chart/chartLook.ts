import type { Ghosts } from "../engine/planEngine.ts";
import type { Colouring } from "./colours.ts";

/** How the chart shows the plan. */
export interface ChartLook {
  readonly withApproved: boolean;
  readonly colouring: Colouring | null;
  /** The activities that stand out, the others drawn back; `null` for all alike. */
  readonly lit: ReadonlySet<string> | null;
  /** Where something else would put what moves. */
  readonly ghosts: Ghosts | null;
}
