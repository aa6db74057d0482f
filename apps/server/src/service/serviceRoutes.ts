import { serve, type Serving } from "../access/serve.ts";
import { Failure } from "../shared/failure.ts";
import type { Metrics } from "./metrics.ts";

/** A database that does not answer within this time answers nobody who waits for a page. */
const READY_MILLISECONDS = 2_000;

/** Whether the server runs, whether calls may be sent to it, and how it fares. */
export function serviceRoutes(serving: Serving, metrics: Metrics, isStopping: () => boolean): void {
  serve(serving, "GET /api/health", () => ({ ok: true as const }));

  serve(serving, "GET /api/ready", async ({ database }) => {
    if (isStopping()) throw new Failure("unavailable", "This server is being stopped; send calls to another.");
    let timer: NodeJS.Timeout | undefined;
    const late = new Promise<never>((_, reject) => {
      timer = setTimeout(() => reject(new Failure("unavailable")), READY_MILLISECONDS);
    });
    try {
      await Promise.race([database.query("select 1"), late]);
    } finally {
      clearTimeout(timer);
    }
    return { ok: true as const };
  });

  serve(serving, "GET /api/feeds/metrics", async ({ response }) => {
    const text = await metrics.text();
    response.type("text/plain; version=0.0.4; charset=utf-8").end(text);
    return "";
  });
}
