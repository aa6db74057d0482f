import type { Change } from "@chronometra/core";
import { useCallback } from "react";
import type { PlanSession } from "../engine/session/planSession.ts";

/** Makes changes; gives why they cannot be, or nothing. */
export type Commit = (changes: readonly Change[]) => Promise<string | null>;

export const useCommit = (session: PlanSession): Commit =>
  useCallback(
    async (changes) => {
      if (changes.length === 0) return null;
      const problems = await session.change(changes);
      return problems === null ? null : problems[0]!.message;
    },
    [session],
  );
