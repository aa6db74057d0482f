import { z } from "zod";
import { NOTED } from "./houseWords.ts";

const changeSchema = z.object({
  id: z.int(),
  at: z.string(),
  by: z.string(),
  about: z.enum(NOTED),
  /** What was changed, by its name. */
  subject: z.string(),
  /** Field by field what was, and what is; of what came or went, the fields that it has or had. */
  lines: z.array(z.object({ field: z.string(), was: z.string(), is: z.string() })),
});
export type HouseChange = z.infer<typeof changeSchema>;

export const houseHistorySchema = z.object({
  /** The newest first. */
  changes: z.array(changeSchema),
  /** The id before which there is more; `null` where there is none. */
  older: z.int().nullable(),
});
export type HouseHistory = z.infer<typeof houseHistorySchema>;
