import { defaultRangeExtractor, useVirtualizer, type Range } from "@tanstack/react-virtual";
import { Fragment, useEffect, useLayoutEffect, useRef, useState, type ReactNode } from "react";
import { flushSync } from "react-dom";

/** What a row of the list gives to its element. */
export interface PlaceInList {
  readonly ref?: (element: HTMLElement | null) => void;
  readonly "data-index"?: number;
  /** How many rows there are, of which some alone are drawn, and which of them it is. */
  readonly "aria-setsize"?: number;
  readonly "aria-posinset"?: number;
}

interface Props<T> {
  readonly rows: readonly T[];
  readonly keyOf: (row: T) => string;
  /** Height that a row is likely to take, in pixels. */
  readonly height: number;
  /** A row that is drawn wherever it is, as one that is carried; that in which the keyboard stands always is. */
  readonly keeps?: string | null;
  /** Draws a row as one `li`, which takes its place. */
  readonly children: (row: T, place: PlaceInList) => ReactNode;
}

/** So many rows are drawn whether they are in sight or not. */
const FEW = 10;

const OVERSCAN = 6;

/** Whether all of a list is above or below what is in sight: its first or last row alone would be taken for seen. */
const isAway = ({ startIndex, endIndex, count }: Range): boolean =>
  startIndex === endIndex && (endIndex === 0 || startIndex === count - 1) && count > 1;

const scrollerOf = (element: HTMLElement | null): HTMLElement | null => {
  for (let at = element?.parentElement ?? null; at !== null; at = at.parentElement)
    if (/auto|scroll/.test(getComputedStyle(at).overflowY)) return at;
  return null;
};

/** How far below the top of what scrolls an element lies. */
function useMargin(element: HTMLElement | null, scroller: HTMLElement | null): number {
  const [margin, setMargin] = useState(0);
  useLayoutEffect(() => {
    if (element === null || scroller === null) return undefined;
    const measure = (): void => {
      const above = element.getBoundingClientRect().top - scroller.getBoundingClientRect().top + scroller.scrollTop;
      setMargin(Math.round(above));
    };
    measure();
    // What stands above grows and shrinks, as where it is unfolded.
    const watching = new ResizeObserver(measure);
    if (scroller.firstElementChild !== null) watching.observe(scroller.firstElementChild);
    return () => watching.disconnect();
  }, [element, scroller]);
  return margin;
}

/** Whether the page is on its way to paper, where all of it stands. */
function usePrinting(): boolean {
  const [printing, setPrinting] = useState(false);
  useEffect(() => {
    const on = (): void => flushSync(() => setPrinting(true));
    const off = (): void => setPrinting(false);
    addEventListener("beforeprint", on);
    addEventListener("afterprint", off);
    return () => {
      removeEventListener("beforeprint", on);
      removeEventListener("afterprint", off);
    };
  }, []);
  return printing;
}

/** The row in which the keyboard stands, by its place; -1 where it stands elsewhere. */
function useFocused(list: HTMLElement | null): number {
  const [at, setAt] = useState(-1);
  useEffect(() => {
    if (list === null) return undefined;
    const on = ({ target }: FocusEvent): void => {
      const row = (target as HTMLElement).closest<HTMLElement>("li[data-index]");
      setAt(row === null ? -1 : Number(row.dataset["index"]));
    };
    const off = (): void => setAt(-1);
    list.addEventListener("focusin", on);
    list.addEventListener("focusout", off);
    return () => {
      list.removeEventListener("focusin", on);
      list.removeEventListener("focusout", off);
    };
  }, [list]);
  return at;
}

/** Rows of a long list that are in sight, asked for or have the keyboard; the others keep their room. */
function Windowed<T>({ rows, keyOf, height, keeps = null, children }: Props<T>) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const list = anchor?.parentElement ?? null;
  const scroller = scrollerOf(list);
  const margin = useMargin(list, scroller);
  const focused = useFocused(list);
  const kept = keeps === null ? -1 : rows.findIndex((row) => keyOf(row) === keeps);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller,
    estimateSize: () => height,
    overscan: OVERSCAN,
    scrollMargin: margin,
    useFlushSync: false,
    getItemKey: (index) => keyOf(rows[index]!),
    rangeExtractor: (range) =>
      [...new Set([...(isAway(range) ? [] : defaultRangeExtractor(range)), kept, focused])]
        .filter((index) => index >= 0 && index < rows.length)
        .sort((a, b) => a - b),
  });
  const items = virtual.getVirtualItems();
  const gapBefore = (i: number): number => items[i]!.start - (i === 0 ? margin : items[i - 1]!.end);
  const rest = virtual.getTotalSize() + margin - (items.at(-1)?.end ?? margin);
  const room = (pixels: number) => (
    <li aria-hidden="true" role="presentation" style={{ height: Math.max(0, pixels) }} />
  );
  return (
    <>
      <li ref={setAnchor} hidden />
      {items.map(({ index, key }, i) => (
        <Fragment key={key}>
          {gapBefore(i) > 0.5 && room(gapBefore(i))}
          {children(rows[index]!, {
            ...{ ref: virtual.measureElement, "data-index": index },
            ...{ "aria-setsize": rows.length, "aria-posinset": index + 1 },
          })}
        </Fragment>
      ))}
      {rest > 0.5 && room(rest)}
    </>
  );
}

/** The rows of a list within its `ul`; of a long one those in sight alone, but for paper. */
export function ListInSight<T>(props: Props<T>) {
  const printing = usePrinting();
  // A list that was long stays so while rows come and go: nothing is drawn twice.
  const wasLong = useRef(false);
  wasLong.current ||= props.rows.length > FEW;
  if (wasLong.current && !printing) return <Windowed {...props} />;
  return props.rows.map((row) => <Fragment key={props.keyOf(row)}>{props.children(row, {})}</Fragment>);
}
