import type { ActivityLook } from "@chronometra/contract";
import {
  costOfMinutes,
  formatDate,
  parseInstant,
  rateBook,
  startDayOf,
  type Activity,
  type PlanBundle,
} from "@chronometra/core";
import type { ComputedPlan } from "../plan/held/computedPlan.ts";

/** The activity itself and everything below it, by id with names. */
function branchOf(bundle: PlanBundle, id: string): Map<string, string> {
  const below = new Map<string, Activity[]>();
  for (const activity of bundle.activities)
    if (activity.parent !== undefined) below.set(activity.parent, [...(below.get(activity.parent) ?? []), activity]);
  const branch = new Map<string, string>();
  const open = bundle.activities.filter((activity) => activity.id === id);
  for (let at = open.pop(); at !== undefined; at = open.pop()) {
    branch.set(at.id, at.name);
    open.push(...(below.get(at.id) ?? []));
  }
  return branch;
}

function pathOf(bundle: PlanBundle, activity: Activity): string {
  const byId = new Map(bundle.activities.map((each) => [each.id, each]));
  const names: string[] = [];
  for (let at = activity.parent; at !== undefined; at = byId.get(at)?.parent) names.unshift(byId.get(at)?.name ?? at);
  return names.join(" / ");
}

const CREDIT_WORDS = {
  reported: "the percent reported",
  zeroHundred: "all when finished",
  startFinish: "a part at the start, all when finished",
  steps: "weighted steps",
  units: "units done",
  stages: "the stage it stands in",
  levelOfEffort: "as planned, with time",
  apportioned: "with another activity",
} as const;

function datesOf({ computed, slips }: ComputedPlan, activity: Activity, position: number): ActivityLook["dates"] {
  const row = computed.schedule.rows[position];
  if (row == null) return null;
  const baseline = computed.baseline?.content;
  const approved = baseline?.activities.find(({ id }) => id === activity.id);
  const slip = slips[position] ?? null;
  return {
    start: formatDate(row.startDay),
    finish: formatDate(row.finishDay),
    baselineStart: approved === undefined ? null : formatDate(startDayOf(parseInstant(approved.start)!)),
    baselineFinish: slip === null ? null : formatDate(slip.baselineFinishDay),
    drift: slip?.workingDays ?? null,
  };
}

/** The planned cost of a branch, line by line, as the plan has it today. */
function budgetLines(
  { bundle, computed }: ComputedPlan,
  branch: ReadonlyMap<string, string>,
  names: ReadonlyMap<string, string>,
): ActivityLook["budget"] {
  const rates = rateBook(bundle.people ?? []);
  const starts = new Map(bundle.activities.map(({ id }, i) => [id, computed.schedule.rows[i]]));
  const people = (bundle.assignments ?? []).flatMap(({ activity, person, plannedMinutes }) => {
    const row = starts.get(activity);
    if (!branch.has(activity) || row == null) return [];
    return [
      {
        activity: branch.get(activity)!,
        what: names.get(person) ?? person,
        minutes: plannedMinutes,
        amountMinor: costOfMinutes(plannedMinutes, rates(person, formatDate(row.startDay))),
      },
    ];
  });
  const lines = (bundle.costs ?? []).flatMap(({ activity, category, plannedMinor }) =>
    branch.has(activity)
      ? [{ activity: branch.get(activity)!, what: category, minutes: null, amountMinor: plannedMinor }]
      : [],
  );
  return [...people, ...lines];
}

/** What stands behind the figures of one activity or branch; `null` where the plan has none of that id. */
export function activityLook(whole: ComputedPlan, id: string): ActivityLook | null {
  const { bundle, computed } = whole;
  const position = bundle.activities.findIndex((activity) => activity.id === id);
  const activity = bundle.activities[position];
  if (activity === undefined) return null;
  const branch = branchOf(bundle, id);
  const names = new Map((bundle.people ?? []).map((person) => [person.id, person.name]));
  const activityNames = new Map(bundle.activities.map((each) => [each.id, each.name]));
  const rates = rateBook(bundle.people ?? []);
  const newestFirst = <T extends { date: string }>(rows: T[]): T[] =>
    rows.sort((a, b) => (a.date < b.date ? 1 : a.date > b.date ? -1 : 0));
  return {
    id,
    name: activity.name,
    path: pathOf(bundle, activity),
    kind: activity.kind ?? "work",
    currency: bundle.project.currency,
    minorDigits: bundle.project.minorDigits ?? 2,
    dataDate: bundle.project.dataDate ?? null,
    credit:
      activity.kind === "summary"
        ? "the sum of what is below"
        : CREDIT_WORDS[activity.credit?.rule ?? (activity.kind === "levelOfEffort" ? "levelOfEffort" : "reported")],
    percent: activity.percent ?? null,
    figures: computed.performance?.activities[position] ?? null,
    dates: datesOf(whole, activity, position),
    budget: budgetLines(whole, branch, names),
    time: newestFirst(
      (bundle.timeEntries ?? []).flatMap(({ activity: on, person, date, minutes, state, note }) =>
        state === "posted" && branch.has(on)
          ? [
              {
                activity: branch.get(on)!,
                person: names.get(person) ?? person,
                date,
                minutes,
                amountMinor: costOfMinutes(minutes, rates(person, date)),
                note: note ?? "",
              },
            ]
          : [],
      ),
    ),
    costs: newestFirst(
      (bundle.actualCosts ?? []).flatMap(({ activity: on, date, amountMinor, category, reference }) =>
        branch.has(on)
          ? [{ activity: branch.get(on)!, date, what: [category, reference].filter(Boolean).join(", "), amountMinor }]
          : [],
      ),
    ),
    before: (bundle.links ?? []).flatMap(({ from, to }) => (to === id ? [activityNames.get(from)!] : [])),
    after: (bundle.links ?? []).flatMap(({ from, to }) => (from === id ? [activityNames.get(to)!] : [])),
  };
}
