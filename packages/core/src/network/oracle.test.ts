import fc from "fast-check";
import highsLoader from "highs";
import type { PlanBundle } from "../plan/schema.ts";
import { networks, planOf } from "../testing/plans.ts";
import { compileCalendars } from "../plan/compileCalendars.ts";
import {
  closeOf,
  openOf,
  parseDate,
  type LocalMinute,
  localMinute,
  workMinutes,
  type WorkMinutes,
} from "../time/instant.ts";
import { schedulePlan } from "./schedule.ts";

// Dates and float as a linear programme sees them: in one calendar and working lags, the early starts are the least
// values that meet every link, the late finishes the greatest. The solver knows nothing of passes.
type Solver = Awaited<ReturnType<typeof highsLoader>>;

const compiled = compileCalendars(planOf([]).calendars).set;

const onlyWork = (plan: PlanBundle): PlanBundle => {
  const kept = new Set(plan.activities.filter((activity) => activity.kind !== "milestone").map(({ id }) => id));
  return {
    ...plan,
    activities: plan.activities.filter(({ id }) => kept.has(id)),
    links: (plan.links ?? [])
      .filter(({ from, to }) => kept.has(from) && kept.has(to))
      .map((link) => ({ ...link, lagIn: "successor" as const })),
  };
};

const term = (coefficient: number, name: string): string =>
  `${coefficient < 0 ? "-" : "+"} ${Math.abs(coefficient)} ${name}`;

function solve(highs: Solver, plan: PlanBundle, direction: "early" | "late", earlyEnd: number): Map<string, number> {
  const calendar = compiled.get("std");
  const duration = new Map(plan.activities.map((activity) => [activity.id, activity.durationMinutes!]));
  const rows: string[] = [];
  const bounds: string[] = [];
  for (const { id, wish } of plan.activities) {
    const d = duration.get(id)!;
    const close = (date: string): WorkMinutes => workMinutes(calendar.indexAt(closeOf(parseDate(date)!)) - d);
    const open = (date: string): WorkMinutes => calendar.indexAt(openOf(parseDate(date)!));
    let low: number = calendar.indexAt(openOf(parseDate(plan.project.start)!));
    let high = earlyEnd - d;
    if (wish !== undefined && /^(start|finish)(NotBefore|On)$/.test(wish.type))
      low = Math.max(low, wish.type.startsWith("start") ? open(wish.date) : close(wish.date));
    if (wish !== undefined && /^(start|finish)(NotAfter|On)$/.test(wish.type))
      high = Math.min(high, wish.type.startsWith("start") ? open(wish.date) : close(wish.date));
    bounds.push(direction === "early" ? `${low} <= ${id} <= 1e8` : `-1e8 <= ${id} <= ${high}`);
  }
  (plan.links ?? []).forEach((link, i) => {
    const type = link.type ?? "FS";
    const right =
      (link.lagMinutes ?? 0) +
      (type[0] === "F" ? duration.get(link.from)! : 0) -
      (type[1] === "F" ? duration.get(link.to)! : 0);
    rows.push(`c${i}: ${term(1, link.to)} ${term(-1, link.from)} >= ${right}`);
  });
  const objective = plan.activities.map(({ id }) => term(1, id)).join(" ");
  const text = `${direction === "early" ? "Minimize" : "Maximize"}\n obj: ${objective}\nSubject To\n ${[...rows, `none: ${term(0, plan.activities[0]!.id)} >= -1`].join("\n ")}\nBounds\n ${bounds.join("\n ")}\nEnd`;
  const solution = highs.solve(text);
  if (solution.Status !== "Optimal") throw new Error(`${solution.Status}\n${text}`);
  return new Map(
    plan.activities.map(({ id }) => [
      id,
      Math.round((solution.Columns as Record<string, { Primal: number }>)[id]!.Primal),
    ]),
  );
}

describe("dates and float", () => {
  let highs: Solver;
  beforeAll(async () => {
    highs = await highsLoader();
  });

  it("are those of a linear programme, in one calendar", () => {
    let checked = 0;
    fc.assert(
      fc.property(networks({ calendars: ["std"], capped: true }), (all) => {
        const plan = onlyWork(all);
        if (plan.activities.length === 0) return;
        const calendar = compiled.get("std");
        const { rows, finish } = schedulePlan(plan);
        const early = solve(highs, plan, "early", 0);
        const late = solve(highs, plan, "late", calendar.indexAt(finish!));
        plan.activities.forEach(({ id, durationMinutes }, i) => {
          const row = rows[i]!;
          expect([id, calendar.indexAt(row.start), calendar.indexAt(row.finish)]).toEqual([
            id,
            early.get(id),
            early.get(id)! + durationMinutes!,
          ]);
          expect([id, row.totalFloat]).toEqual([id, late.get(id)! - early.get(id)!]);
          checked++;
        });
      }),
      { numRuns: 150 },
    );
    expect(checked).toBeGreaterThan(300);
  });
});

/** What a link asks of its successor, said straight from the definition. */
function isMet(
  link: NonNullable<PlanBundle["links"]>[number],
  from: { start: LocalMinute; finish: LocalMinute },
  toStart: number,
  toFinish: number,
  calendarId: string,
): boolean {
  const calendar = compiled.get(calendarId);
  const type = link.type ?? "FS";
  const lag = link.lagMinutes ?? 0;
  const end = type[0] === "F" ? from.finish : from.start;
  const wanted = link.lagIn === "elapsed" ? calendar.indexAt(localMinute(end + lag)) : calendar.indexAt(end) + lag;
  return (type[1] === "F" ? toFinish : toStart) >= wanted;
}

describe("early dates over mixed calendars and elapsed lags", () => {
  it("meet every link and wish, and no activity could begin a working minute earlier", () => {
    fc.assert(
      fc.property(networks({ calendars: ["std", "seven", "nights"] }), (plan) => {
        const { rows, calendars } = schedulePlan(plan);
        const position = new Map(plan.activities.map(({ id }, i) => [id, i]));
        plan.activities.forEach((activity, i) => {
          if (activity.kind === "milestone") return;
          const id = activity.calendar!;
          const calendar = calendars.get(id);
          const start = calendar.indexAt(rows[i]!.start);
          const allowed = (index: number): boolean =>
            index >= calendar.indexAt(openOf(parseDate(plan.project.start)!)) &&
            (activity.wish?.type !== "startNotBefore" ||
              index >= calendar.indexAt(openOf(parseDate(activity.wish.date)!))) &&
            (activity.wish?.type !== "finishNotBefore" ||
              index + activity.durationMinutes! >= calendar.indexAt(closeOf(parseDate(activity.wish.date)!))) &&
            (plan.links ?? [])
              .filter(({ to }) => to === activity.id)
              .every((link) =>
                isMet(link, rows[position.get(link.from)!]!, index, index + activity.durationMinutes!, id),
              );
          expect([activity.id, allowed(start), allowed(start - 1)]).toEqual([activity.id, true, false]);
        });
      }),
      { numRuns: 200 },
    );
  });

  it("float is never negative without a cap, and free float never above total float", () => {
    fc.assert(
      fc.property(networks({ calendars: ["std", "seven", "nights"] }), (plan) => {
        for (const row of schedulePlan(plan).rows) {
          expect(row!.freeFloat).toBeGreaterThanOrEqual(0);
          expect(row!.totalFloat).toBeGreaterThanOrEqual(row!.freeFloat!);
        }
      }),
      { numRuns: 300 },
    );
  });

  it("the longest path reaches back to work that nothing else holds", () => {
    fc.assert(
      fc.property(networks({ calendars: ["std"] }), (plan) => {
        const { rows, finish } = schedulePlan(plan);
        const path = plan.activities.filter((_, i) => rows[i]!.longestPath);
        expect(path.length).toBeGreaterThan(0);
        expect(path.some((_, i) => rows[plan.activities.indexOf(path[i]!)]!.finish === finish)).toBe(true);
      }),
    );
  });
});
