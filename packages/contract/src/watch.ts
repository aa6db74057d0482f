import { dateSchema } from "@chronometra/core";
import { z } from "zod";
import { summedInSchema } from "./money.ts";
import { sharedEffectSchema } from "./resources.ts";
import { SHARED_ROLES, WATCH_ABOUT } from "./watchFields.ts";

/** `2026-11-24`, or a day that moves with today: `today`, `today+30`, `today-7`. */
const movingDateSchema = z
  .string()
  .refine(
    (text) => dateSchema.safeParse(text).success || /^today(?:[+-]\d{1,4})?$/.test(text),
    "must be a date YYYY-MM-DD, or today, today+30, today-7",
  );

const field = z.string().min(1).max(220);

/** One thing that must hold of a row. */
export const watchConditionSchema = z.discriminatedUnion("is", [
  z.strictObject({ field, is: z.enum(["empty", "filled", "yes", "no"]) }),
  z.strictObject({
    field,
    is: z.enum(["has", "hasNot"]),
    text: z.string().trim().min(1, "write what to look for").max(200),
  }),
  z.strictObject({ field, is: z.enum(["atLeast", "below"]), number: z.number() }),
  z.strictObject({ field, is: z.literal("within"), from: movingDateSchema, to: movingDateSchema }),
  z.strictObject({ field, is: z.enum(["before", "after"]), date: movingDateSchema }),
  /** People may be `me` and `team`, everyone of the teams that one is in. */
  z.strictObject({
    field,
    is: z.enum(["any", "none"]),
    of: z.array(z.string().min(1).max(200)).min(1, "select at least one").max(200),
  }),
]);
export type WatchCondition = z.infer<typeof watchConditionSchema>;

/** A question over all projects: what must hold, and how the answer is laid out. */
export const watchQuestionSchema = z.strictObject({
  about: z.enum(WATCH_ABOUT),
  /** All conditions of one of the groups must hold; without groups everything is in. */
  where: z.array(z.array(watchConditionSchema).min(1).max(30)).max(10),
  columns: z.array(field).min(1, "show at least one column").max(60),
  sort: z.array(z.strictObject({ field, desc: z.boolean() })).max(3),
  group: field.nullable(),
  /** A table of one field by another; what is counted or summed in each cell. */
  pivot: z.strictObject({ rows: field, columns: field.nullable(), sum: field.nullable() }).nullable(),
});
export type WatchQuestion = z.infer<typeof watchQuestionSchema>;

const valueSchema = z.union([z.string(), z.number(), z.boolean(), z.null()]);
const sumsSchema = z.record(z.string(), z.number().nullable());

export const watchRowSchema = z.object({
  project: z.string(),
  /** The activity that the row is or belongs to; of a risk that bears on none, nothing. */
  activity: z.string(),
  key: z.string(),
  currency: z.string(),
  minorDigits: z.int(),
  mayEdit: z.boolean(),
  /** What the group is called that the row stands in. */
  group: z.string().nullable(),
  /** By field. Amounts in minor units, hours in minutes, several names separated by commas. */
  values: z.record(z.string(), valueSchema),
});
export type WatchRow = z.infer<typeof watchRowSchema>;

/** The rows of one group of an answer, or of all of it. */
export const watchRowsSchema = z.strictObject({
  question: watchQuestionSchema,
  /** What the group is called; left out for all rows. */ group: z.string().nullable().optional(),
});

/** The answer to a question. `count` and the sums are of all rows that hold, of which at most `shown` are given. */
export const watchAnswerSchema = z.object({
  count: z.int(),
  shown: z.int(),
  /** What amounts are summed in; those of single rows are in their project's own. */
  money: summedInSchema,
  sums: sumsSchema,
  groups: z.array(z.object({ name: z.string().nullable(), count: z.int(), sums: sumsSchema })),
  /** How many groups there are, of which the first are given. */
  groupCount: z.int(),
  rows: z.array(watchRowSchema),
  /** Totals are of all rows, each counted once, whether shown or not; `null` where amounts cannot be summed. */
  pivot: z
    .object({
      rows: z.array(z.string()),
      columns: z.array(z.string()),
      /** By row and column; 0 where nothing is. */
      cells: z.array(z.array(z.number())),
      rowTotals: z.array(z.number()),
      columnTotals: z.array(z.number()),
      total: z.number().nullable(),
      moreRows: z.int(),
      moreColumns: z.int(),
    })
    .nullable(),
});
export type WatchAnswer = z.infer<typeof watchAnswerSchema>;

/** What may be chosen in conditions: names by field, and own fields of all projects. */
export const watchChoicesSchema = z.object({
  people: z.array(z.object({ id: z.string(), name: z.string() })),
  roles: z.array(z.string()),
  projects: z.array(z.object({ id: z.string(), name: z.string() })),
  programmes: z.array(z.object({ id: z.string(), name: z.string() })),
  managers: z.array(z.object({ id: z.string(), name: z.string() })),
  categories: z.array(z.string()),
  ownFields: z.array(
    z.object({
      name: z.string(),
      type: z.enum(["text", "number", "date", "choice", "yesNo"]),
      choices: z.array(z.string()),
    }),
  ),
});
export type WatchChoices = z.infer<typeof watchChoicesSchema>;

export const writeWatchlistSchema = z.strictObject({
  name: z.string().trim().min(1, "give the watchlist a name").max(120),
  question: watchQuestionSchema,
  /** Roles that find it among theirs; whoever has the link can open it anyway. */ roles: z
    .array(z.enum(SHARED_ROLES))
    .max(4),
});
export const watchlistSchema = z.object({
  id: z.string(),
  name: z.string(),
  question: watchQuestionSchema,
  roles: z.array(z.enum(SHARED_ROLES)),
  owner: z.string(),
  mine: z.boolean(),
  /** One that ships with the application. */ ready: z.boolean(),
});
export type Watchlist = z.infer<typeof watchlistSchema>;

const chosenRows = z
  .array(z.strictObject({ project: z.string().max(36), activity: z.string().max(64) }))
  .min(1, "select rows")
  .max(2000);
const reason = z.string().trim().max(200).optional();

/** What is to be done with rows of activities. */
export const watchActSchema = z.strictObject({
  rows: chosenRows,
  act: z.discriminatedUnion("do", [
    z.strictObject({ do: z.literal("pushOut"), days: z.int().min(1, "push out by at least a day").max(1000), reason }),
    z.strictObject({ do: z.literal("reassign"), from: z.string().max(64).nullable(), to: z.string().max(64) }),
    z.strictObject({ do: z.literal("setOwner"), to: z.string().max(64).nullable() }),
    z.strictObject({ do: z.literal("setName"), name: z.string().trim().min(1, "an activity needs a name").max(500) }),
    z.strictObject({ do: z.literal("setDuration"), days: z.number().min(0.1).max(10_000) }),
    z.strictObject({ do: z.literal("setDeadline"), date: dateSchema.nullable() }),
    z.strictObject({
      do: z.literal("setOwnValue"),
      field: z.string().max(200),
      value: z.union([z.string().min(1).max(4000), z.number(), z.boolean()]).nullable(),
    }),
  ]),
});
export type WatchAct = z.infer<typeof watchActSchema>;

const leftSchema = z.array(z.object({ project: z.string(), id: z.string(), name: z.string(), why: z.string() }));
export const watchActEffectSchema = z.object({ effects: sharedEffectSchema, left: leftSchema });
export const watchActDoneSchema = z.object({
  changed: z.int(),
  left: leftSchema,
  revisions: z.array(z.object({ project: z.string(), revision: z.int() })),
});
export type WatchActEffect = z.infer<typeof watchActEffectSchema>;

export const newFeedSchema = z.strictObject({ subject: z.string().min(1).max(36) });
export const calendarFeedSchema = z.object({
  madeAt: z.string().nullable(),
  /** Told once, when it is made. */ path: z.string().nullable(),
});
export type CalendarFeed = z.infer<typeof calendarFeedSchema>;
