import { queryOptions } from "@tanstack/react-query";
import { call } from "../shared/session/api.ts";

const POLL_MILLISECONDS = 300;

/** A file being brought; asked for again while it is being read. */
export const importQuery = (id: string) =>
  queryOptions({
    queryKey: ["import", id],
    queryFn: () => call("GET /api/imports/:import", { params: { import: id } }),
    refetchInterval: (query) => (query.state.data?.state === "reading" ? POLL_MILLISECONDS : false),
  });

/** What a file would change in the project it brings changes to. */
export const fileChangesQuery = (id: string) =>
  queryOptions({
    queryKey: ["import", id, "changes"],
    queryFn: () => call("GET /api/imports/:import/changes", { params: { import: id } }),
  });

/** How files were understood before. */
export const understandingsQuery = queryOptions({
  queryKey: ["understandings"],
  queryFn: () => call("GET /api/understandings"),
});
