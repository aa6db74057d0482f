import { dateSchema } from "@chronometra/core";
import { amountMinorSchema } from "./units.ts";
import { z } from "zod";

export const askApprovalSchema = z.strictObject({
  word: z.string().max(2000),
  /**
   * The day on which the first plan of a project that runs already was really approved; left out where it is approved
   * here.
   */
  agreedOn: dateSchema.nullable().optional(),
});
export const decideApprovalSchema = z.strictObject({
  decision: z.enum(["approve", "sendBack"]),
  reason: z.string().trim().min(1, "say why, in a few words").max(2000),
});

export const approvalSchema = z.object({
  id: z.string(),
  project: z.string(),
  projectName: z.string(),
  projectCode: z.string(),
  state: z.enum(["asked", "approved", "sentBack", "replaced"]),
  askedBy: z.string(),
  askedAt: z.string(),
  word: z.string(),
  /** The day on which it was approved before it came here; `null` where it is approved here. */
  agreedOn: z.string().nullable(),
  decidedBy: z.string().nullable(),
  decidedAt: z.string().nullable(),
  reason: z.string().nullable(),
  baseline: z.int().nullable(),
  mayDecide: z.boolean(),
  /** Changes to the plan since it was asked for; they are not approved with it. */
  changedSince: z.int(),
});
export type Approval = z.infer<typeof approvalSchema>;

export const baselineLineSchema = z.object({
  number: z.int(),
  approvedOn: z.string(),
  approvedBy: z.string(),
  reason: z.string(),
  digest: z.string(),
  activities: z.int(),
  budgetMinor: amountMinorSchema,
  start: z.string().nullable(),
  finish: z.string().nullable(),
  /**
   * What was approved: the first plan, a change request and nothing else, or the whole plan as it stood, with a request
   * or without.
   */
  how: z.enum(["first", "request", "whole"]),
  /** The change request that it came of. */
  request: z.int().nullable(),
});
export const ledgerSchema = z.object({
  currency: z.string(),
  minorDigits: z.int(),
  mayAsk: z.boolean(),
  approvals: z.array(approvalSchema),
  baselines: z.array(baselineLineSchema),
});
export type Ledger = z.infer<typeof ledgerSchema>;
export const digestCheckSchema = z.object({
  number: z.int(),
  stored: z.string(),
  recomputed: z.string(),
  same: z.boolean(),
});
