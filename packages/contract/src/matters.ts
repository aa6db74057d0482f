import { dateSchema, ownFieldSchema, ownValueSchema } from "@chronometra/core";
import { z } from "zod";
import { MATTER_KINDS, MATTER_STATES, MOST_LISTED, STRATEGIES, TIE_PLACES } from "./matterWords.ts";
import { amountMinorSchema } from "./units.ts";

const key = z.string().min(1).max(64);
const named = z.object({ id: z.string(), name: z.string() });
const titleSchema = z.string().trim().min(1, "say what it is").max(200);
const longText = z.string().trim().max(8000);
const chanceSchema = z.number().min(0, "a chance between 0 and 1").max(1, "a chance between 0 and 1");

const tieSchema = z.strictObject({ about: z.enum(TIE_PLACES), id: z.string().min(1).max(80) });
export type Tie = z.infer<typeof tieSchema>;
const tiesSchema = z.array(tieSchema).max(100, "tied to 100 things at most");

/** How a risk stands once the response has worked. */
export const residualSchema = z.strictObject({ chance: chanceSchema, severity: key.nullable() });

/** The scale of severity, the least first, and the own fields of each register. */
export const matterSettingsSchema = z.strictObject({
  severities: z
    .array(z.strictObject({ id: key, name: z.string().trim().min(1, "give it a name").max(40) }))
    .min(2, "a scale has two steps at least")
    .max(10, "a scale has ten steps at most")
    .refine((all) => new Set(all.map(({ name }) => name)).size === all.length, "two steps have one name")
    .refine((all) => new Set(all.map(({ id }) => id)).size === all.length, "a step stands there twice"),
  fields: z.partialRecord(z.enum(MATTER_KINDS), z.array(ownFieldSchema).max(30)),
});
export type MatterSettings = z.infer<typeof matterSettingsSchema>;
/** The settings as they are written, with what their writer saw. */
export const writeMatterSettingsSchema = z.strictObject({ was: matterSettingsSchema, value: matterSettingsSchema });

export const matterSchema = z.object({
  id: z.string(),
  kind: z.enum(MATTER_KINDS),
  /** The project that it is of; `null` of a group's or of the house's. */
  project: z.object({ id: z.string(), code: z.string(), name: z.string() }).nullable(),
  /** The group that it is of; `null` of a project's and of the house's. */
  group: named.nullable(),
  title: z.string(),
  text: z.string(),
  state: z.enum(MATTER_STATES),
  /** A step of the scale; `null` where none is said. */
  severity: z.string().nullable(),
  /** Whoever can sign in, or a person of the register. */
  owner: named.nullable(),
  raisedBy: z.string(),
  raisedOn: z.string().nullable(),
  due: z.string().nullable(),
  /** Open, and due before today. */
  overdue: z.boolean(),
  closedOn: z.string().nullable(),
  strategy: z.enum(STRATEGIES).nullable(),
  response: z.string(),
  /** Of a risk, how likely it is, 0 to 1. */
  chance: z.number().nullable(),
  /** Of a project's risk, what it is expected to cost. */
  expected: z.object({ minor: amountMinorSchema, currency: z.string(), minorDigits: z.int() }).nullable(),
  residual: residualSchema.nullable(),
  /** The day by which it may strike. */
  proximity: z.string().nullable(),
  ties: z.array(tieSchema.extend({ name: z.string() })),
  values: z.record(z.string(), ownValueSchema),
  /** How a risk stood when the last period of its project was issued. */
  before: z.object({ chance: z.number(), severity: z.string().nullable() }).nullable(),
  /** What whoever reads this may write: all of it, what its owner writes, or nothing. */
  mayWrite: z.enum(["all", "owners"]).nullable(),
});
export type Matter = z.infer<typeof matterSchema>;

/** Matters that were asked for: the first that are due, and how many there are in all. */
export const mattersSchema = z.object({
  settings: matterSettingsSchema,
  matters: z.array(matterSchema),
  total: z.int(),
  /** Of one project, what remains of its contingency; `null` of several. */
  contingency: z.object({ minor: amountMinorSchema, currency: z.string(), minorDigits: z.int() }).nullable(),
  /** Where whoever reads this may add some: in any project they plan; here, where one place was asked for. */
  mayAdd: z.boolean(),
  maySet: z.boolean(),
});
export type Matters = z.infer<typeof mattersSchema>;

/** How many open matters are overdue, among those that someone sees, and among their own. */
export const matterCountsSchema = z.object({ overdue: z.int(), mine: z.int(), mineOverdue: z.int() });
export type MatterCounts = z.infer<typeof matterCountsSchema>;

/** What can be tied to in a project. */
export const tiePlacesSchema = z.array(tieSchema.extend({ name: z.string() }));

const dated = dateSchema.nullable();
const wasAnd = <T extends z.ZodType>(value: T) => ({ was: value, value });
/** One thing that is written of a matter, with what its writer saw. */
const matterWriteSchema = z.discriminatedUnion("field", [
  z.strictObject({ field: z.literal("title"), was: z.string(), value: titleSchema }),
  z.strictObject({ field: z.literal("text"), ...wasAnd(longText) }),
  z.strictObject({ field: z.literal("state"), ...wasAnd(z.enum(MATTER_STATES)) }),
  z.strictObject({ field: z.literal("severity"), ...wasAnd(key.nullable()) }),
  z.strictObject({ field: z.literal("owner"), ...wasAnd(key.nullable()) }),
  z.strictObject({ field: z.literal("due"), ...wasAnd(dated) }),
  z.strictObject({ field: z.literal("strategy"), ...wasAnd(z.enum(STRATEGIES).nullable()) }),
  z.strictObject({ field: z.literal("response"), ...wasAnd(longText) }),
  z.strictObject({ field: z.literal("chance"), ...wasAnd(chanceSchema.nullable()) }),
  z.strictObject({ field: z.literal("residual"), ...wasAnd(residualSchema.nullable()) }),
  z.strictObject({ field: z.literal("proximity"), ...wasAnd(dated) }),
  z.strictObject({ field: z.literal("ties"), ...wasAnd(tiesSchema) }),
  z.strictObject({ field: z.literal("values"), of: key, ...wasAnd(ownValueSchema.nullable()) }),
  z.strictObject({ field: z.literal("removed"), ...wasAnd(z.boolean()) }),
]);
export type MatterWrite = z.infer<typeof matterWriteSchema>;
export const writeMatterSchema = z.strictObject({ writes: z.array(matterWriteSchema).min(1).max(40) });

/** Something for a register. Of a group, or with neither project nor group of the house. */
export const newMatterSchema = z.strictObject({
  kind: z.enum(MATTER_KINDS),
  project: z.string().max(36).nullable(),
  group: z.string().max(36).nullable(),
  title: titleSchema,
  text: longText.optional(),
  severity: key.nullable().optional(),
  owner: key.nullable().optional(),
  due: dated.optional(),
  chance: chanceSchema.nullable().optional(),
  ties: tiesSchema.optional(),
  /** How it stands from the beginning, where it was kept elsewhere before. */
  state: z.enum(["open", "settled"]).optional(),
  strategy: z.enum(STRATEGIES).nullable().optional(),
  response: longText.optional(),
  values: z.record(key, ownValueSchema).optional(),
});
export type NewMatter = z.infer<typeof newMatterSchema>;

/** An issue, raised where one works. */
export const issueAtWorkSchema = z.strictObject({
  project: z.string().max(36),
  activity: z.string().max(64),
  title: titleSchema,
  text: longText,
});

/** What happened to a matter: what was, and what is, in words. */
export const matterEventsSchema = z.array(
  z.object({ at: z.string(), by: z.string(), field: z.string(), was: z.string(), value: z.string() }),
);
export type MatterEvents = z.infer<typeof matterEventsSchema>;
export const matterViewSchema = z.object({
  matter: matterSchema,
  settings: matterSettingsSchema,
  events: matterEventsSchema,
});
export type MatterView = z.infer<typeof matterViewSchema>;

/** A risk struck: what the issue that it becomes is called, who sees to it and by when. */
export const strikeSchema = z.strictObject({
  title: titleSchema,
  severity: key.nullable(),
  owner: key.nullable(),
  due: dated,
});
export const struckSchema = z.object({ issue: z.string(), woken: z.array(z.string()), revision: z.int() });

/** A list for the registers, all or nothing. */
export const newMattersSchema = z.strictObject({ matters: z.array(newMatterSchema).min(1).max(MOST_LISTED) });
/** What was added, and the revisions that plans have now which gained risks. */
export const addedMattersSchema = z.object({
  ids: z.array(z.string()),
  revisions: z.array(z.object({ project: z.string(), revision: z.int() })),
});
export const removedMattersSchema = z.strictObject({ ids: z.array(z.string().max(80)).max(MOST_LISTED) });

/** A table of a file, understood as lines for the registers; nothing of it is stored. */
export const broughtListSchema = z.object({
  headings: z.array(z.object({ heading: z.string(), column: z.string().nullable() })),
  /** What columns can be taken for, in words, own fields of the registers among them. */
  columns: z.array(z.object({ id: z.string(), name: z.string() })),
  /** Whether dates stand there that can be read in more than one order. */
  asksDateOrder: z.boolean(),
  lines: z.array(
    z.object({
      /** Number of the row in the file. */
      row: z.int(),
      /** What the file says, by column. */
      said: z.record(z.string(), z.string()),
      /** What it comes to; `null` where it cannot be. */
      matter: newMatterSchema.nullable(),
      faults: z.array(z.string()),
      /** Whether one of that name stands in that register. */
      isThere: z.boolean(),
    }),
  ),
});
export type BroughtList = z.infer<typeof broughtListSchema>;
