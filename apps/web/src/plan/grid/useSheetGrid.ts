import { useMemo, useRef } from "react";
import type { Typed } from "../engine/planEngine.ts";
import type { PlanSession } from "../engine/session/planSession.ts";
import type { Gone } from "../engine/session/sessionState.ts";
import type { Sheet, SheetRow } from "../engine/sheet.ts";
import type { Reading, SheetColumn } from "../engine/sheetColumn.ts";
import { useGrid } from "./cells/useGrid.ts";
import { useRowWork } from "./work/useRowWork.ts";

/** Rows that one press on a page key goes by. */
const PAGE = 25;

/**
 * The row that stands for one that is folded away or left out of sight: the nearest above it that is there; `null`
 * where it is not in the plan.
 */
function standing(sheet: Sheet, rows: readonly SheetRow[]): (id: string) => string | null {
  if (rows.length === sheet.rows.length) return () => null;
  const shown = new Set(rows.map(({ id }) => id));
  const all = new Map(sheet.rows.map((row) => [row.id, row]));
  return (id) => {
    let at: SheetRow | undefined = all.get(id);
    while (at !== undefined && !shown.has(at.id)) at = at.parent === null ? undefined : all.get(at.parent);
    return at?.id ?? null;
  };
}

/** Takes what was typed into a cell: what stands against it, or `null` once it is done. */
function commitTo(session: PlanSession, reading: Reading) {
  const take = async (typed: Typed): Promise<string | null> => {
    if ("fault" in typed) return typed.fault;
    const problems = typed.changes.length === 0 ? null : await session.change(typed.changes);
    return problems === null ? null : problems[0]!.message;
  };
  return (row: SheetRow, column: SheetColumn, text: string): Promise<string | null> | string | null => {
    if (column.asks !== undefined)
      return (column.asks === "links" ? session.readLinks(row.id, text) : session.readWork(row.id, text)).then(take);
    const typed = column.read!(text, row, reading);
    return "fault" in typed ? typed.fault : take(typed);
  };
}

interface Options {
  readonly sheet: Sheet;
  readonly rows: readonly SheetRow[];
  readonly columns: readonly SheetColumn[];
  readonly folded: ReadonlySet<string>;
  readonly gone: ReadonlyMap<string, Gone>;
  readonly reading: Reading;
  readonly session: PlanSession;
  readonly mayEdit: boolean;
  readonly onFold: (id: string, open: boolean) => void;
}

/** A sheet as a grid that is typed into, and what can be done with its rows; each needs the other. */
export function useSheetGrid({ sheet, rows, columns, folded, gone, reading, session, mayEdit, onFold }: Options) {
  const current = useRef<ReturnType<typeof useGrid>>(null);
  const work = useRowWork({ rows, columns, reading, session, mayEdit, folded, onFold, grid: current });
  const standsFor = useMemo(() => standing(sheet, rows), [sheet, rows]);
  const grid = useGrid({
    rows,
    standsFor,
    gone,
    columns,
    page: PAGE,
    mayEdit,
    textAt: (row, column) => column.text(row, reading),
    onCommit: commitTo(session, reading),
    onCommand: work.onCommand,
    // Whoever types names one below the other goes on into a new row.
    onPastEnd: (row, column) => {
      if (column.id === "name") work.insert(row, true);
    },
    onFreshLeft: work.leaveFresh,
  });
  current.current = grid;
  return { grid, work, current };
}
