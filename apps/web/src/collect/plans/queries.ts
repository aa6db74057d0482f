import { infiniteQueryOptions, queryOptions } from "@tanstack/react-query";
import { call } from "../../shared/session/api.ts";

/** The projects in which one has work. */
export const ownPlansQuery = queryOptions({ queryKey: ["own-plans"], queryFn: () => call("GET /api/desk/plans") });

/** The plan of one of them. */
export const ownPlanQuery = (project: string) =>
  queryOptions({
    queryKey: ["own-plans", project],
    queryFn: () => call("GET /api/desk/plans/:project", { params: { project } }),
  });

/** What became of one's own activity. */
export const ownHistoryQuery = (project: string, activity: string) =>
  infiniteQueryOptions({
    queryKey: ["own-plans", project, "history", activity],
    queryFn: ({ pageParam }) =>
      call("GET /api/desk/plans/:project/:activity/history", {
        params: { project, activity },
        query: pageParam === null ? {} : { before: String(pageParam) },
      }),
    initialPageParam: null as number | null,
    getNextPageParam: ({ older }) => older,
  });
