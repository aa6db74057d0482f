import { z } from "zod";
import { minorSchema, minutesSchema } from "./units.ts";
import { brokenLimitSchema } from "./cycle.ts";
import { deadlineSchema, figuresSchema, earnedScheduleSchema } from "./look.ts";
import { effectSchema } from "./plan.ts";

const standing = deadlineSchema.shape;

/** A deadline of any project, how it stands and how it stood when last issued. */
export const promisedSchema = z.object({
  project: z.string(),
  code: z.string(),
  projectName: z.string(),
  manager: z.string(),
  mayEdit: z.boolean(),
  id: z.string(),
  name: z.string(),
  deadline: standing.deadline,
  finish: standing.finish,
  marginDays: z.number().nullable(),
  state: standing.state,
  /** What follows if it is not kept, and to whom it was promised. */
  consequence: z.string().nullable(),
  to: z.string().nullable(),
  /** As the last issued period had it; `null` where it had none. */
  was: z
    .object({ number: z.int(), deadline: standing.deadline, marginDays: z.number().nullable(), state: standing.state })
    .nullable(),
});
export type Promised = z.infer<typeof promisedSchema>;
export const promisedListSchema = z.array(promisedSchema);

/** What decides where an activity lies, the earliest first, itself at the end. */
export const chainSchema = z.array(
  z.object({
    id: z.string(),
    name: z.string(),
    start: z.string(),
    finish: z.string(),
    state: z.enum(["notStarted", "inProgress", "complete"]),
    drift: z.number().nullable(),
    people: z.array(z.string()),
  }),
);
export type Chain = z.infer<typeof chainSchema>;

export const writePromiseSchema = z.strictObject({
  consequence: z.string().trim().max(500),
  to: z.string().trim().max(200),
});

/** Each milestone's forecast as issued period by period, and now. */
export const milestoneTrendSchema = z.object({
  periods: z.array(z.object({ number: z.int(), dataDate: z.string() })),
  dataDate: z.string().nullable(),
  milestones: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      baseline: z.string().nullable(),
      deadline: z.string().nullable(),
      now: z.string().nullable(),
      reached: z.boolean(),
      drift: z.number().nullable(),
      /** How many activities it gathers. */
      gathers: z.int(),
      /** By period; `null` where it was not there. */
      forecasts: z.array(z.object({ date: z.string(), drift: z.number().nullable(), reached: z.boolean() }).nullable()),
    }),
  ),
});
export type MilestoneTrend = z.infer<typeof milestoneTrendSchema>;

const alongSchema = z.object({
  id: z.string(),
  name: z.string(),
  milestone: z.boolean(),
  start: z.string(),
  finish: z.string(),
  deadline: z.string().nullable(),
  decides: z.boolean(),
  people: z.array(z.string()),
});
export const slipChoiceSchema = z.object({
  name: z.string(),
  date: z.string(),
  deadline: z.string().nullable(),
  mayEdit: z.boolean(),
  /** How many worked days it has to slip for the day that was asked about; 0 and less where that is no later. */
  wanted: z.object({ date: z.string(), days: z.int() }).nullable(),
  before: z.array(alongSchema),
  after: z.array(alongSchema),
});
export type SlipChoiceView = z.infer<typeof slipChoiceSchema>;
export const slipRequestSchema = z.strictObject({
  days: z.int().min(1, "slip by at least a day").max(1000),
  along: z.array(z.string().max(64)).max(5000),
  deadlines: z.boolean(),
  reason: z.string().trim().min(3, "say why it slips").max(200),
  /** Whether those concerned are told, in one message each. */
  tell: z.boolean(),
});
const leftSchema = z.array(z.object({ id: z.string(), name: z.string(), why: z.string() }));
export const slipEffectSchema = z.object({
  effect: effectSchema,
  left: leftSchema,
  /** Whoever would be told, with how much of theirs moves. */ concerned: z.array(
    z.object({ name: z.string(), count: z.int(), canBeReached: z.boolean() }),
  ),
});
export type SlipEffect = z.infer<typeof slipEffectSchema>;
export const slippedSchema = z.object({ revision: z.int(), told: z.array(z.string()), left: leftSchema });

/** A project's figures split, measured over the periods, and its earned schedule in every kind of period. */
export const performanceSchema = z.object({
  currency: z.string(),
  minorDigits: z.int(),
  asOf: z.string().nullable(),
  project: figuresSchema.nullable(),
  by: z.string(),
  /** What the figures can be split by. */
  kinds: z.array(z.object({ id: z.string(), name: z.string() })),
  parts: z.array(z.object({ key: z.string(), name: z.string(), figures: figuresSchema })),
  earnedSchedules: z.array(earnedScheduleSchema),
  periods: z.array(
    z.object({
      /** `null` is now, since the last issued one. */
      number: z.int().nullable(),
      dataDate: z.string(),
      pv: minorSchema,
      ev: minorSchema,
      ac: minorSchema,
      spi: z.number().nullable(),
      cpi: z.number().nullable(),
      /** Of what came in the period alone. */
      own: z.object({
        pv: minorSchema,
        ev: minorSchema,
        ac: minorSchema,
        spi: z.number().nullable(),
        cpi: z.number().nullable(),
      }),
      /** Rules of the portfolio that were broken, and how that was explained. */
      explanation: z.object({ words: z.string(), by: z.string(), at: z.string() }).nullable(),
    }),
  ),
  /** Which limits are broken now. */
  broken: z.array(brokenLimitSchema),
  forecast: z.object({
    finish: z.string().nullable(),
    esFinish: z.string().nullable(),
    least: z.int().nullable(),
    most: z.int().nullable(),
  }),
});
export type PerformanceView = z.infer<typeof performanceSchema>;

const weekNumbers = z.array(z.number());

/** People's weeks: minutes by week in the order of `weeks`. */
export const loadSchema = z.object({
  weeks: z.array(z.string()),
  people: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      role: z.string().nullable(),
      teams: z.array(z.string()),
      placeholder: z.boolean(),
      capacity: weekNumbers,
      demand: weekNumbers,
      things: weekNumbers,
      planned: weekNumbers,
      posted: weekNumbers,
    }),
  ),
});
export type Load = z.infer<typeof loadSchema>;

/** What one person's week consists of. */
export const loadCellSchema = z.array(
  z.object({
    project: z.string(),
    projectName: z.string(),
    activity: z.string(),
    name: z.string(),
    start: z.string(),
    finish: z.string(),
    float: z.number().nullable(),
    minutes: minutesSchema,
    postedMinutes: minutesSchema,
    mayEdit: z.boolean(),
  }),
);
export type LoadCell = z.infer<typeof loadCellSchema>;
