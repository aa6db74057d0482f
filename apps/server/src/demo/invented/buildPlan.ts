import {
  schedulePlan,
  workMinutes,
  finishDayOf,
  formatDate,
  type Activity,
  type Assignment,
  type Calendar,
  type CostLine,
  type Link,
  type Person,
  type PlanBundle,
} from "@chronometra/core";
import { PEOPLE, type DemoPerson, type Trade } from "./people.ts";
import type { DemoProject, Phase, Step } from "./projects.ts";
import type { Random } from "./random.ts";

const DAY_MINUTES = 480;
const WORKDAY: [string, string][] = [
  ["08:00", "12:00"],
  ["13:00", "17:00"],
];
const closed = (from: string, to: string, label: string) => ({ from, to, shifts: [], label });

const CALENDARS: Calendar[] = [
  {
    id: "authority",
    name: "Authority week",
    week: { mon: WORKDAY, tue: WORKDAY, wed: WORKDAY, thu: WORKDAY, fri: WORKDAY },
    exceptions: [
      closed("2026-04-03", "2026-04-06", "Spring holiday"),
      closed("2026-05-25", "2026-05-25", "Harbour day"),
      closed("2026-12-24", "2027-01-01", "Winter closure"),
    ],
  },
  {
    id: "tidal",
    name: "Tidal working",
    base: "authority",
    week: { mon: WORKDAY, tue: WORKDAY, wed: WORKDAY, thu: WORKDAY, fri: WORKDAY, sat: [["07:00", "13:00"]] },
  },
];

/** Divers and skippers work with the tide, six days a week. */
const calendarOf = (trade: Trade): string => (trade === "diver" || trade === "skipper" ? "tidal" : "authority");

interface Draft {
  readonly activities: Activity[];
  readonly links: Link[];
  readonly assignments: Assignment[];
  readonly costs: CostLine[];
  readonly people: Set<DemoPerson>;
  next: number;
}

/** The plan of a demo project as its manager would bring it: no progress, nothing approved. */
export function buildPlan(project: DemoProject, random: Random): PlanBundle {
  const draft: Draft = { activities: [], links: [], assignments: [], costs: [], people: new Set(), next: 1 };
  let gate: string | null = null;
  for (const phase of project.phases) gate = addPhase(draft, phase, gate, random);
  addOversight(draft, project);
  addParked(draft, project);
  const bundle: PlanBundle = {
    format: "chronometra-plan",
    version: 1,
    project: { code: project.code, name: project.name, currency: "EUR", start: project.start, calendar: "authority" },
    calendars: CALENDARS,
    people: [...draft.people].map(asPlanPerson),
    activities: draft.activities,
    links: draft.links,
    assignments: draft.assignments,
    costs: draft.costs,
  };
  return withPromises(project.money === undefined ? bundle : inMoney(bundle, project.money), project);
}

/** The same plan with its rates and costs in another currency, in whole units of ten. */
function inMoney(
  bundle: PlanBundle,
  { currency, minorDigits, perEuro }: NonNullable<DemoProject["money"]>,
): PlanBundle {
  const convert = (cents: number): number => Math.round((cents * perEuro) / 1_000) * 10 ** (minorDigits + 1);
  return {
    ...bundle,
    project: { ...bundle.project, currency, minorDigits },
    people: bundle.people!.map((person) => ({
      ...person,
      rates: person.rates!.map((rate) => ({ ...rate, perHourMinor: convert(rate.perHourMinor) })),
    })),
    costs: bundle.costs!.map((cost) => ({ ...cost, plannedMinor: convert(cost.plannedMinor) })),
  };
}

const asPlanPerson = (person: DemoPerson): Person => ({
  id: person.id,
  name: person.name,
  role: person.trade,
  calendar: calendarOf(person.trade),
  rates: [
    { from: "2026-02-01", perHourMinor: person.rates[0] },
    { from: "2026-07-01", perHourMinor: person.rates[1] },
  ],
});

const idOf = (draft: Draft): string => `A${String(draft.next++ * 10).padStart(4, "0")}`;

const METHOD: Step = ["Method and permits", 2, "engineer"];

function addPhase(draft: Draft, phase: Phase, gate: string | null, random: Random): string {
  const top = idOf(draft);
  draft.activities.push({ id: top, name: phase.name, kind: "summary" });
  const ends: string[] = [];
  let former: string[] = [];
  for (const unit of phase.units) {
    const branch = idOf(draft);
    draft.activities.push({
      id: branch,
      name: unit.charAt(0).toUpperCase() + unit.slice(1),
      kind: "summary",
      parent: top,
    });
    let before = gate;
    const own: string[] = [];
    const steps = phase.overlapping === true ? phase.steps : [METHOD, ...phase.steps];
    steps.forEach((step, i) => {
      const id = addStep(draft, branch, unit, step, random);
      if (before !== null) draft.links.push({ from: before, to: id });
      // One crew goes from unit to unit; drawing and checking may begin a few days after the unit before.
      const crew = former[i];
      if (crew !== undefined)
        draft.links.push(
          phase.overlapping === true
            ? { from: crew, to: id, type: "SS", lagMinutes: 3 * DAY_MINUTES }
            : { from: crew, to: id },
        );
      own.push(id);
      before = id;
    });
    former = own;
    ends.push(before!);
  }
  const closing = idOf(draft);
  draft.activities.push({ id: closing, name: phase.closes, kind: "milestone", parent: top });
  for (const end of ends) draft.links.push({ from: end, to: closing });
  return closing;
}

function addStep(
  draft: Draft,
  parent: string,
  unit: string,
  [name, days, trade, count = 1, material = 0]: Step,
  random: Random,
): string {
  const id = idOf(draft);
  const duration = Math.max(1, Math.round(days * random.between(0.85, 1.2)));
  const effort = count > 1 && random.next() < 0.25;
  const credit = duration <= 4 && random.next() < 0.4 ? { rule: "startFinish" as const, startCredit: 50 } : undefined;
  draft.activities.push({
    id,
    name: `${name}, ${unit}`,
    parent,
    durationMinutes: duration * DAY_MINUTES,
    ...(calendarOf(trade) === "tidal" ? { calendar: "tidal" } : {}),
    ...(effort ? { driver: "effort" as const } : {}),
    ...(credit === undefined ? {} : { credit }),
  });
  const able = PEOPLE.filter((person) => person.trade === trade && person.roles.includes("contributor"));
  const offset = Math.floor(random.next() * able.length);
  for (let i = 0; i < Math.min(count, able.length); i++) {
    const person = able[(offset + i) % able.length]!;
    draft.people.add(person);
    const share = effort ? 1 : random.pick([0.5, 0.75, 1]);
    draft.assignments.push({
      activity: id,
      person: person.id,
      plannedMinutes: Math.round((duration * DAY_MINUTES * share) / 60) * 60,
    });
  }
  if (material > 0) {
    const timing = random.pick(["start", "even", "finish"] as const);
    draft.costs.push({
      id: `C${id}`,
      activity: id,
      category: timing === "finish" ? "subcontract" : "material",
      plannedMinor: Math.round(material * random.between(0.8, 1.2)) * 100_000,
      timing,
    });
  }
  return id;
}

/** The manager's own time over the whole project, a level of effort. */
function addOversight(draft: Draft, project: DemoProject): void {
  const manager = PEOPLE.find(({ name }) => name === project.manager)!;
  draft.people.add(manager);
  const id = idOf(draft);
  draft.activities.push({ id, name: "Project management", kind: "levelOfEffort" });
  draft.assignments.push({ activity: id, person: manager.id, plannedMinutes: 160 * 60 });
}

/** Work that is kept in mind and counts for nothing until it is woken. */
function addParked(draft: Draft, project: DemoProject): void {
  const id = idOf(draft);
  draft.activities.push({
    id,
    name: project.programme === "Signals and water quality" ? "Second telemetry path" : "Winter stand-by plant",
    durationMinutes: 10 * DAY_MINUTES,
    parked: true,
  });
}

/** Puts the promised date on the milestone before the handover, so many working days after its planned date. */
function withPromises(bundle: PlanBundle, project: DemoProject): PlanBundle {
  const { rows, calendars } = schedulePlan(bundle);
  const calendar = calendars.get("authority");
  const milestones = bundle.activities.flatMap((activity, i) =>
    activity.kind === "milestone" ? [{ activity, row: rows[i]! }] : [],
  );
  const promised = milestones.at(-2)!;
  const date = formatDate(
    finishDayOf(
      calendar.finishAt(workMinutes(calendar.indexAt(promised.row.finish) + project.promiseDays * DAY_MINUTES)),
    ),
  );
  return {
    ...bundle,
    activities: bundle.activities.map((activity) =>
      activity === promised.activity ? { ...activity, deadline: date } : activity,
    ),
  };
}
