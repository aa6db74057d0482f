import type { Change } from "@chronometra/core";
import type { Request } from "express";
import { In, MoreThan, type DataSource } from "typeorm";
import { accountNames } from "../../access/accounts.ts";
import { whoNow } from "../../access/sessionStore.ts";
import { findProject } from "../../project/projectAccess.ts";
import { ProjectEntity } from "../../project/projectEntity.ts";
import { Failure } from "../../shared/failure.ts";
import { serve, type Serving } from "../../access/serve.ts";
import { ChangeListEntity } from "../stored/planEntities.ts";
import type { Listener, PlanNewsDesk } from "./planNews.ts";
import { HeldPresence, notePresence, type OpenPage } from "./presence.ts";
import { maySee } from "../../project/reach.ts";

/** Proxies close what is silent for a minute. So long, too, is someone told who has just signed out elsewhere. */
const HEARTBEAT_MILLISECONDS = 15_000;
/** Whoever is so far behind loads the plan anew. */
const MOST_LISTS = 500;
/** How long the name of a page may be. */
const MOST_LETTERS = 40;
/** More pages than one browser has open. */
const MOST_PAGES = 100;

/** What two planners need to see each other at work. */
export function newsRoutes(serving: Serving, news: PlanNewsDesk, beatMilliseconds = HEARTBEAT_MILLISECONDS): void {
  serve(serving, "GET /api/projects/:project/changes/:since", async ({ database, params }) => {
    const project = await findProject(database, params["project"]!);
    const since = Number(params["since"]);
    if (!Number.isSafeInteger(since) || since < 0)
      throw new Failure("invalid", "The revision to begin after is a number.");
    const lists = await database.getRepository(ChangeListEntity).find({
      where: { projectId: project.id, revision: MoreThan(since) },
      order: { revision: "ASC" },
      take: MOST_LISTS + 1,
    });
    if (lists.length > MOST_LISTS) throw new Failure("conflict", "Too much has changed since; load the plan again.");
    const names = await accountNames(database);
    return {
      revision: lists.at(-1)?.revision ?? project.revision,
      changes: lists.flatMap((list) => JSON.parse(list.changes) as Change[]),
      by: [...new Set(lists.map(({ accountId }) => names.get(accountId) ?? "someone"))],
    };
  });

  serve(serving, "PUT /api/projects/:project/presence", async ({ database, me, params, body }) => {
    const project = await findProject(database, params["project"]!);
    await notePresence(database, project.id, me.id, body.client, body.activity);
    news.poke();
    return { ok: true as const };
  });

  serve(serving, "GET /api/news", async ({ database, me, request, response }) => {
    const pages = pagesOf(request.query["on"]);
    if (pages.length === 0) throw new Failure("invalid", "Say which plans to tell of: on=project.page.");
    const named = await database
      .getRepository(ProjectEntity)
      .find({ where: { id: In(pages.map(({ project }) => project)) } });
    const projects = named.filter((project) => maySee(me, project));
    const [first] = projects;
    if (first === undefined) throw new Failure("notFound", "There is no project of that address.");
    const there = new Set(projects.map(({ id }) => id));
    const holding = new HeldPresence(
      database,
      me.id,
      pages.filter(({ project }) => there.has(project)),
    );
    await holding.take();
    const failed = (error: unknown): void => request.log?.error(error);
    const letGo = (): void => {
      if (database.isInitialized)
        void holding
          .letGo()
          .then(() => news.poke())
          .catch(failed);
    };
    const answer = { project: first.id, revision: first.revision, present: [] };
    // A browser that leaves several pages at once ends streams before they have begun: their end has been told already.
    if (response.destroyed) {
      letGo();
      return answer;
    }
    // Compression would hold events back until there are enough of them.
    response.writeHead(200, {
      "Content-Type": "text/event-stream",
      "Cache-Control": "no-cache, no-transform",
      "X-Accel-Buffering": "no",
    });
    response.write("retry: 2000\n\n");
    const listener: Listener = {
      tell: (news) => response.write(`data: ${JSON.stringify(news)}\n\n`),
      end: () => response.end(),
    };
    const ends = projects.map(({ id }) => news.watch(id, listener));
    const beating = setInterval(() => {
      response.write(": still here\n\n");
      void holding.beat().catch(failed);
      void stillSees(database, request, [...there]).then((sees) => sees || response.end(), failed);
    }, beatMilliseconds);
    response.on("close", () => {
      for (const end of ends) end();
      clearInterval(beating);
      letGo();
    });
    return answer;
  });
}

/**
 * Whether whoever began a stream is signed in still and sees all that it tells of. One that ends is opened again by the
 * browser where it may be.
 */
async function stillSees(database: DataSource, request: Request, projects: readonly string[]): Promise<boolean> {
  const me = await whoNow(request);
  if (me === null) return false;
  const now = await database.getRepository(ProjectEntity).findBy({ id: In(projects) });
  return now.length === projects.length && now.every((project) => maySee(me, project));
}

/** The open pages that a stream is asked for; what does not name any is passed over. */
function pagesOf(on: unknown): OpenPage[] {
  const named = (Array.isArray(on) ? on : [on])
    .filter((each): each is string => typeof each === "string")
    .slice(0, MOST_PAGES);
  return named.flatMap((each) => {
    const [project, client, ...more] = each.split(".");
    return project !== undefined && client !== undefined && client.length <= MOST_LETTERS && more.length === 0
      ? [{ project, client }]
      : [];
  });
}
