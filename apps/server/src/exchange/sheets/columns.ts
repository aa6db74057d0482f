/** What a cell of a column holds. */
export type CellKind =
  | "id"
  | "text"
  | "int"
  | "number"
  | "minutes"
  | "hours"
  | "days"
  | "length"
  | "date"
  | "instant"
  | "dateOrInstant"
  | "bool"
  | "shifts"
  | "percent"
  | "money"
  | "activityKind"
  | "activityState";

export interface ColumnSpec {
  readonly kind: CellKind;
  readonly required?: true;
  /** Understood when read, never written. */
  readonly readOnly?: true;
}

const id: ColumnSpec = { kind: "id", required: true };
const optionalId: ColumnSpec = { kind: "id" };
const text: ColumnSpec = { kind: "text" };
const name: ColumnSpec = { kind: "text", required: true };
const int: ColumnSpec = { kind: "int" };
const needInt: ColumnSpec = { kind: "int", required: true };
/** Working time: a bare number counts in what the kind is called, one with a unit as it says. */
const minutes: ColumnSpec = { kind: "minutes" };
const needMinutes: ColumnSpec = { kind: "minutes", required: true };
const number: ColumnSpec = { kind: "number" };
const date: ColumnSpec = { kind: "date" };
const needDate: ColumnSpec = { kind: "date", required: true };
const instant: ColumnSpec = { kind: "instant", required: true };
const shifts: ColumnSpec = { kind: "shifts" };
const week = { mon: shifts, tue: shifts, wed: shifts, thu: shifts, fri: shifts, sat: shifts, sun: shifts };
const calendar = { id, name, base: optionalId, dayMinutes: int, hasWeek: { kind: "bool" } as ColumnSpec, ...week };
const exception = { calendar: id, from: needDate, to: needDate, shifts, label: text };

/**
 * A column of the project that holds one and a half: by it a file says how it writes numbers, also after another
 * program has written it anew in its own way; and that it was written here, where spaces at the ends of texts are
 * meant.
 */
export const NUMBERS_SAY = "oneAndAHalf";

/** A column of the project that says from which revision of the plan a file was made. */
export const MADE_FROM = "madeFromRevision";

/**
 * The tables of a spreadsheet or CSV set, one a sheet, named as in the plan bundle. What the bundle nests in a row has
 * a dotted column, what it lists in a row a sheet of its own.
 */
export const SHEETS = {
  project: {
    code: id,
    name,
    currency: name,
    minorDigits: int,
    start: needDate,
    dataDate: date,
    calendar: id,
    logic: text,
    criticalFloatMinutes: minutes,
    tightDays: number,
    [NUMBERS_SAY]: number,
    [MADE_FROM]: int,
  },
  calendars: calendar,
  calendarExceptions: exception,
  people: { id, name, role: text, calendar: optionalId },
  rates: { person: id, from: needDate, perHourMinor: needInt },
  activities: {
    id,
    name,
    parent: optionalId,
    outline: { kind: "text", readOnly: true } as ColumnSpec,
    branch: { kind: "text", readOnly: true } as ColumnSpec,
    kind: { kind: "activityKind" } as ColumnSpec,
    calendar: optionalId,
    durationMinutes: minutes,
    durationHours: { kind: "hours", readOnly: true } as ColumnSpec,
    durationDays: { kind: "length", readOnly: true } as ColumnSpec,
    start: { kind: "date", readOnly: true } as ColumnSpec,
    finish: { kind: "date", readOnly: true } as ColumnSpec,
    predecessors: { kind: "text", readOnly: true } as ColumnSpec,
    people: { kind: "text", readOnly: true } as ColumnSpec,
    role: { kind: "text", readOnly: true } as ColumnSpec,
    plannedHours: { kind: "hours", readOnly: true } as ColumnSpec,
    cost: { kind: "money", readOnly: true } as ColumnSpec,
    state: { kind: "activityState", readOnly: true } as ColumnSpec,
    note: { kind: "text", readOnly: true } as ColumnSpec,
    level: { kind: "int", readOnly: true } as ColumnSpec,
    driver: text,
    windowPolicy: text,
    "wish.type": text,
    "wish.date": date,
    "wish.reason": text,
    deadline: date,
    parked: { kind: "bool" } as ColumnSpec,
    owner: optionalId,
    "credit.rule": text,
    "credit.startCredit": number,
    "credit.unitsTotal": number,
    "credit.unitsDone": number,
    "credit.stage": text,
    "credit.to": optionalId,
    actualStart: { kind: "dateOrInstant" } as ColumnSpec,
    actualFinish: { kind: "dateOrInstant" } as ColumnSpec,
    percent: { kind: "percent" } as ColumnSpec,
    remainingMinutes: minutes,
    dropped: { kind: "bool" } as ColumnSpec,
  },
  steps: { activity: id, name, weight: { kind: "number", required: true } as ColumnSpec, doneOn: date },
  stages: { activity: id, name, credit: { kind: "number", required: true } as ColumnSpec },
  links: { from: id, to: id, type: text, lagMinutes: minutes, lagIn: text },
  assignments: {
    activity: id,
    person: id,
    plannedMinutes: needMinutes,
    remainingMinutes: minutes,
    unitsPercent: number,
    restart: date,
  },
  costs: { id, activity: id, category: name, plannedMinor: needInt, timing: text },
  baselines: { number: needInt, approvedOn: needDate, approvedBy: name, reason: name },
  baselineCalendars: { baseline: needInt, ...calendar },
  baselineCalendarExceptions: { baseline: needInt, ...exception },
  baselineActivities: {
    baseline: needInt,
    id,
    start: instant,
    finish: instant,
    durationMinutes: needMinutes,
    calendar: optionalId,
    evenMinor: needInt,
    startMinor: needInt,
    finishMinor: needInt,
    minutes: needMinutes,
    deadline: date,
  },
  timeEntries: {
    activity: id,
    person: id,
    date: needDate,
    minutes: needMinutes,
    hours: { kind: "hours", readOnly: true } as ColumnSpec,
    state: name,
    note: text,
  },
  actualCosts: { activity: id, date: needDate, amountMinor: needInt, category: text, reference: text },
} as const satisfies Record<string, Record<string, ColumnSpec>>;

export type SheetName = keyof typeof SHEETS;
export const SHEET_NAMES = Object.keys(SHEETS) as SheetName[];

export const columnsOf = (sheet: SheetName): Readonly<Record<string, ColumnSpec>> => SHEETS[sheet];
