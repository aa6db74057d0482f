import { dateSchema } from "@chronometra/core";
import { z } from "zod";
import { problemSchema } from "./errors.ts";

/** A cell or row that was not understood, or was and deserves a look. */
export const importProblemSchema = problemSchema.extend({
  /** Where it stands in the file that was brought: sheet and cell, where known. */
  place: z.string(),
  level: z.enum(["error", "notice"]),
});
export type ImportProblem = z.infer<typeof importProblemSchema>;

/** A heading found in the file and the column of ours that it is taken for. */
export const headingSchema = z.object({
  heading: z.string(),
  column: z.string().nullable(),
  guessed: z.enum(["same", "remembered", "none", "byHand"]),
  sample: z.array(z.string()),
});

export const sheetSchema = z.object({
  name: z.string(),
  table: z.string().nullable(),
  headingRow: z.int().nullable(),
  rows: z.int(),
  headings: z.array(headingSchema),
});
export type SheetView = z.infer<typeof sheetSchema>;

export const DATE_ORDERS = ["dmy", "mdy", "ymd"] as const;
export type DateOrder = (typeof DATE_ORDERS)[number];

/** What parts decimals, where nothing in a file tells: `1.5` or `1,5`. */
export const NUMBER_STYLES = ["point", "comma"] as const;
export type NumberStyle = (typeof NUMBER_STYLES)[number];

/** What the person says of a file where it cannot speak for itself. */
export const importAnswersSchema = z.strictObject({
  dateOrder: z.enum(DATE_ORDERS).optional(),
  /** What parts decimals, where nothing in the file tells. */
  numberStyle: z.enum(NUMBER_STYLES).optional(),
  /** By sheet name: the table it is, and the column of ours for each heading (empty: leave out). */
  sheets: z
    .record(
      z.string(),
      z.strictObject({ table: z.string().optional(), columns: z.record(z.string(), z.string()).optional() }),
    )
    .optional(),
  /** The project to which the file brings changes; left out for one that is new. */
  changesTo: z.string().max(36).optional(),
  project: z
    .strictObject({
      code: z.string().max(64).optional(),
      name: z.string().max(400).optional(),
      start: z.string().optional(),
      currency: z.string().optional(),
    })
    .optional(),
});
export type ImportAnswers = z.infer<typeof importAnswersSchema>;

export const importViewSchema = z.object({
  id: z.string(),
  fileName: z.string(),
  state: z.enum(["reading", "ready", "failed", "stored"]),
  progress: z.number(),
  step: z.string(),
  kind: z.enum(["bundle", "tables"]).nullable(),
  sheets: z.array(sheetSchema),
  /** Set where dates in the file can be read in more than one order. */
  dateQuestion: z.object({ sample: z.string(), orders: z.array(z.enum(DATE_ORDERS)) }).nullable(),
  /** Set where a number in the file can be read in two ways and nothing tells which: the text, and both numbers. */
  numberQuestion: z.object({ sample: z.string(), point: z.string(), comma: z.string() }).nullable(),
  project: z.object({ code: z.string(), name: z.string(), start: z.string(), currency: z.string() }).nullable(),
  counts: z.array(z.object({ table: z.string(), rows: z.int() })),
  /** The first activities as they were understood. */
  preview: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      depth: z.int(),
      duration: z.string(),
      start: z.string(),
      finish: z.string(),
    }),
  ),
  problems: z.array(importProblemSchema),
  errors: z.int(),
  storable: z.boolean(),
  storedAs: z.string().nullable(),
  answers: importAnswersSchema,
  columns: z.record(z.string(), z.array(z.string())),
});
export type ImportView = z.infer<typeof importViewSchema>;

/** What a file would change in a project, row by row. */
export const fileChangesSchema = z.object({
  project: z.object({ id: z.string(), code: z.string(), name: z.string() }),
  revision: z.int(),
  /** The revision that the file was made from; null where it does not say, or nobody knows any more: then it is compared with the plan as it is. */
  madeFrom: z.object({ revision: z.int(), at: z.string() }).nullable(),
  rows: z.array(
    z.object({
      key: z.string(),
      table: z.string(),
      what: z.enum(["added", "removed", "changed"]),
      name: z.string(),
      /** What the file changes; `then`, what it was when the file was made, where the plan has changed it since too. */
      fields: z.array(
        z.object({ field: z.string(), from: z.unknown(), to: z.unknown(), then: z.unknown().optional() }),
      ),
      /** Whether plan and file both changed it since the file was made. */
      both: z.boolean(),
    }),
  ),
});
export type FileChanges = z.infer<typeof fileChangesSchema>;

/** The rows to be taken over, as of the revision that was looked at. */
export const takeChangesSchema = z.strictObject({
  revision: z.int(),
  keys: z.array(z.string()).min(1, "select at least one row").max(100_000),
});

export const storeImportSchema = z.strictObject({ programme: z.string().nullable().optional() });
/** A project that is begun with nothing in its plan. */
export const newProjectSchema = z.strictObject({
  code: z.string().trim().min(1, "give the project a code").max(64),
  name: z.string().trim().min(1, "give the project a name").max(400),
  start: dateSchema,
  currency: z.string().regex(/^[A-Z]{3}$/, "must be a currency code of ISO 4217, three capital letters"),
  programme: z.string().nullable(),
});

export const storedSchema = z.object({ project: z.string() });
