import { queryOptions } from "@tanstack/react-query";
import { call } from "../shared/session/api.ts";

/** People's weeks; of a group those of who has work in its projects. */
export const loadQuery = (from: string, weeks: number, group: string | null = null) =>
  queryOptions({
    queryKey: ["load", from, weeks, group],
    queryFn: () =>
      group === null
        ? call("GET /api/load/:from/:weeks", { params: { from, weeks: String(weeks) } })
        : call("GET /api/programmes/:programme/load/:from/:weeks", {
            params: { programme: group, from, weeks: String(weeks) },
          }),
  });
export const loadCellQuery = (person: string, monday: string) =>
  queryOptions({
    queryKey: ["load", "cell", person, monday],
    queryFn: () => call("GET /api/load/:person/:monday/work", { params: { person, monday } }),
  });
