import { queryOptions } from "@tanstack/react-query";
import { call } from "../../shared/session/api.ts";

/** How often it is looked again what became of calls. */
const AGAIN_MILLISECONDS = 5_000;

export const hooksQuery = queryOptions({
  queryKey: ["webhooks"],
  queryFn: () => call("GET /api/webhooks"),
  refetchInterval: AGAIN_MILLISECONDS,
});

export const hookCallsQuery = (webhook: string) =>
  queryOptions({
    queryKey: ["webhooks", webhook, "calls"],
    queryFn: () => call("GET /api/webhooks/:webhook/calls", { params: { webhook } }),
    refetchInterval: AGAIN_MILLISECONDS,
  });
