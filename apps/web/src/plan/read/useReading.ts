import type { OwnPlanActivity } from "@chronometra/contract";
import { useMemo, useState } from "react";
import { useAddress } from "../../shared/page/useAddress.ts";
import { PLAN_PARTS, rowsOf } from "./planLanes.ts";

/** How a plan is read: what of it is shown and chosen, kept in the address, and what is folded. */
export function useReading(activities: readonly OwnPlanActivity[]) {
  const [params, put] = useAddress();
  const part = PLAN_PARTS.find((each) => each === params.get("part")) ?? "all";
  const find = (params.get("find") ?? "").trim().toLocaleLowerCase();
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const rows = useMemo(() => rowsOf(activities, { part, find, folded }), [activities, part, find, folded]);
  const [onChoose, onFold] = useMemo(
    () => [
      (id: string): void => put({ at: id }),
      (id: string): void =>
        setFolded((was) => {
          const next = new Set(was);
          if (!next.delete(id)) next.add(id);
          return next;
        }),
    ],
    [put],
  );
  return { params, put, part, rows, folded, chosen: params.get("at"), onFold, onChoose };
}
export type Reading = ReturnType<typeof useReading>;
