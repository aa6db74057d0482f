import type { PlanSession } from "../../engine/session/planSession.ts";
import type { Reading, SheetColumn } from "../../engine/sheetColumn.ts";
import type { SheetRow } from "../../engine/sheet.ts";
import type { useGrid } from "../cells/useGrid.ts";
import type { Block } from "./blocks.ts";

/** What is needed to do something with rows of a sheet. */
export interface Doing {
  readonly rows: readonly SheetRow[];
  readonly columns: readonly SheetColumn[];
  readonly reading: Reading;
  readonly session: PlanSession;
  readonly mayEdit: boolean;
  /** The grid these rows stand in; there once it is made. */
  readonly grid: {
    current: Pick<
      ReturnType<typeof useGrid>,
      "hold" | "whenIdle" | "begin" | "removing" | "forgetDelete" | "endTyping"
    > | null;
  };
}

/** Does something that keys and presses wait for. */
export const hold = <T>({ grid }: Doing, work: () => Promise<T>, then?: (result: T) => void): Promise<T> =>
  grid.current === null ? work() : grid.current.hold(work, then);

export const idsIn = ({ rows }: Block): string[] => rows.map(({ id }) => id);
