import type { DeskActivity } from "@chronometra/contract";
import {
  formatDate,
  withoutProgress,
  schedulePlan,
  timeboxOf,
  type Activity,
  type Plan,
  type Schedule,
} from "@chronometra/core";
import type { HeldPlan } from "../../plan/held/heldPlan.ts";

/** A person's own work in a plan that is not finished. */
export function ownActivities(
  { plan, whole: { bundle, computed } }: HeldPlan,
  { project: projectId, person }: { readonly project: string; readonly person: string },
): DeskActivity[] {
  const { schedule } = computed;
  const position = new Map(bundle.activities.map(({ id }, i) => [id, i]));
  const posted = new Map<string, number>();
  for (const entry of plan.timeEntries.values()) {
    if (entry.person === person && entry.state === "posted")
      posted.set(entry.activity, (posted.get(entry.activity) ?? 0) + entry.minutes);
  }
  const found: DeskActivity[] = [];
  for (const assignment of plan.assignments.values()) {
    const i = position.get(assignment.activity)!;
    const row = schedule.rows[i];
    const activity = bundle.activities[i]!;
    if (assignment.person !== person || row == null || row.state === "complete") continue;
    const booked = posted.get(activity.id) ?? 0;
    found.push({
      project: projectId,
      projectName: plan.project.name,
      activity: activity.id,
      name: activity.name,
      path: pathOf(plan, activity.parent),
      start: formatDate(row.startDay),
      finish: formatDate(row.finishDay),
      state: row.state,
      percent: activity.percent ?? null,
      plannedMinutes: assignment.plannedMinutes,
      remainingMinutes: assignment.remainingMinutes ?? assignment.plannedMinutes,
      postedMinutes: booked,
      waitingMinutes: 0,
      box: boxOf(plan, activity.id),
      stages: stagesOf(activity),
      waitsFor: waitsFor(plan, schedule, position, activity.id),
      blocked: blockOf(plan, activity.id),
      note: plan.notes.get(activity.id) ?? null,
      priorityWord: null,
      documents: 0,
    });
  }
  return found;
}

function blockOf(plan: Plan, activity: string): DeskActivity["blocked"] {
  const block = plan.blocks.get(activity);
  return block === undefined ? null : { by: block.by, since: block.since, saidBy: block.saidBy };
}

function stagesOf({ credit }: Activity): DeskActivity["stages"] {
  if (credit?.rule !== "stages") return null;
  return { all: [...(credit.stages ?? [])].sort((a, b) => a.credit - b.credit), at: credit.stage ?? null };
}

function boxOf(plan: Plan, activity: string): DeskActivity["box"] {
  const box = timeboxOf(plan, activity);
  return box === undefined ? null : { name: box.name, last: box.last };
}

function pathOf(plan: Plan, parent: string | undefined): string {
  const names: string[] = [];
  for (let at = parent; at !== undefined; at = plan.activities.get(at)?.parent)
    names.unshift(plan.activities.get(at)?.name ?? at);
  return names.join(" / ");
}

/** Names of finish-to-start predecessors that are not finished. */
function waitsFor(plan: Plan, schedule: Schedule, position: ReadonlyMap<string, number>, activity: string): string[] {
  return [...plan.links.values()].flatMap((link) => {
    if (link.to !== activity || (link.type ?? "FS") !== "FS") return [];
    const row = schedule.rows[position.get(link.from)!];
    return row != null && row.state !== "complete" ? [plan.activities.get(link.from)!.name] : [];
  });
}

/** Whether someone has work in a plan that is not finished. */
export function hasOpenWork({ plan, whole: { computed } }: HeldPlan, person: string): boolean {
  const { rows, tree } = computed.schedule;
  return [...plan.assignments.values()].some(
    (row) => row.person === person && (rows[tree.indexOf.get(row.activity)!]?.state ?? "complete") !== "complete",
  );
}

const asPlanned = new WeakMap<HeldPlan, Schedule>();

/** Dates of a plan as though nothing of it had been begun. */
function scheduleAsPlanned(held: HeldPlan): Schedule {
  const schedule = asPlanned.get(held) ?? schedulePlan(withoutProgress(held.whole.bundle));
  asPlanned.set(held, schedule);
  return schedule;
}

/**
 * The first day on which a person was to work in a plan, or did: what has not begun is put off by the data date, but
 * was meant to.
 */
export function firstDay(held: HeldPlan, person: string): string | null {
  const { plan, whole } = held;
  const { rows } = scheduleAsPlanned(held);
  const own = new Set([...plan.assignments.values()].flatMap((row) => (row.person === person ? [row.activity] : [])));
  const starts = whole.bundle.activities.flatMap(({ id }, i) =>
    own.has(id) && rows[i] != null
      ? [plan.activities.get(id)!.actualStart?.slice(0, 10) ?? formatDate(rows[i].startDay)]
      : [],
  );
  return starts.sort()[0] ?? null;
}
