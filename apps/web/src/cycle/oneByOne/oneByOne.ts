import { useRef, useState } from "react";

/** How far something is that is done to several projects, one after another. */
export interface OneByOne<T> {
  readonly running: boolean;
  readonly done: number;
  readonly of: number;
  readonly results: ReadonlyMap<string, T>;
  /** Why it could not be done, by project. */
  readonly faults: ReadonlyMap<string, string>;
}

const AT_REST = { running: false, done: 0, of: 0 };

/** Does something to projects one by one: each whole or not at all, so that it can be stopped, and go on after a fault. */
export function useOneByOne<T>(act: (id: string) => Promise<T>) {
  const [state, setState] = useState<OneByOne<T>>({ ...AT_REST, results: new Map(), faults: new Map() });
  const run = useRef(0);
  const stop = (): void => {
    run.current++;
    setState((now) => ({ ...now, running: false }));
  };
  /** Forgets what came of it, as when what was asked has changed. */
  const clear = (): void => {
    run.current++;
    setState({ ...AT_REST, results: new Map(), faults: new Map() });
  };
  const start = async (
    ids: readonly string[],
  ): Promise<{ results: ReadonlyMap<string, T>; faults: ReadonlyMap<string, string> }> => {
    const own = ++run.current;
    const results = new Map<string, T>();
    const faults = new Map<string, string>();
    for (const [done, id] of ids.entries()) {
      if (run.current !== own) break;
      setState({ running: true, done, of: ids.length, results: new Map(results), faults: new Map(faults) });
      try {
        results.set(id, await act(id));
      } catch (error) {
        faults.set(id, error instanceof Error ? error.message : String(error));
      }
    }
    if (run.current === own)
      setState({ running: false, done: results.size + faults.size, of: ids.length, results, faults });
    return { results, faults };
  };
  return { state, start, stop, clear };
}
