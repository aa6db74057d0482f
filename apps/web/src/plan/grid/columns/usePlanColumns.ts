import "../../../shared/charts/withoutEval.ts";
import { useMemo, useState } from "react";
import { z } from "zod";
import { keepPreference, preference } from "../../../shared/session/preferences.ts";
import type { Sheet } from "../../engine/sheet.ts";
import type { SheetColumn } from "../../engine/sheetColumn.ts";
import { columnsOf } from "./sheetColumns.ts";

const KEPT_AS = "plan.columns";
const NARROWEST = 36;
const WIDEST = 900;

const layoutSchema = z.object({
  order: z.array(z.string()),
  hidden: z.array(z.string()),
  widths: z.record(z.string(), z.number()),
});
type Layout = z.infer<typeof layoutSchema>;

/** The layout that someone left, `null` where they have not chosen yet. */
function keptLayout(): Layout | null {
  try {
    const kept = layoutSchema.safeParse(JSON.parse(preference(KEPT_AS) ?? "null"));
    return kept.success ? kept.data : null;
  } catch {
    return null;
  }
}

/** Columns in someone's order; those they have not seen yet stand where they stand by themselves. */
export function inOrder(columns: readonly SheetColumn[], order: readonly string[]): SheetColumn[] {
  const place = new Map(order.map((id, i) => [id, i]));
  let last = -1;
  const ranked = columns.map((column) => ({ column, rank: (last = place.get(column.id) ?? last + 0.001) }));
  // The name leads: the tree is read by it.
  return ranked
    .sort((a, b) => Number(b.column.id === "name") - Number(a.column.id === "name") || a.rank - b.rank)
    .map(({ column }) => column);
}

/** Columns with one of them so many places on; `null` where there is no such place, or it is the name, which leads. */
function movedBy(ids: readonly string[], id: string, step: number): string[] | null {
  const from = ids.indexOf(id);
  const to = from + step;
  if (from < 1 || to < 1 || to >= ids.length) return null;
  return ids.toSpliced(from, 1).toSpliced(to, 0, id);
}

/** Columns with one of them put before another, behind the name at least. */
function movedBefore(ids: readonly string[], id: string, before: string): string[] {
  const others = ids.filter((each) => each !== id);
  return others.toSpliced(Math.max(1, others.indexOf(before)), 0, id);
}

const AWAY_AT_FIRST = ["began", "ended"];

/**
 * Which columns the plan shows, in which order and how wide: each person's own, kept for any plan and machine.
 * @param parkedWord what the project calls what is parked
 * @param besides a column that is shown in any case, without being kept as chosen
 */
export function usePlanColumns(fields: Sheet["fields"], parkedWord: string, besides: string | null = null) {
  const [kept, setKept] = useState(keptLayout);
  const every = useMemo(() => columnsOf(fields, parkedWord), [fields, parkedWord]);
  const hidden = useMemo(
    () =>
      kept?.hidden ??
      every.filter(({ id, hidden: away }) => away === true || AWAY_AT_FIRST.includes(id)).map(({ id }) => id),
    [kept, every],
  );
  const all = useMemo(() => inOrder(every, kept?.order ?? []), [every, kept]);
  const columns = useMemo(
    () =>
      all
        .filter(({ id }) => id === besides || !hidden.includes(id))
        .map((column) => ({ ...column, width: kept?.widths[column.id] ?? column.width })),
    [all, hidden, kept, besides],
  );
  const ids = all.map(({ id }) => id);
  const keep = (change: Partial<Layout>): void => {
    const next = { order: kept?.order ?? ids, hidden, widths: kept?.widths ?? {}, ...change };
    setKept(next);
    keepPreference(KEPT_AS, JSON.stringify(next));
  };
  const choose = (id: string, shown: boolean): void =>
    keep({ hidden: shown ? hidden.filter((other) => other !== id) : [...hidden, id] });
  const resize = (id: string, width: number): void =>
    keep({ widths: { ...kept?.widths, [id]: Math.round(Math.min(WIDEST, Math.max(NARROWEST, width))) } });
  const move = (id: string, step: number): void => {
    const order = movedBy(ids, id, step);
    if (order !== null) keep({ order });
  };
  const moveBefore = (id: string, before: string): void => keep({ order: movedBefore(ids, id, before) });
  return {
    all,
    columns,
    hidden,
    choose,
    resize,
    move,
    moveBefore,
    asAtFirst: () => {
      setKept(null);
      keepPreference(KEPT_AS, "null");
    },
  };
}

export type PlanColumns = ReturnType<typeof usePlanColumns>;
