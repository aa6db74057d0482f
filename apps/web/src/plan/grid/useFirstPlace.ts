import { useEffect, useState, type RefObject } from "react";
import type { SheetRow } from "../engine/sheet.ts";
import type { SheetColumn } from "../engine/sheetColumn.ts";
import type { useGrid } from "./cells/useGrid.ts";
import { placeLeft } from "./panes/usePlace.ts";

interface FirstPlace {
  /** The activity to begin at, and the column. */
  readonly at: string | null;
  readonly cell: string | null;
  /** A row that was just made, to be typed into; `null` where there is none. */
  readonly fresh: string | null;
  readonly planKey: string;
  readonly rows: readonly SheetRow[];
  readonly scroller: RefObject<HTMLDivElement | null>;
  readonly columns: readonly SheetColumn[];
  readonly grid: ReturnType<typeof useGrid>;
}

/**
 * Where someone begins: at the row that was just made, at the one that the address names, or where they were when they
 * left; and where they are led when the address names another, as by what they found.
 */
export function useFirstPlace({ at, cell, fresh, planKey, rows, columns, grid, scroller }: FirstPlace): void {
  /** Where the address led last; `null` before anything is begun. */
  const [begun, setBegun] = useState<{ readonly at: string | null } | null>(null);
  useEffect(() => {
    const to = at ?? (fresh === null ? (placeLeft(planKey)?.at ?? null) : null);
    if (begun !== null && (at === null || begun.at === at)) return;
    if (to !== null && !rows.some(({ id }) => id === to)) return;
    setBegun({ at });
    if (fresh !== null && begun === null) {
      grid.holdsFocus.current = true;
      grid.begin(fresh, 0);
    } else if (at !== null) {
      // Whoever was led to a cell types into it at once.
      if (cell !== null) grid.holdsFocus.current = true;
      grid.goTo(
        at,
        Math.max(
          0,
          columns.findIndex(({ id }) => id === cell),
        ),
      );
    } else if (to !== null) {
      const left = placeLeft(planKey)!;
      grid.goTo(to, left.column);
      setTimeout(() => scroller.current?.scrollTo({ top: left.top, left: left.left, behavior: "instant" }), 0);
    }
    // Once for each place that is named, as soon as the row is there: what else changes leads nobody away from where they are.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [at, cell, rows, columns, begun]);
}
