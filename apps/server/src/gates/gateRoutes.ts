import { serve, type Serving } from "../access/serve.ts";
import type { Post } from "../tell/post.ts";
import { askedGates } from "./askedGates.ts";
import { askGate, decideGate, withdrawGate } from "./deciding.ts";
import { listLifeCycles, writeLifeCycle } from "./lifeCycles.ts";
import { viewGates, writeGates } from "./projectGates.ts";

/** Life cycles, and the stages and gates of projects. */
export function gateRoutes(serving: Serving, post: Post): void {
  serve(serving, "GET /api/life-cycles", ({ database, me }) => listLifeCycles(database, me));
  serve(serving, "PUT /api/life-cycles/:cycle", ({ database, me, params, body }) =>
    writeLifeCycle(database, me, params["cycle"]!, body),
  );
  serve(serving, "GET /api/gates", ({ database, me }) => askedGates(database, me));
  serve(serving, "GET /api/projects/:project/gates", ({ database, me, params }) =>
    viewGates(database, me, params["project"]!),
  );
  serve(serving, "PUT /api/projects/:project/gates", ({ database, me, params, body }) =>
    writeGates(database, me, params["project"]!, body),
  );
  serve(serving, "POST /api/projects/:project/gates/:stage", ({ database, me, params, body }) =>
    askGate(database, me, post, params["project"]!, { stage: params["stage"]!, ...body }),
  );
  serve(serving, "DELETE /api/projects/:project/gates/:stage", ({ database, me, params }) =>
    withdrawGate(database, me, params["project"]!, params["stage"]!),
  );
  serve(serving, "POST /api/projects/:project/gates/:stage/decision", ({ database, me, params, body }) =>
    decideGate(database, me, post, params["project"]!, { stage: params["stage"]!, ...body }),
  );
}
