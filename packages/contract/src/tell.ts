import { z } from "zod";

/** A message in the mailbox that ships with the application. */
export const mailSchema = z.object({
  id: z.string(),
  to: z.string(),
  subject: z.string(),
  body: z.string(),
  sentAt: z.string(),
  state: z.enum(["kept", "waiting", "sending", "sent", "failed"]),
  tries: z.int(),
  why: z.string().nullable(),
  /** The page that it is about, from the installation's address on. */
  link: z.string().nullable(),
});
export type Mail = z.infer<typeof mailSchema>;

/** What became of messages: how many were written, and who could not be reached, with why. */
export const postedSchema = z.object({ sent: z.int(), failed: z.array(z.object({ to: z.string(), why: z.string() })) });
