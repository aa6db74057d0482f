import type { PlanBundle } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { findProject } from "../project/projectAccess.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { Failure } from "../shared/failure.ts";
import { inWriter } from "../shared/workers.ts";
import { serve, type Serving } from "../access/serve.ts";
import { rememberExport } from "./exportedPlans.ts";
import { fileChangesEffect, takeFileChanges, viewFileChanges } from "./fileChanges.ts";
import { answerImport, beginImport, dropImport, storeImport, viewImport } from "./importService.ts";
import { receiveFiles } from "./receiveFiles.ts";
import { answersAs, dropUnderstanding, keepUnderstanding, keptUnderstandings } from "./understandings.ts";
import type { Written } from "./writeWorker.ts";

/** Gives a plan with what is kept beside it, as it goes out. */
export type WholeBundle = (database: DataSource, project: ProjectEntity) => Promise<PlanBundle>;

interface Form {
  readonly type: string;
  readonly ending: string;
  /** Whether a file says the revision it was made from, and so is compared with that when it comes back. */
  readonly saysRevision: boolean;
}

const FORMS: Readonly<Record<Written, Form>> = {
  json: { type: "application/json", ending: "json", saysRevision: false },
  xlsx: {
    type: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    ending: "xlsx",
    saysRevision: true,
  },
  csv: { type: "application/zip", ending: "zip", saysRevision: true },
};

const isForm = (form: string): form is Written => Object.hasOwn(FORMS, form);

export function exchangeRoutes(serving: Serving, wholeBundle: WholeBundle): void {
  serve(serving, "GET /api/projects/:project/export/:form", async ({ database, params, response }) => {
    const asked = params["form"]!;
    if (!isForm(asked)) throw new Failure("notFound", "A project is exported as json, xlsx or csv.");
    const form = FORMS[asked];
    const project = await findProject(database, params["project"]!);
    const name = `${project.code.replace(/[^\w.-]+/g, "-")}.${form.ending}`;
    const bundle = await wholeBundle(database, project);
    const { revision } = project;
    const content = await inWriter("exchange/writeWorker", { form: asked, bundle, revision });
    if (form.saysRevision) await rememberExport(database, project, bundle);
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
    project: await storeImport(database, me, params["import"]!, body.programme ?? null, body.manager),
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
