import type { BodyOf } from "@chronometra/contract";
import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { call } from "../shared/session/api.ts";

export const qualityQuery = (project: string) =>
  queryOptions({
    queryKey: ["project", project, "quality"],
    queryFn: () => call("GET /api/projects/:project/quality", { params: { project } }),
  });
export const mendEffectQuery = (project: string, body: BodyOf<"POST /api/projects/:project/quality/mend/effect">) =>
  queryOptions({
    queryKey: ["project", project, "quality", body],
    queryFn: ({ signal }) =>
      call("POST /api/projects/:project/quality/mend/effect", { params: { project }, body, signal }),
    placeholderData: keepPreviousData,
  });
