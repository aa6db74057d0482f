import type { PointerEvent as ReactPointerEvent } from "react";

interface Drag {
  readonly onMove: (event: PointerEvent) => void;
  /** The pointer was let go. */
  readonly onDrop: (event: PointerEvent) => void;
  /** Escape was pressed, or the pointer was taken away: nothing happens. */
  readonly onLeave: () => void;
}

const LEAST_PIXELS = 4;

/** Follows a pointer from where it went down until it is let go; less than a few pixels is a click and no drag. */
export function startDrag(down: ReactPointerEvent, { onMove, onDrop, onLeave }: Drag): void {
  if (down.button !== 0) return;
  let moving = false;
  const end = (): void => {
    removeEventListener("pointermove", move);
    removeEventListener("pointerup", up);
    removeEventListener("pointercancel", leave);
    removeEventListener("keydown", key, true);
  };
  const move = (event: PointerEvent): void => {
    moving ||= Math.hypot(event.clientX - down.clientX, event.clientY - down.clientY) >= LEAST_PIXELS;
    if (moving) onMove(event);
  };
  const up = (event: PointerEvent): void => {
    end();
    if (moving) onDrop(event);
    else onLeave();
  };
  const leave = (): void => {
    end();
    onLeave();
  };
  const key = (event: KeyboardEvent): void => {
    if (event.key !== "Escape") return;
    event.stopPropagation();
    leave();
  };
  addEventListener("pointermove", move);
  addEventListener("pointerup", up);
  addEventListener("pointercancel", leave);
  addEventListener("keydown", key, true);
}
