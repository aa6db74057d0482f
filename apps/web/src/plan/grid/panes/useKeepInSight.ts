import type { Virtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef, type RefObject } from "react";
import { HEAD_HEIGHT } from "../../chart/ChartHead.tsx";
import { ROW_HEIGHT } from "../../chart/scale.ts";
import { useLatest } from "./useLatest.ts";
import type { Pane } from "./usePane.ts";

interface Options {
  readonly virtual: Virtualizer<HTMLDivElement, Element>;
  readonly scroller: RefObject<HTMLDivElement | null>;
  readonly pane: Pane;
  /** Where the keyboard stands. */
  readonly cursor: { readonly row: number; readonly column: number };
  /** Changes when the room for the table does. */
  readonly room: string;
}

/** Keeps the cell that the keyboard stands on in sight when it moves, and when the room for the table changes. */
export function useKeepInSight({ virtual, scroller, pane, cursor, room }: Options): void {
  /** All rows are of one height, and asking the page for its own would lay it out anew each time. */
  const keepInSight = (): void => {
    const from = virtual.scrollOffset ?? 0;
    // Before the table has been measured, as when an address leads to a row, the page has to be asked once.
    const height = (virtual.scrollRect?.height || scroller.current!.clientHeight) - HEAD_HEIGHT;
    if (cursor.row < 0) return;
    const top = cursor.row * ROW_HEIGHT;
    const to = top < from ? top : top + 2 * ROW_HEIGHT > from + height ? top + 2 * ROW_HEIGHT - height : from;
    if (to !== from && height > 0) scroller.current!.scrollTop = to;
  };
  const latest = useLatest({ keepInSight });
  useEffect(() => latest.keepInSight(), [latest, cursor.row]);
  // Also where the row it stands on has come to lie elsewhere, unless someone scrolled away from it.
  const latestPane = useRef(pane);
  latestPane.current = pane;
  useEffect(() => latestPane.current.show(cursor.column), [cursor.column, cursor.row, pane.width]);
  useEffect(() => {
    // The table learns of its new height a frame later; by then the keyboard may stand elsewhere.
    const waiting = setTimeout(() => latest.keepInSight(), 60);
    return () => clearTimeout(waiting);
  }, [latest, room]);
}
