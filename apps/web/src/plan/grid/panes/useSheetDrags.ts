import { useCallback, type RefObject } from "react";
import { HEAD_HEIGHT } from "../../chart/ChartHead.tsx";
import type { Scale } from "../../chart/scale.ts";
import { useChartDrag } from "../../chart/drag/useChartDrag.ts";
import type { PlanSession } from "../../engine/session/planSession.ts";
import type { SheetRow } from "../../engine/sheet.ts";
import { ROW_HEIGHT } from "../../chart/scale.ts";
import { useRowDrag } from "./useRowDrag.ts";

interface Options {
  readonly rows: readonly SheetRow[];
  readonly scale: Scale;
  readonly session: PlanSession;
  readonly scroller: RefObject<HTMLDivElement | null>;
  /** Where the chart begins, right of the table. */
  readonly left: number;
  readonly onPlace: (place: { readonly parent: string | null; readonly before: string | null }) => void;
}

/** All that is dragged on the sheet, and where a place of the page lies on it. */
export function useSheetDrags({ rows, scale, session, scroller, left, onPlace }: Options) {
  const heightAt = useCallback(
    (clientY: number): number =>
      (clientY - scroller.current!.getBoundingClientRect().top - HEAD_HEIGHT + scroller.current!.scrollTop) /
      ROW_HEIGHT,
    [scroller],
  );
  const xAt = useCallback(
    (clientX: number): number =>
      clientX - scroller.current!.getBoundingClientRect().left - left + scroller.current!.scrollLeft,
    [scroller, left],
  );
  const rowIndexAt = useCallback((clientY: number): number => Math.floor(heightAt(clientY)), [heightAt]);
  const chart = useChartDrag({ rows, scale, session, rowAt: (clientY) => rows[rowIndexAt(clientY)] ?? null, xAt });
  const row = useRowDrag({ rows, heightAt, onDrop: ({ parent, before }) => onPlace({ parent, before }) });
  return { ...chart, ...row, heightAt, xAt, rowIndexAt };
}
