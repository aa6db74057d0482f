import { HOUSE_WORDS } from "./charterWords.ts";

/** What a watchlist asks about. Milestones are activities of that kind. */
export const WATCH_ABOUT = ["activities", "time", "costs", "risks"] as const;
export type WatchAbout = (typeof WATCH_ABOUT)[number];

export type WatchType =
  "text" | "date" | "number" | "days" | "hours" | "amount" | "percent" | "choice" | "yesNo" | "person" | "role";

export interface WatchField {
  readonly head: string;
  readonly type: WatchType;
  /** Said on hovering. */
  readonly hint?: string;
  readonly choices?: Readonly<Record<string, string>>;
  /** Summed below a table and its groups. */
  readonly summed?: boolean;
  /** One row may have several, so that it stands under each where rows are grouped by it. */
  readonly several?: boolean;
}

const KINDS = { work: "work", milestone: "milestone", summary: "branch", levelOfEffort: "level of effort" };
const STATES = {
  unscheduled: "no dates",
  parked: HOUSE_WORDS.parked,
  notStarted: HOUSE_WORDS.notStarted,
  inProgress: HOUSE_WORDS.inProgress,
  complete: HOUSE_WORDS.complete,
};
const DEADLINES = {
  breached: "broken",
  willBreach: "will break",
  tight: "tight",
  safe: "safe",
  metLate: "kept late",
  metOnTime: "kept",
  dropped: "dropped",
};
const WISHES = {
  startNotBefore: "start not before",
  startNotAfter: "start not after",
  startOn: "start on",
  finishNotBefore: "finish not before",
  finishNotAfter: "finish not after",
  finishOn: "finish on",
};

const place = {
  project: { head: "Project", type: "choice" },
  programme: { head: "Programme", type: "choice" },
  manager: { head: "Manager", type: "choice" },
} as const satisfies Record<string, WatchField>;

const ACTIVITY_FIELDS = {
  name: { head: "Activity", type: "text" },
  branch: { head: "Branch", type: "text" },
  ...place,
  kind: { head: "Kind", type: "choice", choices: KINDS },
  state: { head: "State", type: "choice", choices: STATES },
  owner: { head: "Owner", type: "person" },
  people: { head: "People", type: "person", several: true },
  role: { head: "Role", type: "role", several: true },
  start: { head: "Starts", type: "date" },
  finish: { head: "Finishes", type: "date" },
  baselineStart: { head: "Approved start", type: "date" },
  baselineFinish: { head: "Approved finish", type: "date" },
  drift: { head: "Drift", type: "days", hint: "Current finish against the approved one, in working days" },
  float: { head: "Total float", type: "days" },
  critical: { head: "Critical", type: "yesNo" },
  percent: { head: "Percent done", type: "percent", hint: "As reported" },
  deadline: { head: "Deadline", type: "date" },
  margin: { head: "Margin", type: "days", hint: "Working days between finish and deadline" },
  deadlineState: { head: "Promise", type: "choice", choices: DEADLINES },
  wish: { head: "Date wish", type: "choice", choices: WISHES },
  duration: { head: "Duration", type: "days" },
  planned: { head: "Planned hours", type: "hours", summed: true },
  remaining: { head: "Remaining hours", type: "hours", summed: true },
  posted: { head: "Hours booked", type: "hours", summed: true },
  bac: { head: "BAC", type: "amount", summed: true },
  pv: { head: "PV", type: "amount", summed: true },
  ev: { head: "EV", type: "amount", summed: true },
  ac: { head: "AC", type: "amount", summed: true },
  sv: { head: "SV", type: "amount", summed: true },
  cv: { head: "CV", type: "amount", summed: true },
  estimate: {
    head: "EAC from what remains",
    type: "amount",
    summed: true,
    hint: "Estimate at completion from what remains",
  },
  blocked: { head: "Blocked", type: "yesNo" },
  blockedBy: { head: "Blocked by", type: "text" },
  inRegisters: {
    head: "Open in registers",
    type: "number",
    hint: "Open risks, issues, actions and decisions tied to it",
  },
  registersDue: { head: "Due in registers", type: "date", hint: "When the first of these is due" },
  followed: { head: "Followed by you", type: "yesNo" },
  reported: { head: "Last booked", type: "date", hint: "The last day with time booked on it" },
  before: { head: "Predecessors", type: "number" },
  after: { head: "Successors", type: "number" },
} as const satisfies Record<string, WatchField>;

const SPENT_FIELDS = {
  date: { head: "Day", type: "date" },
  name: { head: "Activity", type: "text" },
  branch: { head: "Branch", type: "text" },
  ...place,
} as const satisfies Record<string, WatchField>;

const { state, start, finish, float, critical, deadline, deadlineState } = ACTIVITY_FIELDS;
const ofActivity = { state, start, finish, float, critical, deadline, deadlineState };

const RISK_FIELDS = {
  risk: { head: "Risk", type: "text" },
  chance: { head: "Probability", type: "percent", hint: "The chance that it comes about" },
  name: { head: "Bears on", type: "text", hint: "A row for each activity that a risk bears on" },
  branch: { head: "Branch", type: "text" },
  ...place,
  owner: { head: "Owner", type: "person", hint: "Of the activity" },
  least: { head: "Longer, least", type: "days" },
  likely: { head: "Longer, likeliest", type: "days" },
  most: { head: "Longer, most", type: "days" },
  expected: {
    head: "Longer, on average",
    type: "days",
    hint: "The mean of least, likeliest and most, times how likely it is",
  },
  costLikely: {
    head: "Extra cost, likeliest",
    type: "amount",
    summed: true,
    hint: "Stands with the first activity left that a risk bears on",
  },
  costExpected: {
    head: "Extra cost, on average",
    type: "amount",
    summed: true,
    hint: "The mean of least, likeliest and most, times how likely it is; with the first activity left that a risk bears on",
  },
  ...ofActivity,
} as const satisfies Record<string, WatchField>;

/** The fields of each thing that can be asked about; own fields are added as `own:` and their name. */
export const WATCH_FIELDS: Readonly<Record<WatchAbout, Readonly<Record<string, WatchField>>>> = {
  activities: ACTIVITY_FIELDS,
  time: {
    ...SPENT_FIELDS,
    person: { head: "Person", type: "person" },
    role: { head: "Role", type: "role" },
    hours: { head: "Hours", type: "hours", summed: true },
    amount: { head: "Cost", type: "amount", summed: true },
    note: { head: "Note", type: "text" },
  },
  costs: {
    ...SPENT_FIELDS,
    category: { head: "Category", type: "choice" },
    amount: { head: "Amount", type: "amount", summed: true },
    note: { head: "Reference", type: "text" },
  },
  risks: RISK_FIELDS,
};

export const OWN_PREFIX = "own:";

/** Roles that a watchlist can be shared with. */
export const SHARED_ROLES = ["controller", "projectManager", "approver", "reader"] as const;
