import type { Plan } from "@chronometra/core";
import type { BoxAct } from "../useBoxActs.ts";

/** What every question that stands before something is done is given. */
export interface Asking {
  readonly project: string;
  readonly revision: number;
  readonly plan: Plan;
  readonly onAct: (act: BoxAct) => void;
  readonly onClose: () => void;
}
