import { dateSchema } from "@chronometra/core";
import { z } from "zod";
import { amountMinorSchema, minutesSchema } from "./units.ts";
import { DATE_ORDERS, NUMBER_STYLES } from "./exchange.ts";

/** What comes from other systems: costs of a ledger, and time of a time clock. */
export const LINE_KINDS = ["cost", "time"] as const;
const kindSchema = z.enum(LINE_KINDS);
export type LineKind = (typeof LINE_KINDS)[number];

/** Columns of a file of each kind; those with `needed` must be matched. */
export const LINE_COLUMNS = {
  cost: { project: true, activity: false, date: true, amount: true, category: false, reference: false, note: false },
  time: { project: true, activity: false, person: true, date: true, hours: true, reference: false, note: false },
} as const satisfies Record<LineKind, Record<string, boolean>>;

/** A line as another system says it, before anything of it is known here. */
export const feedLineSchema = z.strictObject({
  /**
   * What names the document in the system it comes from; within it, lines are told apart by project, activity, person,
   * date and place. The same line with another amount is a correction.
   */
  reference: z.string().trim().min(1).max(200),
  project: z.string().trim().min(1, "name the project by code or name").max(400),
  activity: z.string().trim().max(400).optional(),
  person: z.string().trim().max(400).optional(),
  date: dateSchema,
  /** In whole units of the project's currency. */
  amount: z.number().optional(),
  minutes: minutesSchema.optional(),
  category: z.string().trim().max(200).optional(),
  note: z.string().max(1000).optional(),
});
export type FeedLine = z.infer<typeof feedLineSchema>;
export const feedSchema = z.strictObject({ lines: z.array(feedLineSchema).min(1).max(5000) });

/** What became of lines that came in. */
export const takenInSchema = z.object({
  added: z.int(),
  matched: z.int(),
  unmatched: z.int(),
  /** Lines that were here and say something else now; each waits to be decided. */
  corrections: z.int(),
  /** Lines that were here already. */
  known: z.int(),
});
export type TakenIn = z.infer<typeof takenInSchema>;
/** The same, and of each line, in its order, what became of it. */
export const feedTakenInSchema = takenInSchema.extend({
  lines: z.array(
    z.object({ reference: z.string().nullable(), became: z.enum(["matched", "unmatched", "correction", "known"]) }),
  ),
});
export type FeedTakenIn = z.infer<typeof feedTakenInSchema>;

export const outsideLineSchema = z.object({
  id: z.string(),
  kind: kindSchema,
  source: z.string(),
  state: z.enum(["matched", "unmatched", "correction", "aside", "posted"]),
  /** As it was said. */
  said: z.object({ project: z.string(), activity: z.string(), person: z.string() }),
  project: z.object({ id: z.string(), code: z.string(), name: z.string() }).nullable(),
  activity: z.object({ id: z.string(), name: z.string() }).nullable(),
  person: z.object({ id: z.string(), name: z.string() }).nullable(),
  date: z.string(),
  amount: z.number().nullable(),
  minutes: minutesSchema.nullable(),
  currency: z.string().nullable(),
  category: z.string(),
  reference: z.string(),
  note: z.string(),
  /** Why it could not be matched, or why it was set aside. */
  why: z.string().nullable(),
  /** Of a correction: what the line said before, and whether that is posted. */
  was: z
    .object({
      amount: z.number().nullable(),
      minutes: minutesSchema.nullable(),
      category: z.string(),
      posted: z.boolean(),
    })
    .nullable(),
});
export type OutsideLine = z.infer<typeof outsideLineSchema>;

export const outsideFileSchema = z.object({
  id: z.string(),
  name: z.string(),
  rows: z.int(),
  headings: z.array(
    z.object({
      heading: z.string(),
      column: z.string().nullable(),
      remembered: z.boolean(),
      sample: z.array(z.string()),
    }),
  ),
  /** Whether its dates can be read in more than one order. */
  asksDateOrder: z.boolean(),
  /** A number that can be read in two ways, where its column does not tell which. */
  asksNumbers: z.string().nullable(),
});
export type OutsideFile = z.infer<typeof outsideFileSchema>;
export const takeFileSchema = z.strictObject({
  columns: z.record(z.string(), z.string()),
  dateOrder: z.enum(DATE_ORDERS).optional(),
  numberStyle: z.enum(NUMBER_STYLES).optional(),
});

export const matchLineSchema = z.strictObject({
  project: z.string(),
  activity: z.string(),
  person: z.string().optional(),
  /** Other lines that say the same, now and later, are matched alike. */ remember: z.boolean(),
});
export const lineIdsSchema = z.strictObject({ ids: z.array(z.string()).min(1, "select a line").max(5000) });
export const asideSchema = z.strictObject({
  ids: z.array(z.string()).min(1).max(5000),
  why: z.string().trim().min(3, "say why it is set aside").max(500).nullable(),
});
export const postedLinesSchema = z.object({ costs: z.int(), reports: z.int() });
export const costByHandSchema = z.strictObject({
  project: z.string(),
  activity: z.string(),
  date: dateSchema,
  amountMinor: amountMinorSchema.refine((amount) => amount !== 0, "the amount is not 0"),
  category: z.string().trim().max(200),
  reference: z.string().trim().max(200),
});

/** Where lines can be matched to: projects one may change, with what can take time and cost. */
export const outsideTargetsSchema = z.array(
  z.object({
    id: z.string(),
    code: z.string(),
    name: z.string(),
    currency: z.string(),
    minorDigits: z.int(),
    activities: z.array(z.object({ id: z.string(), name: z.string() })),
    people: z.array(z.object({ id: z.string(), name: z.string() })),
    categories: z.array(z.string()),
  }),
);
export type OutsideTargets = z.infer<typeof outsideTargetsSchema>;

export const simulatedSchema = z.strictObject({ which: z.enum(["clock", "ledger"]) });
