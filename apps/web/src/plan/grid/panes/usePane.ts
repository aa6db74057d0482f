import { useCallback, useEffect, useRef, useState, type RefObject } from "react";
import { keepPreference, preference } from "../../../shared/session/preferences.ts";
import type { SheetColumn } from "../../engine/sheetColumn.ts";

const KEPT_AS = "plan.split";
/** So much of the window stays for the chart, and so much for the table. */
const LEAST_CHART = 320;
const LEAST_TABLE = 180;
const NARROWEST_SEEN = 120;

/** The table's side of the sheet: how wide it is, and how far it is scrolled within that. */
export interface Pane {
  /** Pixels that the table takes. */
  readonly width: number;
  /** Pixels that all its columns would take. */
  readonly full: number;
  /** Makes it wider or narrower; the chart keeps room. */
  readonly split: (width: number) => void;
  /** How far the columns after the first are scrolled to the left. */
  readonly x: () => number;
  /** Scrolls so that a column is in sight. */
  readonly show: (column: number) => void;
  readonly scrollBy: (pixels: number) => void;
  /** The table's own scrollbar. */
  readonly strip: RefObject<HTMLDivElement | null>;
  readonly onStrip: () => void;
}

/** Over the table, which is so wide, the wheel scrolls the table; where that needs no scrolling `width` is 0. */
function useWheelAcross(
  scroller: RefObject<HTMLDivElement | null>,
  width: number,
  scrollBy: (pixels: number) => void,
): void {
  useEffect(() => {
    const pane = scroller.current;
    if (pane === null || width === 0) return undefined;
    const onWheel = (event: WheelEvent): void => {
      const across = event.shiftKey && event.deltaX === 0 ? event.deltaY : event.deltaX;
      const isAcross = Math.abs(across) > (event.shiftKey ? 0 : Math.abs(event.deltaY));
      if (event.ctrlKey || !isAcross || event.clientX - pane.getBoundingClientRect().left > width) return;
      event.preventDefault();
      scrollBy(across);
    };
    pane.addEventListener("wheel", onWheel, { passive: false });
    return () => pane.removeEventListener("wheel", onWheel);
  }, [scroller, width, scrollBy]);
}

/**
 * The side of the sheet that the table takes. With more columns than fit it scrolls for itself, the first staying where
 * it is; what is drawn moves by one property of the style, so that nothing is drawn anew.
 */
export function usePane(
  columns: readonly SheetColumn[],
  viewWidth: number,
  scroller: RefObject<HTMLDivElement | null>,
): Pane {
  const [chosen, setChosen] = useState(() => Number(preference(KEPT_AS) ?? "") || null);
  const strip = useRef<HTMLDivElement>(null);
  const full = columns.reduce((sum, { width }) => sum + width, 0);
  const most = Math.max(LEAST_TABLE, viewWidth - LEAST_CHART);
  const width = Math.min(full, most, Math.max(LEAST_TABLE, chosen ?? full));
  const split = useCallback(
    (wanted: number): void => {
      const next = Math.round(Math.max(LEAST_TABLE, Math.min(wanted, most, full)));
      setChosen(next);
      keepPreference(KEPT_AS, String(next));
    },
    [most, full],
  );
  const x = useCallback((): number => strip.current?.scrollLeft ?? 0, []);
  const onStrip = useCallback((): void => scroller.current?.style.setProperty("--pane-x", String(x())), [scroller, x]);
  const scrollBy = useCallback((pixels: number): void => {
    if (strip.current !== null) strip.current.scrollLeft += pixels;
  }, []);
  const show = useCallback(
    (column: number): void => {
      const bar = strip.current;
      const [first] = columns;
      if (bar === null || first === undefined || column <= 0) return;
      const from = columns.slice(1, column).reduce((sum, each) => sum + each.width, 0);
      const to = from + (columns[column]?.width ?? 0);
      const room = Math.max(NARROWEST_SEEN, width - first.width);
      if (from < bar.scrollLeft) bar.scrollLeft = from;
      else if (to > bar.scrollLeft + room) bar.scrollLeft = Math.min(from, to - room);
    },
    [columns, width],
  );
  useEffect(onStrip, [onStrip, width, full]);
  useWheelAcross(scroller, full > width ? width : 0, scrollBy);
  return { width, full, split, x, show, scrollBy, strip, onStrip };
}

/** How columns after the first are moved by the pane's scrolling, and what is hidden below the first is cut off. */
export const SCROLLED = {
  transform: "translateX(calc(var(--pane-x, 0) * -1px))",
  clipPath: "inset(0 -100vw -100vh calc(var(--pane-x, 0) * 1px))",
} as const;
