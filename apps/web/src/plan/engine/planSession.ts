import type { ChangeResult, ChangesSince, Clash, PlanView } from "@chronometra/contract";
import type { Alternate, Arrangement, Branches, Change, Effect, Explanation, Problem } from "@chronometra/core";
import { call, CallFailed } from "../../shared/api.ts";
import type { ActivityWork } from "./activityWork.ts";
import type { Gesture, Meant } from "./dragged.ts";
import type { DrawnTest, Parking, Preview, Tried, Typed } from "./planEngine.ts";
import type { Sheet } from "./sheet.ts";
import { patched, type SheetPatch } from "./sheetPatch.ts";

type Soon<T> = Promise<T> | T;

/** The engine as it is reached from the page: every answer takes a moment. */
export interface Engine {
  open(view: PlanView): Soon<SheetPatch>;
  compareWith(baseline: number): Soon<SheetPatch>;
  change(changes: readonly Change[]): Soon<Tried>;
  preview(changes: readonly Change[]): Soon<Preview>;
  pathTest(): Soon<DrawnTest | null>;
  dragged(gesture: Gesture): Soon<Meant>;
  confirm(stored: readonly Change[]): Soon<SheetPatch>;
  advance(stored: readonly Change[]): Soon<SheetPatch>;
  arrange(arrangement: Arrangement): Soon<readonly Change[]>;
  readLinks(activity: string, text: string): Soon<Typed>;
  readWork(activity: string, text: string): Soon<Typed>;
  explain(activity: string): Soon<Explanation | null>;
  chainOf(activity: string): Soon<readonly string[]>;
  work(activity: string): Soon<ActivityWork | null>;
  parking(ids: readonly string[]): Soon<Parking>;
  wake(ids: readonly string[]): Soon<readonly Change[]>;
  alternates(group: string): Soon<readonly Alternate[]>;
  ways(make: { readonly members: readonly string[]; readonly name: string } | { readonly group: string; readonly live: string }): Soon<readonly Change[]>;
  copy(ids: readonly string[]): Soon<Branches>;
  paste(branches: Branches, after: string | null, keepIds: boolean): Soon<readonly Change[]>;
}

export type { Typed } from "./planEngine.ts";

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
  /** Who stored what came in by itself last; told until one's own next change. */
  readonly arrivedBy: readonly string[];
  readonly undoable: number;
  readonly redoable: number;
}

const EMPTY: SessionState = { sheet: null, saving: 0, failure: null, clashes: [], effect: null, dropped: 0, merged: 0, arrivedBy: [], undoable: 0, redoable: 0 };

/** Where a session's changes are stored: the live plan, or a what-if beside it. */
export interface Store {
  change(revision: number, changes: readonly Change[]): Promise<ChangeResult>;
  undo(revision: number): Promise<ChangeResult>;
  /** What others stored since a revision. */
  since(revision: number): Promise<ChangesSince>;
}

/** The live plan of a project. */
export const livePlan = (project: string): Store => ({
  change: (revision, changes) => call("POST /api/projects/:project/changes", { params: { project }, body: { revision, changes: [...changes] } }),
  undo: (revision) => call("POST /api/projects/:project/undo", { params: { project }, body: { revision } }),
  since: (revision) => call("GET /api/projects/:project/changes/:since", { params: { project, since: String(revision) } }),
});

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
    private readonly kept: Store,
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

  /** Takes a patch in; the engine answers in the order in which it was asked, so each rests on the one before. */
  private take(patch: SheetPatch): Sheet {
    return patched(this.state.sheet, patch);
  }

  async open(): Promise<void> {
    try {
      const view = await this.fetchPlan();
      this.revision = view.revision;
      this.set({ sheet: this.take(await this.engine.open(view)) });
    } catch (error) {
      this.set({ failure: error as Error });
    }
  }

  /** Counts as on its way from the first moment what is still being worked out: nothing reads as saved before it is. */
  private async onItsWay<T>(work: () => Promise<T>): Promise<T> {
    this.set({ saving: this.state.saving + 1 });
    try {
      return await work();
    } finally {
      this.set({ saving: this.state.saving - 1 });
    }
  }

  /** Applies changes and sends them off. Gives what stands against them, or nothing. */
  change(changes: readonly Change[]): Promise<readonly Problem[] | null> {
    return this.onItsWay(async () => {
      const tried = await this.engine.change(changes);
      if ("problems" in tried) return tried.problems;
      this.set({ sheet: this.take(tried.sheet), effect: tried.effect, failure: null, clashes: [], merged: 0, dropped: 0, arrivedBy: [], saving: this.state.saving + 1 });
      const since = this.failures;
      this.queue = this.queue.then(() => (since === this.failures ? this.store(changes) : this.set({ saving: this.state.saving - 1, dropped: this.state.dropped + 1 })));
      return null;
    });
  }

  /** Applies what the engine makes of something asked, if it makes anything of it. */
  private worked(meant: () => Soon<readonly Change[]>): Promise<readonly Problem[] | null> {
    return this.onItsWay(async () => {
      const changes = await meant();
      return changes.length === 0 ? null : this.change(changes);
    });
  }

  /** Arranges rows of the tree; gives what stands against it, or nothing. */
  readonly arrange = (arrangement: Arrangement): Promise<readonly Problem[] | null> => this.worked(() => this.engine.arrange(arrangement));

  readonly dragged = async (gesture: Gesture): Promise<Meant> => this.engine.dragged(gesture);

  /** Does what a gesture means once it is let go; gives what stands against it, or nothing. */
  drop(gesture: Gesture): Promise<string | null> {
    return this.onItsWay(async () => {
      const meant = await this.engine.dragged(gesture);
      if ("fault" in meant) return meant.fault;
      const problems = await this.change(meant.changes);
      return problems === null ? null : problems[0]!.message;
    });
  }

  readonly pathTest = async (): Promise<DrawnTest | null> => this.engine.pathTest();

  /** What changes would move, for drawing; nothing is kept. */
  readonly preview = async (changes: readonly Change[]): Promise<Preview> => this.engine.preview(changes);

  /** Compares with another baseline from now on. */
  async compareWith(baseline: number): Promise<void> {
    const patch = await this.engine.compareWith(baseline);
    this.advance(patch);
  }

  private advance(patch: SheetPatch): void {
    this.set({ sheet: this.take(patch) });
  }

  /** Someone else has stored something: it is fetched and comes in under what is on its way from here. */
  follow(revision: number): void {
    if (revision <= this.revision) return;
    this.queue = this.queue.then(async () => {
      if (revision <= this.revision) return;
      try {
        const news = await this.kept.since(this.revision);
        this.revision = news.revision;
        const patch = await this.engine.advance(news.changes);
        this.set({ sheet: this.take(patch), arrivedBy: news.by });
        this.onStored();
      } catch {
        // What is on its way may rest on what is gone, or too much has come: the plan as it is now settles it.
        await this.open();
      }
    });
  }

  readonly readLinks = (activity: string, text: string): Promise<Typed> => this.onItsWay(async () => this.engine.readLinks(activity, text));

  readonly readWork = (activity: string, text: string): Promise<Typed> => this.onItsWay(async () => this.engine.readWork(activity, text));

  readonly chainOf = async (activity: string): Promise<readonly string[]> => this.engine.chainOf(activity);

  readonly work = async (activity: string): Promise<ActivityWork | null> => this.engine.work(activity);

  readonly parking = async (ids: readonly string[]): Promise<Parking> => this.engine.parking(ids);

  /** What the plan would come to with each of a group's ways live. */
  readonly alternates = async (group: string): Promise<readonly Alternate[]> => this.engine.alternates(group);

  /** Makes rows ways of one step, or makes another way the live one; gives what stands against it, or nothing. */
  readonly ways = (make: { readonly members: readonly string[]; readonly name: string } | { readonly group: string; readonly live: string }): Promise<readonly Problem[] | null> => this.worked(() => this.engine.ways(make));

  readonly wake = (ids: readonly string[]): Promise<readonly Problem[] | null> => this.worked(() => this.engine.wake(ids));

  readonly copy = async (ids: readonly string[]): Promise<Branches> => this.engine.copy(ids);

  /** Pastes branches after a row; gives what stands against it, or nothing. */
  readonly paste = (branches: Branches, after: string | null, keepIds: boolean): Promise<readonly Problem[] | null> => this.worked(() => this.engine.paste(branches, after, keepIds));

  readonly explain = async (activity: string): Promise<Explanation | null> => this.engine.explain(activity);

  private async store(changes: readonly Change[]): Promise<void> {
    try {
      const result = await this.kept.change(this.revision, changes);
      this.revision = result.revision;
      if (result.undoable) this.undoStack.push(result.revision);
      this.redoStack = [];
      const patch = await this.engine.confirm(result.changes);
      this.set({ sheet: this.take(patch), saving: this.state.saving - 1, merged: result.merged });
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
        const result = await this.kept.undo(revision);
        onto.push(result.revision);
        const next = result.revision === this.revision + 1;
        this.revision = result.revision;
        if (next) this.advance(await this.engine.advance(result.changes));
        else await this.open();
        this.set({ saving: this.state.saving - 1, failure: null, clashes: [] });
        this.onStored();
      } catch (error) {
        await this.fail(error);
      }
    });
  }
}
