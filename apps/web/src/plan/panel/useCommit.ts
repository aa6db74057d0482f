import type { Change } from "@chronometra/core";
import { useCallback } from "react";
import { toast } from "../../shared/messages/toast.ts";
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

/** Does something that may be refused where no field stands to say why beside it: it is told at the foot of the page. */
export const telling =
  <A extends unknown[]>(act: (...args: A) => Promise<string | null> | string | null) =>
  (...args: A): void =>
    void Promise.resolve(act(...args)).then((fault) => fault !== null && toast.error(`Not stored: ${fault}`));
