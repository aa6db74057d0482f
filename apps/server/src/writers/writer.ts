import type { Plan } from "@chronometra/core";
import type { EntityManager } from "typeorm";
import type { ComputedPlan } from "./summarise.ts";

/** A plan as it is to be kept, in the transaction of its change. */
export interface Kept {
  readonly manager: EntityManager;
  readonly projectId: string;
  /** The plan as it was kept; `null` where nothing is kept of it yet. */
  readonly before: Plan | null;
  readonly after: Plan;
  readonly whole: ComputedPlan;
}

/** What is kept beside a plan, so that questions over all projects need no plans. */
export interface Writer {
  /** The tables that it alone writes, each with a `project_id`. */
  readonly tables: readonly string[];
  /** Brings its rows from `before` to `after`; from nothing where that is `null`. */
  readonly write: (kept: Kept) => Promise<void>;
}
