import { queryOptions } from "@tanstack/react-query";
import { call } from "../shared/session/api.ts";

export const periodQuery = queryOptions({
  queryKey: ["period"],
  queryFn: () => call("GET /api/period"),
  refetchInterval: 60_000,
});
export const cycleQuery = queryOptions({ queryKey: ["period", "cycle"], queryFn: () => call("GET /api/cycle") });
export const owingQuery = queryOptions({ queryKey: ["period", "owing"], queryFn: () => call("GET /api/period/owing") });
export const projectCycleQuery = (project: string) =>
  queryOptions({
    queryKey: ["period", "project", project],
    queryFn: () => call("GET /api/projects/:project/cycle", { params: { project } }),
    retry: false,
  });
export const calendarQuery = queryOptions({
  queryKey: ["period", "calendar"],
  queryFn: () => call("GET /api/periods"),
});
export const closingQuery = (project: string) =>
  queryOptions({
    queryKey: ["closing", project],
    queryFn: () => call("GET /api/projects/:project/closing", { params: { project } }),
  });
