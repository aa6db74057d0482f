import { mkdirSync, mkdtempSync } from "node:fs";
import { readFile, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { randomUUID } from "node:crypto";
import type { Request, Response } from "express";
import multer from "multer";
import { Failure } from "../shared/failure.ts";
import { sentName } from "../shared/fitTexts.ts";

const MEGABYTE = 1024 * 1024;
const FILE_MEGABYTES = 60;
const CALL_MEGABYTES = 120;
/** Calls that may send files at once; a server has one disk. */
const AT_ONCE = 4;

/** A file that came with a call, on disk until it was read. */
export interface Received {
  readonly name: string;
  readonly path: string;
}

const storage = multer.diskStorage({
  destination: (request, _file, done) => done(null, (request as Request & { folder: string }).folder),
  filename: (_request, _file, done) => done(null, randomUUID()),
});
const upload = multer({ storage, limits: { fileSize: FILE_MEGABYTES * MEGABYTE, files: 20, fields: 10 } }).array(
  "file",
);

let root: string | undefined;
let receiving = 0;

/** Where this process keeps the files of calls; a folder a call. */
export const filesRoot = (): string => (root ??= mkdtempSync(join(tmpdir(), "chronometra-files-")));

const tooLarge = (): Failure =>
  new Failure(
    "tooLarge",
    `Files of at most ${FILE_MEGABYTES} MB, and ${CALL_MEGABYTES} MB in all, can be brought, which is more than any plan needs; nothing was stored.`,
  );

/**
 * The files of a call, streamed to disk and read from there; read only once the caller has been admitted.
 * @throws {Failure} where they are too large, or too many are being sent just now
 */
export async function receiveFiles(request: Request, response: Response): Promise<Received[]> {
  if (Number(request.get("content-length") ?? 0) > CALL_MEGABYTES * MEGABYTE) throw tooLarge();
  if (receiving >= AT_ONCE) throw new Failure("busy", "Several files are being sent just now; try again in a moment.");
  receiving++;
  const folder = join(filesRoot(), randomUUID());
  mkdirSync(folder);
  Object.assign(request, { folder });
  try {
    await new Promise<void>((resolve, reject) =>
      upload(request, response, (error: unknown) => (error ? reject(error as Error) : resolve())),
    );
    return ((request.files ?? []) as Express.Multer.File[]).map(({ originalname, path }) => ({
      name: sentName(originalname),
      path,
    }));
  } catch (error) {
    await rm(folder, { recursive: true, force: true });
    throw (error as { code?: string }).code === "LIMIT_FILE_SIZE" ? tooLarge() : error;
  } finally {
    receiving--;
  }
}

/** Files as they were brought, into memory; where they are read. */
export const loadFiles = (files: readonly Received[]): Promise<{ name: string; data: Uint8Array }[]> =>
  Promise.all(files.map(async ({ name, path }) => ({ name, data: new Uint8Array(await readFile(path)) })));

/** Takes files that were read away. */
export async function dropFiles(files: readonly Received[]): Promise<void> {
  for (const folder of new Set(files.map(({ path }) => dirname(path))))
    await rm(folder, { recursive: true, force: true });
}
