import type { Clash } from "@chronometra/contract";
import type { Change } from "@chronometra/core";
import type { Done, Undoable } from "./undoStack.ts";

/** A list of changes that the server has not stored yet. */
export interface Waiting {
  /** What it is called; sent again under that name it is stored once. */
  readonly list: string;
  readonly changes: readonly Change[];
  /** The list that it takes back. */
  readonly undoes: string | null;
}

/** A list that the server did not take, kept in sight until whoever made it has seen it. */
export interface Refused extends Waiting {
  /** What it would have done, in a few words. */
  readonly what: string;
  readonly why: string;
  readonly clashes: readonly Clash[];
}

/** What of a person's work on a plan outlives the page. */
export interface Kept {
  readonly waiting: readonly Waiting[];
  readonly refused: readonly Refused[];
  /** The revisions at which lists were stored that one in waiting takes back. */
  readonly revisions: readonly (readonly [list: string, revision: number])[];
  /** What they can take back or do again. */
  readonly undo: Undoable;
}

export const NOTHING_KEPT: Kept = { waiting: [], refused: [], revisions: [], undo: { done: [], undone: [] } };

/** Where it is kept. */
export interface Keeper {
  read(): Kept;
  /** @throws where there is no room; what was kept before is kept on */
  write(kept: Kept): void;
}

/** Keeps nothing beyond the page. */
export function memoryKeeper(kept: Kept = NOTHING_KEPT): Keeper {
  return { read: () => kept, write: (next) => void (kept = next) };
}

const LISTS_REMEMBERED = 40;
const LETTERS_REMEMBERED = 300_000;

/** The latest of what can be taken back, as far as there is room for it beside what waits. */
function latest(lists: readonly Done[]): readonly Done[] {
  let room = LETTERS_REMEMBERED;
  const kept: Done[] = [];
  for (const done of lists.slice(-LISTS_REMEMBERED).reverse()) {
    room -= JSON.stringify(done.inverse).length;
    if (room < 0) break;
    kept.unshift(done);
  }
  return kept;
}

/** Lists on their way to the server, oldest first, each kept until the server has answered for it. */
export class Outbox {
  private waiting: readonly Waiting[];
  private refusals: readonly Refused[];
  private readonly revisions: Map<string, number>;
  private undo: Undoable;

  constructor(private readonly keeper: Keeper) {
    const { waiting, refused, revisions, undo } = keeper.read();
    this.waiting = waiting;
    this.refusals = refused;
    this.revisions = new Map(revisions);
    // Only what the server has, or is still to have, can be taken back.
    const isSent = ({ list }: Done): boolean => this.revisions.has(list) || waiting.some((each) => each.list === list);
    this.undo = { done: undo.done.filter(isSent), undone: undo.undone.filter(isSent) };
  }

  /** What could be taken back or done again when the page was left. */
  get undoable(): Undoable {
    return this.undo;
  }

  /** Keeps what can be taken back or done again beyond the page. */
  remember({ done, undone }: Undoable): void {
    this.undo = { done: latest(done), undone: latest(undone) };
    this.keep();
  }

  get all(): readonly Waiting[] {
    return this.waiting;
  }

  get first(): Waiting | undefined {
    return this.waiting[0];
  }

  get refused(): readonly Refused[] {
    return this.refusals;
  }

  add(entry: Waiting): void {
    this.waiting = [...this.waiting, entry];
    this.keep();
  }

  /** The server has stored a list. */
  stored(list: string, revision: number): void {
    this.revisions.set(list, revision);
    this.waiting = this.waiting.filter((each) => each.list !== list);
    this.keep();
  }

  refuse(entry: Refused): void {
    this.waiting = this.waiting.filter(({ list }) => list !== entry.list);
    this.refusals = [...this.refusals, entry];
    this.keep();
  }

  /** It has been seen that a list was refused. */
  dismiss(list: string): void {
    this.refusals = this.refusals.filter((each) => each.list !== list);
    this.keep();
  }

  /** At which revision a list was stored. */
  revisionOf(list: string): number | undefined {
    return this.revisions.get(list);
  }

  private keep(): void {
    const needed = new Set([
      ...this.waiting.map(({ undoes }) => undoes),
      ...this.undo.done.map(({ list }) => list),
      ...this.undo.undone.map(({ list }) => list),
    ]);
    try {
      this.keeper.write({
        waiting: this.waiting,
        refused: this.refusals,
        revisions: [...this.revisions].filter(([list]) => needed.has(list)),
        undo: this.undo,
      });
    } catch {
      // No room in the browser: what waits stays in the page, which asks before it is closed.
    }
  }
}
