import { queryOptions } from "@tanstack/react-query";
import { call } from "../shared/session/api.ts";

export const portfolioQuery = queryOptions({ queryKey: ["portfolio"], queryFn: () => call("GET /api/portfolio") });

export const namablesQuery = queryOptions({
  queryKey: ["portfolio", "people"],
  queryFn: () => call("GET /api/portfolio/people"),
});

export const acceptedQuery = queryOptions({
  queryKey: ["portfolio", "accepted"],
  queryFn: ({ signal }) => call("GET /api/portfolio/accepted", { signal }),
  enabled: false,
});
export const pathsQuery = queryOptions({
  queryKey: ["portfolio", "paths"],
  queryFn: () => call("GET /api/portfolio/paths"),
});

export const projectQuery = (project: string) =>
  queryOptions({
    queryKey: ["project", project],
    queryFn: () => call("GET /api/projects/:project", { params: { project } }),
  });

/** Portfolios and programmes, with whoever answers for each. */
export const groupsQuery = queryOptions({ queryKey: ["groups"], queryFn: () => call("GET /api/programmes", {}) });
