import { queryOptions } from "@tanstack/react-query";
import { call } from "../shared/api.ts";

/** What has happened to a plan: all of it, or what lies between two states and speaks of something. */
export const historyQuery = (project: string, part: { from: string; to: string; about: string }) =>
  queryOptions({ queryKey: ["project", project, "history", part], queryFn: () => call("GET /api/projects/:project/history", { params: { project }, query: part }) });
