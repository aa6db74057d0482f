import type { EndpointKey, IssuedLine, IssuedReport, Me, ReportContent, ReportDraft } from "@chronometra/contract";
import { ASPECTS, dateWords, type Aspect } from "@chronometra/core";
import type { Response } from "express";
import type { DataSource } from "typeorm";
import { serve, type Call, type Serving } from "../access/serve.ts";
import type { ReportingPeriodEntity } from "../cycle/cycleEntities.ts";
import { issuePeriod, isIssued, openPeriod } from "../cycle/cycleService.ts";
import { isClosed } from "../project/projectAccess.ts";
import { Failure } from "../shared/failure.ts";
import { PROGRESS_TYPE, withProgress } from "../shared/progress.ts";
import type { Post } from "../tell/post.ts";
import { groupReport, issueGroup, reportGroups } from "./groupReport.ts";
import { issuedLines, issuedReport } from "./issued.ts";
import { makeReport, projectReport, projectSides } from "./makeReport.ts";
import { reportFile } from "./paper/reportFile.ts";
import { recipientsOf, writeRecipients } from "./recipients.ts";
import { writeSaid } from "./said.ts";
import { assertMayWrite, subjectSeen, layoutOf, mayWrite, writeLayout, type Subject } from "./subjects.ts";

const DONE = { ok: true as const };

async function periodOrThrow(database: DataSource): Promise<ReportingPeriodEntity> {
  const period = await openPeriod(database);
  if (period === null)
    throw new Failure("invalid", "No reporting period is open; a controller opens one in the cycle.");
  return period;
}

/** Ends what is done for a call when its caller has left. */
function untilLeft(response: Response): AbortSignal {
  const abort = new AbortController();
  response.on("close", () => {
    if (!response.writableFinished) abort.abort();
  });
  return abort.signal;
}

/** The report of the open period as it would be issued now. */
const reportNow = async (
  { database, me }: Pick<Call<EndpointKey>, "database" | "me">,
  subject: Subject,
  period: ReportingPeriodEntity,
  signal: AbortSignal,
): Promise<ReportContent> =>
  subject.of === "group"
    ? (await groupReport(database, subject, period)).content
    : (await projectReport(database, me, subject.project, period, signal)).content;

/** Why something cannot be issued now, in words; `null` where it can. */
async function hindranceOf(
  database: DataSource,
  subject: Subject,
  period: ReportingPeriodEntity | null,
): Promise<string | null> {
  if (period === null) return "No reporting period is open.";
  if (subject.of === "group") return null;
  const { project } = subject;
  if (await isClosed(database, project)) return "The project is closed; what was issued stays.";
  const { dataDate } = project.head;
  if (dataDate === period.dataDate) return null;
  const is = dataDate === undefined ? "not set" : dateWords(dataDate);
  return `The project's data date is ${is}; move it to ${dateWords(period.dataDate)}, the period's, before issuing.`;
}

async function sidesNow(
  database: DataSource,
  me: Me,
  subject: Subject,
  period: ReportingPeriodEntity | null,
): Promise<ReportDraft["aspects"]> {
  if (period === null) return [];
  return subject.of === "group"
    ? (await groupReport(database, subject, period)).aspects
    : projectSides(database, me, subject.project, period);
}

async function draftOf(database: DataSource, me: Me, id: string): Promise<ReportDraft> {
  const subject = await subjectSeen(database, me, id);
  const period = await openPeriod(database);
  const [reports, hindrance, aspects] = await Promise.all([
    issuedLines(database, id),
    hindranceOf(database, subject, period),
    sidesNow(database, me, subject, period),
  ]);
  const may = mayWrite(me, subject);
  const issued =
    period !== null &&
    (subject.of === "project"
      ? await isIssued(database.manager, id, period.number)
      : reports.some(({ number }) => number === period.number));
  return {
    id,
    of: subject.of,
    name: subject.name,
    mayEdit: may,
    mayIssue: may && hindrance === null && (subject.of === "group" || !issued),
    period: period === null ? null : { number: period.number, dataDate: period.dataDate, issueBy: period.issueBy },
    hindrance,
    issued,
    aspects,
    reports,
  };
}

function aspectNamed(name: string): Aspect {
  const found = ASPECTS.find((each) => each === name);
  if (found === undefined) throw new Failure("notFound", `A report says something of ${ASPECTS.join(", ")}.`);
  return found;
}

/** A number in an address. */
function numberIn(text: string): number {
  if (!/^\d{1,6}$/.test(text)) throw new Failure("notFound", `"${text}" is no number of a period.`);
  return Number(text);
}

const editionIn = (text: string): number | null => (text === "newest" ? null : numberIn(text));

/** A report that is asked for by its address: as it was issued, or, `open`, as it would be. */
async function reportAsked(
  call: Pick<Call<EndpointKey>, "database" | "me" | "params">,
  signal: AbortSignal,
): Promise<Pick<IssuedReport, "content"> & { line: IssuedLine | null }> {
  const { database, me, params } = call;
  const subject = await subjectSeen(database, me, params["of"]!);
  if (params["number"] !== "open")
    return issuedReport(database, subject.id, numberIn(params["number"]!), editionIn(params["edition"]!));
  return { content: await reportNow(call, subject, await periodOrThrow(database), signal), line: null };
}

export function reportRoutes(serving: Serving, post: Post): void {
  const make = makeReport(post);

  serve(serving, "GET /api/status-reports", ({ database, me }) => reportGroups(database, me));

  serve(serving, "GET /api/status-reports/:of", ({ database, me, params }) => draftOf(database, me, params["of"]!));

  serve(serving, "GET /api/status-reports/:of/preview", async (call) => {
    const subject = await subjectSeen(call.database, call.me, call.params["of"]!);
    return reportNow(call, subject, await periodOrThrow(call.database), untilLeft(call.response));
  });

  serve(serving, "PUT /api/status-reports/:of/said/:aspect", async ({ database, me, params, body }) => {
    const subject = await subjectSeen(database, me, params["of"]!);
    assertMayWrite(me, subject);
    const { number } = await periodOrThrow(database);
    if (subject.of === "project" && (await isIssued(database.manager, subject.id, number)))
      throw new Failure("conflict", `The report of period ${number} is issued; what it says stays.`);
    const aspect = aspectNamed(params["aspect"]!);
    await writeSaid(database, me, { subjectId: subject.id, number, aspect }, body);
    return DONE;
  });

  serve(serving, "POST /api/status-reports/:of", async ({ database, me, params }) => {
    const subject = await subjectSeen(database, me, params["of"]!);
    assertMayWrite(me, subject);
    if (subject.of === "project") await issuePeriod(database, me, subject.id, make);
    else await issueGroup(database, post, me, subject);
    return DONE;
  });

  serve(serving, "GET /api/status-reports/:of/recipients", async ({ database, me, params }) =>
    recipientsOf(database, me, await subjectSeen(database, me, params["of"]!)),
  );

  serve(serving, "PUT /api/status-reports/:of/recipients", async ({ database, me, params, body }) => {
    const subject = await subjectSeen(database, me, params["of"]!);
    assertMayWrite(me, subject);
    await writeRecipients(database, subject, body);
    return DONE;
  });

  serve(serving, "GET /api/status-reports/:of/layout", async ({ database, me, params }) => {
    const { from, ...parts } = await layoutOf(database, await subjectSeen(database, me, params["of"]!));
    return { ...parts, from: from === null ? null : from.id === params["of"] ? "own" : from.name };
  });

  serve(serving, "PUT /api/status-reports/:of/layout", async ({ database, me, params, body }) => {
    const subject = await subjectSeen(database, me, params["of"]!);
    assertMayWrite(me, subject);
    await writeLayout(database, subject, body);
    return DONE;
  });

  serve(serving, "GET /api/status-reports/:of/:number/:edition", async ({ database, me, params }) => {
    const { id } = await subjectSeen(database, me, params["of"]!);
    return issuedReport(database, id, numberIn(params["number"]!), editionIn(params["edition"]!));
  });

  serve(serving, "GET /api/status-reports/:of/:number/:edition/:form", async (call) => {
    const { params, request, response } = call;
    const signal = untilLeft(response);
    const { content, line } = await reportAsked(call, signal);
    const paper = String(request.query["paper"] ?? "A4");
    const { bytes, type, name } = await reportFile(content, line, { form: params["form"]!, paper, signal });
    response.type(type).setHeader("Content-Disposition", `attachment; filename="${name}"`).end(bytes);
    return "";
  });

  serve(serving, "POST /api/status-reports/:of/:number/:edition/:form", async (call) => {
    const { params, body, request, response } = call;
    const signal = untilLeft(response);
    const asked = { form: params["form"]!, paper: body.paper, signal };
    const file = async (onShare: (share: number) => void) => {
      const { content, line } = await reportAsked(call, signal);
      const { bytes, type, name } = await reportFile(content, line, { ...asked, onShare });
      return { name, type, content: bytes.toString("base64") };
    };
    return request.get("accept") === PROGRESS_TYPE ? withProgress(response, file) : file(() => undefined);
  });
}
