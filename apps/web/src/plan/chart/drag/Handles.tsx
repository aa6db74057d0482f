import { useEffect, useState, type PointerEvent, type RefObject } from "react";
import { flushSync } from "react-dom";
import type { SheetRow } from "../../engine/sheet.ts";
import { laneShapes } from "../laneShapes.ts";
import { ROW_HEIGHT, type Scale } from "../scale.ts";
import type { Handle } from "./useChartDrag.ts";

interface Props {
  readonly rows: readonly SheetRow[];
  readonly scale: Scale;
  readonly left: number;
  readonly scroller: RefObject<HTMLDivElement | null>;
  /** The row at a height of the page. */
  readonly rowAt: (clientY: number) => number;
  readonly onGrab: (event: PointerEvent, id: string, handle: Handle) => void;
}

const EDGE = 6;

const movable = (row: SheetRow | undefined): row is SheetRow =>
  row !== undefined && row.dates !== null && row.kind !== "summary" && row.kind !== "levelOfEffort";

/** What can be taken hold of in the lane that the pointer is on. One for all lanes: each with its own would double what is drawn. */
export function Handles({ rows, scale, left, scroller, rowAt, onGrab }: Props) {
  const [at, setAt] = useState(-1);
  useEffect(() => {
    const pane = scroller.current!;
    const onMove = (event: globalThis.PointerEvent): void => {
      const there = event.clientX - pane.getBoundingClientRect().left < left ? -1 : rowAt(event.clientY);
      // At once: a quick hand presses before the next drawing.
      if (event.buttons === 0) flushSync(() => setAt(there));
    };
    const onLeave = (): void => setAt(-1);
    pane.addEventListener("pointermove", onMove);
    pane.addEventListener("pointerleave", onLeave);
    return () => {
      pane.removeEventListener("pointermove", onMove);
      pane.removeEventListener("pointerleave", onLeave);
    };
  }, [scroller, left, rowAt]);
  const row = rows[at];
  if (!movable(row)) return null;
  const { band, pennants } = laneShapes(row, scale);
  if (band === null && pennants === null) return null;
  const { id } = row;
  const [from, to] = band ?? [pennants!.now, pennants!.now + 10];
  const begin = from - 12;
  const dot = (x: number, handle: Handle, words: string) => (
    <circle
      cx={x - begin}
      cy="11.5"
      r="3.6"
      fill="var(--ground)"
      stroke="var(--brass)"
      strokeWidth="1.5"
      className="cursor-crosshair"
      onPointerDown={(event) => onGrab(event, id, handle)}
    >
      <title>{words}</title>
    </circle>
  );
  return (
    <svg
      className="absolute touch-none"
      role="presentation"
      aria-label={`Handles of ${row.name}`}
      style={{ left: left + begin, top: at * ROW_HEIGHT, zIndex: 1 }}
      width={to - from + 26}
      height={ROW_HEIGHT}
    >
      <rect
        x={from - begin}
        y="3"
        width={Math.max(4, to - from - (band === null ? 0 : EDGE))}
        height="16"
        fill="transparent"
        className="cursor-grab"
        onPointerDown={(event) => onGrab(event, id, "band")}
      >
        <title>Drag to move: it becomes a date wish</title>
      </rect>
      {band !== null && (
        <rect
          x={Math.max(from + 2, to - EDGE) - begin}
          y="3"
          width={EDGE + 2}
          height="16"
          fill="transparent"
          className="cursor-ew-resize"
          onPointerDown={(event) => onGrab(event, id, "end")}
        >
          <title>Drag to make it longer or shorter</title>
        </rect>
      )}
      {band !== null && dot(from - 6, "fromStart", "Drag to what is to start or finish with its start")}
      {dot(to + 7, "fromFinish", "Drag to what comes after it")}
    </svg>
  );
}
