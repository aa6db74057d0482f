import { formatDuration, parseDuration, type Change } from "@chronometra/core";
import { dateWords, DEADLINE_TONES, driftTone, driftWords, marginWords, readDate, type Tone } from "../shared/words.ts";
import type { Typed } from "./planSession.ts";
import type { SheetRow } from "./sheet.ts";

export interface SheetColumn {
  readonly id: string;
  readonly head: string;
  readonly hint?: string;
  readonly width: number;
  readonly numeric?: true;
  readonly hidden?: true;
  readonly text: (row: SheetRow) => string;
  readonly tone?: (row: SheetRow) => Tone;
  /** What stands in the field when editing begins; a column without it is computed. */
  readonly edit?: (row: SheetRow) => string;
  /** Why a row's cell cannot be edited, where it cannot. */
  readonly closed?: (row: SheetRow) => string | null;
  readonly read?: (text: string, row: SheetRow, today: string) => Typed;
  /** Read by the plan itself, which knows the names. */
  readonly isLinks?: true;
}

const NOT_A_DATE = "Write a date as 2026-11-24 or 24 Nov 2026.";

const only = (kinds: readonly SheetRow["kind"][], words: string) => (row: SheetRow): string | null => (row.parked ? "It is parked: wake it first." : kinds.includes(row.kind) ? null : words);
const WORK = only(["work"], "Only work has this of its own.");
const DATED = only(["work", "milestone", "levelOfEffort"], "A summary's dates come from what is below it.");
const ANY = only(["work", "milestone", "levelOfEffort", "summary"], "");

const unchanged: Typed = { changes: [] };

function readLength(text: string, row: SheetRow): Typed {
  if (text.trim() === "") return { changes: [{ type: "setDuration", activity: row.id, minutes: null }] };
  const minutes = parseDuration(text, row.dayMinutes, "days");
  if (minutes === null) return { fault: "Write a length as 3d, 2.5d, 4h or 2w." };
  if (minutes === 0) return { fault: "Work takes time; make it a milestone instead." };
  return minutes === row.durationMinutes ? unchanged : { changes: [{ type: "setDuration", activity: row.id, minutes }] };
}

function readPercent(text: string, row: SheetRow): Typed {
  if (text.trim() === "") return row.percent === null ? unchanged : { changes: [{ type: "reportProgress", activity: row.id, percent: null }] };
  const percent = Number(text.replace("%", "").replace(",", ".").trim());
  if (!Number.isFinite(percent) || percent < 0 || percent > 100) return { fault: "Percent lies between 0 and 100." };
  return percent === row.percent ? unchanged : { changes: [{ type: "reportProgress", activity: row.id, percent }] };
}

function readLeft(text: string, row: SheetRow): Typed {
  if (text.trim() === "") return row.remainingMinutes === null ? unchanged : { changes: [{ type: "reportProgress", activity: row.id, remainingMinutes: null }] };
  const minutes = parseDuration(text, row.dayMinutes, "days");
  if (minutes === null) return { fault: "Write what is left as 3d, 2.5d or 4h." };
  return minutes === row.remainingMinutes ? unchanged : { changes: [{ type: "reportProgress", activity: row.id, remainingMinutes: minutes }] };
}

function readName(text: string, row: SheetRow): Typed {
  const name = text.trim();
  if (name === "") return { fault: "An activity needs a name." };
  return name === row.name ? unchanged : { changes: [{ type: "setName", activity: row.id, name }] };
}

type DateChange = (row: SheetRow, date: string | null) => Change;

const readDay = (current: (row: SheetRow) => string | null, change: DateChange) => (text: string, row: SheetRow, today: string): Typed => {
  const date = text.trim() === "" ? null : readDate(text, today.slice(0, 4));
  if (date === null && text.trim() !== "") return { fault: NOT_A_DATE };
  return date === current(row) ? unchanged : { changes: [change(row, date)] };
};

const dateColumn = (id: string, head: string, hint: string, current: (row: SheetRow) => string | null, change: DateChange, closed: (row: SheetRow) => string | null): SheetColumn => ({
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
  const minutes = row.remainingMinutes ?? (row.durationMinutes === null ? null : Math.round((row.durationMinutes * (100 - (row.percent ?? 0))) / 100));
  return minutes === null ? "" : formatDuration(minutes, row.dayMinutes);
}

function doneWords(row: SheetRow): string {
  if (row.kind === "summary") return row.earned === null ? "" : `${Math.round(row.earned * 100)}%`;
  if (row.percent !== null) return `${row.percent}%`;
  return row.dates?.state === "complete" ? "100%" : "";
}

export const SHEET_COLUMNS: readonly SheetColumn[] = [
  { id: "name", head: "Activity", width: 236, text: ({ name }) => name, edit: ({ name }) => name, closed: () => null, read: readName },
  { id: "length", head: "Length", hint: "Duration in the activity's own calendar", width: 58, numeric: true, text: ({ durationMinutes, dayMinutes, kind }) => (durationMinutes === null || kind === "milestone" ? "" : formatDuration(durationMinutes, dayMinutes)), edit: ({ durationMinutes, dayMinutes }) => (durationMinutes === null ? "" : formatDuration(durationMinutes, dayMinutes).replace(" ", "")), closed: WORK, read: readLength },
  { id: "done", head: "Done", hint: "Percent reported; of a summary the share of its budget earned", width: 50, numeric: true, text: doneWords, edit: ({ percent }) => (percent === null ? "" : String(percent)), closed: DATED, read: readPercent },
  { id: "left", head: "Left", hint: "Remaining duration of work under way", width: 54, numeric: true, text: leftWords, edit: ({ remainingMinutes, dayMinutes }) => (remainingMinutes === null ? "" : formatDuration(remainingMinutes, dayMinutes).replace(" ", "")), closed: WORK, read: readLeft },
  dateColumn("began", "Began", "Actual start", ({ actualStart }) => actualStart, ({ id }, date) => ({ type: "reportProgress", activity: id, actualStart: date }), DATED),
  dateColumn("ended", "Ended", "Actual finish", ({ actualFinish }) => actualFinish, ({ id }, date) => ({ type: "reportProgress", activity: id, actualFinish: date }), DATED),
  { id: "after", head: "After", hint: "What it comes after: a name, “with” a name, “ends with” a name; + 2d or - 4h behind it", width: 170, hidden: true, text: ({ after }) => after, edit: ({ after }) => after, closed: DATED, isLinks: true },
  { id: "starts", head: "Starts", hint: "Current start", width: 86, hidden: true, text: ({ dates }) => (dates === null ? "" : dateWords(dates.startDate)) },
  { id: "finishes", head: "Finishes", hint: "Current finish", width: 86, text: ({ dates, parked }) => (dates !== null ? dateWords(dates.finishDate) : parked ? "parked" : "no dates") },
  { id: "approved", head: "Approved", hint: "Finish in the baseline", width: 86, hidden: true, text: ({ approved }) => (approved === null ? "" : dateWords(approved.finishDate)) },
  { id: "drift", head: "Drift", hint: "Working days from the approved finish to the current one", width: 80, numeric: true, text: ({ drift }) => (drift === null ? "" : driftWords(drift)), tone: ({ drift }) => driftTone(drift) },
  { ...dateColumn("deadline", "Deadline", "The date promised", ({ deadline }) => deadline, ({ id }, date) => ({ type: "setDeadline", activity: id, date }), ANY), tone: ({ deadlineState }) => (deadlineState === null ? "plain" : DEADLINE_TONES[deadlineState]) },
  { id: "margin", head: "Margin", hint: "Working days between finish and deadline", width: 86, numeric: true, hidden: true, text: ({ marginDays }) => (marginDays === null ? "" : marginWords(marginDays)) },
  { id: "float", head: "Float", hint: "Total float in days of the activity's calendar", width: 60, numeric: true, hidden: true, text: ({ dates, dayMinutes }) => (dates?.floatMinutes == null ? "" : `${Math.round((dates.floatMinutes / dayMinutes) * 10) / 10} d`), tone: ({ dates }) => ((dates?.floatMinutes ?? 0) < 0 ? "adverse" : "plain") },
];
