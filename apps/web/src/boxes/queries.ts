import { queryOptions } from "@tanstack/react-query";
import { call } from "../shared/session/api.ts";

export const boxesQuery = (project: string) =>
  queryOptions({
    queryKey: ["project", project, "boxes"],
    queryFn: () => call("GET /api/projects/:project/boxes", { params: { project } }),
  });
export const lookBackQuery = (project: string, box: string) =>
  queryOptions({
    queryKey: ["project", project, "boxes", box],
    queryFn: () => call("GET /api/projects/:project/boxes/:box/back", { params: { project, box } }),
  });
export const gatheredQuery = (project: string, milestone: string) =>
  queryOptions({
    queryKey: ["project", project, "milestones", milestone],
    queryFn: () => call("GET /api/projects/:project/milestones/:milestone", { params: { project, milestone } }),
  });
