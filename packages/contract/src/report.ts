import { ASPECTS, RATINGS } from "@chronometra/core";
import { z } from "zod";
import { GROUP_SECTIONS, PAPERS, REPORT_SECTIONS } from "./reportWords.ts";
import { amountMinorSchema } from "./units.ts";

const aspectSchema = z.enum(ASPECTS);
const ratingSchema = z.enum(RATINGS);

/** How something reads: bad news, good news, undecided. */
const toneSchema = z.enum(["adverse", "favourable", "undecided"]);
export type ReportTone = z.infer<typeof toneSchema>;

/** A cell as it is read, and the number or the date `YYYY-MM-DD` behind it, for the workbook. */
const cellSchema = z.object({ text: z.string(), value: z.union([z.number(), z.string()]).optional() });
export type ReportCell = z.infer<typeof cellSchema>;

/** Where the rows behind something are, from the installation's address on; for as long as it is live. */
const linkSchema = z.string().optional();

const figuresBlock = z.object({
  is: z.literal("figures"),
  items: z.array(
    z.object({
      name: z.string(),
      value: cellSchema,
      /** Against the report before; empty where there is none. */
      change: z.string(),
      tone: toneSchema.optional(),
      link: linkSchema,
    }),
  ),
});
const tableBlock = z.object({
  is: z.literal("table"),
  caption: z.string().optional(),
  columns: z.array(z.object({ name: z.string(), number: z.boolean() })),
  rows: z.array(z.object({ cells: z.array(cellSchema), tone: toneSchema.optional(), link: linkSchema })),
  /** What is said where there are no rows. */
  none: z.string(),
});
const linesBlock = z.object({
  is: z.literal("lines"),
  items: z.array(z.object({ text: z.string(), tone: toneSchema.optional(), link: linkSchema })),
  none: z.string(),
});
const saidBlock = z.object({
  is: z.literal("said"),
  aspect: aspectSchema,
  name: z.string(),
  rating: ratingSchema,
  words: z.string(),
  /** The rule that the rating follows, or why it differs from what the rule suggests. */
  why: z.string(),
  text: z.string(),
});
const curveBlock = z.object({
  is: z.literal("curve"),
  currency: z.string(),
  minorDigits: z.int(),
  dataDate: z.string().nullable(),
  points: z.array(
    z.object({
      date: z.string(),
      pv: amountMinorSchema,
      ev: amountMinorSchema.nullable(),
      ac: amountMinorSchema.nullable(),
    }),
  ),
});
const trendBlock = z.object({
  is: z.literal("trend"),
  /** Data dates of the reports, the newest last. */
  dates: z.array(z.string()),
  lines: z.array(z.object({ name: z.string(), forecasts: z.array(z.string().nullable()) })),
});
const blockSchema = z.discriminatedUnion("is", [
  figuresBlock,
  tableBlock,
  linesBlock,
  saidBlock,
  curveBlock,
  trendBlock,
]);
export type ReportBlock = z.infer<typeof blockSchema>;

const partSchema = z.object({
  /** Its name, and for which project where it is one of several. */
  id: z.string(),
  title: z.string(),
  /** 1 for the parts of a report, 2 for those of a project within the report of a group. */
  level: z.int(),
  blocks: z.array(blockSchema),
});
export type ReportPart = z.infer<typeof partSchema>;

/**
 * A report as it is read: words and numbers, and nothing that has to be looked up. What is issued is kept so, and reads
 * the same whatever becomes of the plan, of fields and of this software: what is written anew gets another `format`.
 */
export const reportContentSchema = z.object({
  format: z.literal(1),
  of: z.enum(["project", "group"]),
  organisation: z.string(),
  title: z.string(),
  /** The project's code, or how many projects a group has, and where it belongs. */
  under: z.string(),
  manager: z.string(),
  period: z.int(),
  dataDate: z.string(),
  parts: z.array(partSchema),
});
export type ReportContent = z.infer<typeof reportContentSchema>;

/** What is said on one side, on its way into the report. */
const draftAspectSchema = z.object({
  aspect: aspectSchema,
  /** Raised whenever it is written; to be named by whoever writes it next. */
  version: z.int(),
  suggested: ratingSchema,
  rules: z.array(z.string()),
  /** `null` where the suggestion stands. */
  rating: ratingSchema.nullable(),
  reason: z.string(),
  /** `null` where what the app began stands, as of the moment in which the report is issued. */
  text: z.string().nullable(),
  begun: z.string(),
  /** What the report before said. */
  last: z.object({ rating: ratingSchema, text: z.string() }).nullable(),
  by: z.string().nullable(),
  at: z.string().nullable(),
});
export type DraftAspect = z.infer<typeof draftAspectSchema>;

const issuedLineSchema = z.object({
  number: z.int(),
  edition: z.int(),
  dataDate: z.string(),
  by: z.string(),
  at: z.string(),
  digest: z.string(),
  /** Whether it is the one that holds: the newest edition, with its period not opened again since. */
  holds: z.boolean(),
  /** Why its period was opened again. */
  reopened: z.string().nullable(),
});
export type IssuedLine = z.infer<typeof issuedLineSchema>;

/** The open period's report while it is made, and those that were issued, newest first. */
export const reportDraftSchema = z.object({
  id: z.string(),
  of: z.enum(["project", "group"]),
  name: z.string(),
  mayEdit: z.boolean(),
  mayIssue: z.boolean(),
  period: z.object({ number: z.int(), dataDate: z.string(), issueBy: z.string() }).nullable(),
  /** Why there is nothing to be issued, in words. */
  hindrance: z.string().nullable(),
  /** Whether this period's report is issued. */
  issued: z.boolean(),
  aspects: z.array(draftAspectSchema),
  reports: z.array(issuedLineSchema),
});
export type ReportDraft = z.infer<typeof reportDraftSchema>;

export const writeAspectSchema = z.strictObject({
  version: z.int(),
  rating: ratingSchema.nullable(),
  reason: z.string().trim().max(500),
  text: z.string().max(8000).nullable(),
});

/** A report that was issued. */
export const issuedReportSchema = z.object({
  line: issuedLineSchema,
  content: reportContentSchema,
  /** Whether its text still has the digest that it was issued with. */
  whole: z.boolean(),
  /** Neighbours that hold, by number. */
  before: z.int().nullable(),
  after: z.int().nullable(),
  /** All periods of which there are reports, newest first. */
  numbers: z.array(z.int()),
  editions: z.array(issuedLineSchema),
});
export type IssuedReport = z.infer<typeof issuedReportSchema>;

/** Groups with reports: the whole house first, then as they lie in each other. */
export const reportGroupsSchema = z.array(
  z.object({
    id: z.string(),
    name: z.string(),
    level: z.int(),
    /** Whether the group's own report may be opened: it tells of all projects in it, seen or not. */
    mayOpen: z.boolean(),
    projects: z.array(
      z.object({ id: z.string(), code: z.string(), name: z.string(), issued: z.int().nullable(), closed: z.boolean() }),
    ),
    issued: z.int().nullable(),
  }),
);
export type ReportGroups = z.infer<typeof reportGroupsSchema>;

export const reportLayoutSchema = z.object({
  /** Of the projects' reports. */
  sections: z.array(z.enum(REPORT_SECTIONS)),
  /** Of the group's own. */
  groupSections: z.array(z.enum(GROUP_SECTIONS)),
  /** Where it is taken from: the group itself, one above, or nowhere. */
  from: z.string().nullable(),
});
export type ReportLayout = z.infer<typeof reportLayoutSchema>;
export const writeLayoutSchema = z.strictObject({
  /** Of the projects' reports; `null` to take all from above. */
  sections: z.array(z.enum(REPORT_SECTIONS)).min(1, "select at least one part").max(REPORT_SECTIONS.length).nullable(),
  /** Of the group's own; without it, all in their order. */
  groupSections: z
    .array(z.enum(GROUP_SECTIONS))
    .min(1, "select at least one part")
    .max(GROUP_SECTIONS.length)
    .default([...GROUP_SECTIONS]),
});
export type WriteLayout = z.infer<typeof writeLayoutSchema>;

export const paperSchema = z.strictObject({ paper: z.enum(PAPERS) });

/** A file that took a while to be made. */
export const madeFileSchema = z.object({
  name: z.string(),
  type: z.string(),
  /** Its bytes as base64. */
  content: z.string(),
});

const someoneSchema = z.object({ id: z.string(), name: z.string() });
/** Who gets the reports of something when they are issued, and who of the accounts could. */
export const reportRecipientsSchema = z.object({
  mayEdit: z.boolean(),
  accounts: z.array(someoneSchema),
  addresses: z.array(z.string()),
  choices: z.array(someoneSchema),
});
export type ReportRecipients = z.infer<typeof reportRecipientsSchema>;
const recipientsSchema = z.strictObject({
  accounts: z.array(z.string().max(36)).max(500).optional(),
  addresses: z.array(z.email("write an address as name@example.org").max(320)).max(500).optional(),
});
/** Who is to get them besides, and who no more; the others stay, whoever named them. */
export const writeRecipientsSchema = z.strictObject({
  add: recipientsSchema.optional(),
  remove: recipientsSchema.optional(),
});
