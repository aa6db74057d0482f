import { acceptReports, type Accepted } from "@chronometra/core";
import type { HeldPlan } from "../plan/heldPlan.ts";
import { summarise } from "../writers/summarise.ts";
import { outcome } from "./outcome.ts";
import type { ReportEntity } from "./reportEntity.ts";

type Accepting = Parameters<typeof acceptReports>[2];

/** Where the finish would drift with reports accepted, and how many questions they leave. */
function drift(
  held: HeldPlan,
  { reports, accepting }: { readonly reports: readonly ReportEntity[]; readonly accepting: Accepting },
): { drift: number | null; asked: number } {
  const { changes, asked }: Accepted = acceptReports(held.plan, reports, accepting);
  return { drift: summarise(held.after(changes).whole).drift, asked: asked.length };
}

/** What is worked out over a plan when reports are decided on. */
export const COLLECT_WORKS = { outcome, drift };
