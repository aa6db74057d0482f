import { formatHours, parseDuration } from "../time/duration.ts";
import { parseDate } from "../time/instant.ts";
import type { Change } from "./change.ts";
import type { ReadChanges } from "./linkText.ts";
import type { Plan } from "./plan.ts";
import type { Assignment, Person } from "./schema.ts";

const WORKDAY = 480;

/** A name that means one person only: their own, else `#` and the id. */
function unmistakable(byName: ReadonlyMap<string, readonly string[]>, { id, name }: Person): string {
  const odd = name.trim() === "" || /[;#]|\d\s*[a-z%]*$/i.test(name.trim());
  return odd || byName.get(name.trim().toLowerCase())!.length > 1 ? `#${id}` : name.trim();
}

function peopleByName(plan: Plan): Map<string, string[]> {
  const byName = new Map<string, string[]>();
  for (const { id, name } of plan.people.values()) {
    const key = name.trim().toLowerCase();
    byName.set(key, [...(byName.get(key) ?? []), id]);
  }
  return byName;
}

/** Hours where two digits tell them exactly, else by the clock, `16:07`. */
const exactHours = (minutes: number): string => ((minutes * 100) % 60 === 0 ? formatHours(minutes).replace(" ", "") : `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, "0")}`);

/**
 * Who works on each activity, in words: "Amadou Diallo 16h; Brigid Moss 8h at 50% from 2026-05-04", by activity.
 * {@link readWork} reads it back.
 */
export function workTexts(plan: Plan): Map<string, string> {
  const byName = peopleByName(plan);
  const texts = new Map<string, string>();
  for (const { activity, person, plannedMinutes, unitsPercent = 100, restart } of plan.assignments.values()) {
    const words = `${unmistakable(byName, plan.people.get(person)!)} ${exactHours(plannedMinutes)}${unitsPercent === 100 ? "" : ` at ${unitsPercent}%`}${restart === undefined ? "" : ` from ${restart}`}`;
    const known = texts.get(activity);
    texts.set(activity, known === undefined ? words : `${known}; ${words}`);
  }
  return texts;
}

type Wanted = Pick<Assignment, "person" | "plannedMinutes" | "unitsPercent" | "restart">;

const PART = /^(.+?)(?:\s+([\d.,:]+\s*(?:w|d|h|m|hours?|days?)?(?:\s*[\d.,]+\s*(?:w|d|h|m|hours?|days?))*))?(?:\s+at\s+([\d.,]+)\s*%)?(?:\s+from\s+(\d{4}-\d{2}-\d{2}))?$/i;

function findPerson(plan: Plan, byName: ReadonlyMap<string, readonly string[]>, text: string): { readonly id: string } | { readonly fault: string } {
  if (text.startsWith("#")) return plan.people.has(text.slice(1)) ? { id: text.slice(1) } : { fault: `There is no person ${text} in this plan.` };
  const plain = text.trim().toLowerCase();
  const whole = byName.get(plain) ?? [];
  const several = whole.length > 0 ? whole : [...byName].filter(([name]) => name.startsWith(plain) || name.split(/\s+/).some((word) => word.startsWith(plain))).flatMap(([, ids]) => ids);
  if (several.length === 1) return { id: several[0]! };
  if (several.length === 0) return { fault: `There is nobody called “${text.trim()}” in this plan; add them under Resources first.` };
  return { fault: `“${text.trim()}” could be ${several.slice(0, 4).map((id) => `#${id} ${plan.people.get(id)!.name}`).join(", ")}; write more of the name, or # and the id.` };
}

function readPart(plan: Plan, byName: ReadonlyMap<string, readonly string[]>, activity: string, text: string): Wanted | { readonly fault: string } {
  const match = PART.exec(text);
  if (match === null) return { fault: `“${text}” names nobody.` };
  const [, named, length, share, from] = match;
  const found = findPerson(plan, byName, named!);
  if ("fault" in found) return found;
  const unitsPercent = share === undefined ? 100 : Number(share.replace(",", "."));
  if (!(unitsPercent > 0 && unitsPercent <= 10_000)) return { fault: `“${share}%” is no share of someone's time; write at 50%.` };
  if (from !== undefined && parseDate(from) === null) return { fault: `“${from}” is no date; write from 2026-05-04.` };
  // Without hours, a person works as long as the activity lasts.
  const row = plan.activities.get(activity)!;
  const minutes = length === undefined ? Math.round(((row.durationMinutes ?? 0) * unitsPercent) / 100) : parseDuration(length, plan.calendars.get(row.calendar ?? plan.project.calendar)?.dayMinutes ?? WORKDAY, "hours");
  if (minutes === null) return { fault: `“${length}” is no length of time; write 16h or 2d.` };
  return { person: found.id, plannedMinutes: minutes, ...(unitsPercent === 100 ? {} : { unitsPercent }), ...(from === undefined ? {} : { restart: from }) };
}

/**
 * Reads what was typed as all who work on an activity, parts divided by `;`: a name (or part of one that only one person
 * has), hours, `at 50%` of their time, `from 2026-05-04`.
 * @returns the changes from who works on it now to those typed, or what is wrong; hours left and other fields stay
 */
export const readWork = (plan: Plan, activity: string, text: string, newKey: (n: number) => string): ReadChanges => workReader(plan, newKey)(activity, text);

/** As {@link readWork}, for many activities of one plan: people and their work are put in order once. */
export function workReader(plan: Plan, newKey: (n: number) => string): (activity: string, text: string) => ReadChanges {
  const byName = peopleByName(plan);
  const on = new Map<string, [string, Assignment][]>();
  for (const [key, row] of plan.assignments) {
    const known = on.get(row.activity);
    if (known === undefined) on.set(row.activity, [[key, row]]);
    else known.push([key, row]);
  }
  return (activity, text) => (plan.activities.has(activity) ? readOnto(plan, byName, on.get(activity) ?? [], activity, text, newKey) : { fault: "The activity is not in the plan any more." });
}

function readOnto(plan: Plan, byName: ReadonlyMap<string, readonly string[]>, own: readonly (readonly [string, Assignment])[], activity: string, text: string, newKey: (n: number) => string): ReadChanges {
  const changes: Change[] = [];
  const stay = new Set<string>();
  let added = 0;
  for (const part of text.split(";").map((each) => each.trim()).filter((each) => each !== "")) {
    const wanted = readPart(plan, byName, activity, part);
    if ("fault" in wanted) return wanted;
    const known = own.find(([key, row]) => !stay.has(key) && row.person === wanted.person);
    if (known === undefined) {
      changes.push({ type: "addRow", table: "assignments", key: newKey(added++), row: { activity, ...wanted } });
      continue;
    }
    const [key, row] = known;
    stay.add(key);
    const set = {
      ...(row.plannedMinutes === wanted.plannedMinutes ? {} : { plannedMinutes: wanted.plannedMinutes }),
      ...((row.unitsPercent ?? 100) === (wanted.unitsPercent ?? 100) ? {} : { unitsPercent: wanted.unitsPercent ?? null }),
      ...(row.restart === wanted.restart ? {} : { restart: wanted.restart ?? null }),
    };
    if (Object.keys(set).length > 0) changes.push({ type: "editRow", table: "assignments", key, set });
  }
  const removed = own.filter(([key]) => !stay.has(key)).map(([key]): Change => ({ type: "removeRow", table: "assignments", key }));
  return { changes: [...removed, ...changes] };
}
