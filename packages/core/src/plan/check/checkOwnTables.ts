import { checkPlan } from "./checkPlan.ts";
import { takesBoxes, timeboxOf } from "../boxed.ts";
import type { Activity } from "../schema.ts";
import { wishText } from "../words/wishWords.ts";
import { ownValueFault } from "./ownValueFault.ts";
import { toBundle, type Plan } from "../plan.ts";
import type { Problem, TableName } from "../problem.ts";

/** Checks what a plan keeps besides the bundle: that it speaks of rows that are there, and values fit their fields. */
export function checkOwnTables(plan: Plan): Problem[] {
  const found: Problem[] = [];
  const say: Say = (table, row, field, message) => void found.push({ table, row, field, message });
  const names = new Set<string>();
  for (const [key, { name, type, choices }] of plan.fields) {
    const plain = name.toLowerCase();
    if (names.has(plain)) say("fields", key, "name", `there is a field "${name}" already; use another name`);
    names.add(plain);
    if (type === "choice" && (choices ?? []).length === 0)
      say("fields", key, "choices", `the field "${name}" needs at least one choice`);
  }
  for (const [activity, values] of plan.ownValues) {
    if (!plan.activities.has(activity)) say("ownValues", activity, "", `there is no activity "${activity}"`);
    for (const [id, value] of Object.entries(values)) {
      const field = plan.fields.get(id);
      const fault = field === undefined ? `there is no field "${id}"` : ownValueFault(field, value);
      if (fault !== null) say("ownValues", activity, field?.name ?? id, fault);
    }
  }
  for (const [key, { name, members }] of plan.teams) {
    for (const member of members)
      if (!plan.people.has(member))
        say("teams", key, "members", `there is no person "${member}" for the team "${name}"`);
  }
  for (const [key, { person }] of plan.placeholders)
    if (!plan.people.has(person)) say("placeholders", key, "person", `there is no person "${person}"`);
  for (const table of ["blocks", "promises", "notes", "ranges", "boxed", "gathered"] as const)
    for (const key of plan[table].keys())
      if (!plan.activities.has(key)) say(table, key, "", `there is no activity "${key}"`);
  for (const [key, { name, effects }] of plan.risks)
    for (const { activity } of effects)
      if (!plan.activities.has(activity))
        say("risks", key, "effects", `there is no activity "${activity}" for the risk "${name}"`);
  for (const [key, { name, activity, people }] of plan.meetings) {
    if (plan.activities.get(activity)?.kind === "summary" || !plan.activities.has(activity))
      say("meetings", key, "activity", `the meeting "${name}" needs an activity that takes time`);
    for (const person of people)
      if (!plan.people.has(person))
        say("meetings", key, "people", `there is no person "${person}" for the meeting "${name}"`);
  }
  checkTimeboxes(plan, say);
  checkGathered(plan, say);
  checkNotes(plan, say);
  checkAlternates(plan, say);
  return found;
}

type Say = (table: TableName, row: string, field: string, message: string) => void;

/** Whether something that has not begun is wished for otherwise than by a day before which it does not begin. */
const beginsOtherwise = ({ actualStart, wish }: Activity): boolean =>
  actualStart === undefined && wish !== undefined && wish.type !== "startNotBefore";

/** A timebox has days in order and a branch that is there; what stands in one takes time and begins by no other wish. */
function checkTimeboxes(plan: Plan, say: Say): void {
  for (const [key, { name, first, last, branch }] of plan.timeboxes) {
    if (last < first) say("timeboxes", key, "last", `the timebox "${name}" ends before it begins`);
    if (branch !== undefined && !plan.activities.has(branch))
      say("timeboxes", key, "branch", `there is no branch "${branch}" for the timebox "${name}"`);
  }
  for (const key of plan.boxed.keys()) {
    const activity = plan.activities.get(key);
    const box = timeboxOf(plan, key);
    if (activity === undefined || box === undefined) continue;
    if (!takesBoxes(activity))
      say("boxed", key, "box", `"${activity.name}" is neither work nor a milestone, so it cannot stand in a timebox`);
    else if (beginsOtherwise(activity))
      say(
        "boxed",
        key,
        "box",
        [
          `"${activity.name}" stands in the timebox "${box.name}", which says when it begins;`,
          `take its other date wish (${wishText(activity.wish ?? null)}) away, or leave it outside`,
        ].join(" "),
      );
  }
}

/** What is gathered takes time or is a milestone, and another milestone gathers it. */
function checkGathered(plan: Plan, say: Say): void {
  for (const [key, { milestone }] of plan.gathered) {
    const activity = plan.activities.get(key);
    if (activity === undefined) continue;
    if (activity.kind === "summary")
      say("gathered", key, "milestone", `"${activity.name}" is a branch; gather the work in it`);
    if (plan.activities.get(milestone)?.kind !== "milestone" || milestone === key)
      say("gathered", key, "milestone", `"${activity.name}" can be gathered by another milestone alone`);
  }
}

/** Lines of a check-list are told apart. */
function checkNotes(plan: Plan, say: Say): void {
  for (const [key, { checks = [] }] of plan.notes) {
    const twice = checks.find(({ id }, i) => checks.some((other, j) => j < i && other.id === id));
    if (twice !== undefined) say("notes", key, "checks", `"${twice.text}" has the id of another line of the list`);
  }
}

/** Of each group of ways one is live; none stands in two groups. */
function checkAlternates(plan: Plan, say: Say): void {
  const groupOf = new Map<string, string>();
  for (const [key, { name, members }] of plan.alternates) {
    for (const member of members) {
      const activity = plan.activities.get(member);
      if (activity === undefined) say("alternates", key, "members", `there is no activity "${member}" for "${name}"`);
      else if (groupOf.has(member))
        say("alternates", key, "members", `"${activity.name}" is one way of "${groupOf.get(member)}" already`);
      groupOf.set(member, name);
    }
    const live = members.filter((member) => plan.activities.get(member)?.parked !== true);
    if (live.length > 1)
      say(
        "alternates",
        key,
        "members",
        `of the ways of "${name}" one may be live; ${live.map((id) => `"${plan.activities.get(id)?.name ?? id}"`).join(" and ")} are`,
      );
  }
}

/**
 * Every problem of a whole plan: see `checkPlan`.
 * @param before a plan that it came of and that holds
 */
export function checkWholePlan(plan: Plan, before?: Plan): Problem[] {
  const problems = checkPlan(toBundle(plan), before && toBundle(before));
  return problems.length > 0 ? problems : checkOwnTables(plan);
}
