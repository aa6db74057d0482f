import { queryOptions } from "@tanstack/react-query";
import { call } from "../shared/session/api.ts";

const key = (of: string) => ["statusReport", of] as const;

export const reportDraftQuery = (of: string) =>
  queryOptions({
    queryKey: [...key(of), "draft"],
    queryFn: ({ signal }) => call("GET /api/status-reports/:of", { params: { of }, signal }),
  });
export const reportPreviewQuery = (of: string) =>
  queryOptions({
    queryKey: [...key(of), "preview"],
    queryFn: ({ signal }) => call("GET /api/status-reports/:of/preview", { params: { of }, signal }),
  });
export const issuedReportQuery = (of: string, number: number, edition: string) =>
  queryOptions({
    queryKey: [...key(of), "issued", number, edition],
    queryFn: ({ signal }) =>
      call("GET /api/status-reports/:of/:number/:edition", {
        params: { of, number: String(number), edition },
        signal,
      }),
  });
export const reportLayoutQuery = (of: string) =>
  queryOptions({
    queryKey: [...key(of), "layout"],
    queryFn: () => call("GET /api/status-reports/:of/layout", { params: { of } }),
  });
export const recipientsQuery = (of: string) =>
  queryOptions({
    queryKey: [...key(of), "recipients"],
    queryFn: () => call("GET /api/status-reports/:of/recipients", { params: { of } }),
  });
export const reportGroupsQuery = queryOptions({
  queryKey: ["statusReport"],
  queryFn: () => call("GET /api/status-reports"),
});

/** Where the reports of a project or a group are read. */
export const reportsOf = (of: "project" | "group", id: string): string =>
  of === "project" ? `/projects/${id}/report` : `/reports/${id}`;
