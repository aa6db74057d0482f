import { queryOptions } from "@tanstack/react-query";
import { call } from "../shared/api.ts";

export const deskQuery = queryOptions({ queryKey: ["desk"], queryFn: () => call("GET /api/desk") });
export const reportsQuery = queryOptions({ queryKey: ["reports"], queryFn: () => call("GET /api/reports") });
export const effectQuery = (ids: readonly string[]) =>
  queryOptions({ queryKey: ["reports", "effect", ...ids], queryFn: () => call("POST /api/reports/effect", { body: { ids: [...ids] } }), enabled: ids.length > 0, retry: false });
