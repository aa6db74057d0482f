import { queryOptions } from "@tanstack/react-query";
import { call, callWithProgress } from "../shared/session/api.ts";

export const approvalsQuery = queryOptions({ queryKey: ["approvals"], queryFn: () => call("GET /api/approvals") });
export const ledgerQuery = (project: string) =>
  queryOptions({
    queryKey: ["project", project, "ledger"],
    queryFn: () => call("GET /api/projects/:project/ledger", { params: { project } }),
  });

/** What freezing a state of a project's plan would make of its figures. */
export const frozenQuery = (project: string, state: string) =>
  queryOptions({
    queryKey: ["project", project, "frozen", state],
    queryFn: () => call("GET /api/projects/:project/frozen/:state", { params: { project, state } }),
  });

/** Two states of a project's plan compared. */
export const comparisonQuery = (project: string, from: string, to: string) =>
  queryOptions({
    queryKey: ["project", project, "compare", from, to],
    queryFn: () => call("GET /api/projects/:project/compare/:from/:to", { params: { project, from, to } }),
  });

export const requestsQuery = queryOptions({
  queryKey: ["approvals", "requests"],
  queryFn: () => call("GET /api/requests"),
});
export const whatIfsQuery = (project: string) =>
  queryOptions({
    queryKey: ["project", project, "whatIfs"],
    queryFn: () => call("GET /api/projects/:project/whatifs", { params: { project } }),
  });
export const whatIfQuery = (id: string) =>
  queryOptions({
    queryKey: ["whatIf", id],
    queryFn: () => call("GET /api/whatifs/:whatif", { params: { whatif: id } }),
  });
/** Whether a change request can be approved by itself; it hangs on the plan as much as on the request. */
export const aloneQuery = (id: string) =>
  queryOptions({
    queryKey: ["whatIf", id, "alone"],
    queryFn: () => call("GET /api/whatifs/:whatif/alone", { params: { whatif: id } }),
  });
export const reservesQuery = (project: string) =>
  queryOptions({
    queryKey: ["project", project, "reserves"],
    queryFn: () => call("GET /api/projects/:project/reserves", { params: { project } }),
  });

/** Why a date moved between two whole states of a plan. */
const driftKey = (project: string, from: string, to: string, target: string) => [
  "project",
  project,
  "drift",
  from,
  to,
  target,
];

/** How far the working out of a drift ledger is, 0 to 1. */
export const driftShareQuery = (...of: Parameters<typeof driftKey>) =>
  queryOptions<number>({
    queryKey: ["share", ...driftKey(...of)],
    queryFn: () => 0,
    staleTime: Infinity,
    initialData: 0,
  });

export const driftQuery = (project: string, from: string, to: string, target: string) =>
  queryOptions({
    queryKey: driftKey(project, from, to, target),
    queryFn: ({ signal, client }) =>
      callWithProgress(
        "GET /api/projects/:project/drift/:from/:to/:target",
        { params: { project, from, to, target }, signal },
        (share) => client.setQueryData(driftShareQuery(project, from, to, target).queryKey, share),
      ),
    retry: false,
  });
