import { In } from "typeorm";
import { mayEdit } from "../portfolio/projectAccess.ts";
import { ProjectEntity } from "../portfolio/projectEntity.ts";
import { presentEffect } from "../plan/presentEffect.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { serve, type Serving } from "../shared/http.ts";
import { deskOf, presentReports } from "./deskService.ts";
import { ReportEntity } from "./reportEntity.ts";
import { decideReports, planWithReports, sendReport } from "./reportService.ts";

export function collectRoutes(serving: Serving): void {
  serve(serving, "GET /api/desk", ({ database, me }) => deskOf(database, me.person));

  serve(serving, "POST /api/desk/reports", async ({ database, me, body }) => (await presentReports(database, [await sendReport(database, me, body)]))[0]!);

  serve(serving, "DELETE /api/desk/reports/:report", async ({ database, me, params }) => {
    const report = orNotFound(await database.getRepository(ReportEntity).findOneBy({ id: params["report"]!, personId: me.person ?? "" }), "report of yours");
    // In one statement with the state, so that a report decided this moment is not taken back.
    const taken = await database.getRepository(ReportEntity).update({ id: report.id, state: "submitted" }, { state: "withdrawn" });
    if (taken.affected === 0) throw new Failure("conflict", "This report has been decided already; ask for a correction instead.");
    return { ok: true as const };
  });

  serve(serving, "GET /api/reports", async ({ database, me }) => {
    const own = (await database.getRepository(ProjectEntity).find()).filter((project) => mayEdit(me, project)).map(({ id }) => id);
    if (own.length === 0) return [];
    const waiting = await database.getRepository(ReportEntity).find({ where: { projectId: In(own), state: "submitted" }, order: { projectId: "ASC", date: "ASC", sentAt: "ASC" } });
    return presentReports(database, waiting);
  });

  serve(serving, "POST /api/reports/effect", async ({ database, me, body }) => {
    const { before, after } = await planWithReports(database, me, body.ids);
    return presentEffect(before, after);
  });

  serve(serving, "POST /api/reports/decision", async ({ database, me, body }) => {
    if (body.decision === "return" && (body.word ?? "").trim() === "") throw new Failure("invalid", "Say in a word what to change before you return it.");
    await decideReports(database, me, body.ids, body.decision, body.word);
    return { ok: true as const };
  });
}
