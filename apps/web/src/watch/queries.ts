import type { WatchAct, WatchQuestion } from "@chronometra/contract";
import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { call } from "../shared/session/api.ts";

export const watchlistsQuery = queryOptions({ queryKey: ["watchlists"], queryFn: () => call("GET /api/watchlists") });
export const watchlistQuery = (watchlist: string) =>
  queryOptions({
    queryKey: ["watchlists", watchlist],
    queryFn: () => call("GET /api/watchlists/:watchlist", { params: { watchlist } }),
  });
export const watchChoicesQuery = queryOptions({
  queryKey: ["watch", "choices"],
  queryFn: () => call("GET /api/watch/choices"),
  staleTime: 60_000,
});
export const watchQuery = (question: WatchQuestion) =>
  queryOptions({
    queryKey: ["watch", question],
    queryFn: ({ signal }) => call("POST /api/watch", { body: question, signal }),
    placeholderData: keepPreviousData,
  });
export const watchRowsQuery = (question: WatchQuestion, group?: string | null) =>
  queryOptions({
    queryKey: ["watch", "rows", question, group],
    queryFn: ({ signal }) =>
      call("POST /api/watch/rows", { body: { question, ...(group === undefined ? {} : { group }) }, signal }),
  });
export const actEffectQuery = (act: WatchAct) =>
  queryOptions({
    queryKey: ["watch", "effect", act],
    queryFn: ({ signal }) => call("POST /api/watch/effect", { body: act, signal }),
  });
export const feedQuery = (subject: string) =>
  queryOptions({
    queryKey: ["calendars", subject],
    queryFn: () => call("GET /api/calendars/:subject", { params: { subject } }),
  });
