import { serve, type Serving } from "../shared/http.ts";
import { issuePeriod, periodBar } from "./cycleService.ts";

export function cycleRoutes(serving: Serving): void {
  serve(serving, "GET /api/period", ({ database }) => periodBar(database));

  serve(serving, "POST /api/projects/:project/periods", async ({ database, me, params }) => {
    await issuePeriod(database, me, params["project"]!);
    return { ok: true as const };
  });
}
