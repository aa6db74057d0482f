import { RESERVED_CHANGES, type Me, type WhatIf, type WhatIfView } from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { presentPlan } from "../plan/presentPlan.ts";
import { writeProject } from "../plan/writeProjects.ts";
import { findProject } from "../project/projectAccess.ts";
import { findSeen, holdsIn, mayEdit, projectsSeen } from "../project/reach.ts";
import { ProjectEntity } from "../project/projectEntity.ts";
import { Failure } from "../shared/failure.ts";
import { serve, type Serving } from "../access/serve.ts";
import { decideRequest } from "./decideRequest.ts";
import { enterReserve, reservesOf } from "./reserves.ts";
import { WhatIfEntity } from "./kept/whatIfEntities.ts";
import { dropWhatIf, restoreWhatIf } from "./whatIfEndings.ts";
import { beginWhatIf, changeWhatIf, findWhatIf, undoInWhatIf } from "./whatIfService.ts";
import { aloneOnBaseline, inForce, keepWhatIf, mergeWhatIf, putForward, tried } from "./mergeWhatIf.ts";
import type { Telling } from "../tell/post.ts";

const DONE = { ok: true as const };

async function present(database: DataSource | EntityManager, me: Me, rows: readonly WhatIfEntity[]): Promise<WhatIf[]> {
  const names = await accountNames(database);
  const projects = new Map(
    (await database.getRepository(ProjectEntity).find()).map((project) => [project.id, project]),
  );
  const nameOf = (account: string | null): string | null => (account === null ? null : (names.get(account) ?? ""));
  return rows.map((row): WhatIf => {
    const project = projects.get(row.projectId)!;
    return {
      id: row.id,
      project: project.id,
      projectName: project.head.name,
      projectCode: project.code,
      name: row.name,
      by: nameOf(row.askedBy ?? row.madeBy) ?? "",
      at: row.madeAt.toISOString(),
      state: row.state,
      changes: row.version,
      request: row.request,
      reason: row.reason,
      draw: row.draw === null ? null : (JSON.parse(row.draw) as WhatIf["draw"]),
      askedAt: row.askedAt?.toISOString() ?? null,
      decidedBy: nameOf(row.decidedBy),
      decidedAt: row.decidedAt?.toISOString() ?? null,
      word: row.word,
      baseline: row.baseline,
      whole: row.whole,
      currency: project.head.currency,
      minorDigits: project.head.minorDigits ?? 2,
      mayEdit: mayEdit(me, project) && (row.state === "open" || row.state === "sentBack"),
      mayRestore: mayEdit(me, project) && row.state === "dropped",
      mayDecide: holdsIn(me, "approver", project.programmeId) && row.state === "asked" && row.askedBy !== me.id,
    };
  });
}

async function view(database: DataSource, me: Me, id: string): Promise<WhatIfView> {
  const row = await findWhatIf(database, id);
  await findSeen(database, me, row.projectId);
  const { project, after, fault, behind, meets, effect, load, budget } = await tried(database, row);
  const [whatIf] = await present(database, me, [row]);
  const plan =
    after === null
      ? null
      : { ...(await presentPlan(database, me, project, after)), revision: row.version, mayEdit: whatIf!.mayEdit };
  return {
    whatIf: whatIf!,
    seen: { live: project.revision, version: row.version },
    plan,
    fault,
    behind,
    meets,
    effect,
    load,
    budget,
  };
}

export function whatIfRoutes(serving: Serving, post: Telling): void {
  serve(serving, "GET /api/requests", async ({ database, me }) => {
    const asked = await database
      .getRepository(WhatIfEntity)
      .find({ where: { state: "asked" }, order: { askedAt: "ASC" } });
    const seen = await projectsSeen(database, me);
    return present(
      database,
      me,
      asked.filter(({ projectId }) => seen?.has(projectId) !== false),
    );
  });

  serve(serving, "GET /api/projects/:project/whatifs", async ({ database, me, params }) => {
    const project = await findProject(database, params["project"]!);
    return present(
      database,
      me,
      await database.getRepository(WhatIfEntity).find({ where: { projectId: project.id }, order: { madeAt: "DESC" } }),
    );
  });

  serve(
    serving,
    "POST /api/projects/:project/whatifs",
    async ({ database, me, params, body }) =>
      (await present(database, me, [await beginWhatIf(database, me, params["project"]!, body.name)]))[0]!,
  );

  serve(serving, "GET /api/whatifs/:whatif", ({ database, me, params }) => view(database, me, params["whatif"]!));

  serve(serving, "GET /api/whatifs/:whatif/alone", async ({ database, me, params }) => {
    const row = await findWhatIf(database, params["whatif"]!);
    const live = await loadPlan(database.manager, await findSeen(database, me, row.projectId));
    const alone = await aloneOnBaseline(database.manager, live, row);
    return { baseline: inForce(live), fault: "fault" in alone ? alone.fault : null };
  });

  serve(serving, "POST /api/whatifs/:whatif/changes", ({ database, me, params, body }) => {
    const reserved = body.changes.find(({ type }) => RESERVED_CHANGES.includes(type));
    if (reserved !== undefined)
      throw new Failure("invalid", `"${reserved.type}" happens by approving or accepting, not in a what-if.`);
    return changeWhatIf(
      database,
      me,
      params["whatif"]!,
      body.revision,
      body.changes,
      body.label ?? "Changed",
      body.list,
    );
  });

  serve(serving, "POST /api/whatifs/:whatif/undo", ({ database, me, params, body }) =>
    undoInWhatIf(database, me, params["whatif"]!, body.revision, body.list),
  );

  serve(serving, "POST /api/whatifs/:whatif/merge", async ({ database, me, params, body }) => {
    await mergeWhatIf(database, me, params["whatif"]!, body.mine);
    return DONE;
  });

  serve(serving, "POST /api/whatifs/:whatif/keep", async ({ database, me, params }) => {
    const { changes: _changes, ...result } = await keepWhatIf(database, me, params["whatif"]!);
    return result;
  });

  serve(serving, "DELETE /api/whatifs/:whatif", async ({ database, me, params }) => {
    await dropWhatIf(database, me, params["whatif"]!);
    return DONE;
  });

  serve(
    serving,
    "POST /api/whatifs/:whatif/restore",
    async ({ database, me, params }) =>
      (await present(database, me, [await restoreWhatIf(database, me, params["whatif"]!)]))[0]!,
  );

  serve(
    serving,
    "POST /api/whatifs/:whatif/request",
    async ({ database, me, params, body }) =>
      (
        await present(database, me, [await putForward(database, post, me, params["whatif"]!, body.reason, body.draw)])
      )[0]!,
  );

  serve(serving, "POST /api/whatifs/:whatif/decision", async ({ database, me, params, body }) => {
    const row = await decideRequest(database, post, me, params["whatif"]!, body);
    return (await present(database, me, [row]))[0]!;
  });

  serve(serving, "GET /api/projects/:project/reserves", ({ database, me, params }) =>
    reservesOf(database, me, params["project"]!),
  );

  serve(serving, "POST /api/projects/:project/reserves", async ({ database, me, params, body }) => {
    await writeProject(database, me, params["project"]!, ({ manager }, project) =>
      enterReserve(manager, me, project.id, body),
    );
    return reservesOf(database, me, params["project"]!);
  });
}
