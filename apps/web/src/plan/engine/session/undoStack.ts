import type { Change } from "@chronometra/core";

/** Something done that can be taken back. */
export interface Done {
  readonly list: string;
  readonly inverse: readonly Change[];
}

/** All that can be taken back or done again, the last one last. */
export interface Undoable {
  readonly done: readonly Done[];
  readonly undone: readonly Done[];
}

/** What one person did on a plan, and took back, in its order. */
export class UndoStack {
  private done: readonly Done[];
  private undone: readonly Done[];

  constructor({ done, undone }: Undoable = { done: [], undone: [] }) {
    [this.done, this.undone] = [done, undone];
  }

  get all(): Undoable {
    return { done: this.done, undone: this.undone };
  }

  get undoable(): number {
    return this.done.length;
  }

  get redoable(): number {
    return this.undone.length;
  }

  /** Something new was done: there is nothing to do again any more. */
  did(done: Done): void {
    this.done = [...this.done, done];
    this.undone = [];
  }

  /** What is taken back next, or done again; it stays until it was. */
  next(which: "undo" | "redo"): Done | undefined {
    return (which === "undo" ? this.done : this.undone).at(-1);
  }

  /** It was taken back, or done again, by a list that can itself be taken back; `null` where it cannot. */
  turned(which: "undo" | "redo", by: Done | null): void {
    const more = by === null ? [] : [by];
    if (which === "undo") [this.done, this.undone] = [this.done.slice(0, -1), [...this.undone, ...more]];
    else [this.done, this.undone] = [[...this.done, ...more], this.undone.slice(0, -1)];
  }

  /** A list was refused: there is nothing to take back of it. Where it took another back, that one still stands. */
  refused(list: string, restored: Done | null): void {
    const without = (all: readonly Done[]): readonly Done[] => all.filter((each) => each.list !== list);
    const wasUndo = this.undone.some((each) => each.list === list);
    [this.done, this.undone] = [without(this.done), without(this.undone)];
    if (restored === null) return;
    if (wasUndo) this.done = [...this.done, restored];
    else this.undone = [...this.undone, restored];
  }
}
