import { RESERVED_CHANGES, type BodyOf, type Me, type WhatIf, type WhatIfView } from "@chronometra/contract";
import { fromBundle } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { presentPlan } from "../plan/presentPlan.ts";
import { writeProject, writeProjects } from "../plan/writeProjects.ts";
import { assertNotClosed, findProject, mayEdit } from "../project/projectAccess.ts";
import { ProjectEntity } from "../project/projectEntity.ts";
import { dayOf } from "../shared/clock.ts";
import { Failure } from "../shared/failure.ts";
import { serve, type Serving } from "../access/serve.ts";
import { freezeProject } from "./approveService.ts";
import { enterReserve, reservesOf } from "./reserves.ts";
import { WhatIfEntity } from "./whatIfEntities.ts";
import { dropWhatIf, restoreWhatIf } from "./whatIfEndings.ts";
import { beginWhatIf, changeWhatIf, findWhatIf, undoInWhatIf, whatIfChanges } from "./whatIfService.ts";
import { aloneOnBaseline, applyWhatIf, inForce, keepWhatIf, mergeWhatIf, putForward, tried } from "./mergeWhatIf.ts";

const DONE = { ok: true as const };

async function present(database: DataSource | EntityManager, me: Me, rows: readonly WhatIfEntity[]): Promise<WhatIf[]> {
  const names = await accountNames(database);
  const projects = new Map(
    (await database.getRepository(ProjectEntity).find()).map((project) => [project.id, project]),
  );
  return rows.map((row) => {
    const project = projects.get(row.projectId)!;
    return {
      id: row.id,
      project: project.id,
      projectName: project.head.name,
      projectCode: project.code,
      name: row.name,
      by: names.get(row.askedBy ?? row.madeBy) ?? "",
      at: row.madeAt.toISOString(),
      state: row.state,
      changes: row.version,
      request: row.request,
      reason: row.reason,
      draw: row.draw === null ? null : (JSON.parse(row.draw) as WhatIf["draw"]),
      askedAt: row.askedAt?.toISOString() ?? null,
      decidedBy: row.decidedBy === null ? null : (names.get(row.decidedBy) ?? ""),
      decidedAt: row.decidedAt?.toISOString() ?? null,
      word: row.word,
      baseline: row.baseline,
      whole: row.whole,
      currency: project.head.currency,
      minorDigits: project.head.minorDigits ?? 2,
      mayEdit: mayEdit(me, project) && (row.state === "open" || row.state === "sentBack"),
      mayRestore: mayEdit(me, project) && row.state === "dropped",
      mayDecide: me.roles.includes("approver") && row.state === "asked" && row.askedBy !== me.id,
    };
  });
}

async function view(database: DataSource, me: Me, id: string): Promise<WhatIfView> {
  const row = await findWhatIf(database, id);
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

/**
 * Approves a change request: applied, a new baseline frozen, the draw entered; all or nothing. Alone it freezes the
 * plan behind the baseline in force with these changes, so that what else has moved since stays in sight; or the whole
 * plan as it stands, knowingly. Or sends it back.
 */
async function decide(
  database: DataSource,
  me: Me,
  id: string,
  { decision, reason: word, seen }: BodyOf<"POST /api/whatifs/:whatif/decision">,
): Promise<WhatIfEntity> {
  const at = new Date();
  const { projectId } = await findWhatIf(database, id);
  return writeProjects(
    database,
    me,
    [projectId],
    async (writing) => {
      const { manager } = writing;
      const project = writing.project(projectId);
      const row = await findWhatIf(manager, id, true);
      if (row.state !== "asked")
        throw new Failure("conflict", "This change request has been decided or withdrawn already.");
      if (row.askedBy === me.id)
        throw new Failure("notAllowed", "You put this change request forward yourself; another approver decides it.");
      await assertNotClosed(manager, project);
      Object.assign(row, {
        decidedBy: me.id,
        decidedAt: at,
        word,
        state: decision === "sendBack" ? "sentBack" : "approved",
        whole: decision === "approveWhole",
      });
      if (decision === "sendBack") return manager.getRepository(WhatIfEntity).save(row);
      if (seen !== undefined && (seen.live !== project.revision || seen.version !== row.version))
        throw new Failure(
          "conflict",
          "The plan was changed since you looked at this request; look at what it comes to now, and decide then.",
        );
      const called = `Change request ${row.request}: ${row.name}`;
      const alone = row.whole ? null : await aloneOnBaseline(manager, await writing.plan(project), row);
      if (alone !== null && "fault" in alone)
        throw new Failure("conflict", `It cannot be approved by itself. ${alone.fault}`);
      await applyWhatIf(writing, project, row, called);
      const words = `${row.whole ? `Re-baselined with change request ${row.request}: ${row.name}` : called}. ${row.reason} — ${word}`;
      row.baseline = await freezeProject(
        writing,
        project,
        words,
        dayOf(me, at),
        at,
        alone === null ? undefined : fromBundle(alone.plan),
      );
      const draw = row.draw === null ? null : (JSON.parse(row.draw) as NonNullable<WhatIf["draw"]>);
      if (draw !== null)
        await enterReserve(
          manager,
          me,
          project.id,
          { kind: draw.kind, amountMinor: -draw.amountMinor, reason: called, request: row.request! },
          at,
        );
      return manager.getRepository(WhatIfEntity).save(row);
    },
    async () => (decision === "sendBack" ? [] : whatIfChanges(database, await findWhatIf(database, id))),
  );
}

export function whatIfRoutes(serving: Serving): void {
  serve(serving, "GET /api/requests", async ({ database, me }) =>
    present(
      database,
      me,
      await database.getRepository(WhatIfEntity).find({ where: { state: "asked" }, order: { askedAt: "ASC" } }),
    ),
  );

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

  serve(serving, "GET /api/whatifs/:whatif/alone", async ({ database, params }) => {
    const row = await findWhatIf(database, params["whatif"]!);
    const live = await loadPlan(database.manager, await findProject(database, row.projectId));
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
      (await present(database, me, [await putForward(database, me, params["whatif"]!, body.reason, body.draw)]))[0]!,
  );

  serve(serving, "POST /api/whatifs/:whatif/decision", async ({ database, me, params, body }) => {
    const row = await decide(database, me, params["whatif"]!, body);
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
