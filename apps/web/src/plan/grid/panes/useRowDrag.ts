import { useState, type PointerEvent as ReactPointerEvent } from "react";
import type { SheetRow } from "../../engine/sheet.ts";
import { startDrag } from "../../../shared/page/startDrag.ts";

/** Where rows that are dragged would come to stand. */
export interface RowDrop {
  /** The height of the line that shows it, in rows from the top. */
  readonly line: number;
  readonly depth: number;
  readonly parent: string | null;
  readonly before: string | null;
}

/**
 * Where rows let go at a height would stand: before the row whose upper half that is, after one whose lower half it is,
 * and within a summary that stands open, or a row whose middle is met.
 * @param height in rows from the top, 2.5 the middle of the third
 */
export function dropAt(rows: readonly SheetRow[], height: number): RowDrop | null {
  const over = Math.floor(height);
  const row = rows[Math.max(0, Math.min(rows.length - 1, over))];
  if (row === undefined) return null;
  const within = over >= rows.length ? 1 : height - over;
  if (within >= 0.3 && within <= 0.7) return { line: over + 1, depth: row.depth + 1, parent: row.id, before: null };
  const above = within < 0.3;
  const next = rows[over + 1];
  // Below the head of a branch that stands open lies its first row.
  if (!above && next !== undefined && next.parent === row.id)
    return { line: over + 1, depth: next.depth, parent: row.id, before: next.id };
  if (above) return { line: over, depth: row.depth, parent: row.parent, before: row.id };
  const sibling = rows.slice(over + 1).find((other) => other.depth <= row.depth);
  return {
    line: Math.min(over, rows.length - 1) + 1,
    depth: row.depth,
    parent: row.parent,
    before: sibling !== undefined && sibling.parent === row.parent ? sibling.id : null,
  };
}

interface Options {
  readonly rows: readonly SheetRow[];
  /** A place of the page as a height in rows. */
  readonly heightAt: (clientY: number) => number;
  readonly onDrop: (drop: RowDrop) => void;
}

/** Rows taken by their grip and put elsewhere in the tree. */
export function useRowDrag({ rows, heightAt, onDrop }: Options) {
  const [drop, setDrop] = useState<RowDrop | null>(null);
  const onGrip = (event: ReactPointerEvent): void => {
    event.stopPropagation();
    const end = (): void => setDrop(null);
    startDrag(event, {
      onMove: (moved) => setDrop(dropAt(rows, heightAt(moved.clientY))),
      onDrop: (dropped) => {
        end();
        const at = dropAt(rows, heightAt(dropped.clientY));
        if (at !== null) onDrop(at);
      },
      onLeave: end,
    });
  };
  return { drop, onGrip };
}
