import { useState, type PointerEvent } from "react";
import { ChartHead, HEAD_HEIGHT } from "../../chart/ChartHead.tsx";
import { widthOf, type Scale } from "../../chart/scale.ts";
import type { SheetColumn } from "../../engine/sheetColumn.ts";
import { startDrag } from "../../../shared/page/startDrag.ts";
import { SCROLLED, type Pane } from "./usePane.ts";
import type { PlanColumns } from "../columns/usePlanColumns.ts";

interface Props {
  readonly columns: PlanColumns;
  readonly pane: Pane;
  readonly scale: Scale;
  readonly dataDate: string | null;
}

/**
 * The headings above the table, dragged to another place or by their edge to another width, and the time above the
 * lanes.
 */
export function SheetHead({ columns: { columns, resize, moveBefore }, pane, scale, dataDate }: Props) {
  const [dragged, setDragged] = useState<{ id: string; over: string | null } | null>(null);
  const columnAt = (head: HTMLElement, clientX: number): SheetColumn | null => {
    let x = clientX - head.getBoundingClientRect().left;
    // What lies right of the first column may be scrolled.
    if (x > columns[0]!.width) x += pane.x();
    return columns.find(({ width }) => (x -= width) < 0) ?? null;
  };
  const onHead = (event: PointerEvent<HTMLElement>, id: string): void => {
    const head = event.currentTarget.closest<HTMLElement>("[data-heads]")!;
    startDrag(event, {
      onMove: (moved) => setDragged({ id, over: columnAt(head, moved.clientX)?.id ?? null }),
      onDrop: (dropped) => {
        setDragged(null);
        const over = columnAt(head, dropped.clientX);
        if (over !== null && over.id !== id && over.id !== "name") moveBefore(id, over.id);
      },
      onLeave: () => setDragged(null),
    });
  };
  const onEdge = (event: PointerEvent<HTMLElement>, { id, width }: SheetColumn): void => {
    event.stopPropagation();
    const down = event.clientX;
    startDrag(event, {
      onMove: (moved) => resize(id, width + moved.clientX - down),
      onDrop: (dropped) => resize(id, width + dropped.clientX - down),
      onLeave: () => undefined,
    });
  };
  const head = (column: SheetColumn, i: number) => (
    <div
      key={column.id}
      role="columnheader"
      aria-colindex={i + 1}
      title={column.hint}
      className={`muted relative shrink-0 touch-none px-1.5 pb-1 font-semibold select-none ${column.numeric === true ? "text-right" : ""} ${i > 0 ? "cursor-grab" : ""} ${dragged?.over === column.id && dragged.id !== column.id ? "border-l-2 border-accent" : ""} ${dragged?.id === column.id ? "opacity-50" : ""}`}
      style={{ width: column.width, ...(i === 0 ? { paddingLeft: 26 } : {}) }}
      {...(i > 0 ? { onPointerDown: (event: PointerEvent<HTMLElement>) => onHead(event, column.id) } : {})}
    >
      <span className="block truncate">{column.head}</span>
      <span
        className="absolute top-0 -right-1 bottom-0 z-1 w-2 cursor-col-resize"
        aria-hidden="true"
        onPointerDown={(event) => onEdge(event, column)}
      />
    </div>
  );
  return (
    <div
      role="row"
      aria-rowindex={1}
      className="sticky top-0 z-4 flex border-b border-base-content bg-base-100"
      style={{ height: HEAD_HEIGHT, width: pane.width + widthOf(scale) }}
    >
      <div
        role="presentation"
        data-heads=""
        className="sticky left-0 z-1 flex items-end overflow-hidden border-r border-base-content bg-base-100"
        style={{ width: pane.width }}
      >
        {head(columns[0]!, 0)}
        <div role="presentation" className="flex shrink-0 items-end" style={SCROLLED}>
          {columns.slice(1).map((column, i) => head(column, i + 1))}
        </div>
      </div>
      <ChartHead scale={scale} dataDate={dataDate} beside={pane.width} />
    </div>
  );
}
