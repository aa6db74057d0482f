import { dateSchema, projectSchema } from "@chronometra/core";
import { z } from "zod";
import { PROJECT_STATES, WORDED, type Worded } from "./charterWords.ts";
import { amountMinorSchema } from "./units.ts";

const short = z.string().trim().max(200);
const long = z.string().trim().max(8000);
const key = z.string().min(1).max(36);

/** What is expected of a project, measured later against what came. */
export const benefitSchema = z.strictObject({
  what: z.string().trim().min(1, "say what comes of it").max(300),
  measure: short,
  target: short,
  by: dateSchema.nullable(),
  /** Where it is money: how much in which month (`YYYY-MM`) or year (`YYYY`), in minor units of the project's currency. */
  money: z
    .array(
      z.strictObject({
        period: z.string().regex(/^\d{4}(-(0[1-9]|1[0-2]))?$/, "write a year or a month, as 2027 or 2027-03"),
        amountMinor: amountMinorSchema,
      }),
    )
    .max(240),
  /** What was measured of it, and when. */
  measured: z
    .array(
      z.strictObject({
        on: dateSchema,
        text: z.string().trim().min(1, "say what was measured").max(300),
        amountMinor: amountMinorSchema.nullable(),
      }),
    )
    .max(200),
});
export type Benefit = z.infer<typeof benefitSchema>;

/** Something that a project brings forth. */
export const deliverableSchema = z.strictObject({
  name: z.string().trim().min(1, "give it a name").max(300),
  owner: short,
  /** Milestones and activities of the plan that make it. */
  makes: z.array(z.string().min(1).max(64)).max(100),
  accepted: z.strictObject({ by: z.string().trim().min(1, "say who accepts it").max(200), on: dateSchema }).nullable(),
  /** The stage that it belongs to, of the project's life cycle; left out where it belongs to none. */
  stage: key.optional(),
});
export type Deliverable = z.infer<typeof deliverableSchema>;

/** Why a project is, for whom, and within what. */
const charterFields = {
  state: z.enum(PROJECT_STATES),
  sponsor: short,
  organisation: short,
  kind: short,
  purpose: long,
  assumptions: long,
  constraints: long,
} as const;

const ownWord = z.string().trim().min(1, "give a word").max(30, "a word of 30 letters at most");
/** What a project calls states and priorities, where it has words of its own for them. */
export const ownWordsSchema = z.partialRecord(z.enum(WORDED), ownWord);

export const charterSchema = z.object({
  ...charterFields,
  words: ownWordsSchema,
  benefits: z.record(key, benefitSchema),
  deliverables: z.record(key, deliverableSchema),
});
export type Charter = z.infer<typeof charterSchema>;
export type CharterField = keyof typeof charterFields;

/** One thing that is written into a charter, with what its writer saw there: another's word is not written over. */
const write = <F extends string, T extends z.ZodType>(field: F, value: T) =>
  z.strictObject({ field: z.literal(field), was: value, value });
const writeRow = <F extends string, T extends z.ZodType>(field: F, row: T) =>
  z.strictObject({ field: z.literal(field), id: key, was: row.nullable(), value: row.nullable() });
export const writeCharterSchema = z.discriminatedUnion("field", [
  write("state", charterFields.state),
  write("sponsor", short),
  write("organisation", short),
  write("kind", short),
  write("purpose", long),
  write("assumptions", long),
  write("constraints", long),
  writeRow("benefits", benefitSchema),
  writeRow("deliverables", deliverableSchema),
  writeRow("words", ownWord).extend({ id: z.enum(WORDED) }),
]);
export type WriteCharter =
  | { [F in CharterField]: { field: F; was: Charter[F]; value: Charter[F] } }[CharterField]
  | { field: "benefits"; id: string; was: Benefit | null; value: Benefit | null }
  | { field: "deliverables"; id: string; was: Deliverable | null; value: Deliverable | null }
  | { field: "words"; id: Worded; was: string | null; value: string | null };

const named = z.object({ id: z.string(), name: z.string() });

/** A project as such: its head, who answers for it, its charter, and what was written there last. */
export const charterViewSchema = z.object({
  id: z.string(),
  revision: z.int(),
  head: projectSchema,
  manager: named,
  /** Whoever may manage it. */
  managers: z.array(named),
  calendars: z.array(named),
  /** Activities and milestones, for what a deliverable is made by. */
  activities: z.array(named),
  mayEdit: z.boolean(),
  mayHandOver: z.boolean(),
  closed: z.boolean(),
  /** Whether money is booked or approved, so that the currency stays. */
  booked: z.boolean(),
  charter: charterSchema,
  log: z.array(z.object({ at: z.string(), by: z.string(), what: z.string() })),
});
export type CharterView = z.infer<typeof charterViewSchema>;

export const handOverSchema = z.strictObject({ manager: z.string().min(1).max(36), word: z.string().trim().max(1000) });
