import { serve, type Serving } from "../access/serve.ts";
import { loadFrom, loadOfGroup, workInWeek } from "./people.ts";

export function loadRoutes(serving: Serving): void {
  serve(serving, "GET /api/load/:from/:weeks", ({ database, me, params }) =>
    loadFrom(database, params["from"]!, Number(params["weeks"]), me),
  );
  serve(serving, "GET /api/programmes/:programme/load/:from/:weeks", ({ database, me, params }) =>
    loadOfGroup(database, me, params["programme"]!, { from: params["from"]!, weeks: Number(params["weeks"]) }),
  );
  serve(serving, "GET /api/load/:person/:monday/work", ({ database, me, params }) =>
    workInWeek(database, me, params["person"]!, params["monday"]!),
  );
}
