import { dateSchema } from "@chronometra/core";
import { z } from "zod";
import { newProjectSchema } from "./exchange.ts";
import { amountMinorSchema, minutesSchema } from "./units.ts";

const key = z.string().min(1).max(64);
const named = z.object({ id: z.string(), name: z.string() });

/** What goes along from the plan that is begun with; what happened in it never does. */
export const takenAlongSchema = z.strictObject({
  people: z.enum(["people", "roles", "none"]),
  costs: z.boolean(),
  risks: z.boolean(),
  deadlines: z.boolean(),
  charter: z.boolean(),
  /** Of a project: its newest files and its links. A template has none. */
  documents: z.boolean(),
});
export type TakenAlongWish = z.infer<typeof takenAlongSchema>;

/** A branch that may stand several times, and what is asked of whoever begins with it. */
export const repeatAskedSchema = z.strictObject({
  activity: key,
  ask: z.string().trim().min(1, "say what is asked").max(200),
  /** Whether one comes after the other; side by side else. */
  inTurn: z.boolean(),
});
export type RepeatAsked = z.infer<typeof repeatAskedSchema>;

const { currency } = newProjectSchema.shape;
const lineName = z.string().trim().min(1, "give each line a name").max(200);

/**
 * What is begun with: a project or a branch of it, a template, steps one below the other, or stages and milestones that
 * are kept by hand.
 */
const sourceSchema = z.union([
  z.strictObject({ project: key, branch: key.nullable() }),
  z.strictObject({ template: key }),
  z.strictObject({
    currency,
    steps: z
      .array(
        z.strictObject({
          name: lineName,
          minutes: z.int().min(0).max(10_000_000).describe("minutes of work"),
          /** Whether it comes after the one above; beside it else. */
          after: z.boolean(),
          who: z.string().trim().max(200),
        }),
      )
      .min(1, "say at least one thing that has to be done")
      .max(500),
  }),
  z.strictObject({
    currency,
    stages: z
      .array(z.strictObject({ name: lineName, from: dateSchema, to: dateSchema, budgetMinor: amountMinorSchema }))
      .max(500),
    milestones: z.array(z.strictObject({ name: lineName, date: dateSchema })).max(500),
  }),
]);
export type BeginSource = z.infer<typeof sourceSchema>;

const partSchema = z.strictObject({
  source: sourceSchema,
  /** How often branches stand, by the id of their row; once where nothing is said. */
  times: z.record(key, z.int().min(1, "once at least").max(100, "100 times at most")),
});

/** When it begins, by when it is to be finished, or as its dates are. */
const dateWishSchema = z.union([
  z.strictObject({ start: dateSchema }),
  z.strictObject({ finish: dateSchema }),
  z.strictObject({ asIs: z.literal(true) }),
]);
export type DateWish = z.infer<typeof dateWishSchema>;

const beginFields = {
  /** One after the other, where there are several. */
  parts: z.array(partSchema).min(1, "select what to begin with").max(10, "10 at most"),
  along: takenAlongSchema,
  date: dateWishSchema,
} as const;

/** What is asked before a project is begun. */
export const beginEffectSchema = z.strictObject(beginFields);
export type BeginEffectAsked = z.infer<typeof beginEffectSchema>;

/** A project begun with others. */
export const beginSchema = z.strictObject({
  ...beginFields,
  ...newProjectSchema.pick({ code: true, name: true, programme: true }).shape,
  /** People of the register in the place of roles, by the id of the role. */
  roles: z.record(key, key),
  /** What it is for and what comes of it, where that is said at once. */
  purpose: z.string().trim().max(8000).optional(),
  deliverables: z.array(z.string().trim().min(1).max(300)).max(100).optional(),
});
export type BeginAsked = z.infer<typeof beginSchema>;

/** A row of a plan that is looked at before it is begun with. */
const outlineRowSchema = z.object({
  id: z.string(),
  name: z.string(),
  depth: z.int(),
  kind: z.enum(["work", "milestone", "summary", "levelOfEffort"]),
  /** As shown; `null` where it has no dates. */
  start: z.string().nullable(),
  finish: z.string().nullable(),
  durationMinutes: minutesSchema.nullable(),
  dayMinutes: minutesSchema,
  critical: z.boolean(),
  parked: z.boolean(),
  who: z.array(z.string()),
});
export type OutlineRow = z.infer<typeof outlineRowSchema>;

/** What would be begun. */
export const begunEffectSchema = z.object({
  start: z.string(),
  finish: z.string().nullable(),
  currency: z.string(),
  minorDigits: z.int(),
  activities: z.int(),
  milestones: z.int(),
  links: z.int(),
  /** Planned work of people, and planned cost. */
  workMinutes: minutesSchema,
  costMinor: amountMinorSchema,
  /** Roles that may be given to people. */
  roles: z.array(named),
  people: z.array(z.string()),
  /** Branches that may stand several times, by part. */
  repeats: z.array(z.object({ part: z.int(), activity: z.string(), name: z.string(), ask: z.string() })),
  rows: z.array(outlineRowSchema),
});
export type BegunEffect = z.infer<typeof begunEffectSchema>;

const templateFields = {
  name: z.string().trim().min(1, "give the template a name").max(200),
  description: z.string().trim().max(4000),
  repeats: z.array(repeatAskedSchema).max(20),
} as const;

/** A plan that others begin with. */
export const templateSchema = z.object({
  ...templateFields,
  id: z.string(),
  by: z.string(),
  at: z.string(),
  currency: z.string(),
  activities: z.int(),
  milestones: z.int(),
  roles: z.int(),
  /** Its branches, for what may stand several times. */
  branches: z.array(named),
  mayEdit: z.boolean(),
});
export type Template = z.infer<typeof templateSchema>;
export const templatesSchema = z.array(templateSchema);

/** A project, or a branch of it, that is to become a template. */
export const newTemplateSchema = z.strictObject({
  ...templateFields,
  project: key,
  branch: key.nullable(),
  along: takenAlongSchema,
});
export type NewTemplate = z.infer<typeof newTemplateSchema>;
export const writeTemplateSchema = z.strictObject(templateFields);
