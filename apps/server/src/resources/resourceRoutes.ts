import { findProject } from "../project/projectAccess.ts";
import { serve, type Serving } from "../access/serve.ts";
import { holidayCountries, publicHolidays } from "./holidays.ts";
import { registerEffect, removeFromRegister, takeInMissing, writeRegister } from "./register.ts";
import { readRegister, registerRates } from "./readRegister.ts";
import { takeOver, takeOverEffect } from "./takeOver.ts";
import { sharedEffect, sharedUse, storeShared } from "./sharedRows.ts";

export function resourceRoutes(serving: Serving): void {
  serve(serving, "GET /api/projects/:project/shared", async ({ database, me, params }) =>
    sharedUse(database, me, await findProject(database, params["project"]!)),
  );
  serve(serving, "POST /api/shared/effect", ({ database, me, body }) => sharedEffect(database, me, body));
  serve(serving, "POST /api/shared", ({ database, me, body }) => storeShared(database, me, body));
  serve(serving, "GET /api/register", ({ database, me }) => readRegister(database, me));
  serve(serving, "GET /api/register/rates", ({ database }) => registerRates(database));
  serve(serving, "POST /api/register/effect", ({ database, body }) => registerEffect(database, body));
  serve(serving, "POST /api/register", ({ database, me, body }) => writeRegister(database, me, body));
  serve(serving, "POST /api/register/missing", async ({ database, me }) => ({
    taken: await takeInMissing(database, me),
  }));
  serve(serving, "DELETE /api/register/:table/:row", async ({ database, me, params }) => {
    await removeFromRegister(database, me, params["table"]!, params["row"]!);
    return { ok: true as const };
  });
  serve(serving, "POST /api/projects/:project/register/effect", ({ database, params, body }) =>
    takeOverEffect(database, params["project"]!, body),
  );
  serve(serving, "POST /api/projects/:project/register", ({ database, me, params, body }) =>
    takeOver(database, me, params["project"]!, body),
  );
  serve(serving, "GET /api/holidays", () => holidayCountries());
  serve(serving, "GET /api/holidays/:place/:from/:to", ({ params }) =>
    publicHolidays(params["place"]!, Number(params["from"]), Number(params["to"])),
  );
}
