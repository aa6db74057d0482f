import type { Me, WatchQuestion } from "@chronometra/contract";
import type { Request } from "express";
import type { DataSource } from "typeorm";
import { serve, type Serving } from "../access/serve.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { inWriter } from "../shared/workers.ts";
import { ask } from "../watch/asked/ask.ts";
import { EXPORTED_AT_MOST } from "../watch/exportForms.ts";
import { watchlistsFor } from "../watch/watchlists.ts";
import { issuedFigures, projectsFor, type FigureQuestion } from "./figureRows.ts";
import { figuresCsv } from "./figureTable.ts";

const PAGE = 500;
const PAGE_AT_MOST = 5000;
const LAST_PERIOD = 2 ** 31 - 1;

/** A whole number of the query; `otherwise` where it is not said. Throws a Failure for anything else. */
function numberIn(query: Request["query"], name: string, otherwise: number, most: number): number {
  const said = query[name];
  if (said === undefined || said === "") return otherwise;
  if (typeof said !== "string" || !/^\d{1,10}$/.test(said) || Number(said) < 1 || Number(said) > most)
    throw new Failure("invalid", `${name}: write a whole number from 1 to ${most}.`);
  return Number(said);
}

function placeAfter(said: unknown): FigureQuestion["after"] {
  if (said === undefined || said === "") return null;
  const [, number, project] = /^(\d{1,10})-([\w-]{1,64})$/.exec(String(said)) ?? [];
  if (number === undefined || project === undefined)
    throw new Failure("invalid", "after: take it as it stands in the answer before.");
  return [Number(number), project];
}

const questionOf = ({ query }: Request): FigureQuestion => ({
  project: typeof query["project"] === "string" && query["project"] !== "" ? query["project"] : null,
  from: numberIn(query, "from", 1, LAST_PERIOD),
  to: numberIn(query, "to", LAST_PERIOD, LAST_PERIOD),
  limit: numberIn(query, "limit", PAGE, PAGE_AT_MOST),
  after: placeAfter(query["after"]),
});

/** A page of figures, and the address of what comes after it: the same with where this one ended. */
async function pageOf(database: DataSource, me: Me, request: Request) {
  const { rows, isMore } = await issuedFigures(database, me, questionOf(request));
  const last = rows.at(-1);
  if (last === undefined || !isMore) return { rows, next: null };
  const address = new URL(request.originalUrl, "http://localhost");
  address.searchParams.set("after", `${last.period}-${last.project.id}`);
  return { rows, next: `${address.pathname}${address.search}` };
}

/**
 * What a watchlist finds, all of it.
 * @throws {Failure} where it is not among those for a reader, and where it finds more than a file may hold
 */
async function found(database: DataSource, me: Me, id: string) {
  const lists = await watchlistsFor(database, me);
  const { name, question: kept } = orNotFound(
    lists.find((each) => each.id === id),
    "watchlist that is shared with readers, of that id",
  );
  const question: WatchQuestion = { ...kept, pivot: null };
  const answer = await ask(database, me, question, EXPORTED_AT_MOST);
  if (answer.count > EXPORTED_AT_MOST)
    throw new Failure(
      "invalid",
      `The watchlist finds ${answer.count} rows; ${EXPORTED_AT_MOST} are told at most. Narrow it by a condition.`,
    );
  return { name, question, answer };
}

/** What other systems read: projects, figures by period, watchlists. */
export function feedRoutes(serving: Serving): void {
  serve(serving, "GET /api/feeds/projects", ({ database, system }) => projectsFor(database, system.reader));

  serve(serving, "GET /api/feeds/figures", ({ database, system, request }) => pageOf(database, system.reader, request));

  serve(serving, "GET /api/feeds/figures/csv", async ({ database, system, request, response }) => {
    const { rows, next } = await pageOf(database, system.reader, request);
    if (next !== null) response.set("Link", `<${next}>; rel="next"`);
    response.attachment("figures.csv").type("text/csv").send(figuresCsv(rows));
    return "";
  });

  serve(serving, "GET /api/feeds/watchlists", async ({ database, system }) =>
    (await watchlistsFor(database, system.reader)).map(({ id, name }) => ({ id, name })),
  );

  serve(serving, "GET /api/feeds/watchlists/:watchlist", async ({ database, system, params }) => {
    const { answer } = await found(database, system.reader, params["watchlist"]!);
    return answer;
  });

  serve(serving, "GET /api/feeds/watchlists/:watchlist/csv", async ({ database, system, params, response }) => {
    const { name, question, answer } = await found(database, system.reader, params["watchlist"]!);
    const made = { origin: "", at: new Date().toISOString() };
    const content = await inWriter("watch/exportWorker", { form: "csv" as const, question, answer, made });
    response
      .attachment(`${name}.csv`)
      .type("text/csv")
      .send(Buffer.from(content as Uint8Array));
    return "";
  });
}
