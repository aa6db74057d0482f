import { serve, type Serving } from "../access/serve.ts";
import { find } from "./find.ts";

export function findRoutes(serving: Serving): void {
  serve(serving, "POST /api/find", ({ database, me, body }) => find(database, me, body.text));
}
