import { useRef, useState, type KeyboardEvent } from "react";
import { flushSync } from "react-dom";

/** A key as it was pressed, to be taken now or once what it depends on is there. */
export type Key = Pick<KeyboardEvent, "key" | "altKey" | "ctrlKey" | "metaKey" | "shiftKey">;

/** A press on a cell: whose, in which column, whether to choose on to it, and whether it was the second one. */
export interface Press {
  readonly id: string;
  readonly column: number;
  readonly extend: boolean;
  readonly twice: boolean;
}

export const MODIFIERS: ReadonlySet<string> = new Set(["Shift", "Control", "Alt", "Meta"]);

const LOOK_AGAIN_MILLISECONDS = 4;

/**
 * Keys and presses that come while a row that they depend on is on its way wait for it, in their order: else
 * Ctrl+Delete after a press would remove a row that keys from before went to meanwhile.
 * @param replay takes what waited as if it came now; gives whether what came after it still means anything
 */
export function useHeldKeys(replay: (what: Key | Press) => boolean) {
  const [, draw] = useState(0);
  const latest = useRef(replay);
  latest.current = replay;
  const waiting = useRef<(Key | Press)[]>([]);
  const holds = useRef(0);

  /** Takes what waited, one after another, each on what the one before has made. */
  const drain = (): void => {
    while (holds.current === 0 && waiting.current.length > 0) {
      const next = waiting.current.shift()!;
      if (!flushSync(() => latest.current(next))) waiting.current = [];
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
  /** A press in its turn: gives whether it waits. */
  const onPress = (press: Press): boolean => {
    if (holds.current > 0) waiting.current.push(press);
    return holds.current > 0;
  };
  return { hold, whenIdle, onKeyCapture, onPress };
}
