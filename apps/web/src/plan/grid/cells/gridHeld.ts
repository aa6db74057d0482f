import { useCallback, useRef, useState } from "react";
import { acted, atFirst, type GridAct, type GridState } from "./gridState.ts";
import type { GridOptions } from "./gridOptions.ts";

/** What is held of a grid by the ids of its rows, brought to the rows as they are at each drawing. */
export function useGridState(ids: readonly string[], gone: GridOptions["gone"], standsFor: GridOptions["standsFor"]) {
  const [, draw] = useState(0);
  const kept = useRef<{ state: GridState; ids: readonly string[] }>(null);
  kept.current ??= { state: atFirst(ids), ids };
  if (kept.current.ids !== ids)
    kept.current = { state: acted(kept.current.state, { do: "rows", ids, gone, standsFor }), ids };
  const act = useCallback((what: GridAct): void => {
    kept.current = { ...kept.current!, state: acted(kept.current!.state, what) };
    draw((n) => n + 1);
  }, []);
  /** Rows are about to go: the keyboard will stand where the first of them stood. */
  const removing = (first: string): void => {
    const row = ids.indexOf(first);
    if (row >= 0) kept.current = { ...kept.current!, state: { ...kept.current!.state, row } };
  };
  return {
    state: kept.current.state,
    kept: kept as { readonly current: { readonly state: GridState; readonly ids: readonly string[] } },
    act,
    removing,
  };
}

/** What a grid holds, and how it is changed. */
export type Held = ReturnType<typeof useGridState>;
