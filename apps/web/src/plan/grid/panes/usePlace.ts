import { useEffect, useRef, type RefObject } from "react";

/** Where someone was on a plan when they left it. */
export interface PlaceLeft {
  readonly at: string | null;
  readonly column: number;
  readonly top: number;
  readonly left: number;
}

const keyOf = (plan: string): string => `chronometra.place.${plan}`;

/** Where someone was when they left a plan in this window; `null` where they were not. */
export function placeLeft(plan: string): PlaceLeft | null {
  try {
    return JSON.parse(sessionStorage.getItem(keyOf(plan)) ?? "null") as PlaceLeft | null;
  } catch {
    return null;
  }
}

/** Keeps where someone is on a plan when they leave it, so that going back finds the place again. */
export function useKeepPlace(
  plan: string,
  scroller: RefObject<HTMLDivElement | null>,
  cursor: { readonly at: string | null; readonly column: number },
): void {
  const latest = useRef(cursor);
  latest.current = cursor;
  useEffect(() => {
    const pane = scroller.current;
    let [top, left] = [0, 0];
    const note = (): void => void ([top, left] = [pane?.scrollTop ?? 0, pane?.scrollLeft ?? 0]);
    pane?.addEventListener("scroll", note, { passive: true });
    return () => {
      pane?.removeEventListener("scroll", note);
      sessionStorage.setItem(keyOf(plan), JSON.stringify({ ...latest.current, top, left } satisfies PlaceLeft));
    };
  }, [plan, scroller]);
}
