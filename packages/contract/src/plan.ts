import { changeSchema, projectSchema, SHOWN_TABLES, type Change, type ShownTable } from "@chronometra/core";
import { z } from "zod";
import { THROUGH } from "./historyWords.ts";

const rows = z.array(z.tuple([z.string(), z.unknown()]));

/** A plan with its rows' keys, as of a revision; time and costs stay on the server, where figures are made. */
export const planViewSchema = z.object({
  id: z.string(),
  revision: z.int(),
  manager: z.object({ id: z.string(), name: z.string() }),
  programme: z.string().nullable(),
  mayEdit: z.boolean(),
  project: projectSchema,
  tables: z.object(Object.fromEntries(SHOWN_TABLES.map((table) => [table, rows])) as Record<ShownTable, typeof rows>),
});
export type PlanView = z.infer<typeof planViewSchema>;

export const changeRequestSchema = z.strictObject({
  /** The revision that the writer saw. */
  revision: z.int().min(0),
  changes: z.array(changeSchema).min(1).max(5000),
  label: z.string().max(200).optional(),
  /** What the writer calls this list: sent again, it is stored once, and answered as it was the first time. */
  list: z.uuid().optional(),
});

/** What a writer may send: what only approval and acceptance do is not among it. */
export const RESERVED_CHANGES: readonly Change["type"][] = ["freeze", "postTime", "postCost"];

export const undoRequestSchema = z.strictObject({ revision: z.int().min(1), list: z.uuid().optional() });

export const changeResultSchema = z.object({
  revision: z.int(),
  undoable: z.boolean(),
  /** All changes since the revision the writer saw, others' first, to be applied to what the writer holds. */
  changes: z.array(changeSchema),
  /** Lists of others that were merged in. */
  merged: z.int(),
  /** Whose they were. */
  by: z.array(z.string()).optional(),
});
export type ChangeResult = z.infer<typeof changeResultSchema>;

/** What others stored since a revision, oldest first. */
export const changesSinceSchema = z.object({
  revision: z.int(),
  changes: z.array(changeSchema),
  by: z.array(z.string()),
});
export type ChangesSince = z.infer<typeof changesSinceSchema>;

/** Who is on a plan now, and where. */
export const presentSchema = z.object({ client: z.string(), name: z.string(), activity: z.string().nullable() });
export type Present = z.infer<typeof presentSchema>;

/** What the stream says of a plan, one event at a time. */
export const planNewsSchema = z.object({ project: z.string(), revision: z.int(), present: z.array(presentSchema) });
export type PlanNews = z.infer<typeof planNewsSchema>;

export const presenceSchema = z.strictObject({
  client: z.string().min(1).max(40),
  activity: z.string().max(64).nullable(),
});

/** A field or a row as it was and as it is, in words; `field` is empty of a row that came or went. */
export const differenceSchema = z.object({
  path: z.string(),
  what: z.string(),
  field: z.string(),
  was: z.string(),
  is: z.string(),
});

/** A stored list of changes; taken back, where it was and is not done again. */
const storedListSchema = z.object({
  revision: z.int(),
  at: z.string(),
  by: z.string(),
  label: z.string(),
  /** Through what it came. */
  through: z.enum(THROUGH),
  changes: z.int(),
  undoes: z.int().nullable(),
  takenBack: z.boolean(),
  /** What it made of the one field that was asked for; `null` where none was. */
  line: differenceSchema.nullable(),
});
export const historySchema = z.array(storedListSchema);
export type History = z.infer<typeof historySchema>;

const movementSchema = z.object({
  id: z.string(),
  name: z.string(),
  from: z.string().nullable(),
  to: z.string().nullable(),
  days: z.number().nullable(),
  /** Times of day, where it moves within the one date shown. */ clock: z
    .object({ from: z.string(), to: z.string() })
    .nullable(),
});
const standingSchema = z.object({
  deadline: z.string(),
  finish: z.string(),
  marginDays: z.number().nullable(),
  state: z.string(),
});

const measuredSchema = z.object({ sv: z.int(), cv: z.int(), spi: z.number().nullable(), cpi: z.number().nullable() });

/** The effect preview: what a list of changes would move. */
export const effectSchema = z.object({
  currency: z.string(),
  minorDigits: z.int(),
  finish: movementSchema.nullable(),
  activities: z.array(movementSchema),
  milestones: z.array(movementSchema),
  deadlines: z.array(
    z.object({ id: z.string(), name: z.string(), before: standingSchema.nullable(), after: standingSchema.nullable() }),
  ),
  cost: z
    .object({
      actualBefore: z.int(),
      actualAfter: z.int(),
      estimateBefore: z.int(),
      estimateAfter: z.int(),
      laterBefore: z.int(),
      laterAfter: z.int(),
      laterBy: z.string().nullable(),
    })
    .nullable(),
  performance: z.object({ before: measuredSchema, after: measuredSchema }).nullable(),
});
export type EffectView = z.infer<typeof effectSchema>;

/** What taking a stored list back would move; or why it cannot be, and which later changes rest on it. */
export const takeBackSchema = z.object({
  effect: effectSchema.nullable(),
  why: z.string().nullable(),
  restsOn: z.array(z.object({ what: z.string(), by: z.string(), at: z.string() })),
});
export type TakeBack = z.infer<typeof takeBackSchema>;

/** What bringing a plan back to a revision would move, or why it cannot be. */
export const backViewSchema = z.object({
  /** The revision that this is told of. */
  seen: z.int(),
  /** How many lists were stored since, and how many of these stay: reports, and what other systems sent. */
  lists: z.int(),
  stay: z.int(),
  /** How many changes bring it back. */
  changes: z.int(),
  effect: effectSchema.nullable(),
  why: z.string().nullable(),
});
export type BackView = z.infer<typeof backViewSchema>;
export const bringBackSchema = z.strictObject({ seen: z.int() });

/** One stored list: what it did in words, up to 200 of its changes; `takeBack` is null for whoever may not change the plan. */
export const historyEntrySchema = storedListSchema.extend({
  /** What it made of each field, the first of them; `total` says of how many. */
  lines: z.array(differenceSchema),
  total: z.int(),
  takeBack: takeBackSchema.nullable(),
});
/** What became of one activity; `older` is the revision before which there is more. */
export const activityHistorySchema = z.object({
  lists: z.array(
    storedListSchema.pick({ revision: true, at: true, by: true, label: true, through: true, takenBack: true }).extend({
      lines: z.array(differenceSchema),
    }),
  ),
  older: z.int().nullable(),
});
export type ActivityHistory = z.infer<typeof activityHistorySchema>;
export type HistoryEntry = z.infer<typeof historyEntrySchema>;
