import fc from "fast-check";
import { schedulePlan } from "../network/schedule.ts";
import type { Activity, Link, PlanBundle } from "../plan/schema.ts";
import { DATA_DATE, livedPlans } from "../testing/livedPlans.ts";
import { closeOf, type EpochDay, epochDay, parseDate } from "../time/instant.ts";
import type { PastPeriod } from "./ground/finding.ts";
import { findAll, FINDINGS } from "./findAll.ts";
import { groundOf } from "./ground/ground.ts";

// What each finding says of itself, read line by line, slow and plain. Redundant links have a law of their own.

const DAYS = ["2026-02-23", "2026-03-02", "2026-03-04", "2026-03-09", "2026-03-11", "2026-03-13"];
const SILENT = 5;
const BEGUN = ["2026-02-24", "2026-03-03", "2026-03-05T09:00"];
const PERIODS = ["2026-03-04", "2026-03-06", "2026-03-10"];

interface Reported {
  readonly plan: PlanBundle;
  readonly periods: readonly PastPeriod[];
}

/** Lived plans with owners, reasons, level of effort, booked time and money, and how they stood in up to three periods before. */
const reported: fc.Arbitrary<Reported> = livedPlans.chain((plan) => {
  const many = <T>(each: fc.Arbitrary<T>): fc.Arbitrary<T[]> =>
    fc.array(each, { minLength: plan.activities.length, maxLength: plan.activities.length });
  const place = fc.nat(plan.activities.length - 1);
  return fc
    .record({
      marks: many(fc.nat(7)),
      percents: many(fc.constantFrom(20, 40, 90, 92)),
      before: fc.array(many(fc.constantFrom(0, 20, 40, 90, 92)), { maxLength: 3 }),
      entries: fc.array(
        fc.record({
          at: place,
          day: fc.constantFrom(...DAYS),
          minutes: fc.constantFrom(60, 480, -60),
          posted: fc.boolean(),
        }),
        { maxLength: 12 },
      ),
      bills: fc.array(fc.record({ at: place, day: fc.constantFrom(...DAYS) }), { maxLength: 4 }),
      spanned: fc.array(place, { maxLength: 3 }),
      hub: fc.boolean(),
    })
    .map(({ marks, percents, before, entries, bills, spanned, hub }): Reported => {
      const dated = plan.project.dataDate !== undefined;
      const begun = (activity: Activity, mark: number): object =>
        dated &&
        mark > 3 &&
        activity.kind !== "milestone" &&
        activity.durationMinutes !== undefined &&
        activity.actualStart === undefined
          ? { actualStart: BEGUN[mark % BEGUN.length]! }
          : {};
      const underWay = ({ actualStart, actualFinish, kind }: Activity): boolean =>
        kind !== "milestone" && actualStart !== undefined && actualFinish === undefined;
      const activities = plan.activities
        .map((bare, i): Activity => ({ ...bare, ...begun(bare, marks[i]!) }))
        .map((activity, i): Activity => ({
          ...activity,
          ...(marks[i]! > 4 ? { owner: "p" } : {}),
          ...(activity.wish === undefined
            ? {}
            : {
                wish: {
                  ...activity.wish,
                  ...(marks[i]! % 3 === 0 ? {} : { reason: marks[i]! % 3 === 1 ? "  " : "the tide" }),
                },
              }),
          ...(underWay(activity)
            ? marks[i]! === 7
              ? {}
              : marks[i]! === 6
                ? { percent: percents[i]!, remainingMinutes: 0 }
                : marks[i]! % 2 === 0
                  ? { percent: percents[i]! }
                  : { percent: percents[i]!, remainingMinutes: 480 * (marks[i]! % 3) + 60 }
            : {}),
        }));
      const whole: PlanBundle = {
        ...plan,
        activities: [...activities, { id: "span", name: "Watch", kind: "levelOfEffort" }],
        links: [
          ...(plan.links ?? []),
          ...(hub ? activities.slice(0, -1).map(({ id }): Link => ({ from: id, to: activities.at(-1)!.id })) : []),
          ...spanned.map((at): Link => ({ from: "span", to: activities[at]!.id })),
        ],
        assignments: [
          ...plan.assignments!,
          ...activities
            .filter(
              (each, i) =>
                marks[i] === 1 &&
                each.kind !== "milestone" &&
                !plan.assignments!.some(({ activity }) => activity === each.id),
            )
            .map(({ id }) => ({ activity: id, person: "p", plannedMinutes: 0 })),
        ],
        timeEntries: entries.map(({ at, day, minutes, posted }) => ({
          activity: activities[at]!.id,
          person: "p",
          date: day,
          minutes,
          state: posted ? ("posted" as const) : ("submitted" as const),
        })),
        actualCosts: bills.map(({ at, day }) => ({ activity: activities[at]!.id, date: day, amountMinor: 100 })),
      };
      const periods = before.map((was, k): PastPeriod => {
        const then = activities.map((activity, i): Activity =>
          underWay(activity)
            ? {
                ...activity,
                percent: was[i]!,
                ...(activity.remainingMinutes === undefined ? {} : { remainingMinutes: 480 * (was[i]! % 3) + 60 }),
              }
            : activity,
        );
        return {
          number: k + 1,
          dataDay: parseDate(PERIODS[k]!)!,
          activities: new Map(then.map((activity) => [activity.id, activity])),
        };
      });
      return { plan: whole, periods: periods.reverse() };
    });
});

/** Ids by finding, each once, in the plan's order. */
function slowly({ plan, periods: all }: Reported): Record<string, string[]> {
  const schedule = schedulePlan(plan);
  const dataDay = plan.project.dataDate === undefined ? null : parseDate(plan.project.dataDate)!;
  const rowOf = (id: string) => schedule.rows[plan.activities.findIndex((each) => each.id === id)]!;
  const byId = (id: string): Activity => plan.activities.find((each) => each.id === id)!;
  const inNetwork = ({ kind = "work" }: Activity): boolean => kind === "work" || kind === "milestone";
  const scheduled = plan.activities.filter((each, i) => inNetwork(each) && schedule.rows[i] != null);
  const open = scheduled.filter(({ id }) => rowOf(id).state !== "complete");
  const isWork = ({ kind = "work" }: Activity): boolean => kind === "work";
  const among = (ids: readonly Activity[], id: string): boolean => ids.some((each) => each.id === id);
  const links = plan.links!.filter(({ from, to }) => among(scheduled, from) && among(scheduled, to));
  const types = (of: (link: Link) => string, id: string): string[] =>
    links.filter((link) => of(link) === id).map(({ type = "FS" }) => type);
  const periods = dataDay === null ? [] : all.filter((period) => period.dataDay < dataDay);
  const last = periods[0];
  const then = (id: string, period: PastPeriod | undefined): Activity | undefined => period?.activities.get(id);
  const underWay = open.filter((each) => isWork(each) && rowOf(each.id).state === "inProgress");
  const counted = plan.timeEntries!.filter(
    ({ date, state }) =>
      (state === "posted" || state === "submitted") && (dataDay === null || parseDate(date)! <= dataDay),
  );
  const minutesSince = (id: string): number =>
    counted
      .filter(({ activity, date }) => activity === id && (last === undefined || parseDate(date)! > last.dataDay))
      .reduce((sum, { minutes }) => sum + minutes, 0);
  const told = ({ percent = 0, remainingMinutes, actualStart, actualFinish, credit }: Activity): string =>
    JSON.stringify([percent, remainingMinutes, actualStart, actualFinish, credit]);
  const moved = (id: string, period: PastPeriod): boolean =>
    then(id, period) === undefined || told(then(id, period)!) !== told(byId(id));
  const planned = (id: string): number[] =>
    plan.assignments!.filter(({ activity }) => activity === id).map(({ plannedMinutes }) => plannedMinutes);
  const left = ({ remainingMinutes, durationMinutes, percent = 0 }: Activity): number | null =>
    remainingMinutes ?? (durationMinutes === undefined ? null : (durationMinutes * (100 - percent)) / 100);
  const lastNews = (each: Activity): EpochDay => {
    const days = [
      each.actualStart!.slice(0, 10),
      ...counted.filter(({ activity }) => activity === each.id).map(({ date }) => date),
    ].map((date) => parseDate(date)!);
    const changed = periods.find((period) => moved(each.id, period));
    return epochDay(Math.max(...days, changed === undefined ? 0 : changed.dataDay + 1));
  };
  const broken = ({ from, to, type = "FS", lagMinutes = 0, lagIn }: Link): boolean => {
    const [before, after] = [rowOf(from), rowOf(to)];
    const activity = byId(to);
    const begins = type.endsWith("S");
    if (
      begins
        ? activity.actualStart === undefined && (isWork(activity) || after.state !== "complete")
        : after.state !== "complete"
    )
      return false;
    const theirs = type.startsWith("F") ? before.finish : before.start;
    // A day without an hour may be any hour of it.
    const said = activity.actualStart ?? activity.actualFinish;
    const own = !begins
      ? after.finish
      : said !== undefined && !said.includes("T")
        ? closeOf(parseDate(said)!)
        : after.start;
    if (lagIn === "elapsed") return own - theirs < lagMinutes;
    const calendar = schedule.calendars.get(activity.calendar ?? plan.project.calendar);
    return calendar.indexAt(own) - calendar.indexAt(theirs) < lagMinutes;
  };
  const spent = [...plan.actualCosts!, ...plan.timeEntries!.filter(({ state }) => state === "posted")];
  const ids = (activities: readonly Activity[]): string[] => activities.map(({ id }) => id);
  const ends = (of: readonly Link[]): string[] =>
    ids(plan.activities.filter(({ id }) => of.some(({ to }) => to === id)));
  return {
    unscheduled: ids(
      plan.activities.filter((each, i) => isWork(each) && each.parked !== true && schedule.rows[i] == null),
    ),
    danglingStarts: ids(
      open.filter(
        (each) =>
          isWork(each) &&
          types(({ to }) => to, each.id).length > 0 &&
          types(({ to }) => to, each.id).every((type) => type === "FF" || type === "SF"),
      ),
    ),
    danglingFinishes: ids(
      open.filter(
        (each) =>
          isWork(each) &&
          types(({ from }) => from, each.id).length > 0 &&
          types(({ from }) => from, each.id).every((type) => type === "SS" || type === "SF"),
      ),
    ),
    linksFromLevelOfEffort: ends(
      plan.links!.filter(({ from, to }) => byId(from).kind === "levelOfEffort" && byId(to).parked !== true),
    ),
    wishesWithoutReason: ids(
      open.filter(({ wish }) => wish !== undefined && (wish.reason === undefined || wish.reason.trim() === "")),
    ),
    manyLinks: ids(open.filter(({ id }) => links.filter(({ to }) => to === id).length > 8)),
    outOfSequence: ends(links.filter(broken)),
    noOwner: ids(open.filter((each) => isWork(each) && each.owner === undefined)),
    noEstimate: ids(open.filter(({ id }) => planned(id).length > 0 && planned(id).every((minutes) => minutes === 0))),
    noUpdate: ids(
      dataDay === null
        ? []
        : underWay.filter(
            (each) => !(all.length === 0 && (each.percent ?? 0) > 0) && dataDay - lastNews(each) > SILENT,
          ),
    ),
    percentFell: ids(
      last === undefined ? [] : open.filter(({ id, percent = 0 }) => (then(id, last)?.percent ?? 0) > percent),
    ),
    nothingLeft: ids(
      dataDay === null
        ? []
        : underWay.filter((each) => {
            const row = schedule.rows[plan.activities.indexOf(each)]!;
            return row.finish <= closeOf(dataDay);
          }),
    ),
    nearlyDone: ids(
      periods.length < 2
        ? []
        : underWay.filter((each) =>
            [each, then(each.id, periods[0]), then(each.id, periods[1])].every((at) => (at?.percent ?? 0) >= 90),
          ),
    ),
    hoursWithoutProgress: ids(
      underWay.filter(
        (each) =>
          minutesSince(each.id) > 0 &&
          (last === undefined
            ? (each.percent ?? 0) === 0 && each.remainingMinutes === undefined && each.credit === undefined
            : !moved(each.id, last)),
      ),
    ),
    progressWithoutHours: ids(
      underWay.filter(
        ({ id, percent = 0 }) =>
          percent > (then(id, last)?.percent ?? 0) &&
          planned(id).some((minutes) => minutes > 0) &&
          minutesSince(id) <= 0,
      ),
    ),
    neverShrinks: ids(
      periods.length < 2
        ? []
        : underWay.filter((each) => {
            const was = [then(each.id, periods[0]), then(each.id, periods[1])];
            if (was.some((at) => at?.actualStart === undefined || at.actualFinish !== undefined)) return false;
            const [now, before, first] = [each, ...was].map((at) => left(at!));
            return (
              now != null &&
              before != null &&
              first != null &&
              now > 0 &&
              before > 0 &&
              first > 0 &&
              now >= before &&
              before >= first
            );
          }),
    ),
    afterFinish: ids(
      scheduled.filter(
        ({ id, actualFinish }) =>
          actualFinish !== undefined &&
          spent.some(({ activity, date }) => activity === id && date > actualFinish.slice(0, 10)),
      ),
    ),
  };
}

describe("findings", () => {
  it("agree with what they say of themselves, read line by line", () => {
    const named: Record<string, number> = {};
    fc.assert(
      fc.property(reported, (given) => {
        const { plan, periods } = given;
        const found = findAll(groundOf(plan, schedulePlan(plan), null), { periods, silentDays: SILENT });
        const plain = slowly(given);
        for (const {
          finding: { key },
          offences,
        } of found) {
          if (key === "redundantLinks") continue;
          const positions = new Set(offences.map(({ at }) => at));
          expect([key, plan.activities.filter((_, i) => positions.has(i)).map(({ id }) => id)]).toEqual([
            key,
            plain[key],
          ]);
          for (const each of offences) expect(each.words()).not.toMatch(/undefined|NaN|null/);
          if (positions.size > 0) named[key] = (named[key] ?? 0) + 1;
        }
      }),
      { numRuns: 400 },
    );
    expect(FINDINGS.map(({ key }) => key).filter((key) => key !== "redundantLinks" && (named[key] ?? 0) === 0)).toEqual(
      [],
    );
    expect(DATA_DATE > PERIODS.at(-1)!).toBe(true);
  });
});
