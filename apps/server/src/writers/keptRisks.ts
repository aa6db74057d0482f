import { expectedCost, openRisks, triangularMean, type Plan, type Risk } from "@chronometra/core";
import type { Cell, Writer } from "../plan/held/writer.ts";
import { cut } from "./activities/cut.ts";

const COLUMNS = [
  "activity_id",
  "risk",
  "chance",
  "least",
  "likely",
  "most",
  "expected",
  "cost_likely",
  "cost_expected",
  "currency",
  "scale",
] as const;

interface Points {
  readonly low: number;
  readonly likely: number;
  readonly high: number;
}

/**
 * A row for each activity that a risk bears on, and one for a risk that bears on none. What it costs stands in one of
 * them, the first that is not finished, so that sums of rows are sums of risks.
 */
function rowsOf(
  risk: Risk,
  { project: { currency, minorDigits = 2 }, activities }: Plan,
  dayMinutes: number,
): Cell[][] {
  const { id, name, probability, effects, costMinor } = risk;
  const places: readonly { activity: string; minutes: Points | null }[] =
    effects.length === 0 ? [{ activity: "", minutes: null }] : effects;
  const open = places.findIndex(({ activity }) => activities.get(activity)?.actualFinish === undefined);
  const dear = Math.max(open, 0);
  return places.map(({ activity, minutes }, i) => {
    const cost = i === dear && costMinor !== undefined ? costMinor : null;
    const days =
      minutes === null
        ? [null, null, null, null]
        : [minutes.low, minutes.likely, minutes.high, probability * triangularMean(minutes)].map(
            (each) => each / dayMinutes,
          );
    return [
      `${id} ${i}`,
      activity,
      cut(name, 500),
      probability * 100,
      ...days,
      cost === null ? 0 : Math.round(cost.likely),
      cost === null ? 0 : expectedCost(risk),
      currency,
      10 ** minorDigits,
    ];
  });
}

/** Whether the rows of risks may say something else than they did. */
const differs = (was: Plan, now: Plan): boolean =>
  was.risks !== now.risks ||
  (now.risks.size > 0 &&
    (was.calendars !== now.calendars || was.project !== now.project || was.activities !== now.activities));

/** A risk as registers have it: what it is, how likely, and whether it is over. */
const headOf = (risk: Risk, { project: { currency, minorDigits = 2 } }: Plan): Cell[] => [
  risk.id,
  cut(risk.name, 500),
  risk.probability,
  risk.over ?? null,
  expectedCost(risk),
  currency,
  minorDigits,
];

/**
 * Risks, on what they bear and what they cost: all of a plan's anew where they, or what they are counted in, have
 * changed.
 */
export const keptRisks: Writer = {
  tables: ["risk_row", "risk_head"],
  rows: ({ before, after: { plan, whole } }) => {
    if (before !== null && !differs(before.plan, plan)) return [];
    const { dayMinutes } = whole.computed.schedule.calendars.get(plan.project.calendar);
    return [
      {
        table: "risk_row",
        key: ["entry"],
        columns: COLUMNS,
        gone: { by: [], keys: (before?.plan.risks.size ?? 0) > 0 ? [[]] : [] },
        rows: openRisks(plan.risks).flatMap((risk) => rowsOf(risk, plan, dayMinutes)),
      },
      {
        table: "risk_head",
        key: ["risk_id"],
        columns: ["name", "chance", "gone", "expected", "currency", "digits"],
        gone: { by: [], keys: (before?.plan.risks.size ?? 0) > 0 ? [[]] : [] },
        rows: [...plan.risks.values()].map((risk) => headOf(risk, plan)),
      },
    ];
  },
};
