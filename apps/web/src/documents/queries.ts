import type { DocumentPlace, ProjectDocument } from "@chronometra/contract";
import { queryOptions, useQueryClient } from "@tanstack/react-query";
import { undoToast } from "../shared/dialogs/undoToast.ts";
import { addressOf, call } from "../shared/session/api.ts";

/** What documents are of. */
export interface Place {
  readonly about: DocumentPlace;
  readonly aboutId: string;
}

export const PROJECT: Place = { about: "project", aboutId: "" };

/** What someone may see of a project's documents. */
export const documentsQuery = (project: string) =>
  queryOptions({
    queryKey: ["documents", project],
    queryFn: () => call("GET /api/projects/:project/documents", { params: { project } }),
  });

export const isAt = (document: Pick<ProjectDocument, "about" | "aboutId">, { about, aboutId }: Place): boolean =>
  document.about === about && document.aboutId === aboutId;

/** Where a version of a file is fetched: to be saved to disk, or to be shown in place. */
export const fileAddress = (project: string, document: string, version: number, way: "save" | "show"): string =>
  addressOf("GET /api/projects/:project/documents/:document/:version", {
    project,
    document,
    version: String(version),
  }) + (way === "show" ? "?show" : "");

/** Puts documents to a project; what cannot be is thrown, in the server's words. */
export function useDocuments(project: string) {
  const client = useQueryClient();
  const again = (): Promise<void> => client.invalidateQueries({ queryKey: documentsQuery(project).queryKey });
  const change = async (document: string, body: { name?: string; removed?: boolean }): Promise<void> => {
    await call("PUT /api/projects/:project/documents/:document", { params: { project, document }, body });
    await again();
  };
  return {
    addLink: async (place: Place, name: string, link: string): Promise<void> => {
      await call("POST /api/projects/:project/documents", { params: { project }, body: { ...place, name, link } });
      await again();
    },
    addFile: async (to: Place | { document: string }, file: File, signal: AbortSignal): Promise<void> => {
      const query: Record<string, string> = "document" in to ? { document: to.document } : { ...to };
      await call("POST /api/projects/:project/files", { params: { project }, query, files: [file], signal });
      await again();
    },
    rename: async ({ id, name: was }: ProjectDocument, name: string): Promise<void> => {
      await change(id, { name });
      undoToast(client, { revisions: [], words: `It is called “${name}” now.`, also: () => change(id, { name: was }) });
    },
    remove: async ({ id, name }: ProjectDocument): Promise<void> => {
      await change(id, { removed: true });
      undoToast(client, {
        revisions: [],
        words: `“${name}” is taken away.`,
        also: () => change(id, { removed: false }),
      });
    },
  };
}
export type Documents = ReturnType<typeof useDocuments>;
