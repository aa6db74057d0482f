import { createHash, randomUUID } from "node:crypto";
import type { Readable } from "node:stream";
import { LARGEST_FILE } from "@chronometra/contract";
import type { Request, Response } from "express";
import multer, { type StorageEngine } from "multer";
import type { DataSource } from "typeorm";
import { Failure } from "../shared/failure.ts";
import { sentName } from "../shared/fitTexts.ts";
import { DocumentPartEntity } from "./documentEntities.ts";
import { kindOf } from "./fileKind.ts";

const PART = 512 * 1024;
/** Calls that may send files at once. */
const AT_ONCE = 8;
/** After how long bytes that no version is of are taken away. */
const FORSAKEN_MILLISECONDS = 6 * 3_600_000;

/** A file that came, its bytes in parts in the database, not yet a version of anything. */
export interface Content {
  readonly id: string;
  readonly name: string;
  readonly type: string;
  readonly size: number;
  readonly digest: string;
}

/** The bytes of a stream in parts of one size; the last is what is left. */
async function* partsOf(stream: Readable): AsyncGenerator<Buffer> {
  let part = Buffer.alloc(PART);
  let filled = 0;
  for await (const chunk of stream as AsyncIterable<Buffer>)
    for (let at = 0; at < chunk.length;) {
      const taken = chunk.copy(part, filled, at);
      [at, filled] = [at + taken, filled + taken];
      if (filled < PART) continue;
      yield part;
      [part, filled] = [Buffer.alloc(PART), 0];
    }
  if (filled > 0) yield part.subarray(0, filled);
}

/** Takes bytes away that are to be no version of anything. */
export const dropContent = (database: DataSource, contentId: string): Promise<unknown> =>
  database.getRepository(DocumentPartEntity).delete({ contentId });

/** Stores what streams in, part by part, each by itself: no transaction waits for somebody's line. */
export async function storeContent(database: DataSource, name: string, stream: Readable): Promise<Content> {
  const id = randomUUID();
  const hash = createHash("sha256");
  const parts = database.getRepository(DocumentPartEntity);
  let [size, part] = [0, 0];
  let type: string | null = null;
  try {
    for await (const bytes of partsOf(stream)) {
      type ??= await kindOf(name, bytes);
      hash.update(bytes);
      size += bytes.length;
      await parts.insert({ contentId: id, part: part++, at: new Date(), bytes });
    }
  } catch (error) {
    stream.resume();
    await dropContent(database, id);
    throw error;
  }
  return { id, name, type: type ?? "text/plain", size, digest: hash.digest("hex") };
}

const engine = (database: DataSource): StorageEngine => ({
  _handleFile: (_request, { originalname, stream }, done) => {
    storeContent(database, sentName(originalname), stream).then(
      (content) => done(null, { content } as object),
      (error: unknown) => done(error),
    );
  },
  _removeFile: (_request, file, done) => {
    const { content } = file as unknown as { content?: Content };
    if (content === undefined) done(null);
    else dropContent(database, content.id).then(() => done(null), done);
  },
});

const tooLarge = (): Failure =>
  new Failure(
    "tooLarge",
    `A file has at most ${LARGEST_FILE / 1024 / 1024} MB; nothing was stored. Give a link to a larger one instead.`,
  );

let receiving = 0;

/**
 * The file of a call, streamed into the database.
 * @throws {Failure} where it is too large, a program, something else than it is called, or none
 */
export async function receiveFile(database: DataSource, request: Request, response: Response): Promise<Content> {
  // What surrounds the file in such a call is small.
  if (Number(request.get("content-length") ?? 0) > LARGEST_FILE + 64 * 1024) throw tooLarge();
  if (receiving >= AT_ONCE) throw new Failure("busy", "Several files are being sent just now; try again in a moment.");
  receiving++;
  try {
    const limits = { fileSize: LARGEST_FILE, files: 1, fields: 0 };
    const receive = multer({ storage: engine(database), limits }).single("file");
    await new Promise<void>((resolve, reject) =>
      receive(request, response, (error: unknown) => (error ? reject(error as Error) : resolve())),
    );
  } catch (error) {
    throw (error as { code?: string }).code === "LIMIT_FILE_SIZE" ? tooLarge() : error;
  } finally {
    receiving--;
  }
  const content = (request.file as unknown as { content?: Content } | undefined)?.content;
  if (content === undefined) throw new Failure("invalid", "No file came; send one as `file`.");
  if (content.size === 0) {
    await dropContent(database, content.id);
    throw new Failure("invalid", `“${content.name}” is empty; nothing was stored.`);
  }
  return content;
}

/** The bytes of a file again, a part at a time. */
export async function* bytesOf(database: DataSource, contentId: string): AsyncGenerator<Buffer> {
  const parts = database.getRepository(DocumentPartEntity);
  for (let part = 0; ; part++) {
    const row = await parts.findOneBy({ contentId, part });
    if (row === null) return;
    yield row.bytes;
  }
}

/** Takes bytes away that came and became no version of anything, as when a server was stopped meanwhile. */
export async function sweepParts(database: DataSource): Promise<void> {
  await database.query(
    "delete from document_part where at < ? and content_id not in (select content_id from document_version)",
    [new Date(Date.now() - FORSAKEN_MILLISECONDS)],
  );
}
