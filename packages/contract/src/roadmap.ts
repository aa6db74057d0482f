import { z } from "zod";
import { PROJECT_STATES } from "./charterWords.ts";
import { deadlineSchema, milestoneSchema } from "./look.ts";

/** A gate on the roadmap: where it is due, or where it was passed. */
const roadGateSchema = z.object({
  stage: z.string(),
  name: z.string(),
  date: z.string(),
  /** What the milestone it is due with was approved for. */
  approved: z.string().nullable(),
  passed: z.boolean(),
});
export type RoadGate = z.infer<typeof roadGateSchema>;

/** A project as it lies in time. */
const roadLineSchema = z.object({
  id: z.string(),
  code: z.string(),
  name: z.string(),
  programme: z.string().nullable(),
  manager: z.string(),
  state: z.enum(PROJECT_STATES),
  stage: z.string().nullable(),
  dataDate: z.string().nullable(),
  start: z.string().nullable(),
  finish: z.string().nullable(),
  baselineStart: z.string().nullable(),
  baselineFinish: z.string().nullable(),
  /** Working days by which the finish has moved from the approved one. */
  drift: z.number().nullable(),
  /** The share that is earned, 0 to 1. */
  earned: z.number().nullable(),
  milestones: z.array(milestoneSchema),
  deadlines: z.array(deadlineSchema),
  gates: z.array(roadGateSchema),
});
export type RoadLine = z.infer<typeof roadLineSchema>;

/** All projects that are not closed, on one axis of time. */
export const roadmapSchema = z.object({
  programmes: z.array(z.object({ id: z.string(), name: z.string(), parent: z.string().nullable() })),
  /** The newest data date of any of them. */
  dataDate: z.string().nullable(),
  projects: z.array(roadLineSchema),
});
export type Roadmap = z.infer<typeof roadmapSchema>;
