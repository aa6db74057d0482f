import type { WatchCondition, Watchlist, WatchQuestion } from "@chronometra/contract";

const LAID_OUT = { sort: [{ field: "finish", desc: false }], group: "project", pivot: null } as const;
const OPEN: WatchCondition = { field: "state", is: "any", of: ["notStarted", "inProgress"] };
const REAL_WORK: WatchCondition = { field: "kind", is: "any", of: ["work"] };
const COLUMNS = ["name", "people", "owner", "start", "finish", "drift", "percent", "remaining"];

const question = (
  where: WatchQuestion["where"],
  columns: string[] = COLUMNS,
  rest: Partial<WatchQuestion> = {},
): WatchQuestion => ({ about: "activities", where, columns, ...LAID_OUT, sort: [...LAID_OUT.sort], ...rest });

const ready = (id: string, name: string, asked: WatchQuestion): Watchlist => ({
  id,
  name,
  question: asked,
  roles: [],
  owner: "",
  mine: false,
  ready: true,
});

/** Watchlists that ship with the application: what poisons every report above it, and what is about to. */
export const READY_WATCHLISTS: readonly Watchlist[] = [
  ready(
    "overdue",
    "Overdue",
    question(
      [
        [
          OPEN,
          { field: "kind", is: "any", of: ["work", "milestone"] },
          { field: "baselineFinish", is: "before", date: "today" },
        ],
        [
          OPEN,
          { field: "kind", is: "any", of: ["work", "milestone"] },
          { field: "finish", is: "before", date: "today" },
        ],
      ],
      ["name", "people", "owner", "baselineFinish", "finish", "drift", "percent", "remaining"],
      { sort: [{ field: "drift", desc: true }] },
    ),
  ),
  ready(
    "due-soon",
    "Due soon",
    question([
      [
        OPEN,
        { field: "kind", is: "any", of: ["work", "milestone"] },
        { field: "finish", is: "within", from: "today", to: "today+14" },
      ],
    ]),
  ),
  ready("followed", "What you follow", question([[{ field: "followed", is: "yes" }]])),
  ready(
    "registers",
    "Overdue in registers",
    question(
      [[{ field: "registersDue", is: "before", date: "today" }]],
      ["name", "owner", "registersDue", "inRegisters", "start", "finish"],
      { sort: [{ field: "registersDue", desc: false }] },
    ),
  ),
  ready(
    "no-date",
    "No date",
    question(
      [[{ field: "state", is: "any", of: ["unscheduled"] }, REAL_WORK]],
      ["name", "branch", "people", "owner", "planned"],
    ),
  ),
  ready(
    "no-owner",
    "No owner",
    question([[OPEN, REAL_WORK, { field: "owner", is: "empty" }]], ["name", "branch", "people", "start", "finish"]),
  ),
  ready(
    "no-estimate",
    "No estimate",
    question(
      [
        [
          REAL_WORK,
          { field: "state", is: "any", of: ["unscheduled", "notStarted", "inProgress"] },
          { field: "planned", is: "below", number: 0.01 },
          { field: "bac", is: "below", number: 0.01 },
        ],
      ],
      ["name", "branch", "owner", "duration", "start", "finish"],
    ),
  ),
  ready(
    "blocked",
    "Blocked",
    question(
      [
        [
          { field: "blocked", is: "yes" },
          { field: "state", is: "any", of: ["notStarted", "inProgress", "unscheduled"] },
        ],
      ],
      ["name", "blockedBy", "people", "start", "finish", "float", "drift"],
    ),
  ),
  ready(
    "mine",
    "Mine or my team's, due in 30 days",
    question(
      [
        [
          OPEN,
          { field: "people", is: "any", of: ["me", "team"] },
          { field: "finish", is: "within", from: "today-365", to: "today+30" },
        ],
      ],
      ["name", "project", "start", "finish", "percent", "remaining"],
      { group: "people" },
    ),
  ),
  ready("time", "Time booked in the last four weeks", {
    about: "time",
    where: [[{ field: "date", is: "within", from: "today-28", to: "today" }]],
    columns: ["date", "name", "hours", "amount", "note"],
    sort: [{ field: "date", desc: true }],
    group: "person",
    pivot: { rows: "person", columns: "project", sum: "hours" },
  }),
  ready("costs", "Costs by category", {
    about: "costs",
    where: [],
    columns: ["date", "name", "amount", "note"],
    sort: [{ field: "date", desc: true }],
    group: "category",
    pivot: { rows: "category", columns: "project", sum: "amount" },
  }),
  ready("risks", "Risks", {
    about: "risks",
    where: [[{ field: "state", is: "none", of: ["complete"] }]],
    columns: ["risk", "chance", "name", "likely", "expected", "costExpected", "start", "finish", "critical"],
    sort: [{ field: "chance", desc: true }],
    group: "project",
    pivot: null,
  }),
];
