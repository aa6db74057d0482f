import type { Change } from "@chronometra/core";
import { MoreThan } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { findProject } from "../portfolio/projectAccess.ts";
import { Failure } from "../shared/failure.ts";
import { serve, type Serving } from "../shared/http.ts";
import { ChangeListEntity } from "./planEntities.ts";
import { notePresence } from "./planNews.ts";
import { PresenceEntity } from "./presenceEntity.ts";

/** Proxies close what is silent for a minute. */
const HEARTBEAT_MILLISECONDS = 15_000;
/** Whoever is so far behind loads the plan anew. */
const MOST_LISTS = 500;

/** What two planners need to see each other at work. */
export function newsRoutes(serving: Serving): void {
  serve(serving, "GET /api/projects/:project/changes/:since", async ({ database, params }) => {
    const project = await findProject(database, params["project"]!);
    const since = Number(params["since"]);
    if (!Number.isSafeInteger(since) || since < 0) throw new Failure("invalid", "The revision to begin after is a number.");
    const lists = await database.getRepository(ChangeListEntity).find({ where: { projectId: project.id, revision: MoreThan(since) }, order: { revision: "ASC" }, take: MOST_LISTS + 1 });
    if (lists.length > MOST_LISTS) throw new Failure("conflict", "Too much has changed since; load the plan again.");
    const names = await accountNames(database);
    return { revision: lists.at(-1)?.revision ?? project.revision, changes: lists.flatMap((list) => JSON.parse(list.changes) as Change[]), by: [...new Set(lists.map(({ accountId }) => names.get(accountId) ?? "someone"))] };
  });

  serve(serving, "PUT /api/projects/:project/presence", async ({ database, me, params, body }) => {
    const project = await findProject(database, params["project"]!);
    await notePresence(database, project.id, me.id, body.client, body.activity);
    serving.news.poke();
    return { ok: true as const };
  });

  serve(serving, "GET /api/projects/:project/stream", async ({ database, params, request, response }) => {
    const project = await findProject(database, params["project"]!);
    const client = typeof request.query["client"] === "string" ? request.query["client"] : null;
    // Compression would hold events back until there are enough of them.
    response.writeHead(200, { "Content-Type": "text/event-stream", "Cache-Control": "no-cache, no-transform", "X-Accel-Buffering": "no" });
    response.write("retry: 2000\n\n");
    const end = serving.news.watch(project.id, { tell: (news) => response.write(`data: ${JSON.stringify(news)}\n\n`), end: () => response.end() });
    const beating = setInterval(() => {
      response.write(": still here\n\n");
      if (client !== null) void database.query("update presence set seen_at = ? where project_id = ? and client = ?", [Date.now(), project.id, client]).catch((error: unknown) => request.log?.error(error));
    }, HEARTBEAT_MILLISECONDS);
    request.on("close", () => {
      end();
      clearInterval(beating);
      if (client !== null && database.isInitialized) void database.getRepository(PresenceEntity).delete({ projectId: project.id, client }).then(() => serving.news.poke()).catch((error: unknown) => request.log?.error(error));
    });
    return { revision: project.revision, present: [] };
  });
}
