import type { Approval, Ledger, Me } from "@chronometra/contract";
import { formatDate, finishDayOf, parseInstant, startDayOf, type Baseline } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { listsSince, standing } from "../plan/changeService.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { writeProject } from "../plan/writeProjects.ts";
import { findProject } from "../project/projectAccess.ts";
import { holdsIn, mayEdit, projectsSeen, type Placed } from "../project/reach.ts";
import { ProjectEntity } from "../project/projectEntity.ts";
import { orNotFound } from "../shared/failure.ts";
import { serve, type Serving } from "../access/serve.ts";
import { PROGRESS_TYPE, withProgress } from "../shared/progress.ts";
import { ApprovalEntity, BaselineEntity } from "./kept/approveEntities.ts";
import { compareProject, driftOf, frozenAs } from "./compareStates.ts";
import { WhatIfEntity } from "./kept/whatIfEntities.ts";
import { askApproval, decideApproval, digestOf } from "./approveService.ts";
import type { Telling } from "../tell/post.ts";
import { bringBack, effectOfBack, viewPlanAt } from "./then/planThen.ts";

/** Never one's own: an approver decides what someone else asked for. */
const mayDecide = (me: Me, project: Placed, approval: ApprovalEntity): boolean =>
  holdsIn(me, "approver", project.programmeId) && approval.state === "asked" && approval.askedBy !== me.id;

/** How many changes the plan has had since each of some requests, those that were undone left out. */
async function changesSince(
  database: DataSource | EntityManager,
  asked: readonly ApprovalEntity[],
): Promise<Map<string, number>> {
  const em = "manager" in database ? database.manager : database;
  const counts = new Map<string, number>();
  for (const { id, projectId, revision } of asked)
    if (revision !== null) counts.set(id, standing(await listsSince(em, projectId, revision)).length);
  return counts;
}

async function present(
  database: DataSource | EntityManager,
  me: Me,
  approvals: readonly ApprovalEntity[],
): Promise<Approval[]> {
  const names = await accountNames(database);
  const projects = new Map(
    (await database.getRepository(ProjectEntity).find()).map((project) => [project.id, project]),
  );
  const since = await changesSince(
    database,
    approvals.filter(({ state }) => state === "asked"),
  );
  return approvals.map((approval) => {
    const project = projects.get(approval.projectId)!;
    return {
      id: approval.id,
      project: project.id,
      projectName: project.head.name,
      projectCode: project.code,
      state: approval.state,
      askedBy: names.get(approval.askedBy) ?? "",
      askedAt: approval.askedAt.toISOString(),
      word: approval.word,
      agreedOn: approval.agreedOn,
      decidedBy: approval.decidedBy === null ? null : (names.get(approval.decidedBy) ?? ""),
      decidedAt: approval.decidedAt?.toISOString() ?? null,
      reason: approval.reason,
      baseline: approval.baseline,
      mayDecide: mayDecide(me, project, approval),
      changedSince: approval.state !== "asked" || approval.revision === null ? 0 : (since.get(approval.id) ?? 0),
    };
  });
}

function baselineLine(baseline: Baseline, digest: string, of: WhatIfEntity | undefined): Ledger["baselines"][number] {
  const starts = baseline.activities.map((row) => row.start).sort();
  const finishes = baseline.activities.map((row) => row.finish).sort();
  const first = starts[0];
  const last = finishes.at(-1);
  return {
    number: baseline.number,
    approvedOn: baseline.approvedOn,
    approvedBy: baseline.approvedBy,
    reason: baseline.reason,
    digest,
    activities: baseline.activities.length,
    budgetMinor: baseline.activities.reduce((sum, row) => sum + row.evenMinor + row.startMinor + row.finishMinor, 0),
    start: first === undefined ? null : formatDate(startDayOf(parseInstant(first)!)),
    finish: last === undefined ? null : formatDate(finishDayOf(parseInstant(last)!)),
    how: of !== undefined && !of.whole ? "request" : baseline.number === 1 ? "first" : "whole",
    request: of?.request ?? null,
  };
}

export function approveRoutes(serving: Serving, post: Telling): void {
  serve(serving, "GET /api/approvals", async ({ database, me }) => {
    const open = await database
      .getRepository(ApprovalEntity)
      .find({ where: { state: "asked" }, order: { askedAt: "ASC" } });
    const seen = await projectsSeen(database, me);
    return present(
      database,
      me,
      open.filter(({ projectId }) => seen?.has(projectId) !== false),
    );
  });

  serve(serving, "GET /api/projects/:project/ledger", async ({ database, me, params }): Promise<Ledger> => {
    const project = await findProject(database, params["project"]!);
    const plan = await loadPlan(database.manager, project);
    const approvals = await database
      .getRepository(ApprovalEntity)
      .find({ where: { projectId: project.id }, order: { askedAt: "DESC" } });
    const digests = await database
      .getRepository(BaselineEntity)
      .find({ where: { projectId: project.id }, select: { number: true, digest: true, projectId: true } });
    const requests = await database
      .getRepository(WhatIfEntity)
      .find({ where: { projectId: project.id, state: "approved" } });
    const requestOf = new Map(requests.map((each) => [each.baseline, each]));
    const digestOfNumber = new Map(digests.map(({ number, digest }) => [number, digest]));
    return {
      currency: plan.project.currency,
      minorDigits: plan.project.minorDigits ?? 2,
      mayAsk:
        mayEdit(me, project) &&
        approvals.every(({ state, revision }) => state !== "asked" || revision !== project.revision),
      approvals: await present(database, me, approvals),
      baselines: [...plan.baselines.values()]
        .map((baseline) =>
          baselineLine(baseline, digestOfNumber.get(baseline.number) ?? "", requestOf.get(baseline.number)),
        )
        .reverse(),
    };
  });

  serve(serving, "POST /api/projects/:project/approvals", ({ database, me, params, body }) =>
    writeProject(
      database,
      me,
      params["project"]!,
      async (writing, project) =>
        (await present(writing.manager, me, [await askApproval(writing, project, post, body)]))[0]!,
    ),
  );

  serve(serving, "POST /api/approvals/:approval/decision", async ({ database, me, params, body }) => {
    const approval = await decideApproval(database, post, me, params["approval"]!, body.decision, body.reason);
    return (await present(database, me, [approval]))[0]!;
  });

  const storedBaseline = async (database: DataSource, params: Record<string, string>): Promise<BaselineEntity> => {
    const number = Number(params["number"]);
    return orNotFound(
      await database
        .getRepository(BaselineEntity)
        .findOneBy({ projectId: params["project"]!, number: Number.isInteger(number) ? number : -1 }),
      "baseline of that number",
    );
  };

  serve(serving, "GET /api/projects/:project/frozen/:state", async ({ database, params }) =>
    frozenAs(database, await findProject(database, params["project"]!), params["state"]!),
  );
  const revisionIn = (params: Record<string, string>): number => Number(params["revision"]);
  serve(serving, "GET /api/projects/:project/revisions/:revision", ({ database, params }) =>
    viewPlanAt(database, params["project"]!, revisionIn(params)),
  );
  serve(serving, "GET /api/projects/:project/revisions/:revision/back", ({ database, me, params }) =>
    effectOfBack(database, me, params["project"]!, revisionIn(params)),
  );
  serve(serving, "POST /api/projects/:project/revisions/:revision/back", ({ database, me, params, body: { seen } }) =>
    bringBack(database, me, params["project"]!, { revision: revisionIn(params), seen }),
  );
  serve(serving, "GET /api/projects/:project/compare/:from/:to", async ({ database, params }) =>
    compareProject(database, await findProject(database, params["project"]!), params["from"]!, params["to"]!),
  );

  serve(
    serving,
    "GET /api/projects/:project/drift/:from/:to/:target",
    async ({ database, params, request, response }) => {
      const project = await findProject(database, params["project"]!);
      const asked = { from: params["from"]!, to: params["to"]!, target: params["target"]! };
      const abort = new AbortController();
      if (request.get("accept") !== PROGRESS_TYPE)
        return driftOf(database, project, asked, () => undefined, abort.signal);
      // Whoever leaves the page does not wait for it any more.
      response.on("close", () => abort.abort());
      return withProgress(response, (onShare) => driftOf(database, project, asked, onShare, abort.signal));
    },
  );

  serve(serving, "GET /api/projects/:project/baselines/:number/content", async ({ database, params, response }) => {
    const project = await findProject(database, params["project"]!);
    const row = await storedBaseline(database, params);
    const name = `${project.code.replace(/[^\w.-]+/g, "-")}-baseline-${row.number}.json`;
    response
      .type("application/json")
      .setHeader("Content-Disposition", `attachment; filename="${name}"`)
      .end(row.content);
    return "";
  });

  serve(serving, "GET /api/projects/:project/baselines/:number/digest", async ({ database, params }) => {
    const row = await storedBaseline(database, params);
    const recomputed = digestOf(row.content);
    return { number: row.number, stored: row.digest, recomputed, same: recomputed === row.digest };
  });
}
