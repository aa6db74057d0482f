import { LINE_KINDS, type FeedLine, type LineKind, type TakenIn } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { receiveFiles } from "../../exchange/receiveFiles.ts";
import { projectsSeen } from "../../project/reach.ts";
import { Failure } from "../../shared/failure.ts";
import { serve, type Serving } from "../../access/serve.ts";
import { acceptCorrections } from "./corrections.ts";
import { bringFile, takeFile } from "./files.ts";
import { effectOfLines } from "./effectOfLines.ts";
import { enterCost, matchByHand, openLines, setAside, targets } from "./lines.ts";
import { postLines } from "./postLines.ts";
import { clockLines, ledgerLines } from "./simulated.ts";
import { faultsOf, takeIn } from "./takeIn.ts";

const DONE = { ok: true as const };

function assertMeasured(
  kind: LineKind,
  lines: readonly { amount?: number | undefined; minutes?: number | undefined; reference: string }[],
): void {
  const bare = lines.find(({ amount, minutes }) =>
    kind === "cost" ? amount === undefined : minutes === undefined || minutes === 0,
  );
  if (bare !== undefined)
    throw new Failure(
      "invalid",
      `The line ${bare.reference} has no ${kind === "cost" ? "amount" : "minutes"}; nothing was taken in.`,
    );
}

async function simulated(
  database: DataSource,
  kind: LineKind,
  name: string,
  lines: readonly FeedLine[],
): Promise<TakenIn> {
  const { lines: _each, ...taken } = await takeIn(database, kind, { source: name, system: name }, lines);
  return taken;
}

export function outsideRoutes(serving: Serving): void {
  serve(serving, "GET /api/outside/lines", ({ database, me }) => openLines(database, me));
  serve(serving, "GET /api/outside/targets", ({ database, me }) => targets(database, me));

  serve(serving, "POST /api/outside/files/:kind", async ({ database, me, params, request, response }) => {
    const kind = LINE_KINDS.find((each) => each === params["kind"]);
    if (kind === undefined) throw new Failure("notFound", "A file holds cost or time.");
    const [file] = await receiveFiles(request, response);
    return bringFile(database, me, kind, file);
  });

  serve(serving, "POST /api/outside/files/:file/take", ({ database, me, params, body }) =>
    takeFile(database, me, params["file"]!, body.columns, body.dateOrder, body.numberStyle),
  );

  serve(serving, "PUT /api/outside/lines/:line", async ({ database, me, params, body }) => {
    await matchByHand(database, me, params["line"]!, body);
    return DONE;
  });

  serve(serving, "POST /api/outside/effect", ({ database, me, body }) => effectOfLines(database, me, body.ids));

  serve(serving, "POST /api/outside/post", ({ database, me, body }) => postLines(database, me, body.ids));

  serve(serving, "POST /api/outside/corrections", ({ database, me, body }) =>
    acceptCorrections(database, me, body.ids),
  );

  serve(serving, "POST /api/outside/aside", async ({ database, me, body }) => {
    await setAside(database, me, body.ids, body.why);
    return DONE;
  });

  serve(serving, "POST /api/outside/costs", async ({ database, me, body }) => {
    await enterCost(database, me, body);
    return DONE;
  });

  serve(serving, "POST /api/outside/simulated", async ({ database, body }) =>
    body.which === "clock"
      ? simulated(database, "time", "simulated time clock", await clockLines(database))
      : simulated(database, "cost", "simulated ledger", await ledgerLines(database)),
  );

  const feed = (key: "POST /api/feeds/time" | "POST /api/feeds/costs", kind: LineKind): void =>
    serve(serving, key, async ({ database, body, system }) => {
      assertMeasured(kind, body.lines);
      const faults = faultsOf(kind, body.lines);
      const at = faults.findIndex((fault) => fault !== null);
      if (at >= 0)
        throw new Failure(
          "invalid",
          `The line ${body.lines[at]!.reference} cannot be: ${faults[at]}. Nothing was taken in.`,
        );
      const within = await projectsSeen(database, system.reader);
      return takeIn(database, kind, { source: system.name, system: system.name, within }, body.lines);
    });
  feed("POST /api/feeds/time", "time");
  feed("POST /api/feeds/costs", "cost");
}
