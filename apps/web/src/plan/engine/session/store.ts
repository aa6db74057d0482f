import type { ChangeResult, ChangesSince } from "@chronometra/contract";
import type { Change } from "@chronometra/core";
import { call } from "../../../shared/session/api.ts";

/** Where a session's changes are stored: the live plan, or a what-if beside it. */
export interface Store {
  change(revision: number, changes: readonly Change[], list: string): Promise<ChangeResult>;
  undo(revision: number, list: string): Promise<ChangeResult>;
  /** What others stored since a revision. */
  since(revision: number): Promise<ChangesSince>;
}

/** The live plan of a project. */
export const livePlan = (project: string): Store => ({
  change: (revision, changes, list) =>
    call("POST /api/projects/:project/changes", {
      params: { project },
      body: { revision, changes: [...changes], list },
    }),
  undo: (revision, list) => call("POST /api/projects/:project/undo", { params: { project }, body: { revision, list } }),
  since: (revision) =>
    call("GET /api/projects/:project/changes/:since", { params: { project, since: String(revision) } }),
});
