import { dateSchema } from "@chronometra/core";
import { z } from "zod";
import { problemSchema } from "./errors.ts";

/** A cell or row that was not understood, or was and deserves a look. */
export const importProblemSchema = problemSchema.extend({
  /** Where it stands in the file that was brought: sheet and cell, where known. */
  place: z.string(),
  level: z.enum(["error", "notice"]),
  /** The cell that says it, where it can be mended by writing another text into that; else left out. */
  cell: z
    .object({
      sheet: z.string(),
      /** As a spreadsheet shows it: `C5`. */
      ref: z.string(),
      heading: z.string(),
      text: z.string(),
      /** How many cells of its column say the same. */
      alike: z.int(),
    })
    .optional(),
});
export type ImportProblem = z.infer<typeof importProblemSchema>;

/** A heading found in the file and the column of ours that it is taken for. */
export const headingSchema = z.object({
  heading: z.string(),
  column: z.string().nullable(),
  guessed: z.enum(["same", "words", "cells", "remembered", "none", "byHand"]),
  sample: z.array(z.string()),
});

export const sheetSchema = z.object({
  name: z.string(),
  table: z.string().nullable(),
  headingRow: z.int().nullable(),
  rows: z.int(),
  headings: z.array(headingSchema),
  /** Rows that are no activity and were left out, with why; some of them taken after all. */
  /** Columns that it needs and does not have, which may be said once for all of its rows. */
  missing: z.array(z.object({ column: z.string(), words: z.string(), said: z.string() })),
  leftOut: z.array(z.object({ line: z.int(), text: z.string(), why: z.string(), taken: z.boolean() })),
});
export type SheetView = z.infer<typeof sheetSchema>;

export const DATE_ORDERS = ["dmy", "mdy", "ymd"] as const;
export type DateOrder = (typeof DATE_ORDERS)[number];

/** What parts decimals, where nothing in a file tells: `1.5` or `1,5`. */
export const NUMBER_STYLES = ["point", "comma"] as const;
export type NumberStyle = (typeof NUMBER_STYLES)[number];

/** What predecessors call rows by. */
export const ROW_KEYS = ["ids", "outline", "rows", "lines"] as const;
export type RowKeys = (typeof ROW_KEYS)[number];

/** What the person says of a file where it cannot speak for itself. */
export const importAnswersSchema = z.strictObject({
  dateOrder: z.enum(DATE_ORDERS).optional(),
  /** What parts decimals, where nothing in the file tells. */
  numberStyle: z.enum(NUMBER_STYLES).optional(),
  /** By sheet name: the table it is, and the column of ours for each heading (empty: leave out). */
  sheets: z
    .record(
      z.string(),
      z.strictObject({
        table: z.string().optional(),
        columns: z.record(z.string(), z.string()).optional(),
        /** What every row says in a column that the sheet does not have, as the person of all hours. */
        fixed: z.record(z.string(), z.string().max(400)).optional(),
        /** Lines of rows that were left out and are to be taken, or taken and are to be left out. */
        turned: z.array(z.int()).max(10_000).optional(),
        /** What is meant by the cells of a column that say the same, by heading and text; empty: nothing. */
        alike: z.record(z.string(), z.record(z.string(), z.string().max(4000))).optional(),
        /** What single cells are to say, by their place (`C5`). */
        cells: z.record(z.string(), z.string().max(4000)).optional(),
      }),
    )
    .optional(),
  /** What predecessors call rows by, where it is not what was taken. */
  rowKeys: z.enum(ROW_KEYS).optional(),
  /** Where start dates and links disagree, which of them holds. */
  datesOrLinks: z.enum(["dates", "links"]).optional(),
  /** Who those are that the file names and nobody knows. */
  people: z.record(z.string(), z.string().max(80)).optional(),
  /** The project to which the file brings changes; left out for one that is new. */
  changesTo: z.string().max(36).optional(),
  project: z
    .strictObject({
      code: z.string().max(64).optional(),
      name: z.string().max(400).optional(),
      start: z.string().optional(),
      currency: z.string().optional(),
      dataDate: z.string().optional(),
      /** A calendar of the register, by its id. */
      calendar: z.string().max(64).optional(),
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
  project: z
    .object({
      code: z.string(),
      name: z.string(),
      start: z.string(),
      currency: z.string(),
      dataDate: z.string(),
      calendar: z.string(),
    })
    .nullable(),
  /** The account of whoever manages the project where it comes from, where that is known here. */
  manager: z.string().nullable(),
  /** What predecessors call rows by, where they are numbers that may mean several things: what was taken, and what else fits. */
  rowKeysQuestion: z
    .object({ sample: z.string(), taken: z.enum(ROW_KEYS), able: z.array(z.enum(ROW_KEYS)) })
    .nullable(),
  /** Activities that begin on another day by their links and lengths than the file says. */
  datesQuestion: z
    .object({
      count: z.int(),
      samples: z.array(z.object({ place: z.string(), name: z.string(), given: z.string(), byLinks: z.string() })),
    })
    .nullable(),
  /** People whom the file names and nobody is called like, with those who may be meant. */
  peopleQuestion: z.array(
    z.object({
      name: z.string(),
      count: z.int(),
      place: z.string(),
      meant: z.array(z.object({ id: z.string(), name: z.string() })),
    }),
  ),
  /** Calendars and people of the register, and whoever may manage the project. */
  known: z.object({
    calendars: z.array(z.object({ id: z.string(), name: z.string() })),
    people: z.array(z.object({ id: z.string(), name: z.string() })),
    managers: z.array(z.object({ id: z.string(), name: z.string() })),
  }),
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
  /** What sheets may hold and columns may be, in words. */
  tables: z.array(
    z.object({
      table: z.string(),
      words: z.string(),
      columns: z.array(z.object({ column: z.string(), words: z.string() })),
    }),
  ),
});
export type ImportView = z.infer<typeof importViewSchema>;

/** How files were understood before, kept under names for the next ones. */
export const understandingsSchema = z.array(
  z.object({ id: z.string(), name: z.string(), by: z.string(), at: z.string() }),
);
export const keepUnderstandingSchema = z.strictObject({ name: z.string().trim().min(1, "give it a name").max(120) });

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

export const storeImportSchema = z.strictObject({
  programme: z.string().nullable().optional(),
  /** The account that is to manage it; whoever stores it without one. */
  manager: z.string().max(36).optional(),
});
/** A project that is begun with nothing in its plan. */
export const newProjectSchema = z.strictObject({
  code: z.string().trim().min(1, "give the project a code").max(64),
  name: z.string().trim().min(1, "give the project a name").max(400),
  start: dateSchema,
  currency: z.string().regex(/^[A-Z]{3}$/, "must be a currency code of ISO 4217, three capital letters"),
  programme: z.string().nullable(),
});

export const storedSchema = z.object({ project: z.string() });
