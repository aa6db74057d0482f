import { useCallback, useRef, useState, type KeyboardEvent } from "react";
import type { LineHandlers } from "./BoxLine.tsx";
import { stepped } from "./standing.ts";

/** What stands below each other on the page: timeboxes, then what waits. */
export type Sections = readonly { readonly box: string | null; readonly ids: readonly string[] }[];

/** Puts the keyboard onto the line of an activity, wherever it stands by then. */
const toLine = (id: string): void =>
  void requestAnimationFrame(() => document.querySelector<HTMLElement>(`[data-line="${CSS.escape(id)}"]`)?.focus());

/**
 * Lines that are selected, and their keys: arrows go from line to line, with Alt they carry one place up or down.
 * @param onPut puts one before another in a box; at its end where it names none
 */
export function useLines(
  sections: Sections,
  onPut: (id: string, box: string | null, before: string | null) => void,
): LineHandlers & {
  readonly chosen: ReadonlySet<string>;
  readonly chooseNone: () => void;
  /** The line that the keyboard goes to, or that is carried: it is drawn wherever it stands. */
  readonly keeps: string | null;
  readonly keep: (id: string | null) => void;
} {
  const [keeps, keep] = useState<string | null>(null);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const keys = (id: string, event: KeyboardEvent): void => {
    const by = event.key === "ArrowUp" ? -1 : event.key === "ArrowDown" ? 1 : null;
    if (by === null) return;
    event.preventDefault();
    if (!event.altKey) {
      const order = sections.flatMap(({ ids }) => ids);
      const next = order[order.indexOf(id) + by] ?? id;
      keep(next);
      return toLine(next);
    }
    const to = stepped(sections, id, by);
    if (to === null) return;
    onPut(id, to.box, to.before);
    keep(id);
    toLine(id);
  };
  // Lines are drawn anew only where something of theirs changes; what they tell goes to the page as it is by then.
  const latest = useRef(keys);
  latest.current = keys;
  const onKey = useCallback((id: string, event: KeyboardEvent) => latest.current(id, event), []);
  const onChoose = useCallback(
    (id: string, is: boolean) =>
      setChosen((all) => new Set(is ? [...all, id] : [...all].filter((each) => each !== id))),
    [],
  );
  const chooseNone = useCallback(() => setChosen(new Set()), []);
  return { chosen, chooseNone, keeps, keep, onKey, onChoose };
}
