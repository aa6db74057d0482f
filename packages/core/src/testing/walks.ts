import fc from "fast-check";
import type { Change } from "../plan/change.ts";
import { schedulePlan } from "../network/schedule.ts";
import { toBundle, type Plan } from "../plan/plan.ts";
import { formatInstant } from "../time/instant.ts";

/** Numbers from which a step is drawn: what is done, on which rows, and how much. */
export type Dice = readonly [act: number, row: number, other: number, amount: number];

/** Random walks: what people do to a plan, one after the other. */
export const walks: fc.Arbitrary<readonly Dice[]> = fc.array(
  fc.tuple(fc.nat(999), fc.nat(999), fc.nat(999), fc.nat(999)),
  { minLength: 3, maxLength: 12 },
);

const pick = <T>(from: readonly T[], at: number): T | undefined => from[at % Math.max(1, from.length)];
const inMarch = (amount: number): string => `2026-03-${String(1 + (amount % 31)).padStart(2, "0")}`;
const orNone = <T>(value: T, amount: number): T | null => (amount % 4 === 0 ? null : value);

type Act = (plan: Plan, dice: Dice) => Change | undefined;

/** An act upon an activity; nothing where there is none. */
const onActivity =
  (act: (id: string, dice: Dice, plan: Plan) => Change): Act =>
  (plan, dice) => {
    const id = pick([...plan.activities.keys()], dice[1]);
    return id === undefined ? undefined : act(id, dice, plan);
  };

const another = (plan: Plan, { 2: other }: Dice): string => pick([...plan.activities.keys()], other)!;
const removal =
  (table: "activities" | "links" | "assignments" | "costs" | "people"): Act =>
  (plan, [, row]) => {
    const key = pick([...plan[table].keys()], row);
    return key === undefined ? undefined : { type: "removeRow", table, key };
  };

const KINDS = ["work", "milestone", "levelOfEffort", "summary"] as const;
const WISHES = ["startNotBefore", "finishNotBefore", "startNotAfter", "finishOn"] as const;
const TYPES = ["FS", "SS", "FF", "SF"] as const;

/** What may be done to a plan; much of it is refused by the checks, which a walk then passes over. */
const ACTS: readonly Act[] = [
  onActivity((activity, [, , , amount]) => ({ type: "setDuration", activity, minutes: orNone(60 * amount, amount) })),
  onActivity((activity, [, , , amount]) => ({ type: "setDuration", activity, minutes: 60 + amount })),
  onActivity((activity, [, , , amount]) => ({ type: "setDeadline", activity, date: orNone(inMarch(amount), amount) })),
  onActivity((activity, [, , other, amount]) => ({
    type: "setWish",
    activity,
    wish: orNone({ type: pick(WISHES, other)!, date: inMarch(amount) }, amount),
  })),
  onActivity((activity, [, , , amount]) => ({ type: "setParked", activity, parked: amount % 2 === 0 })),
  onActivity((activity, [, , other]) => ({ type: "setKind", activity, kind: pick(KINDS, other)! })),
  onActivity((activity, [, , other, amount]) => ({
    type: "reportProgress",
    activity,
    actualStart: orNone(inMarch(other % 10), other),
    actualFinish: amount % 3 === 0 ? inMarch(other % 10) : null,
    percent: amount % 3 === 0 ? null : amount % 100,
  })),
  // Begun, and maybe ended, just as the plan has it: of its own dates none moves.
  onActivity((activity, [, , other], plan) => {
    const row = schedulePlan(toBundle(plan)).rows[[...plan.activities.keys()].indexOf(activity)];
    return {
      type: "reportProgress",
      activity,
      actualStart: row == null ? null : formatInstant(row.start),
      actualFinish: row == null || other % 2 === 0 ? null : formatInstant(row.finish),
    };
  }),
  onActivity((activity, [, , , amount]) => ({ type: "setName", activity, name: `N ${amount}` })),
  onActivity((activity, dice, plan) => ({
    type: "moveBranch",
    activity,
    parent: orNone(another(plan, dice), dice[3]),
    before: orNone(another(plan, dice), dice[3] >> 2),
  })),
  onActivity((activity, [, , other]) => ({
    type: "setWorking",
    activity,
    calendar: pick(["std", "seven", "nights", null], other)!,
    driver: pick(["effort", null], other)!,
    windowPolicy: pick(["drift", "hold", null], other)!,
  })),
  onActivity((activity, dice, plan) => ({
    type: "setCredit",
    activity,
    credit: pick([{ rule: "apportioned" as const, to: another(plan, dice) }, null, { rule: "zeroHundred" }], dice[3])!,
  })),
  onActivity((from, dice, plan) => ({
    type: "addRow",
    table: "links",
    key: `walked${dice.join("-")}`,
    row: {
      from,
      to: another(plan, dice),
      type: pick(TYPES, dice[3])!,
      lagMinutes: dice[3] % 3 === 0 ? 0 : dice[3] - 200,
      ...(dice[3] % 5 === 0 ? { lagIn: "elapsed" as const } : {}),
    },
  })),
  onActivity((before, [act, row, other, amount]) => {
    const id = `w${act}-${row}-${other}`;
    const row_ = { id, name: id, ...(amount % 5 === 0 ? { kind: "milestone" as const } : { durationMinutes: amount }) };
    return { type: "addRow", table: "activities", key: id, row: row_, ...(amount % 2 === 0 ? { before } : {}) };
  }),
  onActivity((activity, dice, plan) => ({
    type: "addRow",
    table: "assignments",
    key: `walked${dice.join("-")}`,
    row: { activity, person: pick([...plan.people.keys()], dice[2]) ?? "p", plannedMinutes: dice[3] * 7 },
  })),
  onActivity((activity, dice) => ({
    type: "addRow",
    table: "costs",
    key: `walked${dice.join("-")}`,
    row: { id: `walked${dice.join("-")}`, activity, category: "c", plannedMinor: dice[3] },
  })),
  onActivity((activity, dice, plan) => ({
    type: "postTime",
    key: `walked${dice.join("-")}`,
    entry: {
      activity,
      person: pick([...plan.people.keys()], dice[2]) ?? "p",
      date: inMarch(dice[3]),
      minutes: dice[3],
      state: "posted",
    },
  })),
  onActivity((activity, dice) => ({
    type: "postCost",
    key: `walked${dice.join("-")}`,
    cost: { activity, date: inMarch(dice[3]), category: "c", amountMinor: dice[2] },
  })),
  (_plan, [, row, other, amount]) => ({
    type: "addRow",
    table: "people",
    key: `person${row}`,
    row: {
      id: `person${row}`,
      name: "Q",
      calendar: pick(["std", "nights"], other)!,
      rates: [{ from: "2026-01-01", perHourMinor: amount }],
    },
  }),
  (plan, [, row, other]) => {
    const key = pick([...plan.people.keys()], row);
    const set = { calendar: orNone(pick(["std", "nights"], other)!, other) };
    return key === undefined ? undefined : { type: "editRow", table: "people", key, set };
  },
  (plan, [, row, , amount]) => {
    const assignment = pick([...plan.assignments.keys()], row);
    if (assignment === undefined) return undefined;
    return { type: "setRemainingWork", assignment, remainingMinutes: orNone(amount * 3, amount) };
  },
  removal("activities"),
  removal("links"),
  removal("links"),
  removal("assignments"),
  removal("costs"),
  removal("people"),
  (_plan, [, , , amount]) => ({ type: "setDataDate", date: orNone(inMarch(amount), amount) }),
  (_plan, [, row, other, amount]) => ({
    type: "setProject",
    set: pick<Extract<Change, { type: "setProject" }>["set"]>(
      [
        { name: `P ${amount}` },
        { criticalFloatMinutes: other },
        { logic: pick(["override", "retained"] as const, other)! },
        { start: inMarch(amount) },
        { calendar: pick(["std", "seven"], other)! },
      ],
      row,
    )!,
  }),
];

/** The next change of a walk; nothing where the plan has no row for it. */
export const stepOf = (plan: Plan, dice: Dice): Change | undefined => pick(ACTS, dice[0])!(plan, dice);
