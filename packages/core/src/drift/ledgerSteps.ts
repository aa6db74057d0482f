import type { Activity, Assignment, Link, PlanBundle } from "../plan/schema.ts";
import { differs, grouped, linkKey, same, withFields, workKey, type Draft } from "./ledgerDraft.ts";

/** What kind of change moved a date (calculations.md section 5). */
export const DRIFT_GROUPS = ["progress", "work", "logic", "calendars", "wishes", "scope", "settings"] as const;
export type DriftGroup = (typeof DRIFT_GROUPS)[number];

/** One thing that changed, and how a plan takes it over. */
export interface Step {
  readonly group: DriftGroup;
  /** Of an activity, a calendar or a person; the data date and the like name nothing. */
  readonly kind: "activity" | "calendar" | "person" | "project";
  readonly id: string;
  readonly name: string;
  readonly take: (plan: Draft) => void;
  /** Of a date wish: why, as it was said. */
  readonly reason?: string | null;
}

/** What a person reports of an activity. */
export const PROGRESS: readonly (keyof Activity)[] = [
  "actualStart",
  "actualFinish",
  "percent",
  "remainingMinutes",
  "dropped",
];
const WORK: readonly (keyof Activity)[] = ["durationMinutes", "driver", "windowPolicy"];
const LEFT: readonly (keyof Assignment)[] = ["remainingMinutes", "restart"];

/** Takes over what was reported of an activity, and of the work of its people that both plans have. */
export function progressStep(row: Activity, work: readonly Assignment[]): Step {
  return {
    group: "progress",
    kind: "activity",
    id: row.id,
    name: row.name,
    take: (draft) => {
      draft.set("activities", row.id, withFields(draft.get("activities", row.id)!, row, PROGRESS));
      for (const own of work) {
        const had = draft.get("assignments", workKey(own));
        if (had !== undefined) draft.set("assignments", workKey(own), withFields(had, own, LEFT));
      }
    },
  };
}

/** Whether anything was reported of it in the one plan that the other does not say. */
export const progressDiffers = (
  a: Activity,
  b: Activity,
  work: readonly (readonly [Assignment, Assignment])[],
): boolean => differs(a, b, PROGRESS) || work.some(([was, is]) => differs(was, is, LEFT));

/**
 * Everything that changed between two plans, group by group in the order in which it is applied.
 * @param was the earlier plan, its progress brought to that of the later one where there is any to bring
 */
export function revisionsBetween(was: Draft, will: Draft): Step[] {
  const kept = [...will.tables.activities.values()].filter(({ id }) => was.has("activities", id));
  const isKept = (id: string): boolean => was.has("activities", id) && will.has("activities", id);
  const steps: Step[] = [];
  const project = (group: DriftGroup, name: string, fields: readonly (keyof PlanBundle["project"])[]): void => {
    if (differs(was.project, will.project, fields))
      steps.push({
        group,
        kind: "project",
        id: "",
        name,
        take: (draft) => void (draft.project = withFields(draft.project, will.project, fields)),
      });
  };
  const activityStep = (
    group: DriftGroup,
    { id, name }: Activity,
    take: Step["take"],
    more: Partial<Step> = {},
  ): void => void steps.push({ group, kind: "activity", id, name, take, ...more });
  const fieldsOf = (group: DriftGroup, fields: readonly (keyof Activity)[]): void => {
    for (const row of kept)
      if (differs(was.get("activities", row.id)!, row, fields)) activityStep(group, row, takingFields(row, fields));
  };
  const [oldWork, newWork] = [was, will].map(({ tables }) => grouped(tables.assignments, ({ activity }) => activity));

  // Without a later data date there is no progress to be expected: what was reported is a change like others.
  project("progress", "the data date", ["dataDate"]);
  fieldsOf("progress", PROGRESS);
  fieldsOf("work", WORK);
  for (const row of kept) {
    const [old, now] = [oldWork!.get(row.id) ?? [], newWork!.get(row.id) ?? []];
    if (same(old, now)) continue;
    activityStep("work", row, (draft) => {
      for (const each of old) draft.delete("assignments", workKey(each));
      for (const each of now) draft.set("assignments", workKey(each), each);
    });
  }
  const [oldLinks, newLinks] = [linksInto(was), linksInto(will)];
  for (const row of kept) {
    const [old, now] = [oldLinks.get(row.id) ?? [], newLinks.get(row.id) ?? []];
    // What leads to it from rows that came or went moves with those.
    if ([...old, ...now].some(({ from }) => !isKept(from))) continue;
    if (
      same(
        [...old].sort((a, b) => (linkKey(a) < linkKey(b) ? -1 : 1)),
        [...now].sort((a, b) => (linkKey(a) < linkKey(b) ? -1 : 1)),
      )
    )
      continue;
    activityStep("logic", row, (draft) => {
      for (const each of old) draft.delete("links", linkKey(each));
      for (const each of now) draft.set("links", linkKey(each), each);
    });
  }
  for (const row of will.tables.calendars.values())
    if (was.has("calendars", row.id) && !same(was.get("calendars", row.id), row))
      steps.push({
        group: "calendars",
        kind: "calendar",
        id: row.id,
        name: row.name,
        take: (draft) => draft.set("calendars", row.id, row),
      });
  for (const row of will.tables.people.values())
    if (was.has("people", row.id) && was.get("people", row.id)!.calendar !== row.calendar)
      steps.push({
        group: "calendars",
        kind: "person",
        id: row.id,
        name: row.name,
        take: (draft) => draft.set("people", row.id, row),
      });
  fieldsOf("calendars", ["calendar"]);
  for (const row of kept)
    if (differs(was.get("activities", row.id)!, row, ["wish"]))
      activityStep("wishes", row, takingFields(row, ["wish"]), { reason: row.wish?.reason ?? null });
  scopeSteps(was, will, steps);
  project("settings", "the rule of progress", ["logic"]);
  project("settings", "the project’s calendar", ["calendar"]);
  project("settings", "the project’s start", ["start"]);
  return steps;
}

const takingFields =
  (row: Activity, fields: readonly (keyof Activity)[]): Step["take"] =>
  (draft) =>
    draft.set("activities", row.id, withFields(draft.get("activities", row.id)!, row, fields));

/** Rows that came, went, were parked, woken or put elsewhere, each with all that hangs on it. */
function scopeSteps(was: Draft, will: Draft, steps: Step[]): void {
  const ids = [...new Set([...will.tables.activities.keys(), ...was.tables.activities.keys()])];
  const changed = ids.filter(
    (id) => !same(pickScope(was.get("activities", id)), pickScope(will.get("activities", id))),
  );
  if (changed.length === 0) return;
  const present = new Set(was.tables.activities.keys());
  for (const id of orderedByBranch(changed, will, was)) {
    const row = will.get("activities", id);
    const name = (row ?? was.get("activities", id)!).name;
    const next = new Set(present);
    if (row === undefined) next.delete(id);
    else next.add(id);
    const links = (): Map<string, Link> => linksAmong(next, was, will);
    steps.push({
      group: "scope",
      kind: "activity",
      id,
      name,
      take: (draft) => {
        if (row === undefined) {
          draft.delete("activities", id);
          for (const [key, work] of draft.tables.assignments)
            if (work.activity === id) draft.delete("assignments", key);
        } else {
          draft.set("activities", id, row);
          for (const [key, work] of will.tables.assignments)
            if (work.activity === id) draft.set("assignments", key, work);
        }
        draft.replace("links", links());
      },
    });
    present.clear();
    for (const each of next) present.add(each);
  }
}

const linksInto = ({ tables }: Draft): Map<string, Link[]> => grouped(tables.links, ({ to }) => to);

/**
 * Links among the rows that a step between has: an activity is led to as in the later plan once all that leads to it there has
 * come and all that led to it and goes is gone; until then as in the earlier one.
 */
function linksAmong(present: ReadonlySet<string>, was: Draft, will: Draft): Map<string, Link> {
  const [old, now] = [linksInto(was), linksInto(will)];
  const links = new Map<string, Link>();
  for (const id of present) {
    const [before, after] = [old.get(id) ?? [], now.get(id) ?? []];
    const settled =
      !was.has("activities", id) ||
      (after.every(({ from }) => present.has(from)) &&
        before.every(({ from }) => will.has("activities", from) || !present.has(from)));
    for (const link of settled ? after : before) if (present.has(link.from)) links.set(linkKey(link), link);
  }
  return links;
}

const pickScope = (row: Activity | undefined): unknown =>
  row === undefined ? null : [row.parent ?? null, row.kind ?? "work", row.parked === true];

/** Rows that came with their branches first, then those that went with what lies below them first. */
function orderedByBranch(ids: readonly string[], will: Draft, was: Draft): string[] {
  const depth = (id: string, of: Draft): number => {
    let deep = 0;
    for (
      let at = of.get("activities", id)?.parent;
      at !== undefined && deep < 100;
      at = of.get("activities", at)?.parent
    )
      deep++;
    return deep;
  };
  const came = ids.filter((id) => will.has("activities", id)).sort((a, b) => depth(a, will) - depth(b, will));
  // The last of a chain first, so that none of it is left without what came before it.
  const went = ids
    .filter((id) => !will.has("activities", id))
    .reverse()
    .sort((a, b) => depth(b, was) - depth(a, was));
  return [...came, ...went];
}
