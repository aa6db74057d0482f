import { DOCUMENT_PLACES, type DocumentPlace } from "@chronometra/contract";
import type { Request } from "express";
import { serve, type Serving } from "../access/serve.ts";
import { Failure } from "../shared/failure.ts";
import { addFile, addLink, assertMayAdd, changeDocument, findVersion, listDocuments, type Place } from "./documents.ts";
import { dropContent, receiveFile } from "./fileParts.ts";
import { sendFile } from "./sendFile.ts";

const said = (request: Request, name: string): string => {
  const value = request.query[name];
  return typeof value === "string" ? value : "";
};

/** What a file that comes is to be of, as its address says. */
function placeIn(request: Request): Place | { document: string } {
  const document = said(request, "document");
  if (document !== "") return { document };
  const about = said(request, "about");
  if (!(DOCUMENT_PLACES as readonly string[]).includes(about))
    throw new Failure("invalid", `Say what it is about: ${DOCUMENT_PLACES.join(", ")}.`);
  return { about: about as DocumentPlace, aboutId: said(request, "aboutId") };
}

/** Routes of files and links. */
export function documentRoutes(serving: Serving): void {
  serve(serving, "GET /api/projects/:project/documents", ({ database, me, params }) =>
    listDocuments(database, me, params["project"]!),
  );
  serve(serving, "POST /api/projects/:project/documents", ({ database, me, params, body }) =>
    addLink(database, me, params["project"]!, body),
  );
  serve(serving, "POST /api/projects/:project/files", async ({ database, me, params, request, response }) => {
    const to = placeIn(request);
    await assertMayAdd(database, me, params["project"]!);
    const content = await receiveFile(database, request, response);
    try {
      return await addFile(database, me, params["project"]!, to, content);
    } catch (error) {
      await dropContent(database, content.id);
      throw error;
    }
  });
  serve(serving, "PUT /api/projects/:project/documents/:document", async ({ database, me, params, body }) => {
    await changeDocument(database, me, params["project"]!, params["document"]!, body);
    return { ok: true as const };
  });
  serve(
    serving,
    "GET /api/projects/:project/documents/:document/:version",
    async ({ database, me, params, request, response }) => {
      const number = Number(params["version"]);
      if (!Number.isSafeInteger(number)) throw new Failure("notFound");
      const version = await findVersion(database, me, params["project"]!, params["document"]!, number);
      await sendFile(database, version, request, response);
      return "";
    },
  );
}
