import { defaultRangeExtractor, useVirtualizer } from "@tanstack/react-virtual";
import { useCallback, useEffect, useMemo, useState, type RefObject } from "react";
import { flushSync } from "react-dom";
import { ChartGround } from "./chart/ChartGround.tsx";
import { ChartHead, HEAD_HEIGHT } from "./chart/ChartHead.tsx";
import { Lane } from "./chart/Lane.tsx";
import { laneShapes } from "./chart/laneShapes.ts";
import { widthOf, type Scale } from "./chart/scale.ts";
import type { PlanSession, Typed } from "./planSession.ts";
import type { Sheet, SheetRow } from "./sheet.ts";
import { SheetCell } from "./SheetCell.tsx";
import type { SheetColumn } from "./sheetColumns.ts";
import type { Block } from "./blocks.ts";
import { todayHere } from "./today.ts";
import { useGrid, type Cursor } from "./useGrid.ts";
import { useRowWork } from "./useRowWork.ts";

export const ROW_HEIGHT = 21;

/** The row the keyboard stands on, the block that is chosen, and what can be done with it. */
export interface Active {
  readonly row: SheetRow | null;
  readonly block: Block;
  readonly work: ReturnType<typeof useRowWork>;
}

interface Props {
  readonly sheet: Sheet;
  /** Rows that are not folded away. */
  readonly rows: readonly SheetRow[];
  readonly folded: ReadonlySet<string>;
  readonly columns: readonly SheetColumn[];
  readonly scale: Scale;
  readonly session: PlanSession;
  readonly mayEdit: boolean;
  readonly scroller: RefObject<HTMLDivElement | null>;
  readonly onFold: (id: string, open: boolean) => void;
  readonly onActive: (active: Active) => void;
  /** Changes when the room for the table does, so that the active row is brought back into sight. */
  readonly room: string;
  /** The activity to begin at. */
  readonly at: string | null;
}

/** The plan as a table beside its time chart, one scroll for both; only rows in sight are drawn. */
export function PlanSheet({ sheet, rows, folded, columns, scale, session, mayEdit, scroller, onFold, onActive, room, at }: Props) {
  const left = columns.reduce((sum, { width }) => sum + width, 0);
  const width = left + widthOf(scale);
  const textAt = useCallback(
    ({ row, column }: Cursor) => {
      const its = rows[row];
      const one = columns[column];
      return !mayEdit || its === undefined || one?.edit === undefined || one.closed?.(its) != null ? null : one.edit(its);
    },
    [rows, columns, mayEdit],
  );
  const take = async (typed: Typed): Promise<string | null> => {
    if ("fault" in typed) return typed.fault;
    const problems = typed.changes.length === 0 ? null : await session.change(typed.changes);
    return problems === null ? null : problems[0]!.message;
  };
  const onCommit = ({ row, column }: Cursor, text: string): Promise<string | null> | string | null => {
    const one = columns[column]!;
    if (one.isLinks === true) return session.readLinks(rows[row]!.id, text).then(take);
    const typed = one.read!(text, rows[row]!, todayHere());
    return "fault" in typed ? typed.fault : take(typed);
  };
  const work = useRowWork({ rows, columns, session, mayEdit, folded, onFold });
  // Whoever types names one below the other goes on into a new row.
  const onPastEnd = ({ row, column }: Cursor): void => {
    if (columns[column]!.id === "name") work.insert(row);
  };
  const grid = useGrid({ rows: rows.length, columns: columns.length, page: 25, textAt, onCommit, onCommand: work.onCommand, onPastEnd });
  const { cursor, editing, block } = grid;
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 15,
    // The head lies over the first rows of the scroller, and the rows begin below it.
    scrollPaddingStart: 0,
    scrollPaddingEnd: HEAD_HEIGHT + ROW_HEIGHT,
    // The row the keyboard stands on stays on the page when it is scrolled out of sight.
    rangeExtractor: (range) => [...new Set([...defaultRangeExtractor(range), Math.min(cursor.row, rows.length - 1)])].filter((index) => index >= 0).sort((a, b) => a - b),
  });

  useEffect(() => {
    if (rows.length > 0) virtual.scrollToIndex(cursor.row);
  }, [cursor.row, rows]);
  useEffect(() => {
    // The table learns of its new height a frame later.
    const waiting = setTimeout(() => rows.length > 0 && virtual.scrollToIndex(cursor.row), 60);
    return () => clearTimeout(waiting);
  }, [room]);
  useEffect(() => {
    onActive({ row: rows[cursor.row] ?? null, work, block });
  }, [cursor.row, block.top, block.bottom, rows]);
  useEffect(() => {
    const row = work.awaited.current === null ? -1 : rows.findIndex(({ id }) => id === work.awaited.current);
    if (row < 0) return;
    grid.holdsFocus.current = true;
    grid.begin({ row, column: 0 });
  }, [rows]);
  /** The new row's field is there: it takes what was typed while it was on its way. */
  const onReady = (index: number): void => {
    if (rows[index]!.id !== work.awaited.current) return;
    work.awaited.current = null;
    const { text, entered } = work.takeTyped();
    // At once, so that no key comes between the field that goes and the cell that follows it.
    queueMicrotask(() =>
      flushSync(() => {
        if (entered) grid.enter({ row: index, column: 0 }, text, { row: 1, column: 0 });
        else if (text !== "") grid.setText(text);
      }),
    );
  };
  const [begun, setBegun] = useState(false);
  useEffect(() => {
    const row = at === null ? -1 : rows.findIndex(({ id }) => id === at);
    if (begun || row < 0) return;
    setBegun(true);
    grid.go(row, 0);
  }, [at, rows, begun]);

  const shapes = useMemo(() => {
    const known = new Map<SheetRow, ReturnType<typeof laneShapes>>();
    return (row: SheetRow) => known.get(row) ?? known.set(row, laneShapes(row, scale)).get(row)!;
  }, [scale, sheet]);
  const height = virtual.getTotalSize();
  const pane = { width: left };
  const isRange = block.top !== block.bottom || block.left !== block.right;
  return (
    <div ref={scroller} className="h-full overflow-auto text-[13px]">
      <div role="treegrid" aria-label="Plan" aria-multiselectable="true" aria-rowcount={rows.length + 1} aria-colcount={columns.length} onKeyDown={grid.onKey} onFocus={grid.onFocus} onBlur={grid.onBlur} onCopy={(event) => work.onCopy(event, block)} onPaste={(event) => work.onPaste(event, block)} style={{ width, position: "relative" }}>
        <div role="row" aria-rowindex={1} className="sticky top-0 z-4 flex border-b border-base-content bg-base-100" style={{ height: HEAD_HEIGHT, width }}>
          <div role="presentation" className="sticky left-0 z-1 flex items-end border-r border-base-content bg-base-100" style={pane}>
            {columns.map((column, i) => <div key={column.id} role="columnheader" aria-colindex={i + 1} title={column.hint} className={`muted shrink-0 px-1.5 pb-1 font-semibold ${column.numeric === true ? "text-right" : ""}`} style={{ width: column.width, ...(i === 0 ? { paddingLeft: 22 } : {}) }}>{column.head}</div>)}
          </div>
          <ChartHead scale={scale} dataDate={sheet.dataDate} />
        </div>
        <div role="presentation" style={{ height, position: "relative" }}>
          <ChartGround scale={scale} dataDate={sheet.dataDate} left={left} height={height} />
          {virtual.getVirtualItems().map(({ index, start }) => {
            const row = rows[index]!;
            const active = cursor.row === index;
            return (
              <div key={row.id} role="row" aria-rowindex={index + 2} aria-level={row.depth + 1} aria-selected={active} {...(row.children > 0 ? { "aria-expanded": !folded.has(row.id) } : {})} className="absolute left-0 flex border-b rule" style={{ top: start, height: ROW_HEIGHT, width, ...(active && editing !== null ? { zIndex: 3 } : {}) }}>
                <div role="presentation" className={`sticky left-0 z-2 flex border-r border-base-content ${active ? "bg-base-200" : "bg-base-100"}`} style={pane}>
                  {columns.map((column, i) => (
                    <SheetCell key={column.id} row={row} column={column} index={i} active={active && cursor.column === i} chosen={isRange && index >= block.top && index <= block.bottom && i >= block.left && i <= block.right} editing={active && cursor.column === i ? editing : null} folded={row.children > 0 ? folded.has(row.id) : null} holdsFocus={grid.holdsFocus} onFocus={(extend) => grid.go(index, i, extend)} onBegin={() => grid.begin({ row: index, column: i })} onFold={() => onFold(row.id, folded.has(row.id))} onText={grid.setText} onLeave={(text) => editing !== null && editing.fault === null && grid.commit(text, { row: 0, column: 0 })} onEditKey={grid.onEditKey} onReady={() => onReady(index)} />
                  ))}
                </div>
                <svg role="presentation" width={widthOf(scale)} height={ROW_HEIGHT} className="block shrink-0"><Lane shapes={shapes(row)} summary={row.kind === "summary"} height={ROW_HEIGHT} /></svg>
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}
