import { dateWords, readDate } from "../../words/dateWords.ts";
import { formatHours, parseDuration } from "../../time/duration.ts";
import { couldBe, partsOf, peopleNames, unquoted, type CallNames } from "./callNames.ts";
import type { Change } from "../change.ts";
import type { ReadChanges } from "./linkText.ts";
import type { Plan } from "../plan.ts";
import type { Assignment } from "../schema.ts";

const WORKDAY = 480;

/** What would be read as more than a name of someone. */
const ODD = /[;#“”]|\d\s*[a-z%]*$| from \d/i;

/** What people are called in the words of work. */
export const workNames = (people: Parameters<typeof peopleNames>[0]): CallNames => peopleNames(people, ODD);

/** Hours where two digits tell them exactly, else by the clock, `16:07`. */
const exactHours = (minutes: number): string =>
  (minutes * 100) % 60 === 0
    ? formatHours(minutes).replace(" ", "")
    : `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, "0")}`;

/**
 * Who works on each activity, in words: "Amadou Diallo 16h; Brigid Moss 8h at 50% from 4 May 2026", by activity.
 * {@link readWork} reads it back.
 */
export function workTexts(plan: Plan): Map<string, string> {
  const names = workNames(plan.people.values());
  const texts = new Map<string, string>();
  for (const { activity, person, plannedMinutes, unitsPercent = 100, restart } of plan.assignments.values()) {
    const words = `${names.of(person)} ${exactHours(plannedMinutes)}${unitsPercent === 100 ? "" : ` at ${unitsPercent}%`}${restart === undefined ? "" : ` from ${dateWords(restart)}`}`;
    const known = texts.get(activity);
    texts.set(activity, known === undefined ? words : `${known}; ${words}`);
  }
  return texts;
}

type Wanted = Pick<Assignment, "person" | "plannedMinutes" | "unitsPercent" | "restart">;

const PART =
  /^(“[^”]*”|.+?)(?:\s+([\d.,:]+\s*(?:w|d|h|m|hours?|days?)?(?:\s*[\d.,]+\s*(?:w|d|h|m|hours?|days?))*))?(?:\s+at\s+([\d.,]+)\s*%)?(?:\s+from\s+(\d[\w .-]*))?$/i;

function findPerson(names: CallNames, text: string): { readonly id: string } | { readonly fault: string } {
  const found = names.findByWord(text);
  if ("id" in found) return found;
  return {
    fault:
      found.among.length === 0
        ? `There is nobody called “${unquoted(text)}” in this plan; add them under Resources first.`
        : couldBe(text, found.among),
  };
}

function readPart(plan: Plan, names: CallNames, activity: string, text: string): Wanted | { readonly fault: string } {
  const match = PART.exec(text);
  if (match === null) return { fault: `“${text}” names nobody.` };
  const [, named, length, share, from] = match;
  const found = findPerson(names, named!);
  if ("fault" in found) return found;
  const unitsPercent = share === undefined ? 100 : Number(share.replace(",", "."));
  if (!(unitsPercent > 0 && unitsPercent <= 10_000))
    return { fault: `“${share}%” is no share of someone's time; write at 50%.` };
  const restart =
    from === undefined ? undefined : readDate(from, (plan.project.dataDate ?? plan.project.start).slice(0, 4));
  if (restart === null) return { fault: `“${from}” is no date; write from 4 May 2026.` };
  // Without hours, a person works as long as the activity lasts.
  const row = plan.activities.get(activity)!;
  const minutes =
    length === undefined
      ? Math.round(((row.durationMinutes ?? 0) * unitsPercent) / 100)
      : parseDuration(
          length,
          plan.calendars.get(row.calendar ?? plan.project.calendar)?.dayMinutes ?? WORKDAY,
          "hours",
        );
  if (minutes === null) return { fault: `“${length}” is no duration; write 16h or 2d.` };
  return {
    person: found.id,
    plannedMinutes: minutes,
    ...(unitsPercent === 100 ? {} : { unitsPercent }),
    ...(restart === undefined ? {} : { restart }),
  };
}

/**
 * Reads what was typed as all who work on an activity, parts divided by `;`: a name (or part of one that only one
 * person has), hours, `at 50%` of their time, `from 4 May 2026`.
 * @returns the changes from who works on it now to those typed, or what is wrong; hours left and other fields stay
 */
export const readWork = (plan: Plan, activity: string, text: string, newKey: (n: number) => string): ReadChanges =>
  workReader(plan, newKey)(activity, text);

/** As {@link readWork}, for many activities of one plan: people and their work are put in order once. */
export function workReader(plan: Plan, newKey: (n: number) => string): (activity: string, text: string) => ReadChanges {
  const names = workNames(plan.people.values());
  const on = new Map<string, [string, Assignment][]>();
  for (const [key, row] of plan.assignments) {
    const known = on.get(row.activity);
    if (known === undefined) on.set(row.activity, [[key, row]]);
    else known.push([key, row]);
  }
  return (activity, text) =>
    plan.activities.has(activity)
      ? readOnto(plan, names, on.get(activity) ?? [], activity, text, newKey)
      : { fault: "The activity is not in the plan any more." };
}

function readOnto(
  plan: Plan,
  names: CallNames,
  own: readonly (readonly [string, Assignment])[],
  activity: string,
  text: string,
  newKey: (n: number) => string,
): ReadChanges {
  const changes: Change[] = [];
  const stay = new Set<string>();
  let added = 0;
  for (const part of partsOf(text)) {
    const wanted = readPart(plan, names, activity, part);
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
      ...((row.unitsPercent ?? 100) === (wanted.unitsPercent ?? 100)
        ? {}
        : { unitsPercent: wanted.unitsPercent ?? null }),
      ...(row.restart === wanted.restart ? {} : { restart: wanted.restart ?? null }),
    };
    if (Object.keys(set).length > 0) changes.push({ type: "editRow", table: "assignments", key, set });
  }
  const removed = own
    .filter(([key]) => !stay.has(key))
    .map(([key]): Change => ({ type: "removeRow", table: "assignments", key }));
  return { changes: [...removed, ...changes] };
}
