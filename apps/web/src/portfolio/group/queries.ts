import { queryOptions } from "@tanstack/react-query";
import { call } from "../../shared/session/api.ts";

/** What a group plans to earn, month by month. */
export const groupPlannedQuery = (programme: string) =>
  queryOptions({
    queryKey: ["groups", programme, "planned"],
    queryFn: () => call("GET /api/programmes/:programme/planned", { params: { programme } }),
  });
/** What was issued of a group, period by period. */
export const groupPeriodsQuery = (programme: string) =>
  queryOptions({
    queryKey: ["groups", programme, "periods"],
    queryFn: () => call("GET /api/programmes/:programme/periods", { params: { programme } }),
  });
