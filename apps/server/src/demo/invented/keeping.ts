import type { Change, OwnField, PlanBundle } from "@chronometra/core";
import type { DemoProject } from "./projects.ts";

const FIELDS: readonly OwnField[] = [
  { id: "tide", name: "Tide", type: "choice", choices: ["any tide", "low water", "slack water"] },
  { id: "contract", name: "Contract", type: "choice", choices: ["own crew", "framework", "tender"] },
];

const TEAMS = [
  { id: "dive", name: "Dive crew", roles: ["diver", "skipper"] },
  { id: "yard", name: "Yard", roles: ["fitter", "welder", "electrician", "mason"] },
  { id: "office", name: "Design office", roles: ["engineer", "planner", "surveyor", "ecologist"] },
] as const;

/** By which contract an activity is done, told by what is bought for it. */
function contractOf(bundle: PlanBundle, activity: string): string {
  const bought = bundle.costs?.find((cost) => cost.activity === activity);
  return bought === undefined ? "own crew" : bought.category === "subcontract" ? "tender" : "framework";
}

/** Somebody who is still to be found for an activity. */
const roleToFill = (activity: string): Change[] => [
  {
    type: "addRow",
    table: "people",
    key: "second-ecologist",
    row: {
      id: "second-ecologist",
      name: "Second ecologist",
      role: "ecologist",
      calendar: "authority",
      rates: [{ from: "2026-02-01", perHourMinor: 6000 }],
    },
  },
  { type: "addRow", table: "placeholders", key: "second-ecologist", row: { person: "second-ecologist" } },
  {
    type: "addRow",
    table: "assignments",
    key: "second-ecologist",
    row: { activity, person: "second-ecologist", plannedMinutes: 24 * 60 },
  },
];

const STAGES = [
  { name: "Not begun", credit: 0 },
  { name: "Ordered", credit: 15 },
  { name: "Delivered", credit: 45 },
  { name: "Built in", credit: 80 },
  { name: "Signed off", credit: 100 },
];

/** Rules of credit by stages and by steps, where work is bought and built in. */
function rulesOf(bundle: PlanBundle): Change[] {
  return bundle.activities.flatMap(({ id, name, kind }): Change[] => {
    if (kind !== undefined) return [];
    if (name.startsWith("Build") || name.startsWith("Lay"))
      return [{ type: "setCredit", activity: id, credit: { rule: "stages", stages: STAGES, stage: "Not begun" } }];
    if (name.startsWith("Calibrate"))
      return [
        {
          type: "setCredit",
          activity: id,
          credit: {
            rule: "steps",
            steps: [
              { name: "Bench", weight: 2 },
              { name: "In the water", weight: 5 },
              { name: "Certificate", weight: 1 },
            ],
          },
        },
      ];
    return [];
  });
}

/** A meeting each Tuesday, booked on the project's management by those who go. */
function siteMeeting(bundle: PlanBundle): Change[] {
  const management = bundle.activities.find(({ name }) => name === "Project management");
  const people = [...new Set((bundle.assignments ?? []).map(({ person }) => person))].slice(0, 6);
  if (management === undefined || people.length === 0) return [];
  return [
    {
      type: "addRow",
      table: "meetings",
      key: "site-meeting",
      row: {
        id: "site-meeting",
        name: "Site meeting",
        activity: management.id,
        date: "2026-11-17",
        weeklyUntil: "2027-03-30",
        minutes: 60,
        people,
      },
    },
  ];
}

/** Another way to do a step: by a contractor, in less time and for more money, parked beside the one that is live. */
function otherWay(bundle: PlanBundle): Change[] {
  const step = bundle.activities.find(({ name, kind }) => kind === undefined && name.startsWith("Build"));
  if (step === undefined) return [];
  const { wish: _wish, deadline: _deadline, ...rest } = step;
  const id = `${step.id}-hired`;
  const links = (bundle.links ?? []).flatMap((link) =>
    link.to === step.id ? [{ ...link, to: id }] : link.from === step.id ? [{ ...link, from: id }] : [],
  );
  return [
    {
      type: "addRow",
      table: "activities",
      key: id,
      row: {
        ...rest,
        id,
        name: `${step.name}, hired out`,
        durationMinutes: Math.ceil((step.durationMinutes ?? 480) / 2 / 480) * 480,
        parked: true,
      },
    },
    ...links.map((row, i): Change => ({ type: "addRow", table: "links", key: `hired-${i}`, row })),
    {
      type: "addRow",
      table: "costs",
      key: "hired",
      row: { id: "hired", activity: id, category: "subcontract", plannedMinor: 1_450_000 },
    },
    {
      type: "addRow",
      table: "alternates",
      key: "hired",
      row: { id: "hired", name: step.name, members: [step.id, id] },
    },
  ];
}

interface DemoRisk {
  readonly name: string;
  readonly probability: number;
  /** What the activities are called that it bears on. */
  readonly on: RegExp;
  readonly days: readonly [number, number, number];
  /** In thousands. */
  readonly cost?: readonly [number, number, number];
}

const RISKS: Readonly<Record<string, readonly DemoRisk[]>> = {
  "LG-02": [
    {
      name: "The harbour office moves the traffic window",
      probability: 0.25,
      on: /^Hang leaves, (middle wall|south)/,
      days: [5, 10, 15],
    },
    {
      name: "The sill is worse than surveyed",
      probability: 0.4,
      on: /^Inspect sill.*south/,
      days: [2, 6, 18],
      cost: [8, 15, 40],
    },
    {
      name: "Spring floods over the cofferdam",
      probability: 0.1,
      on: /^(Set cofferdam|Dewater).*south/,
      days: [4, 8, 20],
      cost: [20, 35, 60],
    },
  ],
  "FS-01": [
    {
      name: "Storms close the outer works",
      probability: 0.6,
      on: /^Place armour, section [DE]/,
      days: [3, 6, 14],
      cost: [4, 9, 25],
    },
    {
      name: "The divers are called to the lock",
      probability: 0.3,
      on: /^Dive inspection, section [CDE]/,
      days: [2, 4, 8],
    },
  ],
  "FS-03": [
    {
      name: "Old anchors lie in the cut",
      probability: 0.35,
      on: /^Dredge.*reach [67]/,
      days: [1, 3, 9],
      cost: [5, 12, 30],
    },
  ],
  "LG-05": [
    {
      name: "Old piles lie under the ramp",
      probability: 0.2,
      on: /^Found, ramp/,
      days: [4, 8, 20],
      cost: [10, 18, 45],
    },
  ],
  "SW-04": [
    {
      name: "Eels run early: no work in the flow",
      probability: 0.3,
      on: /^Divert flow, (lower|middle)/,
      days: [5, 10, 20],
    },
  ],
};

/** What may happen to a project. */
const risksOf = (bundle: PlanBundle, code: string): Change[] =>
  (RISKS[code] ?? []).flatMap(({ name, probability, on, days, cost }, i): Change[] => {
    const effects = bundle.activities
      .filter((activity) => activity.kind === undefined && on.test(activity.name))
      .map(({ id }) => ({ activity: id, minutes: { low: days[0] * 480, likely: days[1] * 480, high: days[2] * 480 } }));
    const costMinor =
      cost === undefined
        ? {}
        : { costMinor: { low: cost[0] * 100_000, likely: cost[1] * 100_000, high: cost[2] * 100_000 } };
    return [
      {
        type: "addRow",
        table: "risks",
        key: `risk-${i + 1}`,
        row: { id: `risk-${i + 1}`, name, probability, effects, ...costMinor },
      },
    ];
  });

/** What a demo plan keeps besides the open format: fields of its own, teams, cost categories, risks, and a role not filled yet. */
export function keepingOf(bundle: PlanBundle, { code, story }: DemoProject): Change[] {
  const work = bundle.activities.filter(({ kind, parked }) => kind === undefined && parked !== true);
  const teams = TEAMS.map(({ id, name, roles }) => ({
    id,
    name,
    members: (bundle.people ?? [])
      .filter(({ role }) => (roles as readonly string[]).includes(role ?? ""))
      .map((person) => person.id),
  }));
  const categories = [...new Set((bundle.costs ?? []).map(({ category }) => category))];
  const open = story === "unapproved" ? work.find(({ name }) => name.startsWith("Survey")) : undefined;
  return [
    ...FIELDS.map((row): Change => ({ type: "addRow", table: "fields", key: row.id, row })),
    ...work.flatMap(({ id, calendar, name }): Change[] => [
      ...(calendar === "tidal"
        ? [
            {
              type: "setOwnValue",
              activity: id,
              field: "tide",
              value: /^(Dive|Set|Moor)/.test(name) ? "slack water" : "low water",
            } as const,
          ]
        : []),
      { type: "setOwnValue", activity: id, field: "contract", value: contractOf(bundle, id) },
    ]),
    ...teams.flatMap((row): Change[] =>
      row.members.length === 0 ? [] : [{ type: "addRow", table: "teams", key: row.id, row }],
    ),
    ...categories.map((name): Change => ({ type: "addRow", table: "categories", key: name, row: { id: name, name } })),
    ...(open === undefined ? [] : roleToFill(open.id)),
    ...siteMeeting(bundle),
    ...risksOf(bundle, code),
    ...(story === "unapproved" ? [...rulesOf(bundle), ...otherWay(bundle)] : []),
  ];
}
