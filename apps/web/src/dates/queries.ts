import type { BodyOf } from "@chronometra/contract";
import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { call } from "../shared/session/api.ts";

export const deadlinesQuery = queryOptions({ queryKey: ["deadlines"], queryFn: () => call("GET /api/deadlines") });
export const chainQuery = (project: string, activity: string) =>
  queryOptions({
    queryKey: ["project", project, "chain", activity],
    queryFn: () => call("GET /api/projects/:project/chain/:activity", { params: { project, activity } }),
  });
export const trendQuery = (project: string) =>
  queryOptions({
    queryKey: ["project", project, "milestones"],
    queryFn: () => call("GET /api/projects/:project/milestones", { params: { project } }),
  });
export const slipQuery = (project: string, milestone: string, to: string) =>
  queryOptions({
    queryKey: ["project", project, "slip", milestone, "to", to],
    queryFn: () =>
      call("GET /api/projects/:project/slip/:milestone", { params: { project, milestone }, query: { to } }),
  });
export const slipEffectQuery = (
  project: string,
  milestone: string,
  body: BodyOf<"POST /api/projects/:project/slip/:milestone/effect">,
) =>
  queryOptions({
    queryKey: ["project", project, "slip", milestone, body],
    queryFn: ({ signal }) =>
      call("POST /api/projects/:project/slip/:milestone/effect", { params: { project, milestone }, body, signal }),
    placeholderData: keepPreviousData,
  });
