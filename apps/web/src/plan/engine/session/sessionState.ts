import type { Effect } from "@chronometra/core";
import type { Refused } from "./outbox.ts";
import type { Sheet } from "../sheet.ts";

/** A row that someone else took out of the plan while it was open here. */
export interface Gone {
  readonly name: string;
  readonly by: string;
}

/** What a page shows of a session. */
export interface SessionState {
  readonly sheet: Sheet | null;
  /** How much is still being worked out or on its way to the server. */
  readonly saving: number;
  /** How many lists of changes the server has not stored. */
  readonly waiting: number;
  /** Whether the server cannot be reached just now. */
  readonly away: boolean;
  /** Why the plan could not be opened, or cannot be worked on any longer. */
  readonly failure: Error | null;
  /** What the server did not take, until it has been seen. */
  readonly refused: readonly Refused[];
  readonly effect: Effect | null;
  /** How many lists of others were taken in with the last change. */
  readonly merged: number;
  /** Who stored what came in by itself last; told until one's own next change. */
  readonly arrivedBy: readonly string[];
  /** Rows that others took out, by id. */
  readonly gone: ReadonlyMap<string, Gone>;
  readonly undoable: number;
  readonly redoable: number;
}

/** Before the plan has come. */
export const EMPTY: SessionState = {
  sheet: null,
  saving: 0,
  waiting: 0,
  away: false,
  failure: null,
  refused: [],
  effect: null,
  merged: 0,
  arrivedBy: [],
  gone: new Map(),
  undoable: 0,
  redoable: 0,
};
