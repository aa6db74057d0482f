import { DropLine } from "./DropLine.tsx";
import { useLineActions } from "./useLineActions.ts";
import { useShownLinks } from "./useShownLinks.ts";
import { useRowsInSight } from "./panes/useRowsInSight.ts";
import { SheetBars } from "./SheetBars.tsx";
import { useFirstPlace } from "./useFirstPlace.ts";
import { SheetLines } from "./SheetLines.tsx";
import { useKeepInSight } from "./panes/useKeepInSight.ts";
import { useSheetGrid } from "./useSheetGrid.ts";
import { useEffect, useImperativeHandle, useRef, type Ref, type RefObject } from "react";
import { ChartGround } from "../chart/ChartGround.tsx";
import { DragNote } from "../chart/drag/DragNote.tsx";
import { ReplaceWish } from "../chart/drag/ReplaceWish.tsx";
import { Handles } from "../chart/drag/Handles.tsx";
import { LinkLines } from "../chart/LinkLines.tsx";
import { ROW_HEIGHT, widthOf, type Scale } from "../chart/scale.ts";
import type { Block } from "./work/blocks.ts";
import { useLines } from "./panes/useLines.ts";
import { ParkDialog } from "./ParkDialog.tsx";
import type { PlanSession } from "../engine/session/planSession.ts";
import type { Gone } from "../engine/session/sessionState.ts";
import type { ChartLook } from "../chart/chartLook.ts";
import type { Sheet, SheetRow } from "../engine/sheet.ts";
import type { Reading } from "../engine/sheetColumn.ts";
import { SheetHead } from "./panes/SheetHead.tsx";
import { Splitter } from "./panes/Splitter.tsx";
import type { Pane } from "./panes/usePane.ts";
import { useKeepPlace } from "./panes/usePlace.ts";
import type { PlanColumns } from "./columns/usePlanColumns.ts";
import type { useRowWork } from "./work/useRowWork.ts";
import { useSheetDrags } from "./panes/useSheetDrags.ts";

/** The row the keyboard stands on, the block that is chosen, and what can be done with it. */
export interface Active {
  readonly row: SheetRow | null;
  readonly block: Block;
  readonly work: ReturnType<typeof useRowWork>;
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
  const { grid, work, current } = useSheetGrid({
    sheet,
    rows,
    columns,
    folded,
    gone,
    reading,
    session,
    mayEdit,
    onFold,
  });
  const { cursor, state, chosen } = grid;
  const virtual = useRowsInSight(rows.length, cursor.row, scroller);
  useImperativeHandle(handle, () => ({
    go: (id, column) => {
      grid.holdsFocus.current = true;
      grid.goTo(id, column);
    },
    focus: () =>
      scroller.current?.querySelector<HTMLElement>("[role=treegrid] [tabindex='0']")?.focus({ preventScroll: true }),
  }));

  useKeepInSight({
    virtual,
    scroller,
    pane,
    cursor,
    room: `${room} ${state.refused.length > 0} ${state.gone !== null}`,
  });
  useEffect(() => {
    onActive({ row: rows[cursor.row] ?? null, work, block: chosen });
    // What is done with rows is made anew at each drawing, and does the same.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [cursor.row, chosen, rows]);
  useFirstPlace({ at, cell, fresh, planKey, rows, columns, grid, scroller });
  useKeepPlace(planKey, scroller, state);
  const { drawn, asked, onKeep, onGrab, drop, onGrip, heightAt, xAt, rowIndexAt } = useSheetDrags({
    rows,
    scale,
    session,
    scroller,
    left,
    onPlace: (place) => void work.arrange({ verb: "place", ids: work.idsIn(chosen), ...place }),
  });
  const on = useLineActions({ rows, grid, onFold, onGrip });

  const items = virtual.getVirtualItems();
  const lines = useLines(items, cursor.row, virtual.isScrolling);
  const shown = useShownLinks(sheet.links, look.lit, rows[cursor.row]?.id);
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
            onPaste={(event) => work.onPaste(event, () => current.current!.chosen)}
            style={{ width, position: "relative" }}
          >
            <SheetHead columns={planColumns} pane={pane} scale={scale} dataDate={sheet.dataDate} />
            <div role="presentation" style={{ height: virtual.getTotalSize(), position: "relative" }}>
              <ChartGround scale={scale} dataDate={sheet.dataDate} left={left} />
              <SheetLines
                lines={lines}
                rows={rows}
                columns={columns}
                grid={grid}
                source={source}
                minorDigits={sheet.minorDigits}
                left={left}
                scale={scale}
                folded={folded}
                mayEdit={mayEdit}
                look={look}
                ghosts={drawn?.ghosts ?? look.ghosts}
                others={others}
                on={on}
              />
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
              {drop !== null && <DropLine {...drop} width={columns[0]!.width} />}
            </div>
          </div>
        </div>
        <Splitter pane={pane} />
        {drawn !== null && <DragNote drawn={drawn} minorDigits={sheet.minorDigits} currency={currency} />}
      </div>
      <SheetBars grid={grid} rows={sheet.rows} columns={columns} pane={pane} />
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
