import fc from "fast-check";
import { computePlan } from "../analyse.ts";
import { schedulePlan } from "../network/schedule.ts";
import type { Activity, Link, PlanBundle } from "../plan/schema.ts";
import { DATA_DATE, livedPlans } from "../testing/livedPlans.ts";
import { networks } from "../testing/plans.ts";
import { closeOf, finishDayOf, parseDate, parseInstant, startDayOf } from "../time/instant.ts";
import { groundOf } from "./ground/ground.ts";
import { printChecks } from "./measureChecks.ts";
import { redundant } from "./findings/redundantLinks.ts";

// The definitions of calculations.md section 6 read line by line, slow and plain: no shared sets, everything sought anew.

interface Plain {
  count: number | null;
  outOf: number | null;
  value: number | null;
  passes: boolean | null;
  activities: string[];
}

function slowly(plan: PlanBundle): Plain[] {
  const schedule = schedulePlan(plan);
  const rowOf = (id: string) => schedule.rows[plan.activities.findIndex((each) => each.id === id)]!;
  const calendarOf = (each: Activity) => schedule.calendars.get(each.calendar ?? plan.project.calendar);
  const scheduled = plan.activities.filter(
    (each, i) => (each.kind ?? "work") !== "summary" && each.kind !== "levelOfEffort" && schedule.rows[i] != null,
  );
  const open = scheduled.filter(({ id }) => rowOf(id).state !== "complete");
  const isIn = (id: string): boolean => scheduled.some((each) => each.id === id);
  const all = (plan.links ?? []).filter(({ from, to }) => isIn(from) && isIn(to));
  const links = all.filter(({ to }) => open.some(({ id }) => id === to));
  const dataDay = plan.project.dataDate === undefined ? null : parseDate(plan.project.dataDate)!;
  const approved = (id: string) => plan.baselines?.[0]?.activities.find((row) => row.id === id);
  const planned = (each: Activity): number => {
    if (each.driver === "effort" && plan.assignments!.some(({ activity }) => activity === each.id))
      return calendarOf(each).indexAt(rowOf(each.id).finish) - calendarOf(each).indexAt(rowOf(each.id).start);
    return each.durationMinutes!;
  };
  const share = (bad: Activity[], outOf: Activity[], most: number): Plain => ({
    count: bad.length,
    outOf: outOf.length,
    value: outOf.length === 0 ? null : bad.length / outOf.length,
    passes: outOf.length === 0 ? null : bad.length <= most * outOf.length,
    activities: bad.map(({ id }) => id),
  });
  const ofLinks = (is: (link: Link) => boolean, good: (value: number) => boolean, named = is): Plain => {
    const n = links.filter(is).length;
    return {
      count: n,
      outOf: links.length,
      value: links.length === 0 ? null : n / links.length,
      passes: links.length === 0 ? null : good(n / links.length),
      activities: plan.activities
        .filter(({ id }) => links.some((link) => link.to === id && named(link)))
        .map(({ id }) => id),
    };
  };
  const hasBefore = (id: string): boolean => all.some(({ to }) => to === id);
  const hasAfter = (id: string): boolean => all.some(({ from }) => from === id);
  const ranked = (key: (each: Activity) => number, bound: (id: string) => boolean): string | undefined =>
    [...scheduled].sort(
      (a, b) => key(a) - key(b) || Number(bound(a.id)) - Number(bound(b.id)) || (a.id < b.id ? -1 : 1),
    )[0]?.id;
  const first = ranked(({ id }) => rowOf(id).start, hasBefore);
  const last = ranked(({ id }) => -rowOf(id).finish, hasAfter);
  const work = open.filter((each) => (each.kind ?? "work") === "work");
  const day = (each: Activity): number => calendarOf(each).dayMinutes;
  const baselined = scheduled.flatMap((each) => {
    const row = approved(each.id);
    if (row === undefined) return [];
    const at = parseInstant(row.finish)!;
    return [{ each, day: rowOf(each.id).shownAsStart ? startDayOf(at) : finishDayOf(at) }];
  });
  const meant = scheduled.filter(({ dropped }) => dropped !== true);
  const dueBy = baselined.filter((row) => row.each.dropped !== true && dataDay !== null && row.day <= dataDay);
  const nothing: Plain = { count: 0, outOf: 0, value: null, passes: null, activities: [] };
  const measured = dataDay !== null && plan.baselines !== undefined;
  const index = (value: number | null): Plain => ({
    count: null,
    outOf: null,
    value,
    passes: value === null ? null : value >= 0.95,
    activities: [],
  });
  const project = schedule.calendars.get(plan.project.calendar);

  const pathWork = work
    .filter(({ id }) => rowOf(id).longestPath)
    .sort((a, b) => rowOf(a.id).start - rowOf(b.id).start || (a.id < b.id ? -1 : 1))[0];
  const pathTest = (): Plain => {
    const none = { count: null, outOf: null, value: null };
    if (pathWork === undefined) return { ...none, passes: null, activities: [] };
    const more = 600 * day(pathWork);
    // Made longer in the plan itself, and the whole plan scheduled anew; only work that lasts as long as it says is tried.
    const { percent: _p, ...rest } = pathWork;
    const left =
      pathWork.actualStart === undefined
        ? pathWork.durationMinutes!
        : Math.round((pathWork.durationMinutes! * (100 - (pathWork.percent ?? 0))) / 100);
    const longer: Activity =
      pathWork.actualStart === undefined
        ? { ...pathWork, durationMinutes: left + more }
        : { ...rest, remainingMinutes: left + more };
    const then = schedulePlan({
      ...plan,
      activities: plan.activities.map((each) => (each === pathWork ? longer : each)),
    });
    const moved = calendarOf(pathWork).indexAt(then.finish!) - calendarOf(pathWork).indexAt(schedule.finish!);
    return { ...none, passes: Math.abs(moved - more) <= 5 * day(pathWork), activities: [pathWork.id] };
  };

  const cpl =
    dataDay === null || schedule.finish === null
      ? 0
      : project.indexAt(schedule.finish) - project.indexAt(closeOf(dataDay));
  const latest = Math.max(
    ...(plan.baselines?.[0]?.activities ?? [])
      .filter(({ id }) => plan.activities.find((each) => each.id === id)?.parked !== true)
      .map(({ finish }) => parseInstant(finish)!),
    -1,
  );
  const unapproved = meant.filter(({ id }) => approved(id) === undefined).length;
  return [
    share(
      open.filter(({ id }) => (!hasBefore(id) && id !== first) || (!hasAfter(id) && id !== last)),
      open,
      0.05,
    ),
    ofLinks(
      ({ lagMinutes = 0 }) => lagMinutes < 0,
      (value) => value === 0,
    ),
    ofLinks(
      ({ lagMinutes = 0 }) => lagMinutes > 0,
      (value) => value <= 0.05,
    ),
    ofLinks(
      ({ type = "FS" }) => type === "FS",
      (value) => value >= 0.9,
      ({ type = "FS" }) => type !== "FS",
    ),
    share(
      open.filter(
        ({ wish }) =>
          wish !== undefined && ["startOn", "finishOn", "startNotAfter", "finishNotAfter"].includes(wish.type),
      ),
      open,
      0.05,
    ),
    share(
      open.filter((each) => rowOf(each.id).totalFloat! > 44 * day(each)),
      open,
      0.05,
    ),
    share(
      open.filter((each) => rowOf(each.id).totalFloat! < 0),
      open,
      0,
    ),
    share(
      work.filter((each) => (approved(each.id)?.durationMinutes ?? planned(each)) > 44 * day(each)),
      work,
      0.05,
    ),
    share(
      scheduled.filter(({ id, actualStart, actualFinish, wish }) => {
        if (dataDay === null) return false;
        if (actualStart !== undefined && actualStart.slice(0, 10) > DATA_DATE) return true;
        if (actualFinish !== undefined && actualFinish.slice(0, 10) > DATA_DATE) return true;
        if (wish === undefined || wish.date >= DATA_DATE) return false;
        return wish.type.startsWith("start") ? rowOf(id).state === "notStarted" : rowOf(id).state !== "complete";
      }),
      scheduled,
      0,
    ),
    share(
      work.filter(
        (each) =>
          planned(each) >= day(each) &&
          !plan.assignments!.some(({ activity }) => activity === each.id) &&
          !plan.costs!.some(({ activity }) => activity === each.id),
      ),
      work.filter((each) => planned(each) >= day(each)),
      0,
    ),
    measured
      ? share(
          dueBy.filter((row) => rowOf(row.each.id).finishDay > row.day).map(({ each }) => each),
          dueBy.map(({ each }) => each),
          0.05,
        )
      : nothing,
    pathTest(),
    index(
      !measured || cpl <= 0 || latest < 0 || schedule.finish! <= closeOf(dataDay)
        ? null
        : (cpl + project.indexAt(latest as never) - project.indexAt(schedule.finish!)) / cpl,
    ),
    index(
      !measured || dueBy.length + unapproved === 0
        ? null
        : meant.filter(({ id }) => rowOf(id).state === "complete").length / (dueBy.length + unapproved),
    ),
  ];
}

describe("the fourteen checks", () => {
  it("agree with their definitions read line by line", () => {
    let told = 0;
    const failing = new Set<number>();
    fc.assert(
      fc.property(livedPlans, (plan) => {
        const { schedule, baseline } = computePlan(plan);
        const printed = printChecks(plan, schedule, baseline?.content ?? null);
        const tested = plan.activities.find(({ id }) => id === printed[11]!.activities[0]);
        const plain = slowly(plan);
        printed.forEach((check, i) => {
          if (check.number === 12 && tested?.driver === "effort") return;
          const { number, ...found } = check;
          expect([number, { ...found, value: found.value === null ? null : found.value.toFixed(12) }]).toEqual([
            number,
            { ...plain[i]!, value: plain[i]!.value === null ? null : plain[i]!.value!.toFixed(12) },
          ]);
          if (check.passes === false) failing.add(check.number);
          told++;
        });
      }),
      { numRuns: 400 },
    );
    expect(told).toBeGreaterThan(3000);
    // The plans tried are bad enough to fail each of them.
    expect([...failing].sort((a, b) => a - b)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14]);
  });
});

describe("redundant links", () => {
  it("removed all at once, leave every date as it was; and each of them is said by others", () => {
    let taken = 0;
    fc.assert(
      fc.property(networks({ calendars: ["std", "seven", "nights"] }), (random) => {
        const plan = {
          ...random,
          links: (random.links ?? []).map((link, i) => (i % 3 === 0 ? link : { from: link.from, to: link.to })),
        };
        const schedule = schedulePlan(plan);
        const out = new Set(redundant(groundOf(plan, schedule, null)).map(({ link }) => link));
        taken += out.size;
        const without = schedulePlan({ ...plan, links: plan.links.filter((link) => !out.has(link)) });
        expect(without.rows.map((row) => [row!.start, row!.finish])).toEqual(
          schedule.rows.map((row) => [row!.start, row!.finish]),
        );
        // By reachability, one link at a time: every plain one left is the only way from its one end to its other.
        const left = plan.links.filter(
          (link) => !out.has(link) && (link.type ?? "FS") === "FS" && (link.lagMinutes ?? 0) >= 0,
        );
        const leads = (from: string, to: string, but: Link): boolean =>
          left.some((link) => link !== but && link.from === from && (link.to === to || leads(link.to, to, but)));
        for (const link of left)
          if ((link.lagMinutes ?? 0) === 0) expect([link, leads(link.from, link.to, link)]).toEqual([link, false]);
      }),
      { numRuns: 200 },
    );
    expect(taken).toBeGreaterThan(20);
  });
});
