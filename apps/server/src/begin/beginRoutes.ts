import { serve, type Serving } from "../access/serve.ts";
import { begin, beginEffect } from "./beginService.ts";
import { listTemplates, makeTemplate, removeTemplate, writeTemplate } from "./templates.ts";

/** Projects begun with others, and templates to begin with. */
export function beginRoutes(serving: Serving): void {
  serve(serving, "GET /api/templates", ({ database, me }) => listTemplates(database, me));
  serve(serving, "POST /api/templates", ({ database, me, body }) => makeTemplate(database, me, body));
  serve(serving, "PUT /api/templates/:template", ({ database, me, params, body }) =>
    writeTemplate(database, me, params["template"]!, body),
  );
  serve(serving, "DELETE /api/templates/:template", ({ database, me, params }) =>
    removeTemplate(database, me, params["template"]!),
  );
  serve(serving, "POST /api/begin/effect", ({ database, me, body }) => beginEffect(database, me, body));
  serve(serving, "POST /api/begin", ({ database, me, body }) => begin(database, me, body));
}
