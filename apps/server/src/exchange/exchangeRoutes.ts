import type { ProjectRecord } from "@chronometra/contract";
import { toPlanFile, type PlanBundle } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { loadPlan } from "../plan/stored/planStore.ts";
import { findProject } from "../project/projectAccess.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { asOfOneMoment } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";
import { inWriter } from "../shared/workers.ts";
import { serve, type Serving } from "../access/serve.ts";
import { rememberExport } from "./exportedPlans.ts";
import { fileChangesEffect, takeFileChanges, viewFileChanges } from "./fileChanges.ts";
import { answerImport, beginImport, dropImport, storeImport, viewImport, type ArriveRecord } from "./importService.ts";
import { receiveFiles } from "./receiveFiles.ts";
import { answersAs, dropUnderstanding, keepUnderstanding, keptUnderstandings } from "./understandings.ts";
import type { Written } from "./writeWorker.ts";

/** What rooms that use this one know of a project. */
export interface Beside {
  /** A plan with the time that waits beside it, as version 1 of the open format has it. */
  readonly bundleOf: (database: DataSource, project: ProjectEntity) => Promise<PlanBundle>;
  /** What a project keeps besides its plan, and the way in of it. */
  readonly recordOf: (manager: EntityManager, project: ProjectEntity) => Promise<ProjectRecord>;
  readonly arrive: ArriveRecord;
}

/** A project with all that it holds, as of one moment, as version 2 of the open format has it. */
const fileOf = (database: DataSource, projectId: string, { recordOf }: Beside) =>
  asOfOneMoment(database, async (manager) => {
    const project = await findProject(manager, projectId);
    const plan = await loadPlan(manager, project);
    return { ...toPlanFile(plan), record: await recordOf(manager, project) };
  });

interface Form {
  readonly type: string;
  readonly ending: string;
  /** Its plan, or all that it holds. */
  readonly holds: "plan" | "all";
  /** Whether a file says the revision it was made from, and so is compared with that when it comes back. */
  readonly saysRevision: boolean;
}

const FORMS: Readonly<Record<Written, Form>> = {
  json: { type: "application/json", ending: "json", holds: "all", saysRevision: false },
  json1: { type: "application/json", ending: "json", holds: "plan", saysRevision: false },
  xlsx: {
    type: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    ending: "xlsx",
    holds: "plan",
    saysRevision: true,
  },
  csv: { type: "application/zip", ending: "zip", holds: "plan", saysRevision: true },
};

const isForm = (form: string): form is Written => Object.hasOwn(FORMS, form);

export function exchangeRoutes(serving: Serving, beside: Beside): void {
  serve(serving, "GET /api/projects/:project/export/:form", async ({ database, params, response }) => {
    const asked = params["form"]!;
    if (!isForm(asked)) throw new Failure("notFound", "A project is exported as json, json1, xlsx or csv.");
    const form = FORMS[asked];
    const project = await findProject(database, params["project"]!);
    const name = `${project.code.replace(/[^\w.-]+/g, "-")}.${form.ending}`;
    const bundle = await (form.holds === "all"
      ? fileOf(database, project.id, beside)
      : beside.bundleOf(database, project));
    const { revision } = project;
    const content = await inWriter("exchange/writeWorker", { form: asked, bundle, revision });
    if (form.saysRevision && bundle.version === 1) await rememberExport(database, project, bundle);
    response.type(form.type).setHeader("Content-Disposition", `attachment; filename="${name}"`).end(content);
    return "";
  });

  serve(serving, "POST /api/imports", async ({ database, me, request, response }) => {
    return beginImport(database, me, await receiveFiles(request, response));
  });

  serve(serving, "GET /api/imports/:import", ({ database, me, params }) => viewImport(database, me, params["import"]!));
  serve(serving, "PUT /api/imports/:import", ({ database, me, params, body }) =>
    answerImport(database, me, params["import"]!, body),
  );

  serve(serving, "GET /api/understandings", ({ database }) => keptUnderstandings(database));
  serve(serving, "DELETE /api/understandings/:understanding", async ({ database, params }) => {
    await dropUnderstanding(database, params["understanding"]!);
    return { ok: true as const };
  });
  serve(serving, "POST /api/imports/:import/understanding", async ({ database, me, params, body }) =>
    keepUnderstanding(database, me, await viewImport(database, me, params["import"]!), body.name),
  );
  serve(serving, "POST /api/imports/:import/understanding/:understanding", async ({ database, me, params }) => {
    const view = await viewImport(database, me, params["import"]!);
    const answers = await answersAs(database, params["understanding"]!, view);
    return answerImport(database, me, view.id, answers);
  });

  serve(serving, "POST /api/imports/:import/store", async ({ database, me, params, body }) => ({
    project: await storeImport(
      database,
      me,
      params["import"]!,
      { programmeId: body.programme ?? null, managerId: body.manager ?? me.id },
      beside.arrive,
    ),
  }));

  serve(serving, "GET /api/imports/:import/changes", ({ database, me, params }) =>
    viewFileChanges(database, me, params["import"]!),
  );
  serve(serving, "POST /api/imports/:import/changes/effect", ({ database, me, params, body }) =>
    fileChangesEffect(database, me, params["import"]!, body),
  );
  serve(serving, "POST /api/imports/:import/changes", ({ database, me, params, body }) =>
    takeFileChanges(database, me, params["import"]!, body),
  );

  serve(serving, "DELETE /api/imports/:import", async ({ database, me, params }) => {
    await dropImport(database, me, params["import"]!);
    return { ok: true as const };
  });
}
