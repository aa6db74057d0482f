import { z } from "zod";

const id = z.string().min(1).max(36);
const percent = z.number().min(0, "a percent of 0 or more").max(1000);

/** What must be true before a gate is passed: something that is looked up, or that a person confirms. */
export const conditionSchema = z.discriminatedUnion("kind", [
  z.strictObject({ id, kind: z.literal("baseline") }),
  z.strictObject({ id, kind: z.literal("plan"), fitness: z.enum(["fit", "mend"]) }),
  z.strictObject({ id, kind: z.literal("deadlines") }),
  z.strictObject({ id, kind: z.literal("cost"), percent }),
  z.strictObject({ id, kind: z.literal("drift"), days: z.number().min(0, "days of 0 or more").max(10_000) }),
  z.strictObject({ id, kind: z.literal("deliverables") }),
  z.strictObject({ id, kind: z.literal("unblocked") }),
  z.strictObject({ id, kind: z.literal("issued") }),
  /** No open issue at that step of the scale of severity or above. */
  z.strictObject({ id, kind: z.literal("issues"), severity: z.string().min(1).max(64) }),
  z.strictObject({
    id,
    kind: z.literal("confirmed"),
    text: z.string().trim().min(1, "say what is to be confirmed").max(300),
  }),
]);
export type Condition = z.infer<typeof conditionSchema>;
