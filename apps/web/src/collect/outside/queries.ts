import { queryOptions } from "@tanstack/react-query";
import { call } from "../../shared/session/api.ts";

export const linesQuery = queryOptions({
  queryKey: ["outside", "lines"],
  queryFn: () => call("GET /api/outside/lines"),
});
export const targetsQuery = queryOptions({
  queryKey: ["outside", "targets"],
  queryFn: () => call("GET /api/outside/targets"),
});
export const linesEffectQuery = (ids: readonly string[]) =>
  queryOptions({
    queryKey: ["outside", "effect", ...ids],
    queryFn: () => call("POST /api/outside/effect", { body: { ids: [...ids] } }),
    enabled: ids.length > 0,
    retry: false,
  });
export const tokensQuery = queryOptions({ queryKey: ["tokens"], queryFn: () => call("GET /api/tokens") });
