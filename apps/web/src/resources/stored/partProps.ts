import type { PlanView, SharedUse } from "@chronometra/contract";
import type { Change, Plan } from "@chronometra/core";

/** What every part of the page is given. */
export interface PartProps {
  readonly view: PlanView;
  readonly plan: Plan;
  /** Where else the calendars and people are used, once that is known. */
  readonly use: SharedUse | undefined;
  readonly change: (changes: readonly Change[], words: string) => Promise<string | null>;
}
