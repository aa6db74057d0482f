import { useLayoutEffect, type RefObject } from "react";

/** How tightly a table may be set, from as it likes to be to where its first column stays and the rest is scrolled. */
const TIGHTEST = 3;

/**
 * Sets a table only as tightly as it must be to stay on its page: padding goes first, then long names are cut (whole on
 * asking), at last the first column stays in sight while the rest scrolls.
 * @param shown says what is in the table; what is changed within a cell is seen by itself
 */
export function useFit(table: RefObject<HTMLTableElement | null>, shown: string): void {
  useLayoutEffect(() => {
    const it = table.current;
    const room = it?.parentElement ?? null;
    if (it === null || room === null) return undefined;
    let width = -1;
    const fit = (): void => {
      if (room.clientWidth === width && it.offsetWidth <= width) return;
      width = room.clientWidth;
      // On a phone it is too narrow whatever one tries, and each try lays the table out.
      for (let tight = width < 500 ? TIGHTEST : 0; tight <= TIGHTEST; tight++) {
        it.dataset["tight"] = String(tight);
        if (it.offsetWidth <= width) return;
      }
    };
    fit();
    const watching = new ResizeObserver(fit);
    watching.observe(room);
    watching.observe(it);
    return () => watching.disconnect();
  }, [table, shown]);
}
