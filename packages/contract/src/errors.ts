import { z } from "zod";

/** Every way in which a call can fail: its code, and the HTTP status that goes with it. */
export const ERRORS = {
  signInNeeded: { status: 401, words: "Sign in to go on." },
  signInFailed: { status: 401, words: "Name or password is not right." },
  notAllowed: { status: 403, words: "Your roles do not allow this." },
  tokenMissing: { status: 403, words: "The page is out of date; load it again and repeat the last step." },
  notFound: { status: 404, words: "There is nothing here." },
  wrongMethod: { status: 405, words: "This address is called by another method." },
  invalid: { status: 422, words: "Something in what was sent cannot be used." },
  conflict: { status: 409, words: "Someone else changed the same thing meanwhile." },
  tooLarge: { status: 413, words: "The file is too large." },
  tooMany: { status: 429, words: "Too many attempts; wait a while and try again." },
  unavailable: {
    status: 503,
    words: "The database cannot be reached just now. Nothing was stored; try again in a moment.",
  },
  busy: {
    status: 503,
    words: "Someone else is writing the same plan just now. Nothing was stored; try again in a moment.",
  },
  internal: { status: 500, words: "Something went wrong on the server. Nothing was stored; try again." },
} as const;

export type ErrorCode = keyof typeof ERRORS;

/** Where a problem lies: table, row and field, and what is wrong there. */
export const problemSchema = z.object({
  table: z.string(),
  row: z.string(),
  field: z.string(),
  message: z.string(),
  loop: z.array(z.string()).readonly().optional(),
  said: z.string().optional(),
});

/** A field that two people wrote: what the other wrote, and what this call wanted. */
export const clashSchema = z.object({
  path: z.string(),
  what: z.string(),
  theirs: z.unknown(),
  yours: z.unknown(),
  by: z.string(),
  at: z.string(),
});
export type Clash = z.infer<typeof clashSchema>;

export const errorSchema = z.object({
  code: z.enum(Object.keys(ERRORS) as [ErrorCode, ...ErrorCode[]]),
  message: z.string(),
  problems: z.array(problemSchema).optional(),
  clashes: z.array(clashSchema).optional(),
});
export type ErrorBody = z.infer<typeof errorSchema>;
