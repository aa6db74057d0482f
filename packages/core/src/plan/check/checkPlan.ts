import { compileCalendars } from "../compileCalendars.ts";
import { apportionLoops } from "./apportion.ts";
import { remembered } from "../derived/remembered.ts";
import { linkLabel, pairLabel, type Problem, type TableName } from "../problem.ts";
import type { Activity, Baseline, PlanBundle } from "../schema.ts";
import { planTree, positionsOf } from "../planTree.ts";
import { lookAt, type Look } from "./look.ts";
import { Findings, checkKind, checkActuals, checkCredit } from "./checkActivity.ts";

/**
 * Checks what a shape cannot tell: references, uniqueness, the tree, and all that calculations.md sections 1, 2 and 4
 * refuse, loops among links apart, which the network finds.
 * @param before a plan that it came of and that holds: what cannot have come to be wrong is not looked at
 * @returns every problem, none where the plan can be computed with
 */
export function checkPlan(plan: PlanBundle, before?: PlanBundle): Problem[] {
  const found = new Findings();
  const look = lookAt(plan, before);
  checkUnique(look, found);
  found.list.push(...compileCalendars(plan.calendars).problems);
  checkReferences(look, found);
  if (found.list.length > 0) return found.list;
  checkTree(look, found);
  checkRates(look, found);
  for (const activity of look.dates) {
    checkKind(activity, found);
    checkActuals(activity, plan.project.dataDate, found);
    checkCredit(activity, found);
  }
  checkSummariesCarryNothing(look, found);
  if (found.list.length > 0) return found.list;
  checkParked(plan, found);
  checkLinks(look, found);
  for (const baseline of plan.baselines ?? []) found.list.push(...baselineProblems(plan.calendars)(baseline));
  found.list.push(...apportionLoops(plan));
  return found.list;
}

function checkUnique({ rows, plan }: Look, found: Findings): void {
  for (const table of ["calendars", "people", "activities", "costs"] as const) {
    // Rows that came of rows with other ids are told apart as they are.
    if (rows(table).length === 0 || positionsOf(plan[table]!).size === plan[table]!.length) continue;
    for (const id of repeated((plan[table] ?? []).map((row) => row.id)))
      found.add(table, id, "id", "stands more than once in this table; ids are unique");
  }
  for (const number of repeated((plan.baselines ?? []).map((baseline) => String(baseline.number)))) {
    found.add("baselines", number, "number", "stands more than once; baselines are numbered uniquely");
  }
}

function repeated(ids: readonly string[]): string[] {
  const seen = new Set<string>();
  const twice = new Set<string>();
  for (const id of ids) (seen.has(id) ? twice : seen).add(id);
  return [...twice];
}

function checkReferences({ plan, rows }: Look, found: Findings): void {
  const calendars = new Set(plan.calendars.map((calendar) => calendar.id));
  const people = new Set((plan.people ?? []).map((person) => person.id));
  const activities = positionsOf(plan.activities);
  const expect = (
    known: { has: (id: string) => boolean },
    kind: string,
    id: string | undefined,
    table: TableName,
    row: () => string,
    field: string,
  ): void => {
    if (id !== undefined && !known.has(id)) found.add(table, row(), field, `there is no ${kind} "${id}"`);
  };
  expect(calendars, "calendar", plan.project.calendar, "project", () => plan.project.code, "calendar");
  for (const person of rows("people"))
    expect(calendars, "calendar", person.calendar, "people", () => person.id, "calendar");
  for (const activity of rows("activities")) {
    const row = (): string => activity.id;
    expect(activities, "activity", activity.parent, "activities", row, "parent");
    expect(calendars, "calendar", activity.calendar, "activities", row, "calendar");
    expect(people, "person", activity.owner, "activities", row, "owner");
    expect(activities, "activity", activity.credit?.to, "activities", row, "credit.to");
  }
  for (const link of rows("links")) {
    expect(activities, "activity", link.from, "links", () => linkLabel(link), "from");
    expect(activities, "activity", link.to, "links", () => linkLabel(link), "to");
  }
  for (const table of ["assignments", "timeEntries"] as const) {
    for (const row of rows(table)) {
      const label = (): string => pairLabel(row.activity, row.person);
      expect(activities, "activity", row.activity, table, label, "activity");
      expect(people, "person", row.person, table, label, "person");
    }
  }
  for (const cost of rows("costs")) expect(activities, "activity", cost.activity, "costs", () => cost.id, "activity");
  for (const cost of rows("actualCosts")) {
    expect(activities, "activity", cost.activity, "actualCosts", () => pairLabel(cost.activity, cost.date), "activity");
  }
}

function checkTree({ plan, isTreeOther }: Look, found: Findings): void {
  if (!isTreeOther) return;
  const positions = positionsOf(plan.activities);
  const byId = (id: string): Activity | undefined => plan.activities[positions.get(id) ?? -1];
  const settled = new Set<string>();
  for (const activity of plan.activities) {
    const parent = activity.parent === undefined ? undefined : byId(activity.parent);
    if (parent !== undefined && parent.kind !== "summary") {
      found.add(
        "activities",
        activity.id,
        "parent",
        `"${parent.id}" is no summary; only a summary has activities below it`,
      );
    }
    if (parent === undefined ? activity.parent === undefined : settled.has(parent.id)) {
      settled.add(activity.id);
      continue;
    }
    const path = new Set<string>();
    let at: Activity | undefined = activity;
    while (at !== undefined && !settled.has(at.id) && !path.has(at.id)) {
      path.add(at.id);
      at = at.parent === undefined ? undefined : byId(at.parent);
    }
    if (at !== undefined && path.has(at.id)) {
      const loop = [...path].slice([...path].indexOf(at.id));
      found.add("activities", at.id, "parent", `lies below itself: ${[...loop, at.id].join(" -> ")}`);
    }
    for (const id of path) settled.add(id);
  }
}

function checkRates({ rows }: Look, found: Findings): void {
  for (const person of rows("people")) {
    (person.rates ?? []).forEach((rate, i, rates) => {
      const former = rates[i - 1];
      if (former !== undefined && rate.from <= former.from) {
        found.add(
          "people",
          person.id,
          `rates[${i}].from`,
          `${rate.from} does not come after ${former.from}; list rates by ascending date`,
        );
      }
    });
  }
}

function checkSummariesCarryNothing({ plan, carried }: Look, found: Findings): void {
  const isSummary = summariesOf(plan);
  const refuse = (table: TableName, row: string, activity: string): void => {
    if (isSummary(activity))
      found.add(
        table,
        row,
        "activity",
        `"${activity}" is a summary, which carries none of its own; name an activity below it`,
      );
  };
  for (const row of carried("assignments")) refuse("assignments", pairLabel(row.activity, row.person), row.activity);
  for (const row of carried("costs")) refuse("costs", row.id, row.activity);
  for (const row of carried("timeEntries")) refuse("timeEntries", pairLabel(row.activity, row.person), row.activity);
  for (const row of carried("actualCosts")) refuse("actualCosts", pairLabel(row.activity, row.date), row.activity);
}

/** Tells of an activity's id whether it is a summary. */
function summariesOf({ activities }: PlanBundle): (id: string) => boolean {
  const positions = positionsOf(activities);
  return (id) => activities[positions.get(id)!]!.kind === "summary";
}

function checkParked(plan: PlanBundle, found: Findings): void {
  const { parked } = planTree(plan.activities);
  if (parked.size === 0) return;
  const say = (id: string, field: string, what: string): void =>
    found.add("activities", id, field, `is parked but has ${what}; wake it, or finish or stop the work instead`);
  for (const activity of plan.activities) {
    if (!parked.has(activity.id)) continue;
    if (activity.actualStart !== undefined || activity.actualFinish !== undefined)
      say(activity.id, "parked", "actual dates");
    if ((activity.percent ?? 0) > 0) say(activity.id, "parked", "a percent above 0");
  }
  const told = new Set<string>();
  for (const entry of plan.timeEntries ?? []) {
    if (entry.state === "posted" && parked.has(entry.activity) && !told.has(entry.activity)) {
      told.add(entry.activity);
      say(entry.activity, "parked", "posted time");
    }
  }
  for (const cost of plan.actualCosts ?? []) {
    if (parked.has(cost.activity) && !told.has(cost.activity)) {
      told.add(cost.activity);
      say(cost.activity, "parked", "actual cost");
    }
  }
}

function checkLinks({ plan, carried }: Look, found: Findings): void {
  const isSummary = summariesOf(plan);
  for (const link of carried("links")) {
    for (const end of ["from", "to"] as const) {
      if (isSummary(link[end]))
        found.add("links", linkLabel(link), end, `"${link[end]}" is a summary; link the activities below it`);
    }
  }
}

/** What stands against a baseline beside calendars: both mostly stay as they are when a plan changes. */
const baselineProblems = remembered((calendars: PlanBundle["calendars"]) =>
  remembered((baseline: Baseline): readonly Problem[] => {
    const found = new Findings();
    checkBaseline(baseline, calendars, found);
    return found.list;
  }),
);

function checkBaseline(baseline: Baseline, calendars: PlanBundle["calendars"], found: Findings): void {
  const row = (id: string): string => pairLabel(baseline.number, id);
  for (const problem of compileCalendars(baseline.calendars, calendars).problems) {
    found.add("baselines", row(problem.row), `calendars ${problem.field}`.trim(), problem.message);
  }
  const own = baseline.calendars ?? [];
  for (const id of repeated(own.map((calendar) => calendar.id)))
    found.add("baselines", row(id), "calendars", "stands more than once in this table; ids are unique");
  const known = new Set([...calendars, ...own].map((calendar) => calendar.id));
  for (const id of repeated(baseline.activities.map((activity) => activity.id))) {
    found.add("baselines", row(id), "id", "stands more than once in this baseline; ids are unique");
  }
  for (const activity of baseline.activities) {
    if (activity.calendar !== undefined && !known.has(activity.calendar)) {
      found.add("baselines", row(activity.id), "calendar", `there is no calendar "${activity.calendar}"`);
    }
    if (activity.finish < activity.start)
      found.add("baselines", row(activity.id), "finish", `${activity.finish} lies before the start, ${activity.start}`);
  }
}
