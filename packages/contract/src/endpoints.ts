import { z } from "zod";
import { accountsSchema, changePasswordSchema, editAccountSchema, meSchema, newAccountSchema, sessionSchema, signInSchema } from "./access.ts";
import { importAnswersSchema, importViewSchema, newProjectSchema, storedSchema, storeImportSchema } from "./exchange.ts";
import { activityLookSchema, openPeriodSchema, periodBarSchema, portfolioSchema, programmeSchema, projectLookSchema } from "./look.ts";
import { changeRequestSchema, changeResultSchema, effectSchema, historySchema, planViewSchema, undoRequestSchema } from "./plan.ts";
import {
  approvalSchema,
  askApprovalSchema,
  dataDateResultSchema,
  decideApprovalSchema,
  decideReportsSchema,
  deskSchema,
  digestCheckSchema,
  ledgerSchema,
  reportIdsSchema,
  reportRequestSchema,
  reportSchema,
  setDataDateSchema,
} from "./work.ts";

export interface Endpoint {
  readonly summary: string;
  readonly body?: z.ZodType;
  readonly response: z.ZodType;
}

const done = z.object({ ok: z.literal(true) });
const file = z.string().meta({ format: "binary" });

/** Every call of the HTTP interface. `:name` stands for a part of the path. */
export const endpoints = {
  "GET /api/session": { summary: "Who is signed in, and the token for changing calls", response: sessionSchema },
  "POST /api/session": { summary: "Sign in", body: signInSchema, response: sessionSchema },
  "DELETE /api/session": { summary: "Sign out", response: done },
  "PUT /api/session/password": { summary: "Change one's own password; all other sessions end", body: changePasswordSchema, response: done },

  "GET /api/accounts": { summary: "Everyone who can sign in", response: accountsSchema },
  "POST /api/accounts": { summary: "Add an account", body: newAccountSchema, response: meSchema },
  "PUT /api/accounts/:account": { summary: "Change an account's name, roles, person or password", body: editAccountSchema, response: meSchema },

  "GET /api/period": { summary: "The period bar: data date, steps of the cycle, time left", response: periodBarSchema },
  "POST /api/periods": { summary: "Open the next reporting period", body: openPeriodSchema, response: periodBarSchema },
  "POST /api/programmes": { summary: "Add a programme", body: z.strictObject({ name: z.string().trim().min(1, "give the programme a name").max(200) }), response: programmeSchema },
  "GET /api/portfolio": { summary: "A line for each project, from kept figures", response: portfolioSchema },
  "POST /api/portfolio/data-date": { summary: "Move the data date of every project and recalculate", body: setDataDateSchema, response: dataDateResultSchema },

  "POST /api/projects": { summary: "Begin a project with an empty plan", body: newProjectSchema, response: storedSchema },
  "GET /api/projects/:project": { summary: "A project's figures by branch and activity, and its curves", response: projectLookSchema },
  "GET /api/projects/:project/activities/:activity": { summary: "What stands behind one activity's or branch's figures", response: activityLookSchema },
  "GET /api/projects/:project/plan": { summary: "The plan with its rows, as of its newest revision", response: planViewSchema },
  "POST /api/projects/:project/changes": { summary: "Apply a list of changes, all or nothing", body: changeRequestSchema, response: changeResultSchema },
  "POST /api/projects/:project/undo": { summary: "Undo one stored list of changes", body: undoRequestSchema, response: changeResultSchema },
  "POST /api/projects/:project/effect": { summary: "What a list of changes would move, nothing stored", body: changeRequestSchema, response: effectSchema },
  "GET /api/projects/:project/history": { summary: "Who changed what, newest first", response: historySchema },
  "GET /api/projects/:project/export/:form": { summary: "The whole project as json, xlsx or csv (zipped)", response: file },
  "POST /api/projects/:project/periods": { summary: "Issue the project's figures for the open period", response: done },

  "GET /api/approvals": { summary: "Approvals that wait for a decision", response: z.array(approvalSchema) },
  "GET /api/projects/:project/ledger": { summary: "The ledger of approvals: requests and baselines", response: ledgerSchema },
  "POST /api/projects/:project/approvals": { summary: "Ask for the plan to be approved", body: askApprovalSchema, response: approvalSchema },
  "POST /api/approvals/:approval/decision": { summary: "Approve and freeze, or send back", body: decideApprovalSchema, response: approvalSchema },
  "GET /api/projects/:project/baselines/:number/digest": { summary: "Recompute a baseline's digest", response: digestCheckSchema },

  "GET /api/desk": { summary: "One's own activities and reports", response: deskSchema },
  "POST /api/desk/reports": { summary: "Report time, percent or remaining work", body: reportRequestSchema, response: reportSchema },
  "DELETE /api/desk/reports/:report": { summary: "Take back a report that is not decided yet", response: done },
  "GET /api/reports": { summary: "Reports that wait for acceptance", response: z.array(reportSchema) },
  "POST /api/reports/effect": { summary: "What accepting reports of one project would move", body: reportIdsSchema, response: effectSchema },
  "POST /api/reports/decision": { summary: "Accept or return reports", body: decideReportsSchema, response: done },

  "POST /api/imports": { summary: "Bring a file (multipart, field `file`, several for CSV)", response: importViewSchema },
  "GET /api/imports/:import": { summary: "What was understood of it", response: importViewSchema },
  "PUT /api/imports/:import": { summary: "Answer what it cannot say itself", body: importAnswersSchema, response: importViewSchema },
  "POST /api/imports/:import/store": { summary: "Store it as a new project, all or nothing", body: storeImportSchema, response: storedSchema },
  "DELETE /api/imports/:import": { summary: "Drop it", response: done },
  "GET /api/openapi.json": { summary: "This interface as an OpenAPI document", response: z.unknown() },
} as const satisfies Record<string, Endpoint>;

export type EndpointKey = keyof typeof endpoints;
export type ResponseOf<K extends EndpointKey> = z.infer<(typeof endpoints)[K]["response"]>;
export type BodyOf<K extends EndpointKey> = (typeof endpoints)[K] extends { body: infer B extends z.ZodType } ? z.infer<B> : undefined;
