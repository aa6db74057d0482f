import type { Request, Response } from "express";
import multer from "multer";
import { Failure } from "../shared/failure.ts";
import type { Upload } from "./readFiles.ts";

const UPLOAD_MEGABYTES = 60;
const upload = multer({ storage: multer.memoryStorage(), limits: { fileSize: UPLOAD_MEGABYTES * 1024 * 1024, files: 20, fields: 10 } }).array("file");

/** The files of a call; read only once the caller has been admitted. */
export function receiveFiles(request: Request, response: Response): Promise<Upload[]> {
  return new Promise((resolve, reject) => {
    upload(request, response, (error: unknown) => {
      if ((error as { code?: string } | undefined)?.code === "LIMIT_FILE_SIZE") reject(new Failure("tooLarge", `The file is larger than ${UPLOAD_MEGABYTES} MB, more than any plan needs; nothing was stored.`));
      else if (error) reject(error as Error);
      else resolve(((request.files ?? []) as Express.Multer.File[]).map((file) => ({ name: Buffer.from(file.originalname, "latin1").toString("utf8"), data: new Uint8Array(file.buffer) })));
    });
  });
}
