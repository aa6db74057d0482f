import { HISTORY_LENGTH } from "@chronometra/contract";
import type { Change } from "@chronometra/core";
import { infiniteQueryOptions, keepPreviousData, queryOptions } from "@tanstack/react-query";
import { call } from "../shared/session/api.ts";

/** What has happened to a plan: all of it, or what lies between two states and speaks of something. */
/** What of a history is asked for, as it stands in the address. */
export type HistoryPart = Readonly<Record<"from" | "to" | "about" | "by" | "through", string>>;

/** Lists of changes that were stored, the newest first; more of them where one goes on. */
export const historyQuery = (project: string, part: HistoryPart) =>
  infiniteQueryOptions({
    queryKey: ["project", project, "history", part],
    queryFn: ({ pageParam }) =>
      call("GET /api/projects/:project/history", {
        params: { project },
        query: { ...part, ...(pageParam === null ? {} : { before: String(pageParam) }) },
      }),
    initialPageParam: null as number | null,
    getNextPageParam: (last) => (last.length < HISTORY_LENGTH ? undefined : last.at(-1)!.revision),
  });

/** Who has changed a plan. */
export const historyPeopleQuery = (project: string) =>
  queryOptions({
    queryKey: ["project", project, "history-people"],
    queryFn: () => call("GET /api/projects/:project/history-people", { params: { project } }),
  });

/** What became of an activity. */
export const activityHistoryQuery = (project: string, activity: string) =>
  infiniteQueryOptions({
    queryKey: ["project", project, "activity-history", activity],
    queryFn: ({ pageParam }) =>
      call("GET /api/projects/:project/activities/:activity/history", {
        params: { project, activity },
        query: pageParam === null ? {} : { before: String(pageParam) },
      }),
    initialPageParam: null as number | null,
    getNextPageParam: ({ older }) => older,
  });

/** A plan as it was at a revision. */
export const planThenQuery = (project: string, revision: number) =>
  queryOptions({
    queryKey: ["project", project, "then", revision],
    queryFn: () =>
      call("GET /api/projects/:project/revisions/:revision", { params: { project, revision: String(revision) } }),
  });

/** What bringing a plan back to a revision would move. */
export const backQuery = (project: string, revision: number) =>
  queryOptions({
    queryKey: ["project", project, "back", revision],
    queryFn: () =>
      call("GET /api/projects/:project/revisions/:revision/back", { params: { project, revision: String(revision) } }),
  });

/** One stored list of a plan; what taking it back would move is asked anew each time it is opened. */
export const storedListQuery = (project: string, revision: number) =>
  queryOptions({
    queryKey: ["project", project, "history", revision],
    queryFn: () =>
      call("GET /api/projects/:project/history/:revision", { params: { project, revision: String(revision) } }),
    gcTime: 0,
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
