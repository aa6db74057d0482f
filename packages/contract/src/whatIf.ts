import { z } from "zod";
import { amountMinorSchema, minutesSchema } from "./units.ts";
import { effectSchema, planViewSchema } from "./plan.ts";

export const RESERVES = ["contingency", "management"] as const;
const reserveSchema = z.enum(RESERVES);

export const newWhatIfSchema = z.strictObject({ name: z.string().trim().min(1, "give the what-if a name").max(200) });

/** What a change request asks to draw from a reserve. */
export const drawSchema = z.strictObject({ kind: reserveSchema, amountMinor: amountMinorSchema.min(1) });

/** A copy of a plan on trial, which may have become a change request. */
export const whatIfSchema = z.object({
  id: z.string(),
  project: z.string(),
  projectName: z.string(),
  projectCode: z.string(),
  name: z.string(),
  by: z.string(),
  at: z.string(),
  state: z.enum(["open", "asked", "approved", "sentBack", "kept", "dropped"]),
  /** Lists of changes in it. */
  changes: z.int(),
  /** Its number among the project's change requests, once it was put forward. */
  request: z.int().nullable(),
  reason: z.string().nullable(),
  draw: drawSchema.nullable(),
  askedAt: z.string().nullable(),
  decidedBy: z.string().nullable(),
  decidedAt: z.string().nullable(),
  word: z.string().nullable(),
  /** The baseline that came of it. */
  baseline: z.int().nullable(),
  /** Whether that is the whole plan as it stood then, and not the one before it with the request alone. */
  whole: z.boolean(),
  currency: z.string(),
  minorDigits: z.int(),
  mayEdit: z.boolean(),
  mayRestore: z.boolean(),
  mayDecide: z.boolean(),
});
export type WhatIf = z.infer<typeof whatIfSchema>;

/** What both a what-if and the live plan wrote since it began. */
const metSchema = z.object({
  path: z.string(),
  what: z.string(),
  activity: z.string().nullable(),
  live: z.unknown(),
  mine: z.unknown(),
  by: z.string(),
  at: z.string(),
});

const seenSchema = z.strictObject({ live: z.int(), version: z.int() });

/** A what-if beside the live plan as it is now. */
export const whatIfViewSchema = z.object({
  whatIf: whatIfSchema,
  /** The live plan's revision and how many lists the what-if has, to be named when it is decided. */
  seen: seenSchema,
  /**
   * The live plan with its changes; the revision is how many lists it has. `null` where they do not fit the live plan
   * any more.
   */
  plan: planViewSchema.nullable(),
  /** Why they do not. */
  fault: z.string().nullable(),
  /** Lists that the live plan has had since it began. */
  behind: z.int(),
  meets: z.array(metSchema),
  effect: effectSchema.nullable(),
  /** Planned hours by person, live and here, where they differ. */
  load: z.array(z.object({ person: z.string(), beforeMinutes: minutesSchema, afterMinutes: minutesSchema })),
  budget: z.object({ beforeMinor: amountMinorSchema, afterMinor: amountMinorSchema }).nullable(),
});
export type WhatIfView = z.infer<typeof whatIfViewSchema>;

/** Which of the values that meet are taken from the what-if, by path; the others stay as the live plan has them. */
export const mergeSchema = z.strictObject({ mine: z.array(z.string()).max(5000) });
export const putForwardSchema = z.strictObject({
  reason: z.string().trim().min(3, "say why the plan is to change").max(2000),
  draw: drawSchema.optional(),
});
export const decideRequestSchema = z.strictObject({
  /**
   * `approve` freezes the baseline in force with the request's changes and nothing else, `approveWhole` the whole plan
   * as it stands with them.
   */
  decision: z.enum(["approve", "approveWhole", "sendBack"]),
  reason: z.string().trim().min(1, "say why, in a few words").max(2000),
  seen: seenSchema.optional(),
});

/** What approving a change request by itself rests on: the baseline in force, and why it cannot be, where it cannot. */
export const requestAloneSchema = z.object({ baseline: z.int().nullable(), fault: z.string().nullable() });
export type RequestAlone = z.infer<typeof requestAloneSchema>;

/** What is set aside beside the work's budget, and what was drawn on it. Amounts below 0 are draws. */
export const reservesSchema = z.object({
  currency: z.string(),
  minorDigits: z.int(),
  mayEdit: z.boolean(),
  balances: z.object({ contingency: z.int(), management: z.int() }),
  entries: z.array(
    z.object({
      id: z.string(),
      kind: reserveSchema,
      amountMinor: amountMinorSchema,
      reason: z.string(),
      by: z.string(),
      at: z.string(),
      request: z.int().nullable(),
    }),
  ),
});
export type Reserves = z.infer<typeof reservesSchema>;
export const reserveEntrySchema = z.strictObject({
  kind: reserveSchema,
  amountMinor: amountMinorSchema.refine((amount) => amount !== 0, "the amount is not 0"),
  reason: z.string().trim().min(3, "say what for").max(1000),
});
