import { useRef, useState, type KeyboardEvent } from "react";
import { flushSync } from "react-dom";

/** A key as it was pressed, to be taken now or once what it depends on is there. */
export type Key = Pick<KeyboardEvent, "key" | "altKey" | "ctrlKey" | "metaKey" | "shiftKey">;

export const MODIFIERS: ReadonlySet<string> = new Set(["Shift", "Control", "Alt", "Meta"]);

const LOOK_AGAIN_MILLISECONDS = 4;

/**
 * Keys that are pressed while a row that they depend on is on its way wait for it, in their order.
 * @param replay takes a key that waited as if it were pressed now
 */
export function useHeldKeys(replay: (key: Key) => void) {
  const [, draw] = useState(0);
  const latest = useRef(replay);
  latest.current = replay;
  const waiting = useRef<Key[]>([]);
  const holds = useRef(0);

  /** Takes keys that waited, one after another, each on what the one before has made. */
  const drain = (): void => {
    while (holds.current === 0 && waiting.current.length > 0) {
      const key = waiting.current.shift()!;
      flushSync(() => latest.current(key));
    }
  };
  /** Does what rows depend on; keys that come meanwhile wait until it is done and shown. */
  const hold = async <T>(work: () => Promise<T>, then?: (result: T) => void): Promise<T> => {
    holds.current++;
    try {
      const result = await work();
      flushSync(() => draw((n) => n + 1));
      if (then !== undefined) flushSync(() => then(result));
      return result;
    } finally {
      holds.current--;
      drain();
    }
  };
  /** Does something once no row is on its way. */
  const whenIdle = async (work: () => void): Promise<void> => {
    while (holds.current > 0) await new Promise((resolve) => setTimeout(resolve, LOOK_AGAIN_MILLISECONDS));
    work();
  };
  const onKeyCapture = (event: KeyboardEvent): void => {
    if (holds.current === 0 || MODIFIERS.has(event.key)) return;
    const { key, altKey, ctrlKey, metaKey, shiftKey } = event;
    // Copying and pasting are events of their own, and wait there.
    if ((ctrlKey || metaKey) && "cxv".includes(key.toLowerCase())) return;
    waiting.current.push({ key, altKey, ctrlKey, metaKey, shiftKey });
    event.preventDefault();
    event.stopPropagation();
  };
  return { hold, whenIdle, onKeyCapture };
}
