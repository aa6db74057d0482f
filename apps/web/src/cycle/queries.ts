import { queryOptions } from "@tanstack/react-query";
import { call } from "../shared/api.ts";

export const periodQuery = queryOptions({ queryKey: ["period"], queryFn: () => call("GET /api/period"), refetchInterval: 60_000 });
