import { queryOptions } from "@tanstack/react-query";
import { call } from "../shared/api.ts";

export const planQuery = (project: string) => queryOptions({ queryKey: ["project", project, "plan"], queryFn: () => call("GET /api/projects/:project/plan", { params: { project } }), gcTime: 0 });
export const historyQuery = (project: string) => queryOptions({ queryKey: ["project", project, "history"], queryFn: () => call("GET /api/projects/:project/history", { params: { project } }) });
