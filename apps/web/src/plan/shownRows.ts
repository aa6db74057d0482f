import { useMemo, useState } from "react";
import { useAddress } from "../shared/page/useAddress.ts";
import type { Sheet, SheetRow } from "./engine/sheet.ts";

/** Rows not below a folded one. */
function unfolded(rows: readonly SheetRow[], folded: ReadonlySet<string>): readonly SheetRow[] {
  if (folded.size === 0) return rows;
  const away = new Set<string>();
  return rows.filter(({ id, parent }) => {
    if (parent === null || (!away.has(parent) && !folded.has(parent))) return true;
    away.add(id);
    return false;
  });
}

/** Rows with what is parked, without it, or only it and the branches it lies in. */
function withParked(rows: readonly SheetRow[], show: string): readonly SheetRow[] {
  if (show === "without") return rows.filter(({ parked }) => !parked);
  if (show !== "only") return rows;
  const byId = new Map(rows.map((row) => [row.id, row]));
  const kept = new Set<string>();
  for (const row of rows)
    if (row.parked)
      for (
        let at: SheetRow | undefined = row;
        at !== undefined && !kept.has(at.id);
        at = at.parent === null ? undefined : byId.get(at.parent)
      )
        kept.add(at.id);
  return rows.filter(({ id }) => kept.has(id));
}

/** Whether parked rows are shown, kept in the address. */
function useParkedRows(): { show: string; choose: (show: string) => void } {
  const [params, put] = useAddress();
  return { show: params.get("parked") ?? "", choose: (show) => put({ parked: show }) };
}

/** Which rows of a plan are shown: folded branches hide what is below them, and parked rows may stand apart. */
export function useShownRows(sheet: Sheet) {
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const parked = useParkedRows();
  const anyParked = useMemo(() => sheet.rows.some((row) => row.parked), [sheet]);
  const rows = useMemo(
    () => unfolded(anyParked ? withParked(sheet.rows, parked.show) : sheet.rows, folded),
    [sheet, folded, anyParked, parked.show],
  );
  const fold = (id: string, open: boolean): void =>
    setFolded((former) => new Set(open ? [...former].filter((each) => each !== id) : [...former, id]));
  const unfold = (): void => setFolded(new Set());
  const foldAll = (): void => setFolded(new Set(sheet.rows.filter(({ children }) => children > 0).map(({ id }) => id)));
  return { rows, folded, fold, unfold, foldAll, parked: anyParked ? parked : null };
}
export type ShownRows = ReturnType<typeof useShownRows>;
