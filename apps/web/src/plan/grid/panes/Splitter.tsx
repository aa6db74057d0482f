import type { KeyboardEvent, PointerEvent } from "react";
import { startDrag } from "../../../shared/page/startDrag.ts";
import type { Pane } from "./usePane.ts";

const STEP = 24;

/** Between table and chart: dragged, or moved by the arrow keys, it gives one more room than the other. */
export function Splitter({ pane }: { pane: Pane }) {
  const onDown = (event: PointerEvent): void => {
    const [down, width] = [event.clientX, pane.width];
    const to = (moved: globalThis.PointerEvent): void => pane.split(width + moved.clientX - down);
    startDrag(event, { onMove: to, onDrop: to, onLeave: () => undefined });
  };
  const onKey = (event: KeyboardEvent): void => {
    const step = { ArrowLeft: -STEP, ArrowRight: STEP }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    pane.split(pane.width + step);
  };
  return (
    <div
      role="separator"
      aria-orientation="vertical"
      aria-label="Between table and chart"
      aria-valuenow={pane.width}
      aria-valuemax={pane.full}
      tabIndex={0}
      title="Drag to give the table or the chart more room; double-click for all columns"
      className="absolute top-0 bottom-0 z-5 w-1.5 cursor-col-resize touch-none hover:bg-accent/40 focus-visible:bg-accent/60"
      style={{ left: pane.width - 3 }}
      onPointerDown={onDown}
      onKeyDown={onKey}
      onDoubleClick={() => pane.split(pane.full)}
    />
  );
}
