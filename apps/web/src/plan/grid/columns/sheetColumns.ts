import { HOUSE_WORDS } from "@chronometra/contract";
import { formatDuration, formatHours, wishText } from "@chronometra/core";
import { dateWords, DEADLINE_TONES, driftTone, driftWords, marginWords, money } from "../../../shared/words/words.ts";
import type { Sheet, SheetRow } from "../../engine/sheet.ts";
import type { SheetColumn } from "../../engine/sheetColumn.ts";
import { ownColumn } from "../../engine/ownColumn.ts";
import {
  only,
  readLength,
  readPercent,
  readLeft,
  readName,
  type DateChange,
  readDay,
  linkOffers,
  workOffers,
  readNamed,
  readWishCell,
  readDriven,
  DRIVEN,
} from "./typedCells.ts";

const WORK = only(["work"], "Only work has this of its own.");
const DATED = only(["work", "milestone", "levelOfEffort"], "A summary's dates come from what is below it.");
const WORKED = only(
  ["work", "milestone", "levelOfEffort"],
  "People work on what lies below a summary, not on the summary.",
);
const ANY = only(["work", "milestone", "levelOfEffort", "summary"], "");

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

/** Where something finishes; of what is parked, what its project calls that. */
function finishesColumn(parkedWord: string): SheetColumn {
  return {
    id: "finishes",
    head: "Finishes",
    hint: "Current finish",
    width: 86,
    text: ({ dates, parked, dropped }) =>
      dates !== null ? `${dropped ? "dropped " : ""}${dateWords(dates.finishDate)}` : parked ? parkedWord : "no dates",
  };
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
  finishesColumn(HOUSE_WORDS.parked),
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
export const columnsOf = (fields: Sheet["fields"], parkedWord: string): readonly SheetColumn[] => [
  ...SHEET_COLUMNS.map((column) => (column.id === "finishes" ? finishesColumn(parkedWord) : column)),
  ...fields.map(ownColumn),
];
