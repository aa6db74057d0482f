import type { Plan, Risk } from "@chronometra/core";
import type { Kept, Writer } from "./writer.ts";
import { cut, insertRows, type Cell } from "./writeRows.ts";

const COLUMNS = [
  "entry",
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

/** The mean of a triangular distribution. */
const mean = ({ low, likely, high }: Points): number => (low + likely + high) / 3;

/**
 * A row for each activity that a risk bears on, and one for a risk that bears on none. What it costs stands in one of them, the
 * first that is not finished, so that sums of rows are sums of risks.
 */
function rowsOf(
  { id, name, probability, effects, costMinor }: Risk,
  { project: { currency, minorDigits = 2 }, activities }: Plan,
  dayMinutes: number,
): Cell[][] {
  const places: readonly { activity: string; minutes: Points | null }[] =
    effects.length === 0 ? [{ activity: "", minutes: null }] : effects;
  const open = places.findIndex(({ activity }) => activities.get(activity)?.actualFinish === undefined);
  const dear = Math.max(open, 0);
  return places.map(({ activity, minutes }, i) => {
    const cost = i === dear && costMinor !== undefined ? costMinor : null;
    const days =
      minutes === null
        ? [null, null, null, null]
        : [minutes.low, minutes.likely, minutes.high, probability * mean(minutes)].map((each) => each / dayMinutes);
    return [
      `${id} ${i}`,
      activity,
      cut(name, 500),
      probability * 100,
      ...days,
      cost === null ? 0 : Math.round(cost.likely),
      cost === null ? 0 : Math.round(probability * mean(cost)),
      currency,
      10 ** minorDigits,
    ];
  });
}

/** Writes a plan's risks anew where they, or what they are counted in, have changed. */
async function write({ manager, projectId, before, after, whole }: Kept): Promise<void> {
  const { dayMinutes } = whole.computed.schedule.calendars.get(after.project.calendar);
  if (
    before !== null &&
    before.risks === after.risks &&
    before.calendars === after.calendars &&
    before.project === after.project &&
    (after.risks.size === 0 || before.activities === after.activities)
  )
    return;
  if (before !== null && before.risks.size > 0)
    await manager.query("delete from risk_row where project_id = ?", [projectId]);
  await insertRows(
    manager,
    "risk_row",
    ["project_id", ...COLUMNS],
    [...after.risks.values()].flatMap((risk) => rowsOf(risk, after, dayMinutes)).map((row) => [projectId, ...row]),
  );
}

/** Risks, on what they bear and what they cost. */
export const keptRisks: Writer = { tables: ["risk_row"], write };
