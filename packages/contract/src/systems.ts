import { dateSchema } from "@chronometra/core";
import { z } from "zod";
import { earnedScheduleSchema, figuresSchema } from "./look.ts";

/** What another system may do with a token. */
export const TOKEN_PURPOSES = {
  readFigures: "read figures",
  readWatchlists: "read watchlists",
  sendTime: "send time",
  sendCosts: "send costs",
  readMetrics: "read how the server fares",
} as const;
export type TokenPurpose = keyof typeof TOKEN_PURPOSES;
const purposeSchema = z.enum(Object.keys(TOKEN_PURPOSES) as TokenPurpose[]);

/** Tokens by which other systems read and send. The token itself is told once. */
export const tokensSchema = z.array(
  z.object({
    id: z.string(),
    name: z.string(),
    purposes: z.array(purposeSchema),
    /** The group, with all below it, that it is for; `null` for the whole house. */
    group: z.object({ id: z.string(), name: z.string() }).nullable(),
    /** The last day on which it is taken; `null` until it is revoked. */
    lastDay: z.string().nullable(),
    /** Whether that day has passed. */
    ended: z.boolean(),
    madeAt: z.string(),
    usedAt: z.string().nullable(),
  }),
);
export type Tokens = z.infer<typeof tokensSchema>;

export const newTokenSchema = z.strictObject({
  name: z.string().trim().min(1, "name the system that will use it").max(120),
  purposes: z.array(purposeSchema).min(1, "say what the system may do").max(Object.keys(TOKEN_PURPOSES).length),
  /** The id of a group; left out for the whole house. */
  group: z.string().max(36).nullable().default(null),
  lastDay: dateSchema.nullable().default(null),
});
export const madeTokenSchema = z.object({ id: z.string(), token: z.string() });

/** A project as other systems hear of it. */
export const feedProjectSchema = z.object({
  id: z.string(),
  code: z.string(),
  name: z.string(),
  /** The names of the groups that it lies in, from the top. */
  groups: z.array(z.string()),
  closed: z.boolean(),
});
export const feedProjectsSchema = z.array(feedProjectSchema);
export type FeedProject = z.infer<typeof feedProjectSchema>;

/** The figures of a project as issued for a period; amounts in minor units of its currency. */
export const feedFigureSchema = z.object({
  project: feedProjectSchema.omit({ groups: true, closed: true }),
  period: z.int(),
  dataDate: z.string(),
  /** 1, and one more each time the period was opened again and issued anew; the highest is told. */
  edition: z.int(),
  issuedAt: z.string(),
  currency: z.string(),
  /** How many digits of amounts stand behind the point. */
  minorDigits: z.int(),
  finish: z.string().nullable(),
  baselineFinish: z.string().nullable(),
  /** Working days by which the finish has moved from the approved one. */
  drift: z.number().nullable(),
  figures: figuresSchema.nullable(),
  earnedSchedule: earnedScheduleSchema.nullable(),
});
export type FeedFigure = z.infer<typeof feedFigureSchema>;

export const feedFiguresSchema = z.object({
  rows: z.array(feedFigureSchema),
  /** The address of what comes after these; `null` where nothing does. */
  next: z.string().nullable(),
});

export const feedWatchlistsSchema = z.array(z.object({ id: z.string(), name: z.string() }));
