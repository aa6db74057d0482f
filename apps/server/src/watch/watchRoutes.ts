import type { Request } from "express";
import { Failure } from "../shared/failure.ts";
import type { Post } from "../tell/post.ts";
import { inWriter } from "../shared/workers.ts";
import { serve, type Serving } from "../access/serve.ts";
import { doAct, effectOfAct } from "./acts.ts";
import { ask, rowsOfAnswer } from "./asked/ask.ts";
import { endFeed, feedOf, feedText, makeFeed } from "./calendars/calendarFeeds.ts";
import { watchChoices } from "./choices.ts";
import { EXPORTED_AT_MOST, WATCH_FORMS, isWatchForm } from "./exportForms.ts";
import { dropWatchlist, makeWatchlist, watchlist, watchlistsFor, writeWatchlist } from "./watchlists.ts";

const OK = { ok: true } as const;

export function watchRoutes(serving: Serving, { address }: Pick<Post, "address">): void {
  /** Where the installation is reached, as mail says it; else where whoever calls has found it. */
  const originOf = (request: Request): string =>
    address === undefined ? `${request.protocol}://${request.get("host") ?? "localhost"}` : new URL(address).origin;
  serve(serving, "GET /api/watchlists", ({ database, me }) => watchlistsFor(database, me));
  serve(serving, "POST /api/watchlists", ({ database, me, body }) => makeWatchlist(database, me, body));
  serve(serving, "GET /api/watchlists/:watchlist", ({ database, me, params }) =>
    watchlist(database, me, params["watchlist"]!),
  );
  serve(serving, "PUT /api/watchlists/:watchlist", async ({ database, me, params, body }) => {
    await writeWatchlist(database, me, params["watchlist"]!, body);
    return OK;
  });
  serve(serving, "DELETE /api/watchlists/:watchlist", async ({ database, me, params }) => {
    await dropWatchlist(database, me, params["watchlist"]!);
    return OK;
  });
  serve(serving, "GET /api/watch/choices", ({ database, me }) => watchChoices(database, me));
  serve(serving, "POST /api/watch", ({ database, me, body }) => ask(database, me, body));
  serve(serving, "POST /api/watch/rows", ({ database, me, body }) =>
    rowsOfAnswer(database, me, body.question, body.group),
  );
  serve(serving, "POST /api/watch/export/:form", async ({ database, me, params, body, request, response }) => {
    const form = params["form"]!;
    if (!isWatchForm(form)) throw new Failure("notFound", "A watchlist is exported as csv, xlsx or ics.");
    const { type, ask: asked } = WATCH_FORMS[form];
    const question = asked({ ...body, pivot: null });
    const answer = await ask(database, me, question, EXPORTED_AT_MOST);
    if (answer.count > EXPORTED_AT_MOST && answer.shown >= EXPORTED_AT_MOST)
      throw new Failure(
        "invalid",
        `The question finds ${answer.count} rows; a file holds ${EXPORTED_AT_MOST} at most. Narrow it by a condition.`,
      );
    const made = { origin: originOf(request), at: new Date().toISOString() };
    const content = await inWriter("watch/exportWorker", { form, question, answer, made });
    response.type(type).setHeader("Content-Disposition", `attachment; filename="watchlist.${form}"`).end(content);
    return "";
  });
  serve(serving, "POST /api/watch/effect", ({ database, me, body }) => effectOfAct(database, me, body));
  serve(serving, "POST /api/watch/act", ({ database, me, body }) => doAct(database, me, body));
  serve(serving, "GET /api/calendars/:subject", ({ database, me, params }) => feedOf(database, me, params["subject"]!));
  serve(serving, "POST /api/calendars", ({ database, me, body }) => makeFeed(database, me, body.subject));
  serve(serving, "DELETE /api/calendars/:subject", async ({ database, me, params }) => {
    await endFeed(database, me, params["subject"]!);
    return OK;
  });
  serve(serving, "GET /api/feeds/calendar/:secret", async ({ database, params, request, response }) => {
    const text = await feedText(database, params["secret"]!, originOf(request));
    // Calendar programs ask for nothing but the file; without one they are told so in plain text.
    if (text === null) response.status(404).type("text/plain").send("There is no calendar at this address.\n");
    else response.type("text/calendar").send(text);
    return "";
  });
}
