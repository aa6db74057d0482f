import { acceptReports, type Accepted } from "@chronometra/core";
import type { HeldPlan } from "../../plan/held/heldPlan.ts";
import { summarise } from "../../writers/summarise.ts";
import { outcome } from "./outcome.ts";
import { firstDay, hasOpenWork, ownActivities } from "./ownWork.ts";
import { peopleBetween } from "./peopleBetween.ts";
import type { ReportEntity } from "../kept/reportEntity.ts";
import { weekRows } from "./weekRows.ts";

type Accepting = Parameters<typeof acceptReports>[2];

/** Where the finish would drift with reports accepted, and how many questions they leave. */
function drift(
  held: HeldPlan,
  { reports, accepting }: { readonly reports: readonly ReportEntity[]; readonly accepting: Accepting },
): { drift: number | null; asked: number } {
  const { changes, asked }: Accepted = acceptReports(held.plan, reports, accepting);
  return { drift: summarise(held.after(changes).whole).drift, asked: asked.length };
}

/** What is worked out over a plan for those who book on it, and for those who decide on what was booked. */
export const COLLECT_WORKS = { outcome, drift, firstDay, hasOpenWork, ownActivities, peopleBetween, weekRows };
