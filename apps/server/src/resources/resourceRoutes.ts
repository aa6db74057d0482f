import { findProject } from "../project/projectAccess.ts";
import { serve, type Serving } from "../access/serve.ts";
import { holidayCountries, publicHolidays } from "./holidays.ts";
import { sharedEffect, sharedUse, storeShared } from "./sharedRows.ts";

export function resourceRoutes(serving: Serving): void {
  serve(serving, "GET /api/projects/:project/shared", async ({ database, me, params }) =>
    sharedUse(database, me, await findProject(database, params["project"]!)),
  );
  serve(serving, "POST /api/shared/effect", ({ database, body }) => sharedEffect(database, body));
  serve(serving, "POST /api/shared", ({ database, me, body }) => storeShared(database, me, body));
  serve(serving, "GET /api/holidays", () => holidayCountries());
  serve(serving, "GET /api/holidays/:place/:from/:to", ({ params }) =>
    publicHolidays(params["place"]!, Number(params["from"]), Number(params["to"])),
  );
}
