import { findProject } from "../project/projectAccess.ts";
import { serve, type Serving } from "../access/serve.ts";
import { PROGRESS_TYPE, withProgress } from "../shared/progress.ts";
import { chancesOfProject } from "./chancesOf.ts";

export function chancesRoutes(serving: Serving): void {
  serve(serving, "POST /api/projects/:project/chances", async ({ database, params, body, request, response }) => {
    const project = await findProject(database, params["project"]!);
    const abort = new AbortController();
    if (request.get("accept") !== PROGRESS_TYPE)
      return chancesOfProject(database, project, body, () => undefined, abort.signal);
    // Whoever leaves the page does not wait for it any more.
    response.on("close", () => abort.abort());
    return withProgress(response, (onShare) => chancesOfProject(database, project, body, onShare, abort.signal));
  });
}
