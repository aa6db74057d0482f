import { queryOptions } from "@tanstack/react-query";
import { call } from "../shared/session/api.ts";

/** What has happened to a plan: all of it, or what lies between two states and speaks of something. */
export const historyQuery = (project: string, part: { from: string; to: string; about: string }) =>
  queryOptions({
    queryKey: ["project", project, "history", part],
    queryFn: () => call("GET /api/projects/:project/history", { params: { project }, query: part }),
  });

/** One stored list of a plan; what taking it back would move is asked anew each time it is opened. */
export const storedListQuery = (project: string, revision: number) =>
  queryOptions({
    queryKey: ["project", project, "history", revision],
    queryFn: () =>
      call("GET /api/projects/:project/history/:revision", { params: { project, revision: String(revision) } }),
    gcTime: 0,
  });
