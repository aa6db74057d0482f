import type { ChancesRequest } from "@chronometra/contract";
import { queryOptions } from "@tanstack/react-query";
import { callWithProgress } from "../shared/session/api.ts";

const chancesKey = (project: string, asked: ChancesRequest) => ["project", project, "chances", asked] as const;

/** How far a simulation is, 0 to 1. */
export const chancesShareQuery = (project: string, asked: ChancesRequest) =>
  queryOptions<number>({
    queryKey: ["chancesShare", ...chancesKey(project, asked)],
    queryFn: () => 0,
    enabled: false,
    initialData: 0,
  });

export const chancesQuery = (project: string, asked: ChancesRequest) =>
  queryOptions({
    queryKey: chancesKey(project, asked),
    queryFn: ({ signal, client }) =>
      callWithProgress("POST /api/projects/:project/chances", { params: { project }, body: asked, signal }, (share) =>
        client.setQueryData(chancesShareQuery(project, asked).queryKey, share),
      ),
    retry: false,
    staleTime: Infinity,
  });
