import { useEffect, useRef, useState } from "react";

interface Item {
  readonly index: number;
  readonly start: number;
}

export interface Line extends Item {
  readonly key: number;
}

/** Lines that are made at a time: those of a whole screen at once would hold up what is typed meanwhile. */
const SLICE = 14;

/**
 * Lines scrolled out of sight are used again for those that come in, and while it scrolls each stays where it is among
 * the others: made anew or put elsewhere, a line is laid out with all that is in it. At rest they stand in the order of
 * the rows, as they are read. The row the keyboard stands on has a line apart once it is out of sight. Where many are
 * to be made at once, as after a paste, they come some at a time, the keyboard's row with the first.
 */
export function useLines(items: readonly Item[], cursor: number, scrolling: boolean): readonly Line[] {
  const slots = useRef(0);
  slots.current = Math.max(slots.current, items.length);
  const [made, setMade] = useState(0);
  const some = Math.min(items.length, made + SLICE);
  useEffect(() => {
    if (some === made) return undefined;
    const soon = setTimeout(() => setMade((former) => Math.max(former, some)), 0);
    return () => clearTimeout(soon);
  }, [some, made]);

  const inSight = items.filter(({ index }) => index !== cursor);
  const far = inSight.length > 0 && (cursor < inSight[0]!.index - 1 || cursor > inSight.at(-1)!.index + 1);
  const lines = items
    .filter(({ index }, i) => i < some || index === cursor)
    .map(({ index, start }) => ({ index, start, key: far && index === cursor ? -1 : index % slots.current }));
  return scrolling ? lines.sort((a, b) => a.key - b.key) : lines;
}
