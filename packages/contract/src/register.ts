import { calendarSchema, categorySchema, personSchema, teamSchema } from "@chronometra/core";
import { z } from "zod";
import { otherProjectSchema } from "./resources.ts";

/** Tables of the register; each keeps rows as plans do. */
export const REGISTER_TABLES = ["calendars", "people", "teams", "categories"] as const;
export type RegisterTable = (typeof REGISTER_TABLES)[number];

/** Someone in the register: what an hour costs is told apart, to those who may know it. */
const registeredPersonSchema = personSchema.omit({ rates: true });

const entry = <T extends z.ZodType>(row: T) =>
  z.object({
    row,
    /** By whom and when it was last changed in the register; `null` of what was taken in from projects. */
    changedBy: z.string().nullable(),
    changedAt: z.string().nullable(),
    /** Open projects that have a row of this id (of teams and categories, of this name), and whether it says the same there. */
    projects: z.array(otherProjectSchema),
  });

/** The calendars, people, teams and cost categories of the whole installation, with where each is used. */
export const registerSchema = z.object({
  /** The currency of people's rates in the register, and its digits; projects in others keep rates of their own. */
  currency: z.string(),
  minorDigits: z.int(),
  mayWrite: z.boolean(),
  calendars: z.array(entry(calendarSchema)),
  people: z.array(entry(registeredPersonSchema)),
  teams: z.array(entry(teamSchema)),
  categories: z.array(entry(categorySchema)),
  /** How many rows of each table projects have that the register has not. */
  missing: z.record(z.enum(REGISTER_TABLES), z.int()),
});
export type Register = z.infer<typeof registerSchema>;

/** Rates of people, by their id, in minor units of the register's currency an hour. */
export const registerRatesSchema = z.record(z.string(), personSchema.shape.rates.unwrap());
export type RegisterRates = z.infer<typeof registerRatesSchema>;

const row = z.discriminatedUnion("table", [
  z.strictObject({ table: z.literal("calendars"), row: calendarSchema }),
  z.strictObject({ table: z.literal("people"), row: personSchema }),
  z.strictObject({ table: z.literal("teams"), row: teamSchema }),
  z.strictObject({ table: z.literal("categories"), row: categorySchema }),
]);

/** A row to keep in the register, and projects to write it to in the same act. */
export const writeRegisterSchema = z.strictObject({
  change: row,
  /** The row as the writer saw it, so that nobody overwrites what they have not seen; `null` of a new one. */
  seen: z.unknown(),
  /** Of calendars and people alone. */
  projects: z.array(z.string()).max(500),
});
export type WriteRegister = z.infer<typeof writeRegisterSchema>;

/** Rows of the register to be taken over into one project. */
export const takeOverSchema = z.strictObject({
  rows: z
    .array(z.strictObject({ table: z.enum(["calendars", "people", "teams", "categories"]), id: z.string().max(64) }))
    .min(1)
    .max(500),
});
export type TakeOver = z.infer<typeof takeOverSchema>;
