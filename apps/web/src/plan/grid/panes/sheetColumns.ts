import {
  CallNames,
  couldBe,
  formatDuration,
  formatHours,
  linkNames,
  parseDuration,
  wishText,
  workNames,
  type Change,
} from "@chronometra/core";
import {
  dateWords,
  DEADLINE_TONES,
  driftTone,
  driftWords,
  marginWords,
  money,
  NOT_A_DATE,
  readDate,
} from "../../../shared/words/words.ts";
import { lengthFault } from "../../../shared/words/lengthFault.ts";
import type { Typed } from "../../engine/planEngine.ts";
import type { Named, Sheet, SheetRow } from "../../engine/sheet.ts";
import type { Reading, SheetColumn } from "../../engine/sheetColumn.ts";
import { ownColumn } from "../../engine/ownColumn.ts";
import { readWish } from "../../engine/wishWords.ts";

const only =
  (kinds: readonly SheetRow["kind"][], words: string) =>
  (row: SheetRow): string | null =>
    row.parked ? "It is parked: wake it first." : kinds.includes(row.kind) ? null : words;
const WORK = only(["work"], "Only work has this of its own.");
const DATED = only(["work", "milestone", "levelOfEffort"], "A summary's dates come from what is below it.");
const WORKED = only(
  ["work", "milestone", "levelOfEffort"],
  "People work on what lies below a summary, not on the summary.",
);
const ANY = only(["work", "milestone", "levelOfEffort", "summary"], "");

const unchanged: Typed = { changes: [] };

function readLength(text: string, row: SheetRow): Typed {
  if (text.trim() === "") return { changes: [{ type: "setDuration", activity: row.id, minutes: null }] };
  const minutes = parseDuration(text, row.dayMinutes, "days");
  if (minutes === null) return { fault: lengthFault(text, "Write a duration as 3d, 2.5d, 4h, 2w or 2d4h.") };
  if (minutes === 0) return { fault: "Work takes time; make it a milestone instead." };
  return minutes === row.durationMinutes
    ? unchanged
    : { changes: [{ type: "setDuration", activity: row.id, minutes }] };
}

function readPercent(text: string, row: SheetRow): Typed {
  if (text.trim() === "")
    return row.percent === null
      ? unchanged
      : { changes: [{ type: "reportProgress", activity: row.id, percent: null }] };
  const percent = Number(text.replace("%", "").replace(",", ".").trim());
  if (!Number.isFinite(percent) || percent < 0 || percent > 100) return { fault: "Percent lies between 0 and 100." };
  return percent === row.percent ? unchanged : { changes: [{ type: "reportProgress", activity: row.id, percent }] };
}

function readLeft(text: string, row: SheetRow): Typed {
  if (text.trim() === "")
    return row.remainingMinutes === null
      ? unchanged
      : { changes: [{ type: "reportProgress", activity: row.id, remainingMinutes: null }] };
  const minutes = parseDuration(text, row.dayMinutes, "days");
  if (minutes === null) return { fault: lengthFault(text, "Write what remains as 3d, 2.5d, 4h or 2d4h.") };
  return minutes === row.remainingMinutes
    ? unchanged
    : { changes: [{ type: "reportProgress", activity: row.id, remainingMinutes: minutes }] };
}

function readName(text: string, row: SheetRow): Typed {
  const name = text.trim();
  if (name === "") return { fault: "An activity needs a name." };
  return name === row.name ? unchanged : { changes: [{ type: "setName", activity: row.id, name }] };
}

type DateChange = (row: SheetRow, date: string | null) => Change;

const readDay =
  (current: (row: SheetRow) => string | null, change: DateChange) =>
  (text: string, row: SheetRow, { today }: Reading): Typed => {
    const date = text.trim() === "" ? null : readDate(text, today.slice(0, 4));
    if (date === null && text.trim() !== "") return { fault: NOT_A_DATE };
    return date === current(row) ? unchanged : { changes: [change(row, date)] };
  };

const dateColumn = (
  id: string,
  head: string,
  hint: string,
  current: (row: SheetRow) => string | null,
  change: DateChange,
  closed: (row: SheetRow) => string | null,
): SheetColumn => ({
  id,
  head,
  hint,
  width: 92,
  text: (row) => (current(row) === null ? "" : dateWords(current(row)!.slice(0, 10))),
  edit: (row) => current(row) ?? "",
  closed,
  read: readDay(current, change),
});

/** The one that a text names, whole or by a beginning that only one has. */
function findNamed(
  text: string,
  among: readonly Named[],
  what: string,
): { readonly id: string } | { readonly fault: string } {
  const found = new CallNames(among).find(text);
  if ("id" in found) return found;
  return { fault: found.among.length === 0 ? `There is no ${what} “${text.trim()}”.` : couldBe(text, found.among) };
}

/** Kept while rows stay the same, since they are asked for at each sign that is typed. */
const callsOf = new WeakMap<readonly SheetRow[], CallNames>();

/** What may be typed as a predecessor of an activity. */
export function linkOffers(rows: readonly SheetRow[], activity: string): string[] {
  const known = callsOf.get(rows);
  const names = known ?? linkNames(rows);
  if (known === undefined) callsOf.set(rows, names);
  return rows.flatMap(({ id, kind }) => (kind === "summary" || id === activity ? [] : [names.of(id)]));
}

/** Who may be typed as working on it. */
export function workOffers(people: readonly Named[]): string[] {
  const names = workNames(people);
  return people.map(({ id }) => names.of(id));
}

const readNamed =
  (field: "owner" | "calendar", what: string, among: (reading: Reading) => readonly Named[]) =>
  (text: string, row: SheetRow, reading: Reading): Typed => {
    const found = text.trim() === "" ? { id: null } : findNamed(text, among(reading), what);
    if ("fault" in found) return found;
    return found.id === row[field]
      ? unchanged
      : { changes: [{ type: "setWorking", activity: row.id, [field]: found.id } as Change] };
  };

function readWishCell(text: string, row: SheetRow, { today }: Reading): Typed {
  if (text.trim() === wishText(row.wish)) return unchanged;
  const wish = readWish(text, today.slice(0, 4));
  return wish !== null && "fault" in wish ? wish : { changes: [{ type: "setWish", activity: row.id, wish }] };
}

const DRIVEN = { length: "duration", lengthDrifting: "duration, may drift", hours: "hours" } as const;

function readDriven(text: string, row: SheetRow): Typed {
  const plain = text.trim().toLowerCase();
  const found =
    plain === ""
      ? "length"
      : ((Object.keys(DRIVEN) as (keyof typeof DRIVEN)[]).find((key) => DRIVEN[key].startsWith(plain)) ??
        (plain.includes("drift") ? "lengthDrifting" : undefined));
  if (found === undefined)
    return { fault: "Its dates follow its “duration”, its “duration, may drift”, or the “hours” of its people." };
  if (found === row.drivenBy) return unchanged;
  return {
    changes: [
      {
        type: "setWorking",
        activity: row.id,
        driver: found === "hours" ? "effort" : null,
        windowPolicy: found === "lengthDrifting" ? "drift" : null,
      },
    ],
  };
}

/** What is left of work under way, as it is computed where nobody has said it. */
function leftWords(row: SheetRow): string {
  if (row.kind !== "work" || row.dates?.state !== "inProgress") return "";
  const minutes =
    row.remainingMinutes ??
    (row.durationMinutes === null ? null : Math.round((row.durationMinutes * (100 - (row.percent ?? 0))) / 100));
  return minutes === null ? "" : formatDuration(minutes, row.dayMinutes);
}

function doneWords(row: SheetRow): string {
  if (row.kind === "summary") return row.earned === null ? "" : `${Math.round(row.earned * 100)}%`;
  if (row.percent !== null) return `${row.percent}%`;
  return row.dates?.state === "complete" && !row.dropped ? "100%" : "";
}

export const SHEET_COLUMNS: readonly SheetColumn[] = [
  {
    id: "name",
    head: "Activity",
    width: 228,
    text: ({ name }) => name,
    edit: ({ name }) => name,
    closed: () => null,
    read: readName,
  },
  {
    id: "length",
    head: "Duration",
    hint: "Duration in the activity's own calendar",
    width: 66,
    numeric: true,
    text: ({ durationMinutes, dayMinutes, kind }) =>
      durationMinutes === null || kind === "milestone" ? "" : formatDuration(durationMinutes, dayMinutes),
    edit: ({ durationMinutes, dayMinutes }) =>
      durationMinutes === null ? "" : formatDuration(durationMinutes, dayMinutes).replace(" ", ""),
    closed: WORK,
    read: readLength,
  },
  {
    id: "done",
    head: "Percent done",
    hint: "Percent reported; of a summary the share of its budget earned",
    width: 94,
    numeric: true,
    text: doneWords,
    edit: ({ percent }) => (percent === null ? "" : String(percent)),
    closed: DATED,
    read: readPercent,
  },
  {
    id: "left",
    head: "Remaining",
    hint: "Remaining duration of work under way",
    width: 80,
    numeric: true,
    text: leftWords,
    edit: ({ remainingMinutes, dayMinutes }) =>
      remainingMinutes === null ? "" : formatDuration(remainingMinutes, dayMinutes).replace(" ", ""),
    closed: WORK,
    read: readLeft,
  },
  dateColumn(
    "began",
    "Began",
    "Actual start",
    ({ actualStart }) => actualStart,
    ({ id }, date) => ({ type: "reportProgress", activity: id, actualStart: date }),
    DATED,
  ),
  dateColumn(
    "ended",
    "Ended",
    "Actual finish",
    ({ actualFinish }) => actualFinish,
    ({ id }, date) => ({ type: "reportProgress", activity: id, actualFinish: date }),
    DATED,
  ),
  {
    id: "wbs",
    head: "WBS",
    hint: "Code in the work breakdown structure",
    width: 62,
    hidden: true,
    text: ({ wbs }) => wbs,
  },
  {
    id: "after",
    head: "Predecessors",
    hint: "What it waits for: a name, “with” a name, “ends with” a name; + 2d or - 4h behind it",
    width: 170,
    hidden: true,
    text: ({ after }) => after,
    edit: ({ after }) => after,
    closed: DATED,
    asks: "links",
    several: true,
    offers: ({ rows }, row) => linkOffers(rows, row.id),
  },
  {
    id: "people",
    head: "People",
    hint: "Who works on it, with hours: a name, 16h, at 50%; several divided by ;",
    width: 190,
    hidden: true,
    text: ({ people }) => people,
    edit: ({ people }) => people,
    closed: WORKED,
    asks: "people",
    several: true,
    offers: ({ people }) => workOffers(people),
  },
  {
    id: "owner",
    head: "Owner",
    hint: "Who answers for it",
    width: 120,
    hidden: true,
    text: ({ ownerName }) => ownerName,
    edit: ({ ownerName }) => ownerName,
    closed: ANY,
    read: readNamed("owner", "person", ({ people }) => people),
    offers: ({ people }) => people.map(({ name }) => name),
  },
  {
    id: "calendar",
    head: "Calendar",
    hint: "Its own calendar; without one the project's",
    width: 110,
    hidden: true,
    text: ({ calendarName }) => calendarName,
    edit: ({ calendarName }) => calendarName,
    closed: DATED,
    read: readNamed("calendar", "calendar", ({ calendars }) => calendars),
    offers: ({ calendars }) => calendars.map(({ name }) => name),
  },
  {
    id: "driven",
    head: "Driven by",
    hint: "What decides its dates: its duration, kept or drifting, or the hours of its people",
    width: 104,
    hidden: true,
    text: ({ kind, drivenBy }) => (kind === "work" ? DRIVEN[drivenBy] : ""),
    edit: ({ drivenBy }) => DRIVEN[drivenBy],
    closed: WORK,
    read: readDriven,
    offers: () => Object.values(DRIVEN),
  },
  {
    id: "wish",
    head: "Date wish",
    hint: "not before, start on, start by, finish on, finish by a date: reason",
    width: 170,
    hidden: true,
    text: ({ wish }) => wishText(wish),
    edit: ({ wish }) => wishText(wish),
    closed: DATED,
    read: readWishCell,
  },
  {
    id: "hours",
    head: "Hours",
    hint: "Hours planned; of a summary all below it",
    width: 62,
    numeric: true,
    hidden: true,
    text: ({ plannedMinutes }) => (plannedMinutes === 0 ? "" : formatHours(plannedMinutes)),
  },
  {
    id: "budget",
    head: "Planned cost",
    hint: "Cost planned, people at their rates; of a summary all below it",
    width: 84,
    numeric: true,
    hidden: true,
    text: ({ budgetMinor }, { minorDigits }) => (budgetMinor === 0 ? "" : money(budgetMinor, minorDigits)),
  },
  {
    id: "starts",
    head: "Starts",
    hint: "Current start",
    width: 86,
    hidden: true,
    text: ({ dates }) => (dates === null ? "" : dateWords(dates.startDate)),
  },
  {
    id: "finishes",
    head: "Finishes",
    hint: "Current finish",
    width: 86,
    text: ({ dates, parked, dropped }) =>
      dates !== null ? `${dropped ? "dropped " : ""}${dateWords(dates.finishDate)}` : parked ? "parked" : "no dates",
  },
  {
    id: "approved",
    head: "Approved",
    hint: "Finish in the baseline",
    width: 86,
    hidden: true,
    text: ({ approved }) => (approved === null ? "" : dateWords(approved.finishDate)),
  },
  {
    id: "drift",
    head: "Drift",
    hint: "Working days from the approved finish to the current one",
    width: 80,
    numeric: true,
    text: ({ drift }) => (drift === null ? "" : driftWords(drift)),
    tone: ({ drift }) => driftTone(drift),
  },
  {
    ...dateColumn(
      "deadline",
      "Deadline",
      "The date promised",
      ({ deadline }) => deadline,
      ({ id }, date) => ({ type: "setDeadline", activity: id, date }),
      ANY,
    ),
    tone: ({ deadlineState }) => (deadlineState === null ? "plain" : DEADLINE_TONES[deadlineState]),
  },
  {
    id: "margin",
    head: "Margin",
    hint: "Working days between finish and deadline",
    width: 86,
    numeric: true,
    hidden: true,
    text: ({ marginDays }) => (marginDays === null ? "" : marginWords(marginDays)),
  },
  {
    id: "float",
    head: "Float",
    hint: "Total float in days of the activity's calendar",
    width: 60,
    numeric: true,
    hidden: true,
    text: ({ dates, dayMinutes }) =>
      dates?.floatMinutes == null ? "" : `${Math.round((dates.floatMinutes / dayMinutes) * 10) / 10} d`,
    tone: ({ dates }) => ((dates?.floatMinutes ?? 0) < 0 ? "adverse" : "plain"),
  },
];

/** The columns of a plan: those every plan has, and its own fields. */
export const columnsOf = (fields: Sheet["fields"]): readonly SheetColumn[] => [
  ...SHEET_COLUMNS,
  ...fields.map(ownColumn),
];
