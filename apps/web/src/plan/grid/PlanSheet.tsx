import { defaultRangeExtractor, useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useImperativeHandle, useMemo, useRef, useState, type Ref, type RefObject } from "react";
import { ChartGround } from "../chart/ChartGround.tsx";
import { HEAD_HEIGHT } from "../chart/ChartHead.tsx";
import type { Colouring } from "../chart/colours.ts";
import { DragNote } from "../chart/DragNote.tsx";
import { ReplaceWish } from "../chart/ReplaceWish.tsx";
import { Handles } from "../chart/Handles.tsx";
import { LinkLines } from "../chart/LinkLines.tsx";
import { ROW_HEIGHT, widthOf, type Scale } from "../chart/scale.ts";
import type { Block } from "./work/blocks.ts";
import { LostTextBar } from "./LostTextBar.tsx";
import { useLines } from "./useLines.ts";
import { ParkDialog } from "./ParkDialog.tsx";
import type { Ghosts } from "../engine/planEngine.ts";
import type { Typed } from "../engine/planEngine.ts";
import type { PlanSession } from "../engine/planSession.ts";
import type { Gone } from "../engine/sessionState.ts";
import type { Sheet, SheetRow } from "../engine/sheet.ts";
import type { RefusedText } from "./gridState.ts";
import type { Reading, SheetColumn } from "../engine/sheetColumn.ts";
import { SheetHead } from "./SheetHead.tsx";
import { RefusedBar } from "./RefusedBar.tsx";
import { SheetLine, type LineActions } from "./SheetLine.tsx";
import { Splitter } from "./Splitter.tsx";
import { useGrid } from "./useGrid.ts";
import { useLatest } from "./useLatest.ts";
import type { Pane } from "./usePane.ts";
import { placeLeft, useKeepPlace } from "./usePlace.ts";
import type { PlanColumns } from "./usePlanColumns.ts";
import { useRowWork } from "./work/useRowWork.ts";
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
  readonly go: (id: string, column: number) => void;
  /** Gives the keyboard back to the cell it stood on. */
  readonly focus: () => void;
}

interface Props {
  readonly sheet: Sheet;
  /** Rows that are not folded away. */
  readonly rows: readonly SheetRow[];
  readonly folded: ReadonlySet<string>;
  readonly columns: PlanColumns;
  readonly pane: Pane;
  /** Rows that others took out. */
  readonly gone: ReadonlyMap<string, Gone>;
  /** A row that was just made, to be typed into; `null` where there is none. */
  readonly fresh: string | null;
  /** What is kept of where someone was is kept for this plan. */
  readonly planKey: string;
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

interface FirstPlace extends Pick<Props, "at" | "cell" | "fresh" | "planKey" | "rows" | "scroller"> {
  readonly columns: readonly SheetColumn[];
  readonly grid: ReturnType<typeof useGrid>;
}

/** Where someone begins: at the row that was just made, at the one that the address names, or where they were when they left. */
function useFirstPlace({ at, cell, fresh, planKey, rows, columns, grid, scroller }: FirstPlace): void {
  const [begun, setBegun] = useState(false);
  useEffect(() => {
    const to = at ?? (fresh === null ? (placeLeft(planKey)?.at ?? null) : null);
    if (begun || (to !== null && !rows.some(({ id }) => id === to))) return;
    setBegun(true);
    if (fresh !== null) {
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
    // Once only, as soon as the row is there: what else changes later leads nobody away from where they are.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [at, cell, rows, columns, begun]);
}

const NO_REFUSED: readonly RefusedText[] = [];

/** The row that stands for one that is folded away or left out of sight: the nearest above it that is there; `null` where it is not in the plan. */
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

/** The plan as a table beside its time chart, one scroll down for both; only rows in sight are drawn. */
export function PlanSheet({
  sheet,
  rows,
  folded,
  columns: planColumns,
  pane,
  gone,
  fresh,
  planKey,
  reading,
  scale,
  look,
  session,
  mayEdit,
  currency,
  others,
  scroller,
  onFold,
  onActive,
  room,
  at,
  cell,
  handle,
}: Props) {
  const { columns } = planColumns;
  const source = useRef(sheet);
  source.current = sheet;
  const left = pane.width;
  const width = left + widthOf(scale);
  const take = async (typed: Typed): Promise<string | null> => {
    if ("fault" in typed) return typed.fault;
    const problems = typed.changes.length === 0 ? null : await session.change(typed.changes);
    return problems === null ? null : problems[0]!.message;
  };
  const onCommit = (row: SheetRow, column: SheetColumn, text: string): Promise<string | null> | string | null => {
    if (column.asks !== undefined)
      return (column.asks === "links" ? session.readLinks(row.id, text) : session.readWork(row.id, text)).then(take);
    const typed = column.read!(text, row, reading);
    return "fault" in typed ? typed.fault : take(typed);
  };
  const theGrid = useRef<ReturnType<typeof useGrid>>(null);
  const work = useRowWork({ rows, columns, reading, session, mayEdit, folded, onFold, grid: theGrid });
  const standsFor = useMemo(() => standing(sheet, rows), [sheet, rows]);
  // Whoever types names one below the other goes on into a new row.
  const onPastEnd = (row: SheetRow, column: SheetColumn): void => {
    if (column.id === "name") work.insert(row, true);
  };
  const grid = useGrid({
    rows,
    standsFor,
    gone,
    columns,
    page: 25,
    mayEdit,
    textAt: (row, column) => column.text(row, reading),
    onCommit,
    onCommand: work.onCommand,
    onPastEnd,
    onFreshLeft: work.leaveFresh,
  });
  theGrid.current = grid;
  const { cursor, state, chosen, chosenIds } = grid;
  const editing = state.typing;
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 6,
    useFlushSync: false,
    // The row the keyboard stands on stays on the page when it is scrolled out of sight.
    rangeExtractor: (range) =>
      [...new Set([...defaultRangeExtractor(range), cursor.row])].filter((index) => index >= 0).sort((a, b) => a - b),
  });
  useImperativeHandle(handle, () => ({
    go: (id, column) => {
      grid.holdsFocus.current = true;
      grid.goTo(id, column);
    },
    focus: () =>
      scroller.current?.querySelector<HTMLElement>("[role=treegrid] [tabindex='0']")?.focus({ preventScroll: true }),
  }));

  /** Brings the row the keyboard stands on into sight. All rows are of one height, and asking the page for its own would lay it out anew each time. */
  const keepInSight = (): void => {
    const from = virtual.scrollOffset ?? 0;
    // Before the table has been measured, as when an address leads to a row, the page has to be asked once.
    const room = (virtual.scrollRect?.height || scroller.current!.clientHeight) - HEAD_HEIGHT;
    if (cursor.row < 0) return;
    const top = cursor.row * ROW_HEIGHT;
    const to = top < from ? top : top + 2 * ROW_HEIGHT > from + room ? top + 2 * ROW_HEIGHT - room : from;
    if (to !== from && room > 0) scroller.current!.scrollTop = to;
  };
  const latestInSight = useRef(keepInSight);
  latestInSight.current = keepInSight;
  useEffect(() => latestInSight.current(), [cursor.row]);
  // Also where the row it stands on has come to lie elsewhere, unless someone scrolled away from it.
  const latestPane = useRef(pane);
  latestPane.current = pane;
  useEffect(() => latestPane.current.show(cursor.column), [cursor.column, cursor.row, pane.width]);
  const [hasRefused, hasGone] = [state.refused.length > 0, state.gone !== null];
  useEffect(() => {
    // The table learns of its new height a frame later; by then the keyboard may stand elsewhere.
    const waiting = setTimeout(() => latestInSight.current(), 60);
    return () => clearTimeout(waiting);
  }, [room, hasRefused, hasGone]);
  useEffect(() => {
    onActive({ row: rows[cursor.row] ?? null, work, block: chosen });
    // What is done with rows is made anew at each drawing, and does the same.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [cursor.row, chosen, rows]);
  useFirstPlace({ at, cell, fresh, planKey, rows, columns, grid, scroller });
  useKeepPlace(planKey, scroller, state);
  const onLostDone = (): void => {
    grid.dismissLost();
    grid.holdsFocus.current = true;
    grid.go(state.row, cursor.column);
  };

  const { drawn, asked, onKeep, onGrab, drop, onGrip, heightAt, xAt, rowIndexAt } = useSheetDrags({
    rows,
    scale,
    session,
    scroller,
    left,
    onPlace: (place) => void work.arrange({ verb: "place", ids: work.idsIn(chosen), ...place }),
  });
  const on: LineActions = useLatest({
    focus: (row: number, column: number, extend: boolean) =>
      grid.press({ id: rows[row]!.id, column, extend, twice: false }),
    begin: (row: number, column: number) => grid.press({ id: rows[row]!.id, column, extend: false, twice: true }),
    fold: onFold,
    text: grid.setText,
    leave: grid.leave,
    editKey: grid.onEditKey,
    grip: onGrip,
  });

  const items = virtual.getVirtualItems();
  const lines = useLines(items, cursor.row, virtual.isScrolling);
  const isRange = chosen.rows.length > 1 || chosen.left !== chosen.right;
  const activeId = rows[cursor.row]?.id;
  const shown = useMemo(
    () =>
      sheet.links.filter(({ from, to }) =>
        look.lit === null ? from === activeId || to === activeId : look.lit.has(from) && look.lit.has(to),
      ),
    [sheet.links, look.lit, activeId],
  );
  const drawing =
    drawn?.linkFrom == null
      ? null
      : { from: drawn.linkFrom, to: { x: xAt(drawn.at.x), y: heightAt(drawn.at.y) * ROW_HEIGHT } };
  return (
    <div className="flex h-full flex-col text-[13px]">
      <div className="relative min-h-0 flex-1">
        <div ref={scroller} className="h-full overflow-auto bg-base-100">
          <div
            role="treegrid"
            aria-label="Plan"
            aria-multiselectable="true"
            aria-rowcount={rows.length + 1}
            aria-colcount={columns.length}
            onKeyDownCapture={grid.onKeyCapture}
            onKeyDown={grid.onKey}
            onFocus={grid.onFocus}
            onBlur={grid.onBlur}
            onCopy={(event) => void work.onCopy(event, chosen, state.whole)}
            onCut={(event) => work.onCut(event, chosen, state.whole)}
            onPaste={(event) => work.onPaste(event, () => theGrid.current!.chosen)}
            style={{ width, position: "relative" }}
          >
            <SheetHead columns={planColumns} pane={pane} scale={scale} dataDate={sheet.dataDate} />
            <div role="presentation" style={{ height: virtual.getTotalSize(), position: "relative" }}>
              <ChartGround scale={scale} dataDate={sheet.dataDate} left={left} />
              {lines.map(({ key, index, start }) => {
                const row = rows[index]!;
                const active = cursor.row === index;
                const inBlock = isRange && chosenIds.has(row.id);
                const refused =
                  state.refused.length === 0 ? NO_REFUSED : state.refused.filter(({ id }) => id === row.id);
                const colour = look.colouring?.of(row) ?? null;
                return (
                  <SheetLine
                    key={key}
                    row={row}
                    index={index}
                    top={start}
                    source={source}
                    minorDigits={sheet.minorDigits}
                    columns={columns}
                    left={left}
                    scale={scale}
                    at={active ? cursor.column : null}
                    from={inBlock ? chosen.left : 1}
                    to={inBlock ? chosen.right : 0}
                    editing={editing !== null && editing.id === row.id ? editing : null}
                    refused={refused.length === 0 ? NO_REFUSED : refused}
                    folded={row.children > 0 ? folded.has(row.id) : null}
                    holdsFocus={grid.holdsFocus}
                    mayEdit={mayEdit}
                    withApproved={look.withApproved}
                    colour={colour?.colour ?? null}
                    coloured={colour?.value ?? null}
                    dim={look.lit !== null && !look.lit.has(row.id)}
                    ghost={(drawn?.ghosts ?? look.ghosts)?.get(row.id) ?? null}
                    others={others.get(row.id) ?? null}
                    on={on}
                  />
                );
              })}
              <LinkLines
                links={shown}
                rows={rows}
                scale={scale}
                rowHeight={ROW_HEIGHT}
                left={left}
                width={widthOf(scale)}
                sight={[items[0]?.index ?? 0, items.at(-1)?.index ?? 0]}
                drawing={drawing}
              />
              {mayEdit && (
                <Handles rows={rows} scale={scale} left={left} scroller={scroller} rowAt={rowIndexAt} onGrab={onGrab} />
              )}
              {drop !== null && (
                <div
                  aria-hidden="true"
                  className="absolute z-3 h-0.5 bg-accent"
                  style={{
                    top: drop.line * ROW_HEIGHT - 1,
                    left: 10 + drop.depth * 14,
                    width: columns[0]!.width - 12 - drop.depth * 14,
                  }}
                />
              )}
            </div>
          </div>
        </div>
        <Splitter pane={pane} />
        {drawn !== null && <DragNote drawn={drawn} minorDigits={sheet.minorDigits} currency={currency} />}
      </div>
      {/* Below the table: above it they would push the rows from under a pointer that is pressed. */}
      <LostTextBar lost={state.lost} gone={state.gone} onDone={onLostDone} />
      <RefusedBar
        refused={state.refused}
        rows={sheet.rows}
        columns={columns}
        onGiveUp={grid.mend}
        onGo={(entry) => {
          grid.holdsFocus.current = true;
          grid.begin(
            entry.id,
            columns.findIndex(({ id }) => id === entry.column),
          );
        }}
      />
      <div
        ref={pane.strip}
        data-strip=""
        onScroll={pane.onStrip}
        tabIndex={-1}
        aria-hidden="true"
        className={`shrink-0 overflow-x-auto overflow-y-hidden ${pane.full > pane.width ? "border-t rule" : "h-0"}`}
        style={{ width: pane.width }}
      >
        <div style={{ width: pane.full, height: 1 }} />
      </div>
      {asked !== null && <ReplaceWish asked={asked} onKeep={onKeep} />}
      {work.asked !== null && (
        <ParkDialog
          what="remove"
          parking={work.asked}
          session={session}
          onChoose={work.decide}
          onClose={() => work.decide(null)}
        />
      )}
    </div>
  );
}
