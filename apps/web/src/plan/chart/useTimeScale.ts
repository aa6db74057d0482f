import {
  startTransition,
  useCallback,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type RefObject,
} from "react";
import type { Ghosts } from "../engine/planEngine.ts";
import type { Sheet } from "../engine/sheet.ts";
import { extentOf } from "./laneShapes.ts";
import { instantAt, MAX_PIXELS_PER_DAY, MIN_PIXELS_PER_DAY, xOf, type Scale } from "./scale.ts";

const DAY = 1440;
const MARGIN_DAYS = 6;
const LABEL_PIXELS = 90;
/** How much a notch of the wheel zooms: an eighth. */
const WHEEL = 0.0012;

const clampZoom = (pixels: number): number => Math.min(MAX_PIXELS_PER_DAY, Math.max(MIN_PIXELS_PER_DAY, pixels));

export interface TimeScale {
  readonly scale: Scale;
  /** Makes days larger, what lies at `x` of the chart in sight staying where it is. */
  readonly zoom: (factor: number, x?: number) => void;
  readonly fit: () => void;
}

/** The wheel with Ctrl zooms where the pointer is; `left` is where the chart begins. */
function useWheelZoom(scroller: RefObject<HTMLDivElement | null>, left: number, zoom: TimeScale["zoom"]): void {
  useEffect(() => {
    const pane = scroller.current;
    if (pane === null) return;
    const onWheel = (event: WheelEvent): void => {
      if (!event.ctrlKey && !event.metaKey) return;
      event.preventDefault();
      const x = event.clientX - pane.getBoundingClientRect().left - left;
      zoom(Math.exp(-event.deltaY * WHEEL), Math.max(0, x));
    };
    pane.addEventListener("wheel", onWheel, { passive: false });
    return () => pane.removeEventListener("wheel", onWheel);
  }, [scroller, left, zoom]);
}

/**
 * The chart's scale: fitted to the room there is until someone zooms, by buttons or by the wheel with Ctrl.
 * @param left where the chart begins, right of the table
 * @param ghosts what is drawn besides the plan, which is to be in sight as well
 */
export function useTimeScale(
  sheet: Sheet,
  scroller: RefObject<HTMLDivElement | null>,
  left: number,
  room: number,
  ghosts: Ghosts | null,
): TimeScale {
  const [pixelsPerDay, setPixelsPerDay] = useState<number | null>(null);
  const held = useRef<{ instant: number; x: number } | null>(null);
  const extent = useMemo(() => {
    const { from, to } = extentOf(sheet.rows, sheet.dataDate, sheet.start);
    let last = to;
    for (const { finish } of ghosts?.values() ?? []) last = Math.max(last, finish);
    return { from, to: last };
  }, [sheet, ghosts]);
  const from = extent.from - MARGIN_DAYS * DAY;
  const days = (extent.to - from) / DAY + MARGIN_DAYS;
  const used = pixelsPerDay ?? clampZoom((room - LABEL_PIXELS) / days);
  const scale = useMemo(
    () => ({
      from,
      to: Math.max(extent.to + (LABEL_PIXELS / used) * DAY, from + (room / used) * DAY),
      pixelsPerDay: used,
    }),
    [from, extent.to, used, room],
  );
  const zoom = useCallback(
    (factor: number, x = room / 2) => {
      held.current ??= { instant: instantAt(scale, (scroller.current?.scrollLeft ?? 0) + x), x };
      // All lanes are drawn anew: what the wheel asks for next need not wait for it.
      startTransition(() => setPixelsPerDay((former) => clampZoom((former ?? used) * factor)));
    },
    [scale, used, room, scroller],
  );
  useLayoutEffect(() => {
    if (held.current === null || scroller.current === null) return;
    scroller.current.scrollLeft = xOf(scale, held.current.instant) - held.current.x;
    held.current = null;
  }, [scale, scroller]);
  useWheelZoom(scroller, left, zoom);
  return { scale, zoom, fit: () => setPixelsPerDay(null) };
}
