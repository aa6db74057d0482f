import { analyse, freezePlan, parseBundle, type PlanBundle } from "@chronometra/core";
import { leastOf, ratioLine, type Line } from "./measure.ts";
import { largePlan } from "./plans.ts";

const WORKDAYS = 250;
const PEOPLE = 120;

/** Ten thousand activities with people on them, a baseline, and a year of everyone's time. */
function livedPlan(): PlanBundle {
  const plan = largePlan({ activities: 10_000, linksEach: 2, calendars: 5, progress: 0.3 });
  const people = Array.from({ length: PEOPLE }, (_, i) => ({
    id: `p${i}`,
    name: `Person ${i}`,
    rates: [{ from: "2026-01-01", perHourMinor: 5000 + i }],
  }));
  const assignments = plan.activities.map(({ id }, i) => ({
    activity: id,
    person: `p${i % PEOPLE}`,
    plannedMinutes: 960,
  }));
  const day = (n: number): string =>
    new Date(Date.UTC(2025, 10, 28 + Math.floor((n * 7) / 5))).toISOString().slice(0, 10);
  const timeEntries = Array.from({ length: WORKDAYS * PEOPLE }, (_, i) => ({
    activity: `a${i % 3000}`,
    person: `p${i % PEOPLE}`,
    date: day(Math.floor(i / PEOPLE)),
    minutes: 450,
    state: "posted" as const,
  }));
  const whole = { ...plan, people, assignments };
  const baselines = [{ number: 1, approvedOn: "2026-01-15", approvedBy: "x", reason: "y", ...freezePlan(whole) }];
  return { ...whole, baselines, timeEntries };
}

export async function analysisLines(): Promise<Line[]> {
  const text = JSON.stringify(livedPlan());
  const parse = await leastOf(10, () => JSON.parse(text));
  const parsed = parseBundle(JSON.parse(text), { source: text });
  if (!parsed.ok) throw new Error("the plan of the benchmark does not hold");
  const compute = await leastOf(10, () => analyse(parsed.bundle));
  const checked = await leastOf(10, () => parseBundle(JSON.parse(text), { source: text }));
  process.stdout.write(
    `  (reading and checking the bundle whole, before that: ${(checked / parse).toFixed(2)} x JSON.parse)\n`,
  );
  return [
    ratioLine(
      `Full analyse, 10 000 activities, ${WORKDAYS * PEOPLE} time entries, ${(text.length / 1e6).toFixed(1)} MB`,
      compute,
      "JSON.parse of its file",
      parse,
      3,
    ),
  ];
}
