import { useRef } from "react";

/**
 * Functions that always do the latest thing and stay the same objects, so that what is given them need not be drawn
 * again.
 */
export function useLatest<T extends Record<string, (...args: never[]) => unknown>>(functions: T): T {
  const latest = useRef(functions);
  latest.current = functions;
  const stable = useRef<T>(null);
  stable.current ??= Object.fromEntries(
    Object.keys(functions).map((name) => [name, (...args: never[]) => latest.current[name]!(...args)]),
  ) as T;
  return stable.current;
}
