import { In } from "typeorm";
import { mayEdit } from "../project/reach.ts";
import { ProjectEntity } from "../project/projectEntity.ts";
import { Failure } from "../shared/failure.ts";
import { serve, type Serving } from "../access/serve.ts";
import type { Post } from "../tell/post.ts";
import { deskOf, markSeen, presentQueue, presentReports } from "./deskService.ts";
import { blockedEverywhere } from "./blocked/blockedWays.ts";
import { markBlocked } from "./blocked/blocks.ts";
import { startClock, stopClock } from "./clock.ts";
import { decideWeeks, effectOfWeeks, peopleWeek, remind } from "./peopleTime.ts";
import { ReportEntity } from "./kept/reportEntity.ts";
import { weekOf } from "./weekService.ts";
import { sendSheet } from "./report/sheets.ts";
import { sendLeave, withdrawLeave } from "./ownLeave.ts";
import { decideReports, effectOfReports } from "./report/decideReports.ts";
import { alone, sendReport, takeBackReport, writeWeek } from "./report/sendReport.ts";
import { ownHistory, ownPlan, ownPlans } from "./plans/ownPlans.ts";

export function collectRoutes(serving: Serving, post: Post): void {
  serve(serving, "GET /api/desk", ({ database, me }) => deskOf(database, me));

  serve(serving, "GET /api/desk/plans", ({ database, me }) => ownPlans(database, me));

  serve(serving, "GET /api/desk/plans/:project", ({ database, me, params }) =>
    ownPlan(database, me, params["project"]!),
  );

  serve(serving, "GET /api/desk/plans/:project/:activity/history", ({ database, me, params, request }) => {
    const before = Number(request.query["before"] ?? NaN);
    return ownHistory(database, me, {
      ...{ project: params["project"]!, activity: params["activity"]! },
      before: Number.isInteger(before) ? before : null,
    });
  });

  serve(serving, "GET /api/desk/week/:date", ({ database, me, params }) => weekOf(database, me, params["date"]!));

  serve(serving, "PUT /api/desk/week", async ({ database, me, body }) => {
    await writeWeek(database, me, body.cells);
    return { ok: true as const };
  });

  serve(
    serving,
    "POST /api/desk/reports",
    async ({ database, me, body }) => (await presentReports(database, [await sendReport(database, me, body)]))[0]!,
  );

  serve(serving, "POST /api/desk/week/:date/sheet", async ({ database, me, params }) => {
    await alone(database, me, (manager, person) => sendSheet(manager, me, person, params["date"]!));
    return { ok: true as const };
  });

  serve(serving, "GET /api/time/:date", ({ database, me, params }) => peopleWeek(database, me, params["date"]!));

  serve(serving, "POST /api/time/:date/decision", ({ database, me, params, body }) =>
    decideWeeks(database, post, me, params["date"]!, {
      ...body,
      word: body.word.trim(),
      seen: body.seen ?? [],
    }),
  );

  serve(serving, "POST /api/time/:date/effect", ({ database, me, params, body }) =>
    effectOfWeeks(database, me, params["date"]!, body.people, body.endings),
  );

  serve(serving, "POST /api/time/:date/reminders", ({ database, me, params, body }) =>
    remind(database, post, me, params["date"]!, body.people, body.words),
  );

  serve(serving, "PUT /api/desk/seen", async ({ database, me }) => {
    await markSeen(database, me.person);
    return { ok: true as const };
  });

  serve(serving, "PUT /api/desk/clock", async ({ database, me, body }) => {
    await startClock(database, me, body);
    return { ok: true as const };
  });

  serve(serving, "POST /api/desk/clock/stop", async ({ database, me, body }) => {
    await stopClock(database, me, body.minutes, body.note);
    return { ok: true as const };
  });

  serve(serving, "PUT /api/desk/block", async ({ database, me, body }) => {
    await markBlocked(database, me, body);
    return { ok: true as const };
  });

  serve(serving, "POST /api/desk/leave", async ({ database, me, body }) => ({
    projects: await sendLeave(database, me, body),
  }));

  serve(serving, "DELETE /api/desk/leave", async ({ database, me, body }) => {
    await withdrawLeave(database, me, body);
    return { ok: true as const };
  });

  serve(serving, "DELETE /api/desk/reports/:report", async ({ database, me, params }) => {
    await takeBackReport(database, me, params["report"]!);
    return { ok: true as const };
  });

  serve(serving, "GET /api/blocked/:days", ({ database, me, params }) =>
    blockedEverywhere(database, me, params["days"]!),
  );

  serve(serving, "GET /api/reports", async ({ database, me }) => {
    const own = (await database.getRepository(ProjectEntity).find())
      .filter((project) => mayEdit(me, project))
      .map(({ id }) => id);
    if (own.length === 0) return [];
    const waiting = await database.getRepository(ReportEntity).find({
      where: { projectId: In(own), state: "submitted" },
      order: { projectId: "ASC", date: "ASC", sentAt: "ASC" },
    });
    return presentQueue(database, waiting);
  });

  serve(serving, "POST /api/reports/effect", ({ database, me, body }) => effectOfReports(database, me, body.ids, body));

  serve(serving, "POST /api/reports/decision", async ({ database, me, body }) => {
    if (body.decision === "return" && (body.word ?? "").trim() === "")
      throw new Failure("invalid", "Say in a word what to change before you return it.");
    await decideReports(database, post, me, body.ids, body);
    return { ok: true as const };
  });
}
