import { formatDuration, parseDuration } from "../../time/duration.ts";
import { activityNames, couldBe, partsOf, unquoted, type CallNames } from "./callNames.ts";
import type { Change } from "../change.ts";
import type { Plan } from "../plan.ts";
import type { Activity, Link } from "../schema.ts";

/** How each kind of link is said before (and after) the name of what it leads from. */
const WORDS = {
  FS: ["", ""],
  SS: ["with ", ""],
  FF: ["ends with ", ""],
  SF: ["ends as ", " starts"],
} as const;

const BY_THE_CLOCK = "by the clock";
const FALLBACK_DAY = 480;

/** Minutes of a day in the calendar in which an activity's lags count. */
function dayMinutesOf(plan: Plan, activity: string): number {
  const calendar = plan.activities.get(activity)?.calendar ?? plan.project.calendar;
  return plan.calendars.get(calendar)?.dayMinutes ?? FALLBACK_DAY;
}

/** What would be read as more than the name of an activity. */
const ODD = /[;#“”]|^(with|ends with|ends as)\b| starts$|[+\-–] *[\d.,:]+ *[a-z]*$/i;

/** What activities are called in the words of links. */
export const linkNames = (activities: Parameters<typeof activityNames>[0]): CallNames =>
  activityNames(activities, { odd: ODD });

function lagText({ lagMinutes = 0, lagIn }: Link, dayMinutes: number): string {
  if (lagMinutes === 0) return "";
  const clock = lagIn === "elapsed";
  const size = Math.abs(lagMinutes);
  const day = clock ? 1440 : dayMinutes;
  const rounded = formatDuration(size, day).replace(" ", "");
  const length = parseDuration(rounded, day, "days") === size ? rounded : `${size}m`;
  return ` ${lagMinutes < 0 ? "-" : "+"} ${length}${clock ? ` ${BY_THE_CLOCK}` : ""}`;
}

/**
 * What every activity comes after, in words: "Dig; with Pump + 2d; ends with Survey", by id.
 * {@link readLinks} reads it back.
 */
export function linkTexts(plan: Plan): Map<string, string> {
  const names = linkNames(plan.activities.values());
  const texts = new Map<string, string>();
  for (const link of plan.links.values()) {
    const [before, after] = WORDS[link.type ?? "FS"];
    const words = `${before}${names.of(link.from)}${after}${lagText(link, dayMinutesOf(plan, link.to))}`;
    const known = texts.get(link.to);
    texts.set(link.to, known === undefined ? words : `${known}; ${words}`);
  }
  return texts;
}

type Read = { readonly link: Link } | { readonly fault: string };

/** What reading many texts of one plan asks again and again. */
interface LinkIndex {
  readonly names: CallNames;
  readonly into: ReadonlyMap<string, readonly (readonly [key: string, link: Link])[]>;
}

function indexOf(plan: Plan): LinkIndex {
  const into = new Map<string, [string, Link][]>();
  for (const [key, link] of plan.links) {
    const known = into.get(link.to);
    if (known === undefined) into.set(link.to, [[key, link]]);
    else known.push([key, link]);
  }
  return { names: linkNames(plan.activities.values()), into };
}

const PART =
  /^(ends with|ends as|with)?\s*(“[^”]*”|.+?)(?:\s*([+\-–])\s*([\d.,:]+\s*[a-z]*(?:\s*[\d.,]+\s*(?:w|d|h|m)[a-z]*)*)(\s+by the clock)?)?$/i;

function readPart(plan: Plan, index: LinkIndex, text: string, to: Activity): Read {
  const match = PART.exec(text);
  if (match === null) return { fault: `“${text}” names no activity.` };
  const [, words = "", named, sign, length, clock] = match;
  const type = ({ "": "FS", with: "SS", "ends with": "FF", "ends as": "SF" } as const)[
    words.toLowerCase() as "" | "with" | "ends with" | "ends as"
  ];
  const name = type === "SF" ? named!.replace(/\s+starts$/i, "") : named!;
  const found = findActivity(index, name);
  if ("fault" in found) return found;
  if (found.id === to.id) return { fault: "An activity cannot come after itself." };
  const elapsed = clock !== undefined;
  const minutes = length === undefined ? 0 : parseDuration(length, elapsed ? 1440 : dayMinutesOf(plan, to.id), "days");
  if (minutes === null) return { fault: `“${length}” is no duration; write 2d, 4h or 1:30.` };
  const lagMinutes = sign === undefined || sign === "+" ? minutes : -minutes;
  return {
    link: {
      from: found.id,
      to: to.id,
      ...(type === "FS" ? {} : { type }),
      ...(lagMinutes === 0 ? {} : { lagMinutes }),
      ...(elapsed && lagMinutes !== 0 ? { lagIn: "elapsed" as const } : {}),
    },
  };
}

/** An activity by what it is called, or by the beginning of a name that only one has. */
function findActivity({ names }: LinkIndex, text: string): { readonly id: string } | { readonly fault: string } {
  const found = names.find(text);
  if ("id" in found) return found;
  return { fault: found.among.length === 0 ? `There is no activity “${unquoted(text)}”.` : couldBe(text, found.among) };
}

/** Whether two links say the same; without a lag it does not matter how it would count. */
const same = (a: Link, b: Link): boolean =>
  a.from === b.from &&
  a.to === b.to &&
  (a.type ?? "FS") === (b.type ?? "FS") &&
  (a.lagMinutes ?? 0) === (b.lagMinutes ?? 0) &&
  ((a.lagMinutes ?? 0) === 0 || (a.lagIn ?? "successor") === (b.lagIn ?? "successor"));

/**
 * Reads what was typed as all that an activity comes after, parts divided by `;`: `NAME` (it starts when that has
 * finished), `with NAME` (starts with it), `ends with NAME`, `ends as NAME starts`, each with `+ 2d`, `- 4h` or `+ 48h
 * by the clock` behind it. Names may be shortened, capitals do not count.
 * @returns the changes from the links there are to those that were typed, or what is wrong
 */
export const readLinks = (plan: Plan, activity: string, text: string, newKey: (n: number) => string): ReadChanges =>
  linkReader(plan, newKey)(activity, text);

/** What a text comes to: changes, or what is wrong with it. */
export type ReadChanges = { readonly changes: readonly Change[] } | { readonly fault: string };

/** As {@link readLinks}, for many activities of one plan: names and links are put in order once. */
export function linkReader(plan: Plan, newKey: (n: number) => string): (activity: string, text: string) => ReadChanges {
  const index = indexOf(plan);
  return (activity, text) => readInto(plan, index, activity, text, newKey);
}

function readInto(
  plan: Plan,
  index: LinkIndex,
  activity: string,
  text: string,
  newKey: (n: number) => string,
): ReadChanges {
  const to = plan.activities.get(activity);
  if (to === undefined) return { fault: "The activity is not in the plan any more." };
  const wanted: Link[] = [];
  for (const part of partsOf(text)) {
    const read = readPart(plan, index, part, to);
    if ("fault" in read) return read;
    if (!wanted.some((link) => same(link, read.link))) wanted.push(read.link);
  }
  const own = index.into.get(activity) ?? [];
  const stay = new Set<string>();
  const added: Change[] = [];
  for (const link of wanted) {
    const known = own.find(([key, each]) => !stay.has(key) && same(each, link));
    if (known !== undefined) stay.add(known[0]);
    else added.push({ type: "addRow", table: "links", key: newKey(added.length), row: link });
  }
  const removed = own
    .filter(([key]) => !stay.has(key))
    .map(([key]): Change => ({ type: "removeRow", table: "links", key }));
  return { changes: [...removed, ...added] };
}
