import type { Response } from "express";
import { PROGRESS_TYPE } from "@chronometra/contract";
import { answerTo } from "./http.ts";

export { PROGRESS_TYPE };

/**
 * Answers a call that takes a while, line by line: `{"share": 0.4}` as it goes on, and at the end `{"result": ...}` or
 * `{"failure": ...}`, since what has begun as a success can no longer be told by its status.
 */
export async function withProgress<T>(
  response: Response,
  work: (onShare: (share: number) => void) => Promise<T>,
): Promise<T> {
  // Compression would hold the lines back until there are enough of them.
  response.writeHead(200, {
    "Content-Type": PROGRESS_TYPE,
    "Cache-Control": "no-cache, no-transform",
    "X-Accel-Buffering": "no",
  });
  const say = (line: object): void => void response.write(`${JSON.stringify(line)}\n`);
  try {
    const result = await work((share) => say({ share }));
    say({ result });
    return result;
  } catch (error) {
    const { failure, body } = answerTo(error, response);
    say({ failure: { status: failure.status, body } });
    return undefined as T;
  } finally {
    response.end();
  }
}
