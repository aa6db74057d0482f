import { calendarSchema, personSchema } from "@chronometra/core";
import { z } from "zod";
import { effectSchema } from "./plan.ts";

/** Another project that has a calendar or person of the same id. */
export const otherProjectSchema = z.object({
  id: z.string(),
  code: z.string(),
  name: z.string(),
  /** Whether the row says the same there. */
  same: z.boolean(),
  mayEdit: z.boolean(),
});
export type OtherProject = z.infer<typeof otherProjectSchema>;

/** Where else the calendars and people of a project are used, by their id. */
export const sharedUseSchema = z.object({
  calendars: z.record(z.string(), z.array(otherProjectSchema)),
  people: z.record(z.string(), z.array(otherProjectSchema)),
});
export type SharedUse = z.infer<typeof sharedUseSchema>;

/** Calendars and people to be written in several projects at once: rewritten where they are, added where they are not. */
export const sharedRowsSchema = z.strictObject({
  projects: z.array(z.string()).min(1).max(500),
  rows: z
    .array(
      z.discriminatedUnion("table", [
        // A calendar that another rests on comes along where it is missing, and stays as it is where it is not.
        z.strictObject({ table: z.literal("calendars"), row: calendarSchema, ifMissing: z.boolean().optional() }),
        z.strictObject({ table: z.literal("people"), row: personSchema, ifMissing: z.boolean().optional() }),
      ]),
    )
    .min(1)
    .max(200),
});
export type SharedRows = z.infer<typeof sharedRowsSchema>;

export const sharedEffectSchema = z.array(
  z.object({ project: z.string(), code: z.string(), name: z.string(), effect: effectSchema }),
);
export type SharedEffect = z.infer<typeof sharedEffectSchema>;

export const sharedResultSchema = z.array(z.object({ project: z.string(), revision: z.int() }));
export type SharedResult = z.infer<typeof sharedResultSchema>;

export const holidayCountriesSchema = z.array(
  z.object({ code: z.string(), name: z.string(), regions: z.array(z.object({ code: z.string(), name: z.string() })) }),
);
export type HolidayCountries = z.infer<typeof holidayCountriesSchema>;

/** Public holidays, each with its first and last day. */
export const holidaysSchema = z.array(z.object({ from: z.string(), to: z.string(), name: z.string() }));
export type Holidays = z.infer<typeof holidaysSchema>;

export const preferenceSchema = z.strictObject({ value: z.string().max(20_000).nullable() });
