import { queryOptions } from "@tanstack/react-query";
import { call } from "../shared/api.ts";

export const historyQuery = (project: string) => queryOptions({ queryKey: ["project", project, "history"], queryFn: () => call("GET /api/projects/:project/history", { params: { project } }) });
