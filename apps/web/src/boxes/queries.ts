import type { Change } from "@chronometra/core";
import { keepPreviousData, queryOptions } from "@tanstack/react-query";
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
/** What changes would move; nothing is asked where there are none. */
export const effectQuery = (project: string, revision: number, changes: readonly Change[]) =>
  queryOptions({
    queryKey: ["project", project, "effect", revision, changes],
    queryFn: ({ signal }) =>
      call("POST /api/projects/:project/effect", {
        ...{ params: { project }, body: { revision, changes: [...changes] }, signal },
      }),
    enabled: changes.length > 0,
    placeholderData: keepPreviousData,
    retry: false,
  });
export const gatheredQuery = (project: string, milestone: string) =>
  queryOptions({
    queryKey: ["project", project, "milestones", milestone],
    queryFn: () => call("GET /api/projects/:project/milestones/:milestone", { params: { project, milestone } }),
  });
