import { serve, type Serving } from "../shared/http.ts";
import { issuePeriod, openNextPeriod, periodBar } from "./cycleService.ts";

export function cycleRoutes(serving: Serving): void {
  serve(serving, "GET /api/period", ({ database }) => periodBar(database));

  serve(serving, "POST /api/periods", async ({ database, body }) => {
    await openNextPeriod(database, body.dataDate, body.issueBy);
    return periodBar(database);
  });

  serve(serving, "POST /api/projects/:project/periods", async ({ database, me, params }) => {
    await issuePeriod(database, me, params["project"]!);
    return { ok: true as const };
  });
}
