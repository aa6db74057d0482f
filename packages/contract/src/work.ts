import { dateSchema } from "@chronometra/core";
import { z } from "zod";

export const askApprovalSchema = z.strictObject({ word: z.string().max(2000) });
export const decideApprovalSchema = z.strictObject({ decision: z.enum(["approve", "sendBack"]), reason: z.string().trim().min(1, "say why, in a few words").max(2000) });

export const approvalSchema = z.object({
  id: z.string(),
  project: z.string(),
  projectName: z.string(),
  projectCode: z.string(),
  state: z.enum(["asked", "approved", "sentBack"]),
  askedBy: z.string(),
  askedAt: z.string(),
  word: z.string(),
  decidedBy: z.string().nullable(),
  decidedAt: z.string().nullable(),
  reason: z.string().nullable(),
  baseline: z.int().nullable(),
  mayDecide: z.boolean(),
});
export type Approval = z.infer<typeof approvalSchema>;

export const baselineLineSchema = z.object({
  number: z.int(),
  approvedOn: z.string(),
  approvedBy: z.string(),
  reason: z.string(),
  digest: z.string(),
  activities: z.int(),
  budgetMinor: z.int(),
  start: z.string().nullable(),
  finish: z.string().nullable(),
});
export const ledgerSchema = z.object({
  currency: z.string(),
  minorDigits: z.int(),
  mayAsk: z.boolean(),
  approvals: z.array(approvalSchema),
  baselines: z.array(baselineLineSchema),
});
export type Ledger = z.infer<typeof ledgerSchema>;
export const digestCheckSchema = z.object({ number: z.int(), stored: z.string(), recomputed: z.string(), same: z.boolean() });

/** What a contributor sends from the desk; at least one of minutes, percent and remaining minutes. */
export const reportRequestSchema = z
  .strictObject({
    project: z.string(),
    activity: z.string(),
    date: dateSchema,
    minutes: z.int("minutes are a whole number").min(1, "hours must be above 0; a correction is made by returning the entry").max(1440, "a day has 24 hours").optional(),
    percent: z.number().min(0).max(100).optional(),
    remainingMinutes: z.int().min(0).max(10_000_000).optional(),
    note: z.string().max(1000).optional(),
  })
  .refine((report) => report.minutes !== undefined || report.percent !== undefined || report.remainingMinutes !== undefined, "say at least one of time, percent and what remains");
export type ReportRequest = z.infer<typeof reportRequestSchema>;

export const reportSchema = z.object({
  id: z.string(),
  project: z.string(),
  projectName: z.string(),
  activity: z.string(),
  activityName: z.string(),
  person: z.string(),
  date: z.string(),
  minutes: z.int().nullable(),
  percent: z.number().nullable(),
  remainingMinutes: z.int().nullable(),
  note: z.string(),
  state: z.enum(["submitted", "posted", "returned", "withdrawn"]),
  sentAt: z.string(),
  word: z.string().nullable(),
  decidedBy: z.string().nullable(),
});
export type Report = z.infer<typeof reportSchema>;

export const deskActivitySchema = z.object({
  project: z.string(),
  projectName: z.string(),
  activity: z.string(),
  name: z.string(),
  path: z.string(),
  start: z.string(),
  finish: z.string(),
  state: z.enum(["notStarted", "inProgress", "complete"]),
  percent: z.number().nullable(),
  plannedMinutes: z.int(),
  remainingMinutes: z.int(),
  postedMinutes: z.int(),
  waitingMinutes: z.int(),
  waitsFor: z.array(z.string()),
});
export type DeskActivity = z.infer<typeof deskActivitySchema>;

export const deskSchema = z.object({
  person: z.string().nullable(),
  today: z.string(),
  activities: z.array(deskActivitySchema),
  reports: z.array(reportSchema),
});
export type Desk = z.infer<typeof deskSchema>;

export const decideReportsSchema = z.strictObject({
  ids: z.array(z.string()).min(1).max(500),
  decision: z.enum(["accept", "return"]),
  word: z.string().max(1000).optional(),
});
export const reportIdsSchema = z.strictObject({ ids: z.array(z.string()).min(1).max(500) });
export const setDataDateSchema = z.strictObject({ date: dateSchema });
export const dataDateResultSchema = z.object({ moved: z.int(), refused: z.array(z.object({ project: z.string(), why: z.string() })) });
