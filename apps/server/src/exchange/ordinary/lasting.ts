import {
  countWords,
  finishDayOf,
  formatDate,
  openOf,
  parseDate,
  workMinutes,
  type WorkCalendar,
} from "@chronometra/core";
import type { Loose } from "../match/readTables.ts";
import { calendarFor, minutesBetween, writtenLength } from "./lengths.ts";
import { against, DAY, note, placeOfCell, type Sense } from "./sense.ts";

/** A start that a row gives, and where it stands. */
export interface GivenStart {
  readonly start: string;
  readonly place: string;
  readonly hasPredecessors: boolean;
}

/** How long rows last, and what of the format their lengths, dates and states come to. */
export interface Lasting {
  /** Minutes that each row lasts, where known. */
  readonly minutes: (number | undefined)[];
  readonly fields: Loose[];
  /** By the id of the activity. */
  readonly given: ReadonlyMap<string, GivenStart>;
}

interface Told {
  fromDates: number;
  rolledUp: number;
  withoutLength: number;
  progressed: number;
}

/** Minutes of a row: as written, else between its start and its finish. */
function minutesOf(sense: Sense, i: number, calendar: WorkCalendar | null, told: Told): number | undefined {
  const row = sense.rows[i]!;
  const { start, finish, kind } = row.fields as { start?: string; finish?: string; kind?: string };
  const written = writtenLength(row, calendar?.dayMinutes ?? DAY);
  if (start !== undefined && finish !== undefined && finish < start) {
    against(sense, i, "finish", `it finishes on ${finish}, before it starts on ${start}`);
    return written;
  }
  if (written !== undefined || kind === "milestone" || start === undefined || finish === undefined || calendar === null)
    return written;
  const between = minutesBetween(calendar, start, finish);
  if (between === null || between === 0) {
    against(sense, i, "finish", `between ${start} and ${finish} its calendar has no working time`);
    return undefined;
  }
  told.fromDates++;
  return between;
}

/** How far a row is by its own words: percent as written, else as its state says; `null` where it has not begun. */
function saidOf({ fields }: Sense["rows"][number]): { readonly percent: number | undefined } | null {
  const state = fields["state"] as string | undefined;
  const percent = (fields["percent"] as number | undefined) ?? (state === "complete" ? 100 : undefined);
  return (percent ?? 0) > 0 || state === "inProgress" ? { percent } : null;
}

/** The day on which a row that is done ended: as written, else its length after its start; at the latest the data date. */
function endedOn(
  fields: Loose,
  length: number | undefined,
  calendar: WorkCalendar | null,
  dataDate: string | undefined,
): string {
  const { start, finish } = fields as { start?: string; finish?: string };
  const begun = start === undefined ? null : parseDate(start);
  const byLength =
    begun === null || calendar === null || length === undefined || length === 0
      ? undefined
      : formatDate(finishDayOf(calendar.finishAt(workMinutes(calendar.indexAt(openOf(begun)) + length))));
  const ended = finish ?? byLength ?? start!;
  return dataDate !== undefined && ended > dataDate ? dataDate : ended;
}

/** What is done of a row that says so by a percentage or a state alone: when it began and ended, by its dates. */
function progressOf(
  sense: Sense,
  i: number,
  length: number | undefined,
  calendar: WorkCalendar | null,
  dataDate: string | undefined,
  told: Told,
): Loose {
  const row = sense.rows[i]!;
  const { state, start, finish } = row.fields as { state?: string; start?: string; finish?: string };
  if (state === "parked") return { parked: true };
  const said = saidOf(row);
  if (said === null) return {};
  const { percent } = said;
  const isDated = row.fields["actualStart"] !== undefined || row.fields["actualFinish"] !== undefined;
  if (isDated) return percent === undefined ? {} : { percent };
  const actualStart = start ?? finish;
  if (actualStart === undefined) {
    // A file in the format itself may well say so; where a state was written, somebody thought of a date.
    if (state !== undefined) against(sense, i, "state", "it has begun, and no date says when; give it a start");
    return {};
  }
  if (dataDate !== undefined && actualStart > dataDate) {
    const column = start === undefined ? "finish" : "start";
    against(sense, i, column, `it has begun, and its date ${actualStart} lies after the data date ${dataDate}`);
    return {};
  }
  told.progressed++;
  const done = percent === 100 ? { actualFinish: endedOn(row.fields, length, calendar, dataDate) } : {};
  return { actualStart, ...done, ...(percent === undefined ? {} : { percent }) };
}

/** What a row that lasts comes to: its kind and length, a wish for a start that nothing leads to, what is done of it. */
function fieldsOf(sense: Sense, i: number, minutes: number | undefined, progress: Loose, told: Told): Loose {
  const { fields } = sense.rows[i]!;
  const { start, kind } = fields as { start?: string; kind?: string };
  const leadsHere = fields["predecessors"] !== undefined;
  const wished = fields["wish.type"] !== undefined;
  const begun = progress["actualStart"] !== undefined || fields["actualStart"] !== undefined;
  const wish =
    start !== undefined && !leadsHere && !wished && !begun
      ? { wish: { type: "startNotBefore", date: start, reason: "start date of the imported file" } }
      : {};
  const typed = fields["durationMinutes"] !== undefined;
  const isMilestone = kind === "milestone" || (minutes === 0 && !typed && kind === undefined);
  if (isMilestone) {
    // A milestone is reached or not, on one day.
    const { actualFinish, actualStart, percent: _percent, ...rest } = progress;
    const reached = actualFinish ?? actualStart;
    return {
      kind: "milestone",
      ...(typed ? { durationMinutes: minutes } : {}),
      ...rest,
      ...(reached === undefined ? {} : { actualStart: reached, percent: undefined }),
      ...wish,
    };
  }
  if (minutes === undefined) told.withoutLength++;
  return { ...(minutes === undefined ? {} : { durationMinutes: minutes }), ...progress, ...wish };
}

/** How long each row lasts, and what its lengths, dates and states come to. */
export function lengthsIn(sense: Sense, calendars: readonly Loose[], project: Loose): Lasting {
  const calendarOf = calendarFor(calendars);
  const told: Told = { fromDates: 0, rolledUp: 0, withoutLength: 0, progressed: 0 };
  const given = new Map<string, GivenStart>();
  const minutes: (number | undefined)[] = [];
  const fields = sense.rows.map((row, i): Loose => {
    const { start } = row.fields as { start?: string };
    if (sense.isBranch(i)) {
      minutes.push(undefined);
      const own = [
        "durationDays",
        "durationHours",
        "durationMinutes",
        "start",
        "finish",
        "percent",
        "predecessors",
        "state",
      ];
      if (own.some((column) => row.fields[column] !== undefined)) told.rolledUp++;
      return {};
    }
    const calendar = calendarOf(String(row.fields["calendar"] ?? project["calendar"]));
    const lasts = minutesOf(sense, i, calendar, told);
    minutes.push(lasts);
    const progress = progressOf(sense, i, lasts, calendar, project["dataDate"] as string | undefined, told);
    if (start !== undefined && progress["actualStart"] === undefined)
      given.set(sense.ids[i]!, {
        start,
        place: placeOfCell(sense, row, "start"),
        hasPredecessors: row.fields["predecessors"] !== undefined,
      });
    return fieldsOf(sense, i, lasts, progress, told);
  });
  tell(sense, told);
  return { minutes, fields, given };
}

function tell(sense: Sense, told: Told): void {
  if (told.fromDates > 0)
    note(
      sense,
      "durationMinutes",
      `${countWords(told.fromDates, "activity without a duration lasts from its start to its finish", "activities without a duration last from their start to their finish")}.`,
    );
  if (told.rolledUp > 0)
    note(
      sense,
      "durationMinutes",
      `Duration, dates and percent of ${countWords(told.rolledUp, "branch", "branches")} were left out: they follow from what lies below.`,
    );
  if (told.withoutLength > 0)
    note(
      sense,
      "durationMinutes",
      `${countWords(told.withoutLength, "activity has no duration and waits unscheduled until it gets", "activities have no duration and wait unscheduled until they get")} one.`,
    );
  if (told.progressed > 0)
    note(
      sense,
      "percent",
      `${countWords(told.progressed, "activity has", "activities have")} begun and no actual date: start and finish were taken for it.`,
    );
}
