import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { PREVIEWS } from "@chronometra/contract";
import type { Request, Response } from "express";
import type { DataSource } from "typeorm";
import type { DocumentVersionEntity } from "./documentEntities.ts";
import { bytesOf } from "./fileParts.ts";

/**
 * Sends a file. What a browser shows without running anything is shown where that is asked for; all else is saved to
 * disk, whatever it is called.
 */
export async function sendFile(
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
