import { z } from "zod";
import { MATTER_KINDS } from "./matterWords.ts";

export const findSchema = z.strictObject({
  /** What someone typed: words, beginnings of words, a project's code. */
  text: z.string().trim().min(1).max(200),
});

const foundThing = z.object({ id: z.string(), name: z.string() });
const foundInProject = foundThing.extend({ project: z.string(), code: z.string() });

/** What bears the words; of each kind the likeliest first, and no more than a list can show. */
export const foundSchema = z.object({
  /** Words that nothing bears, and what was looked for in their stead. */
  readAs: z.array(z.object({ typed: z.string(), read: z.array(z.string()) })),
  projects: z.array(foundThing.extend({ code: z.string(), closed: z.boolean() })),
  /** Activities and milestones. */
  activities: z.array(
    foundInProject.extend({
      branch: z.string(),
      kind: z.enum(["work", "milestone", "summary", "levelOfEffort"]),
      state: z.string(),
      /** The day of its finish, where it has dates. */
      finish: z.string().nullable(),
    }),
  ),
  people: z.array(foundThing),
  watchlists: z.array(foundThing),
  /** Portfolios and programmes, with the number of the period last issued of each. */
  groups: z.array(foundThing.extend({ issued: z.int().nullable() })),
  risks: z.array(foundInProject),
  /** What stands in registers besides risks of plans, by its title; `code` is empty of a group's and the house's. */
  matters: z.array(foundThing.extend({ kind: z.enum(MATTER_KINDS), code: z.string(), open: z.boolean() })),
  /** Issued periods of projects. */
  periods: z.array(z.object({ project: z.string(), code: z.string(), number: z.int(), dataDate: z.string() })),
});
export type Found = z.infer<typeof foundSchema>;
