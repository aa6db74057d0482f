import { PlanQuestions } from "./planQuestions.ts";
import type { SessionParts } from "./sessionParts.ts";
import type { ChangeResult, ChangesSince } from "@chronometra/contract";
import {
  changeWords,
  fitTexts,
  kindOfRow,
  type Naming,
  type Arrangement,
  type Branches,
  type Change,
  type Problem,
} from "@chronometra/core";
import { CallFailed } from "../../../shared/session/api.ts";
import type { Gesture } from "../dragged.ts";
import type { Soon } from "../engine.ts";
import { memoryKeeper, Outbox, type Refused, type Waiting } from "./outbox.ts";
import type { BlockTyped } from "../planEngine.ts";
import { Reach } from "./reach.ts";
import { EMPTY, type SessionState } from "./sessionState.ts";
import type { Sheet } from "../sheet.ts";
import { patched, type SheetPatch } from "../sheetPatch.ts";
import { UndoStack, type Done } from "./undoStack.ts";

const SOMEONE = "someone else";

/** A list of more changes than this is taken in by one task, and shown and sent by the next. */
const MANY = 500;

/** Names of what is on a sheet. */
const namesOn =
  (sheet: Sheet | null): Naming =>
  (table, key) =>
    (table === "activities" ? sheet?.rows.find(({ id }) => id === key)?.name : undefined) ?? kindOfRow(table);

/**
 * One person at work on one plan: changes show at once and are stored one after another, and can be undone. What the
 * server has not answered for waits in its order, outlives the page, and is sent again until it has.
 */
export class PlanSession extends PlanQuestions {
  private state = EMPTY;
  /** The revision that the engine holds as confirmed. */
  private revision = 0;
  /** The newest revision that was heard of. */
  private heardOf = 0;
  private working = 0;
  private pumping = false;
  /** Whether it was asked to go on while it was at it. */
  private asked = false;
  private ended = false;
  /** Whether what has changed is shown in a moment, once the browser has had time for what is typed. */
  private quiet = false;
  private readonly outbox: Outbox;
  private readonly undoing: UndoStack;
  private readonly taken = new Map<string, Done>();
  private readonly reach = new Reach(() => void this.pump());
  private readonly listeners = new Set<() => void>();
  private readonly parts: Required<SessionParts>;

  constructor(parts: SessionParts) {
    super(parts.engine);
    this.parts = { keeper: memoryKeeper(), onStored: () => undefined, onSignedOut: () => undefined, ...parts };
    this.outbox = new Outbox(this.parts.keeper);
    this.undoing = new UndoStack(this.outbox.undoable);
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly snapshot = (): SessionState => this.state;

  private set(next: Partial<SessionState>): void {
    const waiting = this.outbox.all.length;
    const { undoable, redoable } = this.undoing;
    this.state = {
      ...this.state,
      ...next,
      saving: this.working + waiting,
      waiting,
      away: this.reach.isAway,
      refused: this.outbox.refused,
      undoable,
      redoable,
    };
    if (!this.quiet) this.tell();
  }

  private tell(): void {
    for (const listener of this.listeners) listener();
  }

  /** Takes a patch in; the engine answers in the order in which it was asked, so each rests on the one before. */
  private take(patch: SheetPatch): Sheet {
    return patched(this.state.sheet, patch);
  }

  /** As `take`, of a plan that others may have changed: rows that went are remembered with who took them out. */
  private takeIn(patch: SheetPatch, by: readonly string[]): Pick<SessionState, "sheet" | "gone"> {
    const before = this.state.sheet?.rows ?? [];
    const sheet = this.take(patch);
    const there = new Set(sheet.rows.map(({ id }) => id));
    const went = before.filter(({ id }) => !there.has(id));
    const words = by.length === 0 ? SOMEONE : by.join(" and ");
    return {
      sheet,
      gone:
        went.length === 0
          ? this.state.gone
          : new Map([...this.state.gone, ...went.map(({ id, name }) => [id, { name, by: words }] as const)]),
    };
  }

  /** Opens the plan as the server has it, with what waits laid over it. */
  async open(): Promise<void> {
    try {
      await this.load();
      this.set({ failure: null });
      void this.pump();
    } catch (error) {
      this.tellSignedOut(error);
      this.set({ failure: error as Error });
    }
  }

  private async load(): Promise<void> {
    const toldBefore = this.heardOf;
    const view = await this.parts.fetchPlan();
    this.got(view.revision, toldBefore);
    this.set(this.takeIn(await this.engine.open(view, this.outbox.all), []));
  }

  protected override async onItsWay<T>(work: () => Promise<T>): Promise<T> {
    this.working++;
    this.set({});
    try {
      return await work();
    } finally {
      this.working--;
      this.set({});
    }
  }

  /** Shows a list at once and puts it on its way. Gives what leads back, or what stands against it. */
  private async put(
    changes: readonly Change[],
    undoes: string | null,
  ): Promise<{ list: string; inverse: readonly Change[] | null } | { problems: readonly Problem[] }> {
    const list = crypto.randomUUID();
    const tried = await this.engine.change(list, changes);
    if ("problems" in tried) return tried;
    this.outbox.add({ list, changes, undoes });
    const sheet = this.take(tried.sheet);
    this.quiet ||= changes.length > MANY;
    this.set({
      sheet,
      effect: undoes === null ? tried.effect : null,
      merged: 0,
      arrivedBy: [],
    });
    if (this.quiet) {
      await new Promise((resolve) => setTimeout(resolve));
      this.quiet = false;
      // Whoever waits for the list finds it shown.
      this.tell();
    }
    void this.pump();
    return { list, inverse: tried.inverse };
  }

  /** Applies changes and sends them off. Gives what stands against them, or nothing. */
  change(changes: readonly Change[]): Promise<readonly Problem[] | null> {
    return this.onItsWay(async () => {
      // What is shown is what will be stored.
      const put = await this.put(fitTexts(changes), null);
      if ("problems" in put) return put.problems;
      if (put.inverse !== null) this.undoing.did({ list: put.list, inverse: put.inverse });
      this.outbox.remember(this.undoing.all);
      return null;
    });
  }

  /**
   * Makes what was typed or pasted into many cells, as one list: all of it or nothing. Gives what stands against it, or
   * nothing.
   */
  changeBlock(block: BlockTyped): Promise<readonly string[] | null> {
    return this.onItsWay(async () => {
      const read = await this.engine.readBlock(block);
      if ("faults" in read) return read.faults;
      if (read.changes.length === 0) return null;
      const problems = await this.change(read.changes);
      return problems === null ? null : problems.map(({ row, message }) => `${row}: ${message}`);
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
  readonly arrange = (arrangement: Arrangement): Promise<readonly Problem[] | null> =>
    this.worked(() => this.engine.arrange(arrangement));

  /**
   * Does what a gesture means once it is let go; gives what stands against it, or nothing.
   * @param asks gives whether a wish that someone meant is to be asked about before it goes: then nothing is done
   */
  drop(
    gesture: Gesture,
    asks: (meant: { readonly words: string; readonly replaces: string }) => boolean = () => false,
  ): Promise<string | null> {
    return this.onItsWay(async () => {
      const meant = await this.engine.dragged(gesture);
      if ("fault" in meant) return meant.fault;
      const { words, replaces } = meant;
      if (replaces !== undefined && asks({ words, replaces })) return null;
      if (meant.changes.length === 0) return null;
      const preview = gesture.what === "move" ? await this.engine.preview(meant.changes) : null;
      if (gesture.what === "move" && preview !== null && "ghosts" in preview && !preview.ghosts.has(gesture.activity))
        return "It would not move: its links or the data date hold it where it is. No date wish was stored.";
      const problems = await this.change(meant.changes);
      return problems === null ? null : problems[0]!.message;
    });
  }

  /** Compares with another baseline from now on. */
  async compareWith(baseline: number): Promise<void> {
    const patch = await this.engine.compareWith(baseline);
    this.set({ sheet: this.take(patch) });
  }

  /** Makes rows ways of one step, or makes another way the live one; gives what stands against it, or nothing. */
  readonly ways = (
    make:
      | { readonly members: readonly string[]; readonly name: string }
      | { readonly group: string; readonly live: string },
  ): Promise<readonly Problem[] | null> => this.worked(() => this.engine.ways(make));

  readonly wake = (ids: readonly string[]): Promise<readonly Problem[] | null> =>
    this.worked(() => this.engine.wake(ids));

  /** Pastes branches after a row; gives what stands against it, or nothing. */
  readonly paste = (branches: Branches, after: string | null, keepIds: boolean): Promise<readonly Problem[] | null> =>
    this.worked(() => this.engine.paste(branches, after, keepIds));

  readonly undo = (): Promise<void> => this.turn("undo");
  readonly redo = (): Promise<void> => this.turn("redo");

  /** Takes the last thing back, or does it again; turns are taken one after another. */
  private turning: Promise<void> = Promise.resolve();
  private turn(which: "undo" | "redo"): Promise<void> {
    this.turning = this.onItsWay(async () => {
      await this.turning;
      const done = this.undoing.next(which);
      if (done === undefined) return;
      const put = await this.put(done.inverse, done.list);
      // What it rests on was changed by someone else since: it stays, to be tried again once that is settled.
      if ("problems" in put)
        return this.outbox.refuse({
          list: crypto.randomUUID(),
          changes: done.inverse,
          undoes: done.list,
          what: which === "undo" ? "Undo" : "Redo",
          why: put.problems[0]!.message,
          clashes: [],
        });
      this.taken.set(put.list, done);
      this.undoing.turned(which, put.inverse === null ? null : { list: put.list, inverse: put.inverse });
      this.outbox.remember(this.undoing.all);
    });
    return this.turning;
  }

  /** Someone else has stored something: it is fetched and comes in under what is on its way from here. */
  follow(revision: number): void {
    this.heardOf = Math.max(this.heardOf, revision);
    // Whoever tells it can be reached.
    if (this.reach.isAway) this.reach.sign();
    else void this.pump();
  }

  /** Tries at once what waits. */
  readonly tryNow = (): void => this.reach.sign();

  /** What was refused has been seen. */
  dismiss(list: string): void {
    this.outbox.dismiss(list);
    this.set({});
  }

  /** Makes what was refused once more, on the plan as it is now. */
  async insist({ list, changes }: Refused): Promise<readonly Problem[] | null> {
    const problems = await this.change(changes);
    if (problems === null) this.dismiss(list);
    return problems;
  }

  /** Nothing is told or tried any more. */
  end(): void {
    this.ended = true;
    this.reach.rest();
    this.listeners.clear();
  }

  /** Takes news in and sends what waits, one after another, until nothing is left or the server is away. */
  private async pump(): Promise<void> {
    if (this.ended || this.state.sheet === null) return;
    if (this.pumping) return void (this.asked = true);
    this.pumping = true;
    this.asked = false;
    let lost = false;
    try {
      while (!this.ended && (this.heardOf > this.revision || this.outbox.first !== undefined)) {
        if (this.heardOf > this.revision) await this.takeNews();
        else await this.sendOne(this.outbox.first!);
        this.reach.found();
        this.set({ failure: null });
      }
    } catch (error) {
      this.tellSignedOut(error);
      lost = !this.reach.isFinal(error);
      if (lost) this.reach.lost();
      else this.reach.rest();
      this.set({ failure: lost ? null : (error as Error) });
    } finally {
      this.pumping = false;
    }
    // Asked for while a call was out that then did not get through: tried once more at once.
    if (lost && this.asked) this.reach.sign();
  }

  private tellSignedOut(error: unknown): void {
    if (error instanceof CallFailed && error.status === 401) this.parts.onSignedOut();
  }

  /**
   * The server has told all up to a revision. What was heard of while it was asked is asked for next; what was heard of
   * before and is not told yet came from another server that is ahead of this one, and is told of again.
   */
  private got(revision: number, toldBefore: number): void {
    this.revision = revision;
    if (this.heardOf === toldBefore) this.heardOf = revision;
  }

  /** @throws where the server cannot be reached */
  private async takeNews(): Promise<void> {
    const toldBefore = this.heardOf;
    let news: ChangesSince;
    try {
      news = await this.parts.store.since(this.revision);
    } catch (error) {
      if (this.reach.passes(error)) throw error;
      // Too much has come to be told one by one.
      return this.load();
    }
    this.got(news.revision, toldBefore);
    this.set({ ...this.takeIn(await this.engine.advance(news.changes), news.by), arrivedBy: news.by });
    this.parts.onStored();
  }

  /** @throws where the server cannot be reached */
  private async sendOne(waiting: Waiting): Promise<void> {
    const { list } = waiting;
    let result: ChangeResult;
    try {
      result = await this.send(waiting);
    } catch (error) {
      if (this.reach.passes(error)) throw error;
      return this.refuse(waiting, error as Error);
    }
    this.outbox.stored(list, result.revision);
    this.taken.delete(list);
    // Sent again after its answer was lost, it may have come in with the news meanwhile.
    const known = result.revision <= this.revision;
    // What came between is not told with an undo.
    if (!known && waiting.undoes !== null && result.revision !== this.revision + 1) {
      // Every patch is taken: the next one names rows by their place in it.
      this.set(this.takeIn(await this.engine.reject(list), []));
      this.heardOf = Math.max(this.heardOf, result.revision);
      await this.load();
    } else {
      const patch = await this.engine.confirm(list, known ? [] : result.changes);
      this.revision = Math.max(this.revision, result.revision);
      this.set({ ...this.takeIn(patch, result.by ?? []), merged: known ? 0 : result.merged });
    }
    this.heardOf = Math.max(this.heardOf, this.revision);
    this.parts.onStored();
  }

  private send({ list, changes, undoes }: Waiting): Promise<ChangeResult> {
    if (undoes === null) return this.parts.store.change(this.revision, changes, list);
    const revision = this.outbox.revisionOf(undoes);
    // What it takes back was itself refused: there is nothing to take back.
    return revision === undefined
      ? Promise.reject(new CallFailed(409, { code: "conflict", message: "What this takes back was not stored." }))
      : this.parts.store.undo(revision, list);
  }

  /** What could not be stored is kept in sight, and the plan is shown as the server has it, with what still waits. */
  private async refuse(waiting: Waiting, error: Error): Promise<void> {
    const what = changeWords(waiting.changes, namesOn(this.state.sheet));
    this.outbox.refuse({
      ...waiting,
      what,
      why: error.message,
      clashes: error instanceof CallFailed ? (error.body.clashes ?? []) : [],
    });
    this.undoing.refused(waiting.list, this.taken.get(waiting.list) ?? null);
    this.outbox.remember(this.undoing.all);
    this.taken.delete(waiting.list);
    this.set({ ...this.takeIn(await this.engine.reject(waiting.list), []), effect: null });
    await this.load();
  }
}
