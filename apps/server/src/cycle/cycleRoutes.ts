import { shortfalls } from "@chronometra/contract";
import { Failure, orNotFound } from "../shared/failure.ts";
import { serve, type Serving } from "../access/serve.ts";
import type { Post } from "../tell/post.ts";
import type { MakeAlongside } from "./alongside.ts";
import { closeProject, closingOf, openAgain } from "./closing.ts";
import { issuePeriod, lockPeriod, markStep, openNextPeriod, reopenPeriod, takeLockBack } from "./cycleService.ts";
import { owingOf, remindOfPeriod } from "./owing.ts";
import { planPeriods, reportingCalendar } from "./reportingCalendar.ts";
import { tellOpened } from "./tellPeriods.ts";
import { periodBar, standingsOf } from "./standings.ts";

const DONE = { ok: true as const };

/** @param make what is kept of a period that is issued, besides its figures */
export function cycleRoutes(serving: Serving, post: Post, make: MakeAlongside): void {
  serve(serving, "GET /api/period", ({ database, me }) => periodBar(database, me));

  serve(serving, "GET /api/period/owing", ({ database, me }) => owingOf(database, me));
  serve(serving, "POST /api/period/reminders", ({ database, me, body }) =>
    remindOfPeriod(database, post, me, body.people, body.words),
  );

  serve(serving, "GET /api/periods", ({ database }) => reportingCalendar(database));

  serve(serving, "PUT /api/periods/planned", async ({ database, body }) => {
    await planPeriods(database, body.periods);
    return reportingCalendar(database);
  });

  serve(serving, "POST /api/periods", async ({ database, me, body }) => {
    await openNextPeriod(database, (manager, opened) => tellOpened(manager, post, me, opened), body);
    return periodBar(database, me);
  });

  serve(serving, "GET /api/cycle", ({ database, me }) => standingsOf(database, me));

  serve(serving, "GET /api/projects/:project/cycle", async ({ database, me, params }) =>
    orNotFound((await standingsOf(database, me, params["project"]!)).projects[0], "project of that address"),
  );

  serve(serving, "PUT /api/projects/:project/cycle", async ({ database, me, params, body }) => {
    await markStep(database, me, params["project"]!, body);
    return DONE;
  });

  serve(serving, "POST /api/projects/:project/periods", async ({ database, me, params }) => {
    await issuePeriod(database, me, params["project"]!, make);
    return DONE;
  });

  serve(serving, "POST /api/projects/:project/lock", async ({ database, me, params, body }) => {
    const standing = orNotFound(
      (await standingsOf(database, me, params["project"]!)).projects[0],
      "project of that address",
    );
    const short = shortfalls(standing);
    const word = body.word ?? "";
    if (!standing.locked && word === "" && short.length > 0)
      throw new Failure(
        "invalid",
        `Of ${standing.name} ${short.join(", ")}: say in a word why the period is locked all the same.`,
      );
    await lockPeriod(database, me, params["project"]!, word, make);
    return DONE;
  });

  serve(serving, "DELETE /api/projects/:project/lock", async ({ database, me, params }) => {
    await takeLockBack(database, me, params["project"]!);
    return DONE;
  });

  serve(serving, "POST /api/projects/:project/reopen", async ({ database, me, params, body }) => {
    await reopenPeriod(database, me, params["project"]!, body.reason);
    return DONE;
  });

  serve(serving, "GET /api/projects/:project/closing", ({ database, params }) =>
    closingOf(database, params["project"]!),
  );

  serve(serving, "POST /api/projects/:project/closing", async ({ database, me, params, body }) => {
    await closeProject(database, me, params["project"]!, body.word, body.activities);
    return DONE;
  });

  serve(serving, "DELETE /api/projects/:project/closing", async ({ database, me, params, body }) => {
    await openAgain(database, me, params["project"]!, body.reason);
    return DONE;
  });
}
