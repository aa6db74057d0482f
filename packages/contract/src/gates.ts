import { conditionSchema, dateSchema } from "@chronometra/core";
import { z } from "zod";
import { GATE_ACTS, GATE_DECISIONS } from "./gateWords.ts";

const key = z.string().min(1).max(36);
const word = z.string().trim().max(2000);
const named = z.object({ id: z.string(), name: z.string() });

/** A stage of a life cycle, with the gate that ends it. */
const stageSchema = z.strictObject({
  id: key,
  name: z.string().trim().min(1, "give the stage a name").max(100),
  gate: z.string().trim().min(1, "give its gate a name").max(100),
  /** What must be true to pass. */
  conditions: z.array(conditionSchema).max(40),
});
export type Stage = z.infer<typeof stageSchema>;

const isOnce = (of: readonly string[]): boolean => new Set(of).size === of.length;

/** How projects of one kind live: stages in order, each ended by a gate. */
export const lifeCycleSchema = z.strictObject({
  /** The kind of project that lives so. */
  kind: z.string().trim().min(1, "say of which kind of project").max(100),
  stages: z
    .array(stageSchema)
    .min(1, "a life cycle has stages")
    .max(30)
    .refine((stages) => isOnce(stages.map(({ id }) => id)), "a stage stands there twice")
    .refine((stages) => isOnce(stages.map(({ name }) => name)), "two stages have one name")
    .refine(
      (stages) => isOnce(stages.flatMap(({ conditions }) => conditions.map(({ id }) => id))),
      "a condition stands there twice",
    ),
});
export type LifeCycle = z.infer<typeof lifeCycleSchema>;

/** The life cycles there are, with the projects that live by each; and what may be done. */
export const lifeCyclesSchema = z.object({
  cycles: z.array(
    z.object({
      id: z.string(),
      cycle: lifeCycleSchema,
      projects: z.array(z.object({ id: z.string(), code: z.string(), name: z.string(), stage: z.string().nullable() })),
    }),
  ),
  /** The scale of severity that conditions speak of, the least first. */
  severities: z.array(named),
  mayEdit: z.boolean(),
});
export type LifeCycles = z.infer<typeof lifeCyclesSchema>;

/** A life cycle as it is written, with what its writer saw; `null` for none. */
export const writeLifeCycleSchema = z.strictObject({
  was: lifeCycleSchema.nullable(),
  value: lifeCycleSchema.nullable(),
});
export type WriteLifeCycle = z.infer<typeof writeLifeCycleSchema>;

/** When a gate is due: on a day, or with a milestone of the plan. */
export const dueSchema = z.union([
  z.strictObject({ date: dateSchema }),
  z.strictObject({ activity: z.string().min(1).max(64) }),
]);

/** One thing that is written of a project's gates. */
export const writeGatesSchema = z.discriminatedUnion("field", [
  z.strictObject({ field: z.literal("lifeCycle"), was: key.nullable(), value: key.nullable() }),
  z.strictObject({ field: z.literal("due"), stage: key, was: dueSchema.nullable(), value: dueSchema.nullable() }),
  z.strictObject({ field: z.literal("decider"), stage: key, was: key.nullable(), value: key.nullable() }),
  z.strictObject({ field: z.literal("confirmed"), stage: key, condition: key, was: z.boolean(), value: z.boolean() }),
]);
export type WriteGates = z.infer<typeof writeGatesSchema>;
export type GateDue = z.infer<typeof dueSchema>;

/** A condition as it is held against the project, in words. */
export const heldSchema = z.object({
  id: z.string(),
  kind: z.string(),
  words: z.string(),
  /** `null` where there is nothing to hold it against. */
  met: z.boolean().nullable(),
  says: z.string(),
});
export type HeldCondition = z.infer<typeof heldSchema>;

/** An action of the register that a gate asked for which was passed with conditions. */
const gateActionSchema = z.object({
  id: z.string(),
  what: z.string(),
  owner: z.string(),
  due: dateSchema.nullable(),
  /** `YYYY-MM-DD`. */
  doneOn: z.string().nullable(),
  doneBy: z.string().nullable(),
});
export type GateAction = z.infer<typeof gateActionSchema>;

/** What happened at a gate, as it stood then. */
const gateEventSchema = z.object({
  id: z.int(),
  stage: z.string(),
  stageName: z.string(),
  gate: z.string(),
  act: z.enum(GATE_ACTS),
  by: z.string(),
  at: z.string(),
  word: z.string(),
  conditions: z.array(heldSchema),
  actions: z.array(gateActionSchema),
});
export type GateEvent = z.infer<typeof gateEventSchema>;

const gateSchema = z.object({
  stage: z.string(),
  name: z.string(),
  gate: z.string(),
  /** Passed already, where the project is now, or ahead of it. */
  standing: z.enum(["passed", "here", "ahead"]),
  due: dueSchema.nullable(),
  /** The day that comes to; a milestone's with what it was approved for. `null` where it has none. */
  dueOn: z.object({ date: dateSchema, approved: dateSchema.nullable(), overdue: z.boolean() }).nullable(),
  /** Whoever decides; `null` where any approver may. */
  decider: named.nullable(),
  /** Conditions as they are now; of a gate that is passed, as they were then. */
  conditions: z.array(heldSchema),
  /** The decision by which it was passed. */
  passed: gateEventSchema.nullable(),
});
export type Gate = z.infer<typeof gateSchema>;

/** A project's stages and gates. */
export const projectGatesSchema = z.object({
  lifeCycle: z.object({ id: z.string(), kind: z.string() }).nullable(),
  lifeCycles: z.array(z.object({ id: z.string(), kind: z.string() })),
  gates: z.array(gateSchema),
  /** The gate that is asked for, if one is. */
  asked: gateEventSchema.nullable(),
  /** What happened, the newest first. */
  events: z.array(gateEventSchema),
  milestones: z.array(named),
  deciders: z.array(named),
  mayEdit: z.boolean(),
  mayConfirm: z.boolean(),
  mayDecide: z.boolean(),
  /** Why whoever reads this may not decide what is asked, where they hold the role. */
  whyNot: z.string().nullable(),
});
export type ProjectGates = z.infer<typeof projectGatesSchema>;

/** A gate is asked for, with a word. */
export const askGateSchema = z.strictObject({ word });
/** What is decided about the asking that was seen. */
export const decideGateSchema = z.strictObject({
  asked: z.int(),
  decision: z.enum(GATE_DECISIONS),
  word: word.min(1, "say a word with it"),
  /** What a pass with conditions asks for. */
  actions: z
    .array(
      z.strictObject({
        what: z.string().trim().min(1, "say what is to be done").max(200),
        owner: z.string().trim().max(200),
        due: dateSchema.nullable(),
      }),
    )
    .max(50),
});
export type DecideGate = z.infer<typeof decideGateSchema>;

/** Gates that wait for a decision, over all projects. */
export const askedGatesSchema = z.array(
  z.object({
    project: z.string(),
    code: z.string(),
    name: z.string(),
    stage: z.string(),
    gate: z.string(),
    by: z.string(),
    at: z.string(),
    word: z.string(),
    decider: z.string().nullable(),
    mayDecide: z.boolean(),
  }),
);
export type AskedGate = z.infer<typeof askedGatesSchema>[number];
