import { queryOptions } from "@tanstack/react-query";
import { call } from "../shared/session/api.ts";

const MINUTE_MILLISECONDS = 60_000;

/** What one was told, the newest first. */
export const inboxQuery = queryOptions({
  queryKey: ["inbox", "list"],
  queryFn: () => call("GET /api/inbox"),
  refetchInterval: MINUTE_MILLISECONDS,
});

/** How much of it is neither seen nor done. */
export const inboxCountQuery = queryOptions({
  queryKey: ["inbox", "count"],
  queryFn: () => call("GET /api/inbox/count"),
  refetchInterval: MINUTE_MILLISECONDS,
});

/** How one is told by mail. */
export const tellingQuery = queryOptions({ queryKey: ["telling"], queryFn: () => call("GET /api/telling") });
