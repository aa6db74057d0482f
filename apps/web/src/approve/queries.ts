import { queryOptions } from "@tanstack/react-query";
import { call } from "../shared/api.ts";

export const approvalsQuery = queryOptions({ queryKey: ["approvals"], queryFn: () => call("GET /api/approvals") });
export const ledgerQuery = (project: string) => queryOptions({ queryKey: ["project", project, "ledger"], queryFn: () => call("GET /api/projects/:project/ledger", { params: { project } }) });
