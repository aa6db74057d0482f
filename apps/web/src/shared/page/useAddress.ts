import { useCallback } from "react";
import { useSearchParams } from "react-router";

type Change = Readonly<Record<string, string | null>>;
/** Sets and takes out (`null` or nothing) what is said; with `push` one can go back to what was before. */
type Put = (change: Change, how?: "push") => void;

/** What a page keeps in its address, and what changes some of it. */
export function useAddress(): readonly [params: URLSearchParams, put: Put] {
  const [params, setParams] = useSearchParams();
  const put = useCallback<Put>(
    (change, how) => {
      // Taken from the address, not from what was drawn last: several changes may come between one drawing and the
      // next.
      const next = new URLSearchParams(window.location.search);
      for (const [name, value] of Object.entries(change)) {
        if (value === null || value === "") next.delete(name);
        else next.set(name, value);
      }
      setParams(next, { replace: how !== "push" });
    },
    [setParams],
  );
  return [params, put];
}
