import type { Effect } from "@chronometra/core";
import { useCallback, useRef, useState, type PointerEvent as ReactPointerEvent } from "react";
import { toast } from "../../../shared/messages/toast.ts";
import type { Gesture, Meant } from "../../engine/dragged.ts";
import type { Ghosts, Preview } from "../../engine/planEngine.ts";
import type { PlanSession } from "../../engine/session/planSession.ts";
import type { SheetRow } from "../../engine/sheet.ts";
import { startDrag } from "../../../shared/page/startDrag.ts";
import { instantAt, type Scale } from "../scale.ts";

/** Where a lane is taken hold of. */
export type Handle = "band" | "end" | "fromStart" | "fromFinish";

/** What is drawn while something is dragged. */
export interface Drawn {
  /** What letting go would do. */
  readonly words: string;
  /** A date wish that would go, in words. */
  readonly replaces: string | null;
  readonly fault: string | null;
  readonly effect: Effect | null;
  readonly ghosts: Ghosts;
  /** The pointer on the page. */
  readonly at: { readonly x: number; readonly y: number };
  /** Of a link being drawn: the activity it leads from. */
  readonly linkFrom: { readonly id: string; readonly end: "start" | "finish" } | null;
}

/** A drag that would take a date wish away which someone meant: whether it is to. */
export interface Asked {
  readonly words: string;
  readonly replaces: string;
  readonly put: () => void;
}

const NOTHING_MOVES: Drawn["ghosts"] = new Map();

const replacedBy = (meant: Meant): string | null => ("replaces" in meant ? (meant.replaces ?? null) : null);

/** What a gesture looks like before it is let go. */
function drawnOf(
  { gesture, at }: { readonly gesture: Gesture; readonly at: Drawn["at"] },
  meant: Meant,
  preview: Preview | null,
): Drawn {
  const problem = preview !== null && "problems" in preview ? preview.problems[0]!.message : null;
  return {
    words: "words" in meant ? meant.words : "",
    replaces: replacedBy(meant),
    fault: "fault" in meant ? meant.fault : problem,
    effect: preview !== null && "effect" in preview ? preview.effect : null,
    ghosts: preview !== null && "ghosts" in preview ? preview.ghosts : NOTHING_MOVES,
    at,
    linkFrom: gesture.what === "link" ? { id: gesture.from, end: gesture.fromEnd } : null,
  };
}

interface Options {
  readonly rows: readonly SheetRow[];
  readonly scale: Scale;
  readonly session: PlanSession;
  /** The row at a height of the page, and the chart's x at a place of it. */
  readonly rowAt: (clientY: number) => SheetRow | null;
  readonly xAt: (clientX: number) => number;
}

const FINE_PIXELS_PER_DAY = 100;

/** What a drag of a handle means: from where it was pressed, in pixels of the chart, to where the pointer is. */
function gestureOf(
  { rows, scale, rowAt, xAt }: Omit<Options, "session">,
  id: string,
  handle: Handle,
  down: number,
  event: PointerEvent,
): Gesture | null {
  const row = rows.find((each) => each.id === id);
  if (row?.dates == null) return null;
  const x = xAt(event.clientX);
  if (handle === "band")
    return { what: "move", activity: id, to: row.dates.start + instantAt(scale, x) - instantAt(scale, down) };
  if (handle === "end")
    return {
      what: "stretch",
      activity: id,
      to: row.dates.finish + instantAt(scale, x) - instantAt(scale, down),
      fine: scale.pixelsPerDay >= FINE_PIXELS_PER_DAY,
    };
  const target = rowAt(event.clientY);
  if (target?.dates == null || target.id === id) return null;
  const at = instantAt(scale, x);
  const toEnd = target.kind !== "milestone" && at > (target.dates.start + target.dates.finish) / 2 ? "finish" : "start";
  return {
    what: "link",
    from: id,
    fromEnd: handle === "fromStart" ? "start" : "finish",
    to: target.id,
    toEnd,
    key: `l-${crypto.randomUUID().slice(0, 13)}`,
  };
}

/** What a drag would do, drawn before it is let go. */
function useDrawn(session: PlanSession) {
  const [drawn, setDrawn] = useState<Drawn | null>(null);
  const wanted = useRef<{ gesture: Gesture; at: Drawn["at"] } | null>(null);
  const busy = useRef(false);
  const dragging = useRef(false);

  /** Asks what the latest gesture would do; those that came while one was being asked about are passed over. */
  const ask = async (gesture: Gesture, at: Drawn["at"]): Promise<void> => {
    wanted.current = { gesture, at };
    if (busy.current) return;
    busy.current = true;
    try {
      while (wanted.current !== null) {
        const now = wanted.current;
        wanted.current = null;
        const meant = await session.dragged(now.gesture);
        const preview = "changes" in meant ? await session.preview(meant.changes) : null;
        if (!dragging.current) break;
        setDrawn(drawnOf(now, meant, preview));
      }
    } finally {
      busy.current = false;
    }
  };
  const end = useCallback((): void => {
    dragging.current = false;
    wanted.current = null;
    setDrawn(null);
  }, []);
  return { drawn, setDrawn, dragging, ask, end };
}

/** Does what was dragged, once whoever dragged it has been asked about a date wish that would go. */
function useSettled(session: PlanSession) {
  const [asked, setAsked] = useState<Asked | null>(null);
  const told = (refused: string | null): void => {
    if (refused !== null) toast.error(refused);
  };
  const settle = async (gesture: Gesture): Promise<void> => {
    const put = async (): Promise<void> => {
      setAsked(null);
      told(await session.drop(gesture));
    };
    const ask = (meant: { words: string; replaces: string }): boolean => {
      setAsked({ ...meant, put: () => void put() });
      return true;
    };
    told(await session.drop(gesture, ask));
  };
  return { asked, settle, onKeep: () => setAsked(null) };
}

/** Moving, stretching and linking activities in the chart, with what it would move drawn before it is let go. */
export function useChartDrag({ rows, scale, session, rowAt, xAt }: Options) {
  const { drawn, setDrawn, dragging, ask, end } = useDrawn(session);
  const { asked, settle, onKeep } = useSettled(session);

  const gestureAt = (id: string, handle: Handle, down: number, event: PointerEvent): Gesture | null =>
    gestureOf({ rows, scale, rowAt, xAt }, id, handle, down, event);
  const latest = useRef(gestureAt);
  latest.current = gestureAt;
  const askLatest = useRef(ask);
  askLatest.current = ask;
  const settleLatest = useRef(settle);
  settleLatest.current = settle;

  const onGrab = useCallback(
    (event: ReactPointerEvent, id: string, handle: Handle): void => {
      event.preventDefault();
      event.stopPropagation();
      const down = xAt(event.clientX);
      startDrag(event, {
        onMove: (moved) => {
          dragging.current = true;
          const at = { x: moved.clientX, y: moved.clientY };
          const gesture = latest.current(id, handle, down, moved);
          if (gesture !== null) void askLatest.current(gesture, at);
          else
            setDrawn({
              words: "Let go on the activity that is to come after it",
              replaces: null,
              fault: null,
              effect: null,
              ghosts: NOTHING_MOVES,
              at,
              linkFrom: { id, end: handle === "fromStart" ? "start" : "finish" },
            });
        },
        onDrop: (dropped) => {
          const gesture = latest.current(id, handle, down, dropped);
          end();
          if (gesture !== null) void settleLatest.current(gesture);
        },
        onLeave: end,
      });
    },
    [xAt, dragging, end, setDrawn],
  );

  return { drawn, onGrab, asked, onKeep };
}
