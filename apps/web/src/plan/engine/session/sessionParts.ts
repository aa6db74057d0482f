import type { PlanView } from "@chronometra/contract";
import type { Engine } from "../engine.ts";
import type { Keeper } from "./outbox.ts";
import type { Store } from "./store.ts";

/** What a session is made of besides its engine. */
export interface SessionParts {
  readonly store: Store;
  readonly engine: Engine;
  readonly fetchPlan: () => Promise<PlanView>;
  /** Where work that is not stored yet is kept. */
  readonly keeper?: Keeper;
  /** Told whenever the server has stored something. */
  readonly onStored?: () => void;
  /** Told when whoever works is not signed in any more. */
  readonly onSignedOut?: () => void;
}
