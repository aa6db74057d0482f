import type { Clash, PlanView } from "@chronometra/contract";
import type { Arrangement, Change, Effect, Explanation, Problem } from "@chronometra/core";
import { call, CallFailed } from "../shared/api.ts";
import type { Tried } from "./planEngine.ts";
import type { Sheet } from "./sheet.ts";

/** The engine as it is reached from the page: every answer takes a moment. */
export interface Engine {
  open(view: PlanView): Promise<Sheet> | Sheet;
  change(changes: readonly Change[]): Promise<Tried> | Tried;
  confirm(stored: readonly Change[]): Promise<Sheet> | Sheet;
  advance(stored: readonly Change[]): Promise<Sheet> | Sheet;
  arrange(arrangement: Arrangement): Promise<readonly Change[]> | readonly Change[];
  readLinks(activity: string, text: string): Promise<Typed> | Typed;
  explain(activity: string): Promise<Explanation | null> | Explanation | null;
}

/** What typing comes to: changes, none where all stays, or what is wrong with it. */
export type Typed = { readonly changes: readonly Change[] } | { readonly fault: string };

export interface SessionState {
  readonly sheet: Sheet | null;
  readonly saving: number;
  /** Why the last change could not be stored; the plan shown is the server's again. */
  readonly failure: Error | null;
  readonly clashes: readonly Clash[];
  readonly effect: Effect | null;
  /** Changes made after the one that failed, which were not stored either. */
  readonly dropped: number;
  /** How many lists of others were taken in with the last change. */
  readonly merged: number;
  readonly undoable: number;
  readonly redoable: number;
}

const EMPTY: SessionState = { sheet: null, saving: 0, failure: null, clashes: [], effect: null, dropped: 0, merged: 0, undoable: 0, redoable: 0 };

/** One person at work on one plan: changes show at once and are stored one after another, and can be undone. */
export class PlanSession {
  private state = EMPTY;
  private revision = 0;
  private undoStack: number[] = [];
  private redoStack: number[] = [];
  private queue: Promise<void> = Promise.resolve();
  /** Counts failures: what was queued before one rests on a plan that is not there, and is not sent. */
  private failures = 0;
  private readonly listeners = new Set<() => void>();

  constructor(
    private readonly project: string,
    private readonly engine: Engine,
    private readonly fetchPlan: () => Promise<PlanView>,
    /** Told whenever the server has stored something. */
    private readonly onStored: () => void = () => undefined,
  ) {}

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly snapshot = (): SessionState => this.state;

  private set(next: Partial<SessionState>): void {
    this.state = { ...this.state, ...next, undoable: this.undoStack.length, redoable: this.redoStack.length };
    for (const listener of this.listeners) listener();
  }

  async open(): Promise<void> {
    try {
      const view = await this.fetchPlan();
      this.revision = view.revision;
      this.set({ sheet: await this.engine.open(view) });
    } catch (error) {
      this.set({ failure: error as Error });
    }
  }

  /** Applies changes and sends them off. Gives what stands against them, or nothing. */
  async change(changes: readonly Change[]): Promise<readonly Problem[] | null> {
    const tried = await this.engine.change(changes);
    if ("problems" in tried) return tried.problems;
    this.set({ sheet: tried.sheet, effect: tried.effect, failure: null, clashes: [], merged: 0, dropped: 0, saving: this.state.saving + 1 });
    const since = this.failures;
    this.queue = this.queue.then(() => (since === this.failures ? this.store(changes) : this.set({ saving: this.state.saving - 1, dropped: this.state.dropped + 1 })));
    return null;
  }

  /** Arranges rows of the tree; gives what stands against it, or nothing. */
  async arrange(arrangement: Arrangement): Promise<readonly Problem[] | null> {
    const changes = await this.engine.arrange(arrangement);
    return changes.length === 0 ? null : this.change(changes);
  }

  readonly readLinks = async (activity: string, text: string): Promise<Typed> => this.engine.readLinks(activity, text);

  readonly explain = async (activity: string): Promise<Explanation | null> => this.engine.explain(activity);

  private async store(changes: readonly Change[]): Promise<void> {
    try {
      const result = await call("POST /api/projects/:project/changes", { params: { project: this.project }, body: { revision: this.revision, changes: [...changes] } });
      this.revision = result.revision;
      if (result.undoable) this.undoStack.push(result.revision);
      this.redoStack = [];
      const sheet = await this.engine.confirm(result.changes);
      this.set({ sheet, saving: this.state.saving - 1, merged: result.merged });
      this.onStored();
    } catch (error) {
      await this.fail(error);
    }
  }

  /** What could not be stored is told, and the plan is shown as the server has it. */
  private async fail(error: unknown): Promise<void> {
    const clashes = error instanceof CallFailed ? (error.body.clashes ?? []) : [];
    this.failures++;
    this.set({ failure: error as Error, clashes, saving: this.state.saving - 1, effect: null });
    await this.open();
  }

  readonly undo = (): void => this.turn("undo");
  readonly redo = (): void => this.turn("redo");

  private turn(which: "undo" | "redo"): void {
    this.set({ saving: this.state.saving + 1, effect: null });
    this.queue = this.queue.then(async () => {
      const from = which === "undo" ? this.undoStack : this.redoStack;
      const onto = which === "undo" ? this.redoStack : this.undoStack;
      const revision = from.pop();
      if (revision === undefined) return this.set({ saving: this.state.saving - 1 });
      try {
        const result = await call("POST /api/projects/:project/undo", { params: { project: this.project }, body: { revision } });
        onto.push(result.revision);
        const next = result.revision === this.revision + 1;
        this.revision = result.revision;
        if (next) this.set({ sheet: await this.engine.advance(result.changes) });
        else await this.open();
        this.set({ saving: this.state.saving - 1, failure: null, clashes: [] });
        this.onStored();
      } catch (error) {
        await this.fail(error);
      }
    });
  }
}
