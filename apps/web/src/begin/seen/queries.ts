import type { BeginEffectAsked } from "@chronometra/contract";
import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { call } from "../../shared/session/api.ts";

/** Plans that others begin with. */
export const templatesQuery = queryOptions({
  queryKey: ["templates"],
  queryFn: () => call("GET /api/templates", {}),
});

/** What a project begun so would be. What was seen stays while it is worked out anew. */
export const beginEffectQuery = (asked: BeginEffectAsked | null) =>
  queryOptions({
    queryKey: ["begin", asked],
    queryFn: ({ signal }) => call("POST /api/begin/effect", { body: asked!, signal }),
    enabled: asked !== null,
    placeholderData: keepPreviousData,
    staleTime: 0,
    retry: false,
  });
