import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { DOCUMENT_PLACES, PREVIEWS, type DocumentPlace } from "@chronometra/contract";
import type { Request, Response } from "express";
import type { DataSource } from "typeorm";
import { serve, type Serving } from "../access/serve.ts";
import { Failure } from "../shared/failure.ts";
import type { DocumentVersionEntity } from "./documentEntities.ts";
import { addFile, addLink, assertMayAdd, changeDocument, findVersion, listDocuments, type Place } from "./documents.ts";
import { bytesOf, dropContent, receiveFile } from "./fileParts.ts";

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

/**
 * Sends a file. What a browser shows without running anything is shown where that is asked for; all else is saved to
 * disk, whatever it is called.
 */
async function send(
  database: DataSource,
  { contentId, file, type, size, digest }: DocumentVersionEntity,
  request: Request,
  response: Response,
): Promise<void> {
  const isShown = "show" in request.query && PREVIEWS[type] !== undefined;
  response
    .attachment(file)
    .set(
      "Content-Type",
      isShown ? (type === "text/plain" ? "text/plain; charset=utf-8" : type) : "application/octet-stream",
    )
    .set("content-length", String(size))
    .set("Cache-Control", "private, no-cache")
    .set("ETag", `"${digest}"`)
    // Frames of this application alone may show it, and nothing in it loads or runs; a PDF is an object of its own.
    .set(
      "Content-Security-Policy",
      "default-src 'none'; object-src 'self'; style-src 'unsafe-inline'; frame-ancestors 'self'",
    );
  if (isShown)
    response.set("Content-Disposition", response.get("Content-Disposition")!.replace(/^attachment/, "inline"));
  if (request.fresh) {
    response.removeHeader("content-length");
    response.status(304).end();
    return;
  }
  try {
    await pipeline(Readable.from(bytesOf(database, contentId)), response);
  } catch (error) {
    // Whoever leaves before the end has not failed.
    if ((error as { code?: string }).code !== "ERR_STREAM_PREMATURE_CLOSE") throw error;
  }
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
      await send(database, version, request, response);
      return "";
    },
  );
}
