import type { Activity, Calendar, Link, PlanBundle } from "@chronometra/core";

/** A small generator of repeatable numbers (mulberry32). */
export function randomOf(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const DAY: [string, string][] = [
  ["08:00", "12:00"],
  ["13:00", "17:00"],
];
const WEEK = { mon: DAY, tue: DAY, wed: DAY, thu: DAY, fri: DAY };
const CALENDARS: Calendar[] = [
  { id: "c0", name: "Standard", week: WEEK, exceptions: [{ from: "2026-12-24", to: "2027-01-01", shifts: [] }] },
  { id: "c1", name: "Six days", week: { ...WEEK, sat: [["08:00", "13:00"]] } },
  { id: "c2", name: "Every day", week: { ...WEEK, sat: DAY, sun: DAY } },
  {
    id: "c3",
    name: "Nights",
    week: {
      mon: [["20:00", "24:00"]],
      tue: [
        ["00:00", "04:00"],
        ["20:00", "24:00"],
      ],
      wed: [
        ["00:00", "04:00"],
        ["20:00", "24:00"],
      ],
      thu: [["00:00", "04:00"]],
    },
  },
  {
    id: "c4",
    name: "Three days",
    week: { tue: DAY, wed: DAY, thu: DAY },
    exceptions: [{ from: "2026-08-03", to: "2026-08-21", shifts: [] }],
  },
];
const TYPES = ["FS", "FS", "FS", "FS", "FS", "FS", "SS", "FF"] as const;

interface Wanted {
  readonly activities: number;
  readonly linksEach: number;
  readonly calendars: number;
  /** Percent of the work under way or done at the data date. */
  readonly progress?: number;
}

/** A plan of chains that run side by side and cross now and then, as large plans do; its depth does not grow with its size. */
export function largePlan({ activities: count, linksEach, calendars, progress = 0 }: Wanted): PlanBundle {
  const random = randomOf(count);
  const depth = 200;
  const width = Math.ceil(count / depth);
  const activities = Array.from({ length: count }, (_, i): Activity => {
    const share = i / count;
    const state =
      share < progress
        ? { actualStart: "2026-02-10", ...(share < progress * 0.8 ? { actualFinish: "2026-03-20" } : { percent: 40 }) }
        : {};
    return {
      id: `a${i}`,
      name: `Activity ${i}`,
      durationMinutes: 60 + Math.floor(random() * 2400),
      calendar: `c${Math.floor(random() * calendars)}`,
      ...state,
    };
  });
  const links: Link[] = [];
  for (let i = width; i < count; i++) {
    links.push({ from: `a${i - width}`, to: `a${i}` });
    for (let k = 1; k < linksEach; k++) {
      const from = Math.floor(i / width) * width - 1 - Math.floor(random() * width);
      links.push({
        from: `a${Math.max(0, from)}`,
        to: `a${i}`,
        type: TYPES[Math.floor(random() * TYPES.length)]!,
        lagMinutes: random() < 0.2 ? 480 : 0,
      });
    }
  }
  return {
    format: "chronometra-plan",
    version: 1,
    project: {
      code: "L",
      name: "Large",
      currency: "EUR",
      start: "2026-02-02",
      calendar: "c0",
      ...(progress > 0 ? { dataDate: "2026-11-27" } : {}),
    },
    calendars: CALENDARS,
    activities,
    links,
  };
}
