import fc from "fast-check";
import type { Activity, Calendar, Link, PlanBundle } from "../plan/schema.ts";

const DAY: [string, string][] = [
  ["08:00", "12:00"],
  ["13:00", "17:00"],
];
const WEEK = { mon: DAY, tue: DAY, wed: DAY, thu: DAY, fri: DAY };

export const STANDARD: Calendar = { id: "std", name: "Standard", week: WEEK };
export const SEVEN_DAYS: Calendar = {
  id: "seven",
  name: "Every day",
  week: { ...WEEK, sat: DAY, sun: [["06:30", "22:00"]] },
};
export const NIGHTS: Calendar = {
  id: "nights",
  name: "Nights",
  base: "std",
  week: {
    mon: [["22:00", "24:00"]],
    tue: [
      ["00:00", "06:00"],
      ["22:00", "24:00"],
    ],
    thu: [
      ["00:00", "03:10"],
      ["03:10", "05:00"],
    ],
  },
  exceptions: [
    { from: "2026-03-10", to: "2026-03-19", shifts: [] },
    { from: "2026-03-14", to: "2026-03-14", shifts: [["10:00", "11:00"]] },
  ],
};

/** A plan of the given activities and links, Monday 2 March 2026, five days of eight hours. */
export function planOf(activities: Activity[], links: Link[] = [], extra: Partial<PlanBundle> = {}): PlanBundle {
  const { project, ...rest } = extra;
  return {
    format: "chronometra-plan",
    version: 1,
    project: { code: "P", name: "Plan", currency: "EUR", start: "2026-03-02", calendar: "std", ...project },
    calendars: [STANDARD, SEVEN_DAYS, NIGHTS],
    activities,
    links,
    ...rest,
  };
}

const TYPES = ["FS", "SS", "FF", "SF"] as const;

/** Random plans of work and milestones whose links always lead forward in the table. */
export const networks = (options: { calendars: readonly string[]; capped?: boolean }): fc.Arbitrary<PlanBundle> =>
  fc.integer({ min: 1, max: 14 }).chain((count) =>
    fc
      .record({
        activities: fc.tuple(...Array.from({ length: count }, (_, i) => activity(i, options))),
        links: fc.array(link(count), { maxLength: 24 }),
      })
      .map(({ activities, links }) =>
        planOf(
          activities,
          links.filter((l): l is Link => l !== null),
        ),
      ),
  );

function activity(i: number, options: { calendars: readonly string[]; capped?: boolean }): fc.Arbitrary<Activity> {
  const id = `n${i}`;
  const calendar = fc.constantFrom(...options.calendars);
  const date = fc.integer({ min: 1, max: 31 }).map((day) => `2026-03-${String(day).padStart(2, "0")}`);
  const wishes =
    options.capped === true
      ? (["startNotBefore", "finishNotBefore", "startNotAfter", "finishNotAfter", "startOn", "finishOn"] as const)
      : (["startNotBefore", "finishNotBefore"] as const);
  const wish = fc.option(fc.record({ type: fc.constantFrom(...wishes), date }), { freq: 4, nil: undefined });
  const milestone = fc
    .record({ calendar, wish })
    .map((rest): Activity => ({ id, name: id, kind: "milestone", ...defined(rest) }));
  const work = fc
    .record({ calendar, wish, durationMinutes: fc.integer({ min: 1, max: 4000 }) })
    .map((rest): Activity => ({ id, name: id, ...defined(rest) }));
  return fc.oneof({ weight: 4, arbitrary: work }, { weight: 1, arbitrary: milestone });
}

/** Leaves undefined fields out, as the bundle format wants it. */
export const defined = <T extends object>(value: T): { [K in keyof T]: Exclude<T[K], undefined> } =>
  Object.fromEntries(Object.entries(value).filter(([, field]) => field !== undefined)) as never;

const link = (count: number): fc.Arbitrary<Link | null> =>
  fc
    .record({
      a: fc.nat(count - 1),
      b: fc.nat(count - 1),
      type: fc.constantFrom(...TYPES),
      lagMinutes: fc.oneof(fc.constant(0), fc.integer({ min: -1500, max: 3000 })),
      lagIn: fc.constantFrom("successor" as const, "successor" as const, "elapsed" as const),
    })
    .map(({ a, b, ...rest }) => (a === b ? null : { from: `n${Math.min(a, b)}`, to: `n${Math.max(a, b)}`, ...rest }));
