import { defaultRangeExtractor, useVirtualizer } from "@tanstack/react-virtual";
import { useCallback, useEffect, useImperativeHandle, useMemo, useRef, useState, type Ref, type RefObject } from "react";
import { flushSync } from "react-dom";
import { ChartGround } from "../chart/ChartGround.tsx";
import { HEAD_HEIGHT } from "../chart/ChartHead.tsx";
import type { Colouring } from "../chart/colours.ts";
import { DragNote } from "../chart/DragNote.tsx";
import { Handles } from "../chart/Handles.tsx";
import { LinkLines } from "../chart/LinkLines.tsx";
import { widthOf, type Scale } from "../chart/scale.ts";
import type { Block } from "./blocks.ts";
import type { Ghosts } from "../engine/planEngine.ts";
import type { PlanSession, Typed } from "../engine/planSession.ts";
import type { Sheet, SheetRow } from "../engine/sheet.ts";
import type { Reading } from "./sheetColumn.ts";
import { SheetHead } from "./SheetHead.tsx";
import { ROW_HEIGHT, SheetLine, type LineActions } from "./SheetLine.tsx";
import { useGrid, type Cursor } from "./useGrid.ts";
import { useLatest } from "./useLatest.ts";
import type { PlanColumns } from "./usePlanColumns.ts";
import { useRowWork } from "./useRowWork.ts";
import { useSheetDrags } from "./useSheetDrags.ts";

/** The row the keyboard stands on, the block that is chosen, and what can be done with it. */
export interface Active {
  readonly row: SheetRow | null;
  readonly block: Block;
  readonly work: ReturnType<typeof useRowWork>;
}

/** How the chart shows the plan. */
export interface ChartLook {
  readonly withApproved: boolean;
  readonly colouring: Colouring | null;
  /** The activities that stand out, the others drawn back; `null` for all alike. */
  readonly lit: ReadonlySet<string> | null;
  /** Where something else would put what moves. */
  readonly ghosts: Ghosts | null;
}

/** What the page can ask of its table. */
export interface SheetHandle {
  readonly go: (row: number, column: number) => void;
  /** Gives the keyboard back to the cell it stood on. */
  readonly focus: () => void;
}

interface Props {
  readonly sheet: Sheet;
  /** Rows that are not folded away. */
  readonly rows: readonly SheetRow[];
  readonly folded: ReadonlySet<string>;
  readonly columns: PlanColumns;
  readonly reading: Reading;
  readonly scale: Scale;
  readonly look: ChartLook;
  readonly session: PlanSession;
  readonly mayEdit: boolean;
  readonly currency: string;
  /** Who else stands where, by activity. */
  readonly others: ReadonlyMap<string, string>;
  readonly scroller: RefObject<HTMLDivElement | null>;
  readonly onFold: (id: string, open: boolean) => void;
  readonly onActive: (active: Active) => void;
  /** Changes when the room for the table does, so that the active row is brought back into sight. */
  readonly room: string;
  /** The activity to begin at. */
  readonly at: string | null;
  /** And the column. */
  readonly cell: string | null;
  readonly handle: Ref<SheetHandle>;
}

interface Item {
  readonly index: number;
  readonly start: number;
}

/**
 * Lines scrolled out of sight are used again for those that come in, and while it scrolls each stays where it is among the
 * others: made anew or put elsewhere, a line is laid out with all that is in it. At rest they stand in the order of the rows,
 * as they are read. The row the keyboard stands on has a line apart once it is out of sight.
 */
function useLines(items: readonly Item[], cursor: number, scrolling: boolean): readonly (Item & { readonly key: number })[] {
  const slots = useRef(0);
  slots.current = Math.max(slots.current, items.length);
  const inSight = items.filter(({ index }) => index !== cursor);
  const far = inSight.length > 0 && (cursor < inSight[0]!.index - 1 || cursor > inSight.at(-1)!.index + 1);
  const lines = items.map(({ index, start }) => ({ index, start, key: far && index === cursor ? -1 : index % slots.current }));
  return scrolling ? lines.sort((a, b) => a.key - b.key) : lines;
}

/** The plan as a table beside its time chart, one scroll for both; only rows in sight are drawn. */
export function PlanSheet({ sheet, rows, folded, columns: planColumns, reading, scale, look, session, mayEdit, currency, others, scroller, onFold, onActive, room, at, cell, handle }: Props) {
  const { columns } = planColumns;
  const source = useRef(sheet);
  source.current = sheet;
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
    const { id } = rows[row]!;
    if (one.asks !== undefined) return (one.asks === "links" ? session.readLinks(id, text) : session.readWork(id, text)).then(take);
    const typed = one.read!(text, rows[row]!, reading);
    return "fault" in typed ? typed.fault : take(typed);
  };
  const work = useRowWork({ rows, columns, reading, session, mayEdit, folded, onFold });
  // Whoever types names one below the other goes on into a new row.
  const onPastEnd = ({ row, column }: Cursor): void => {
    if (columns[column]!.id === "name") work.insert(row);
  };
  const grid = useGrid({ rows: rows.length, columns: columns.length, page: 25, textAt, onCommit, onCommand: work.onCommand, onPastEnd });
  const { cursor, editing, block, whole } = grid;
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 6,
    useFlushSync: false,
    // The row the keyboard stands on stays on the page when it is scrolled out of sight.
    rangeExtractor: (range) => [...new Set([...defaultRangeExtractor(range), Math.min(cursor.row, rows.length - 1)])].filter((index) => index >= 0).sort((a, b) => a - b),
  });
  useImperativeHandle(handle, () => ({
    go: (row, column) => {
      grid.holdsFocus.current = true;
      grid.go(row, column);
    },
    focus: () => scroller.current?.querySelector<HTMLElement>("[role=treegrid] [tabindex='0']")?.focus({ preventScroll: true }),
  }));

  /** Brings the row the keyboard stands on into sight. All rows are of one height, and asking the page for its own would lay it out anew each time. */
  const keepInSight = (): void => {
    const from = virtual.scrollOffset ?? 0;
    // Before the table has been measured, as when an address leads to a row, the page has to be asked once.
    const room = (virtual.scrollRect?.height || scroller.current!.clientHeight) - HEAD_HEIGHT;
    const top = cursor.row * ROW_HEIGHT;
    const to = top < from ? top : top + 2 * ROW_HEIGHT > from + room ? top + 2 * ROW_HEIGHT - room : from;
    if (to !== from && room > 0) scroller.current!.scrollTop = to;
  };
  const latestInSight = useRef(keepInSight);
  latestInSight.current = keepInSight;
  useEffect(keepInSight, [cursor.row, rows]);
  useEffect(() => {
    // The table learns of its new height a frame later; by then the keyboard may stand elsewhere.
    const waiting = setTimeout(() => latestInSight.current(), 60);
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
    // Whoever was led to a cell types into it at once.
    if (cell !== null) grid.holdsFocus.current = true;
    grid.go(row, Math.max(0, columns.findIndex(({ id }) => id === cell)));
  }, [at, cell, rows, columns, begun]);

  const { drawn, onGrab, drop, onGrip, heightAt, xAt, rowIndexAt } = useSheetDrags({ rows, scale, session, scroller, left, onPlace: (place) => void work.arrange({ verb: "place", ids: work.idsIn(block), ...place }) });
  const on: LineActions = useLatest({
    focus: (row: number, column: number, extend: boolean) => grid.go(row, column, extend),
    begin: (row: number, column: number) => grid.begin({ row, column }),
    fold: onFold,
    text: grid.setText,
    leave: (text: string) => void (editing !== null && editing.fault === null && grid.commit(text, { row: 0, column: 0 })),
    editKey: grid.onEditKey,
    ready: onReady,
    grip: onGrip,
  });

  const items = virtual.getVirtualItems();
  const lines = useLines(items, cursor.row, virtual.isScrolling);
  const isRange = block.top !== block.bottom || block.left !== block.right;
  const activeId = rows[cursor.row]?.id;
  const shown = useMemo(() => sheet.links.filter(({ from, to }) => (look.lit === null ? from === activeId || to === activeId : look.lit.has(from) && look.lit.has(to))), [sheet.links, look.lit, activeId]);
  const drawing = drawn?.linkFrom == null ? null : { from: drawn.linkFrom, to: { x: xAt(drawn.at.x), y: heightAt(drawn.at.y) * ROW_HEIGHT } };
  return (
    <div ref={scroller} className="h-full overflow-auto bg-base-100 text-[13px]">
      <div role="treegrid" aria-label="Plan" aria-multiselectable="true" aria-rowcount={rows.length + 1} aria-colcount={columns.length} onKeyDown={grid.onKey} onFocus={grid.onFocus} onBlur={grid.onBlur} onCopy={(event) => void work.onCopy(event, block, whole)} onCut={(event) => work.onCut(event, block, whole)} onPaste={(event) => work.onPaste(event, block)} style={{ width, position: "relative" }}>
        <SheetHead columns={planColumns} left={left} scale={scale} dataDate={sheet.dataDate} />
        <div role="presentation" style={{ height: virtual.getTotalSize(), position: "relative" }}>
          <ChartGround scale={scale} dataDate={sheet.dataDate} left={left} />
          {lines.map(({ key, index, start }) => {
            const row = rows[index]!;
            const active = cursor.row === index;
            const chosen = isRange && index >= block.top && index <= block.bottom;
            const colour = look.colouring?.of(row) ?? null;
            return (
              <SheetLine key={key} row={row} index={index} top={start} source={source} minorDigits={sheet.minorDigits} columns={columns} left={left} scale={scale} at={active ? cursor.column : null} from={chosen ? block.left : 1} to={chosen ? block.right : 0} editing={active ? editing : null} folded={row.children > 0 ? folded.has(row.id) : null} holdsFocus={grid.holdsFocus} mayEdit={mayEdit} withApproved={look.withApproved} colour={colour?.colour ?? null} coloured={colour?.value ?? null} dim={look.lit !== null && !look.lit.has(row.id)} ghost={(drawn?.ghosts ?? look.ghosts)?.get(row.id) ?? null} others={others.get(row.id) ?? null} on={on} />
            );
          })}
          <LinkLines links={shown} rows={rows} scale={scale} rowHeight={ROW_HEIGHT} left={left} width={widthOf(scale)} sight={[items[0]?.index ?? 0, items.at(-1)?.index ?? 0]} drawing={drawing} />
          {mayEdit && <Handles rows={rows} scale={scale} left={left} scroller={scroller} rowAt={rowIndexAt} onGrab={onGrab} />}
          {drop !== null && <div aria-hidden="true" className="absolute z-3 h-0.5 bg-accent" style={{ top: drop.line * ROW_HEIGHT - 1, left: 10 + drop.depth * 14, width: columns[0]!.width - 12 - drop.depth * 14 }} />}
        </div>
      </div>
      {drawn !== null && <DragNote drawn={drawn} minorDigits={sheet.minorDigits} currency={currency} />}
    </div>
  );
}

