import type { Activity } from "../../plan/schema.ts";
import type { EpochDay } from "../../time/instant.ts";
import type { MendPlace, Offence } from "./check.ts";
import type { Ground } from "./ground.ts";

/** How activities stood when an earlier period was issued. */
export interface PastPeriod {
  readonly number: number;
  readonly dataDay: EpochDay;
  readonly activities: ReadonlyMap<string, Activity>;
}

/** What a finding may look back on. */
export interface Past {
  /** Issued periods, the newest first. */
  readonly periods: readonly PastPeriod[];
  /** Days without news after which open work is named. */
  readonly silentDays: number;
}

/** A finding besides the fourteen checks: about the plan's logic, or about how it is reported on. */
export interface Finding {
  readonly key: string;
  readonly about: "plan" | "reporting";
  readonly name: string;
  /** Why it matters, in a sentence. */
  readonly why: string;
  readonly mend: MendPlace;
  readonly find: (ground: Ground, past: Past) => Offence[];
}

/** Days of silence that are named unless a portfolio says otherwise. Common practice, no source. */
export const SILENT_DAYS = 14;
