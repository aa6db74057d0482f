import { z } from "zod";

/** What other systems are told of as it happens. */
export const HOOK_EVENTS = {
  planChanged: "a plan changed",
  baselineApproved: "a baseline was approved",
  gateDecided: "a gate was decided",
  periodIssued: "figures of a period were issued",
  periodReopened: "a locked period was opened again",
  projectClosed: "a project was closed",
} as const;
export type HookEvent = keyof typeof HOOK_EVENTS;
const eventSchema = z.enum(Object.keys(HOOK_EVENTS) as HookEvent[]);

/** What is sent to see whether a receiver answers. */
export const TRIAL = "trial";

export const hooksSchema = z.array(
  z.object({
    id: z.string(),
    name: z.string(),
    url: z.string(),
    events: z.array(eventSchema),
    /** The group, with all below it, of which is told; `null` for the whole house. */
    group: z.object({ id: z.string(), name: z.string() }).nullable(),
    madeAt: z.string(),
    /** Calls that wait or are on their way, and those that failed for good. */
    waiting: z.int(),
    failed: z.int(),
    /** When a call was last taken. */
    takenAt: z.string().nullable(),
  }),
);
export type Hooks = z.infer<typeof hooksSchema>;

const HOOK_URL = /^https?:\/\/(?<who>[^\s/?#@]*@)?[^\s/?#@]+([/?#]\S*)?$/i;

/** Why an address cannot be called; `null` where it can. */
export function hookUrlFault(address: string): string | null {
  const found = HOOK_URL.exec(address);
  if (found === null) return "Write the whole address that is to be called, as https://systems.example.org/hooks.";
  return found.groups?.["who"] === undefined
    ? null
    : "A name and password in the address would be told to everyone who sees it; a receiver knows us by the signature.";
}

export const newHookSchema = z.strictObject({
  name: z.string().trim().min(1, "name the system that is called").max(120),
  url: z
    .string()
    .trim()
    .max(1000)
    .superRefine((address, context) => {
      const fault = hookUrlFault(address);
      if (fault !== null) context.addIssue({ code: "custom", message: fault });
    }),
  events: z.array(eventSchema).min(1, "say what it is told of").max(Object.keys(HOOK_EVENTS).length),
  /** The id of a group; left out for the whole house. */
  group: z.string().max(36).nullable().default(null),
});
/** The secret by which calls are signed is told once. */
export const madeHookSchema = z.object({ id: z.string(), secret: z.string() });

/** A call to another system, and what became of it. */
export const hookCallsSchema = z.array(
  z.object({
    id: z.string(),
    event: z.enum([...eventSchema.options, TRIAL]),
    /** The code of the project of which it tells; `null` of a trial. */
    project: z.string().nullable(),
    madeAt: z.string(),
    state: z.enum(["waiting", "sending", "taken", "failed"]),
    tries: z.int(),
    /** When it is tried next, of one that waits. */
    nextAt: z.string().nullable(),
    takenAt: z.string().nullable(),
    /** What stood against it at the last try. */
    why: z.string().nullable(),
  }),
);
export type HookCalls = z.infer<typeof hookCallsSchema>;

/** The body of a call, as its receiver reads it. */
export const hookBodySchema = z.object({
  type: z.enum([...eventSchema.options, TRIAL]),
  timestamp: z.string(),
  data: z.object({
    project: z.object({ id: z.string(), code: z.string(), name: z.string() }).optional(),
    /** The revision of the plan. */
    revision: z.int().optional(),
    /** The number of the period, baseline or edition. */
    period: z.int().optional(),
    edition: z.int().optional(),
    baseline: z.int().optional(),
    gate: z.string().optional(),
    decision: z.string().optional(),
  }),
});
export type HookBody = z.infer<typeof hookBodySchema>;
