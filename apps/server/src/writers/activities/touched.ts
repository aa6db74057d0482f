import { succession, type PlanBundle } from "@chronometra/core";
import type { Reader } from "./activityRow.ts";

/** Tables of the bundle whose rows say something of an activity. */
const ABOUT = ["assignments", "timeEntries"] as const;
/** Own tables of a plan that are kept by activity. */
const BY_ACTIVITY = ["ownValues", "blocks"] as const;
const NOTHING: readonly never[] = [];

/**
 * The activities of which something is kept that rests on more than their own row, dates and figures, and may be other
 * than before; all of them where what is around every activity changed.
 */
export function touchedBetween(before: Reader, after: Reader): ReadonlySet<string> | "all" {
  if (!isAroundSame(before, after)) return "all";
  const touched = new Set<string>();
  for (const table of ABOUT)
    eachOther<{ readonly activity: string }>(
      before.bundle[table] ?? NOTHING,
      after.bundle[table] ?? NOTHING,
      ({ activity }) => touched.add(activity),
    );
  eachOther(before.bundle.links ?? NOTHING, after.bundle.links ?? NOTHING, ({ from, to }) => {
    touched.add(from);
    touched.add(to);
  });
  for (const table of BY_ACTIVITY) eachOtherKey(before.plan[table], after.plan[table], (id) => touched.add(id));
  return touched;
}

/** Whether nothing changed around every activity: calendars, currency, names of people, fields, the baseline. */
function isAroundSame(before: Reader, after: Reader): boolean {
  const [was, now] = [before.bundle, after.bundle];
  const head = ["currency", "minorDigits", "calendar", "dataDate", "tightDays"] as const;
  return (
    head.every((field) => was.project[field] === now.project[field]) &&
    was.calendars === now.calendars &&
    before.plan.fields === after.plan.fields &&
    before.approvedStarts === after.approvedStarts &&
    areNamesSame(was, now)
  );
}

function areNamesSame(before: PlanBundle, after: PlanBundle): boolean {
  const [was, now] = [before.people ?? NOTHING, after.people ?? NOTHING];
  if (was === now) return true;
  const { from, changed } = succession(was, now);
  return changed.every((at) => {
    const former = was[from[at]!];
    return former === undefined || (former.name === now[at]!.name && former.role === now[at]!.role);
  });
}

/** Does something with each row that is in one list and not, the same object, in the other. */
function eachOther<T extends object>(was: readonly T[], now: readonly T[], act: (row: T) => void): void {
  if (was === now) return;
  const { from, changed, gone } = succession(was, now);
  for (const at of changed) {
    act(now[at]!);
    if (from[at]! >= 0) act(was[from[at]!]!);
  }
  for (const at of gone) act(was[at]!);
}

function eachOtherKey(
  was: ReadonlyMap<string, object>,
  now: ReadonlyMap<string, object>,
  act: (id: string) => void,
): void {
  if (was === now) return;
  now.forEach((row, id) => {
    if (was.get(id) !== row) act(id);
  });
  was.forEach((_, id) => {
    if (!now.has(id)) act(id);
  });
}
