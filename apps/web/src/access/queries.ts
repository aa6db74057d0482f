import { queryOptions } from "@tanstack/react-query";
import { call } from "../shared/session/api.ts";

export const accountsQuery = queryOptions({ queryKey: ["accounts"], queryFn: () => call("GET /api/accounts") });
export const exchangeQuery = queryOptions({
  queryKey: ["exchange"],
  queryFn: () => call("GET /api/portfolio/exchange"),
});
