import { queryOptions } from "@tanstack/react-query";
import { call } from "../../shared/session/api.ts";

export const planQuery = (project: string) =>
  queryOptions({
    queryKey: ["project", project, "plan"],
    queryFn: () => call("GET /api/projects/:project/plan", { params: { project } }),
    // Thousands of rows are not compared one by one: whoever needs that compares what they draw.
    structuralSharing: false,
  });
export const sharedQuery = (project: string) =>
  queryOptions({
    queryKey: ["project", project, "shared"],
    queryFn: () => call("GET /api/projects/:project/shared", { params: { project } }),
  });
export const registerQuery = queryOptions({ queryKey: ["register"], queryFn: () => call("GET /api/register") });
/** For those alone who keep the register. */
export const registerRatesQuery = queryOptions({
  queryKey: ["register", "rates"],
  queryFn: () => call("GET /api/register/rates"),
});
export const countriesQuery = queryOptions({
  queryKey: ["holidays"],
  queryFn: () => call("GET /api/holidays"),
  staleTime: Infinity,
});
