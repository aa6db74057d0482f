import { queryOptions } from "@tanstack/react-query";
import { call } from "../shared/session/api.ts";

export const loadQuery = (from: string, weeks: number) =>
  queryOptions({
    queryKey: ["load", from, weeks],
    queryFn: () => call("GET /api/load/:from/:weeks", { params: { from, weeks: String(weeks) } }),
  });
export const loadCellQuery = (person: string, monday: string) =>
  queryOptions({
    queryKey: ["load", "cell", person, monday],
    queryFn: () => call("GET /api/load/:person/:monday/work", { params: { person, monday } }),
  });
