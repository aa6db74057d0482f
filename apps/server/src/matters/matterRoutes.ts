import { serve, type Serving } from "../access/serve.ts";
import { findSeen } from "../project/reach.ts";
import { listMatters, matterCounts, viewMatter } from "./listMatters.ts";
import { writeMatterSettings } from "./matterSettings.ts";
import { strike, strikeEffect } from "./strike.ts";
import type { Telling } from "../tell/post.ts";
import { tiePlaces } from "./ties.ts";
import { raiseAtWork } from "./raise/raiseAtWork.ts";
import { raiseList, removeList } from "./raise/raiseList.ts";
import { raiseMatter } from "./raise/raiseMatters.ts";
import { writeMatter } from "./writeMatters.ts";

/** Registers: risks, issues, actions, decisions, assumptions and lessons. */
export function matterRoutes(serving: Serving, post: Telling): void {
  serve(serving, "GET /api/matters", ({ database, me, request }) => listMatters(database, me, request.query));
  serve(serving, "GET /api/projects/:project/matters", ({ database, me, params, request }) =>
    listMatters(database, me, { ...request.query, project: params["project"] }),
  );
  serve(serving, "GET /api/projects/:project/ties", async ({ database, me, params }) =>
    tiePlaces(database, (await findSeen(database, me, params["project"]!)).id),
  );
  serve(serving, "GET /api/matters/counts", ({ database, me }) => matterCounts(database, me));
  serve(serving, "PUT /api/matters/settings", ({ database, body }) => writeMatterSettings(database, body));
  serve(serving, "POST /api/matters", ({ database, me, body }) => raiseMatter(database, me, post, body));
  serve(serving, "POST /api/matters/list", ({ database, me, body: { matters } }) =>
    raiseList(database, me, post, matters),
  );
  serve(serving, "DELETE /api/matters/list", async ({ database, me, body }) => {
    await removeList(database, me, body);
    return { ok: true as const };
  });
  serve(serving, "POST /api/desk/issues", ({ database, me, body }) => raiseAtWork(database, me, post, body));
  serve(serving, "GET /api/matters/:matter", ({ database, me, params }) => viewMatter(database, me, params["matter"]!));
  serve(serving, "PUT /api/matters/:matter", ({ database, me, params, body }) =>
    writeMatter(database, me, post, params["matter"]!, body),
  );
  serve(serving, "POST /api/matters/:matter/strike/effect", ({ database, me, params }) =>
    strikeEffect(database, me, params["matter"]!),
  );
  serve(serving, "POST /api/matters/:matter/strike", ({ database, me, params, body }) =>
    strike(database, me, post, params["matter"]!, body),
  );
}
