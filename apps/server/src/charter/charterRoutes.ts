import { serve, type Serving } from "../access/serve.ts";
import type { Post } from "../tell/post.ts";
import { viewCharter, writeCharter } from "./charter.ts";
import { handOver } from "./handOver.ts";

/** A project as such: what it is for, and who answers for it. */
export function charterRoutes(serving: Serving, post: Post): void {
  serve(serving, "GET /api/projects/:project/charter", ({ database, me, params }) =>
    viewCharter(database, me, params["project"]!),
  );
  serve(serving, "PUT /api/projects/:project/charter", ({ database, me, params, body }) =>
    writeCharter(database, me, params["project"]!, body),
  );
  serve(serving, "POST /api/projects/:project/hand-over", ({ database, me, params, body }) =>
    handOver(database, me, post, params["project"]!, body),
  );
}
