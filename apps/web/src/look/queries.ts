import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { call } from "../shared/session/api.ts";

export const activityQuery = (project: string, activity: string) =>
  queryOptions({
    queryKey: ["project", project, "activity", activity],
    queryFn: () => call("GET /api/projects/:project/activities/:activity", { params: { project, activity } }),
  });

export const performanceQuery = (project: string, by: string) =>
  queryOptions({
    queryKey: ["project", project, "performance", by],
    queryFn: () => call("GET /api/projects/:project/performance/:by", { params: { project, by } }),
    placeholderData: keepPreviousData,
  });
