import { defaultRangeExtractor, useVirtualizer } from "@tanstack/react-virtual";
import type { RefObject } from "react";
import { ROW_HEIGHT } from "../../chart/scale.ts";

/** Which rows are drawn: those in sight, some around them, and the one the keyboard stands on wherever it is. */
export const useRowsInSight = (count: number, standsOn: number, scroller: RefObject<HTMLDivElement | null>) =>
  useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 6,
    useFlushSync: false,
    rangeExtractor: (range) =>
      [...new Set([...defaultRangeExtractor(range), standsOn])].filter((index) => index >= 0).sort((a, b) => a - b),
  });
