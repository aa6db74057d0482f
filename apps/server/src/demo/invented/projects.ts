import type { Trade } from "./people.ts";

/** A step of work, done once for each unit: name, working days, trade, people, and cost of material in thousands. */
export type Step = readonly [name: string, days: number, trade: Trade, people?: number, material?: number];

export interface Phase {
  readonly name: string;
  readonly units: readonly string[];
  readonly steps: readonly Step[];
  /** The milestone that closes the phase. */
  readonly closes: string;
  /** Desk work, where units overlap; elsewhere one crew goes from unit to unit. */
  readonly overlapping?: true;
}

/** How a project goes: what its people do to the plan, period by period. */
export type Story =
  "wellRun" | "recovering" | "rotten" | "brokenPromise" | "rebaselined" | "justBegun" | "ordinary" | "unapproved";

export interface DemoProject {
  readonly code: string;
  readonly name: string;
  readonly programme: string;
  readonly manager: string;
  readonly start: string;
  readonly story: Story;
  readonly phases: readonly Phase[];
  /** What its amounts are in, and what one euro is there; the authority's euro where it is left out. */
  readonly money?: { readonly currency: string; readonly minorDigits: number; readonly perEuro: number };
  /** The period after which it is closed, with what is left dropped. */
  readonly closedAfter?: number;
  /** Working days between the last milestone as planned and the date that was promised. */
  readonly promiseDays: number;
}

const design = (units: readonly string[], days = 8): Phase => ({
  name: "Design and consents",
  units,
  steps: [
    ["Survey", Math.ceil(days / 2), "surveyor"],
    ["Drawings", days, "engineer"],
    ["Check and sign", 4, "engineer"],
    ["Consent", days + 2, "planner", 1, 6],
  ],
  closes: "Consents in hand",
  overlapping: true,
});

const handover = (): Phase => ({
  name: "Handover",
  units: ["records", "training"],
  steps: [
    ["Draft", 5, "engineer"],
    ["Review", 4, "planner"],
    ["Deliver", 3, "engineer"],
  ],
  closes: "Handed over",
  overlapping: true,
});

export const PROGRAMMES = ["Locks and crossings", "Fairway and shelter", "Signals and water quality"] as const;

/** The projects of the authority, all invented. */
export const PROJECTS: readonly DemoProject[] = [
  {
    code: "LG-02",
    name: "North lock gates",
    programme: PROGRAMMES[0],
    manager: "Tomas Lindqvist",
    start: "2026-02-02",
    story: "brokenPromise",
    promiseDays: 4,
    phases: [
      design(["gate leaves", "bearings", "drives", "paddle gear"], 9),
      {
        name: "Fabrication",
        units: ["leaf A", "leaf B", "leaf C", "leaf D"],
        steps: [
          ["Order steel", 12, "planner", 1, 90],
          ["Cut plates", 8, "fitter", 2],
          ["Weld frame", 16, "welder", 2, 12],
          ["Fit seals", 6, "fitter", 1, 8],
          ["Coat", 8, "fitter", 1, 14],
          ["Test in yard", 4, "engineer"],
        ],
        closes: "Leaves accepted at yard",
      },
      {
        name: "Site works",
        units: ["north chamber", "middle wall", "south chamber"],
        steps: [
          ["Set cofferdam", 14, "diver", 2, 40],
          ["Dewater", 6, "skipper"],
          ["Inspect sill", 5, "engineer"],
          ["Hang leaves", 9, "fitter", 3, 20],
          ["Align drives", 8, "electrician", 2],
          ["Commission", 7, "engineer", 2],
        ],
        closes: "Open to traffic",
      },
      handover(),
    ],
  },
  {
    code: "LG-03",
    name: "Mere swing bridge",
    programme: PROGRAMMES[0],
    manager: "Tomas Lindqvist",
    start: "2026-02-16",
    story: "recovering",
    promiseDays: 12,
    phases: [
      design(["pivot", "deck", "barriers"], 10),
      {
        name: "Refit",
        units: ["pivot bearing", "east arm", "west arm", "locking pins", "tail weight", "deck joints"],
        steps: [
          ["Strip", 6, "fitter", 2],
          ["Blast and inspect", 7, "surveyor"],
          ["Repair", 14, "welder", 2, 22],
          ["Refit", 8, "fitter", 2, 6],
          ["Adjust", 4, "engineer"],
        ],
        closes: "Bridge swings",
      },
      {
        name: "Controls",
        units: ["panel", "interlocks", "barriers"],
        steps: [
          ["Build", 10, "electrician", 1, 16],
          ["Wire", 8, "electrician", 2],
          ["Prove", 5, "engineer"],
        ],
        closes: "Controls proven",
      },
      handover(),
    ],
  },
  {
    code: "LG-05",
    name: "Ferry landing",
    programme: PROGRAMMES[0],
    manager: "Wanjiru Castell",
    start: "2026-03-02",
    story: "rebaselined",
    promiseDays: 20,
    phases: [
      design(["pontoon", "linkspan", "waiting room"], 11),
      {
        name: "Landing",
        units: ["pontoon one", "pontoon two", "linkspan", "fenders"],
        steps: [
          ["Build", 18, "welder", 2, 60],
          ["Float out", 4, "skipper", 2, 10],
          ["Moor", 6, "diver", 2, 18],
          ["Fit out", 9, "fitter", 2, 12],
          ["Load test", 3, "engineer"],
        ],
        closes: "Landing takes a ferry",
      },
      {
        name: "Shore",
        units: ["apron", "waiting room", "ramp"],
        steps: [
          ["Found", 10, "mason", 2, 24],
          ["Build", 16, "mason", 2, 36],
          ["Finish", 8, "electrician", 1, 9],
        ],
        closes: "Shore side open",
      },
      handover(),
    ],
  },
  {
    code: "LG-07",
    name: "Old lock pump house",
    programme: PROGRAMMES[0],
    manager: "Wanjiru Castell",
    start: "2026-05-18",
    story: "wellRun",
    promiseDays: 15,
    phases: [
      design(["pumps", "house"], 8),
      {
        name: "Pumps",
        units: ["pump 1", "pump 2", "pump 3", "pump 4", "valve chest", "screens"],
        steps: [
          ["Isolate", 3, "electrician"],
          ["Lift out", 3, "fitter", 2],
          ["Overhaul", 15, "fitter", 1, 30],
          ["Refit", 5, "fitter", 2],
          ["Run in", 4, "engineer"],
        ],
        closes: "Pumps in service",
      },
      {
        name: "House",
        units: ["roof", "walls", "windows"],
        steps: [
          ["Scaffold", 5, "mason", 1, 5],
          ["Repair", 14, "mason", 2, 15],
          ["Clear", 3, "mason"],
        ],
        closes: "House weathertight",
      },
      handover(),
    ],
  },
  {
    code: "FS-01",
    name: "Outer breakwater",
    programme: PROGRAMMES[1],
    manager: "Radu Fennimore",
    start: "2026-02-02",
    story: "rotten",
    promiseDays: 10,
    phases: [
      design(["armour", "crown wall", "toe"], 10),
      {
        name: "Quarry and haul",
        units: ["batch 1", "batch 2", "batch 3", "batch 4"],
        steps: [
          ["Quarry", 14, "mason", 2, 45],
          ["Grade", 6, "surveyor"],
          ["Haul", 12, "skipper", 2, 25],
        ],
        closes: "Stone on site",
      },
      {
        name: "Placing",
        units: ["section A", "section B", "section C", "section D", "section E"],
        steps: [
          ["Trim toe", 6, "diver", 2],
          ["Place armour", 18, "skipper", 2, 30],
          ["Profile survey", 4, "surveyor"],
          ["Cast crown", 12, "mason", 2, 28],
          ["Dive inspection", 3, "diver"],
        ],
        closes: "Breakwater closed",
      },
      handover(),
    ],
  },
  {
    code: "FS-03",
    name: "Fairway dredging",
    programme: PROGRAMMES[1],
    manager: "Radu Fennimore",
    start: "2026-06-01",
    story: "ordinary",
    promiseDays: 8,
    phases: [
      design(["cut", "disposal ground"], 9),
      {
        name: "Dredging",
        units: ["reach 1", "reach 2", "reach 3", "reach 4", "reach 5", "reach 6", "reach 7"],
        steps: [
          ["Sweep", 3, "surveyor"],
          ["Dredge", 16, "skipper", 2, 50],
          ["Place spoil", 8, "skipper", 1, 15],
          ["Check depth", 3, "surveyor"],
          ["Chart", 4, "engineer"],
        ],
        closes: "Fairway at depth",
      },
      handover(),
    ],
  },
  {
    code: "FS-04",
    name: "Pilot launch refit",
    programme: PROGRAMMES[1],
    manager: "Wanjiru Castell",
    start: "2026-07-13",
    story: "ordinary",
    promiseDays: 6,
    phases: [
      design(["hull", "machinery"], 6),
      {
        name: "Refit",
        units: ["hull", "engines", "wheelhouse", "boarding rails", "fire system", "radar mast"],
        steps: [
          ["Open up", 5, "fitter", 2],
          ["Survey", 3, "surveyor"],
          ["Renew", 13, "fitter", 2, 26],
          ["Fit", 8, "electrician", 1, 7],
          ["Paint", 5, "fitter"],
          ["Trial", 3, "engineer"],
        ],
        closes: "Launch on station",
      },
      handover(),
    ],
  },
  {
    code: "FS-06",
    name: "Saltings mooring trots",
    programme: PROGRAMMES[1],
    manager: "Radu Fennimore",
    start: "2026-08-17",
    story: "wellRun",
    promiseDays: 18,
    phases: [
      design(["sinkers", "risers"], 6),
      {
        name: "Moorings",
        units: ["trot 1", "trot 2", "trot 3", "trot 4", "trot 5", "trot 6", "trot 7", "trot 8"],
        steps: [
          ["Cast sinkers", 7, "mason", 1, 9],
          ["Lay sinkers", 5, "skipper", 2],
          ["Rig risers", 5, "diver", 2, 6],
          ["Proof load", 2, "engineer"],
          ["Number buoys", 2, "fitter"],
        ],
        closes: "Moorings let",
      },
      handover(),
    ],
  },
  {
    code: "SW-01",
    name: "Tide-gauge network",
    programme: PROGRAMMES[2],
    manager: "Sunniva Achterberg",
    start: "2026-02-16",
    story: "wellRun",
    promiseDays: 14,
    phases: [
      design(["gauges", "masts", "telemetry"], 8),
      {
        name: "Stations",
        units: ["Marrow Head", "Gannet Rock", "Inner Quay", "Saltings", "Weir Pool", "Bar Buoy", "Pilot Stage"],
        steps: [
          ["Prepare site", 4, "mason", 1, 4],
          ["Erect mast", 3, "fitter", 2, 3],
          ["Install gauge", 5, "electrician", 1, 11],
          ["Level in", 3, "surveyor"],
          ["Prove", 6, "engineer"],
        ],
        closes: "Network on air",
      },
      handover(),
    ],
  },
  {
    code: "SW-02",
    name: "Lamp electrification",
    programme: PROGRAMMES[2],
    manager: "Sunniva Achterberg",
    start: "2026-05-11",
    story: "ordinary",
    promiseDays: 10,
    phases: [
      design(["lanterns", "cables"], 9),
      {
        name: "Lights",
        units: [
          "East Pier",
          "West Pier",
          "Marrow Head",
          "Gannet Rock",
          "Leading Front",
          "Leading Rear",
          "Sector Light",
          "Bar Light",
          "Pilot Stage",
        ],
        steps: [
          ["Cable", 8, "electrician", 2, 13],
          ["Fit lantern", 5, "electrician", 1, 17],
          ["Batteries", 3, "fitter", 1, 6],
          ["Align", 2, "surveyor"],
          ["Watch in", 5, "engineer"],
        ],
        closes: "All lights electric",
      },
      handover(),
    ],
  },
  {
    code: "SW-04",
    name: "Weir fish pass",
    programme: PROGRAMMES[2],
    manager: "Sunniva Achterberg",
    start: "2026-11-02",
    story: "justBegun",
    promiseDays: 16,
    phases: [
      design(["pools", "eel brush", "counter"], 10),
      {
        name: "Pass",
        units: ["lower pools", "middle pools", "upper pools", "resting pool", "eel brush", "counter chamber"],
        steps: [
          ["Divert flow", 6, "diver", 2, 12],
          ["Excavate", 9, "mason", 2, 18],
          ["Cast", 14, "mason", 2, 24],
          ["Fit screens", 6, "fitter", 1, 9],
          ["Electro-fish", 3, "ecologist", 2],
        ],
        closes: "Pass runs",
      },
      {
        name: "Monitoring",
        units: ["spring run", "autumn run"],
        steps: [
          ["Count", 20, "ecologist"],
          ["Report", 8, "ecologist"],
        ],
        closes: "Passage proven",
      },
      handover(),
    ],
  },
  {
    code: "SW-05",
    name: "Estuary sampling buoys",
    programme: PROGRAMMES[2],
    manager: "Sunniva Achterberg",
    start: "2026-12-07",
    story: "unapproved",
    promiseDays: 12,
    phases: [
      design(["buoys", "probes"], 7),
      {
        name: "Buoys",
        units: ["upper reach", "middle reach", "lower reach", "bar", "pilot stage"],
        steps: [
          ["Build", 9, "fitter", 1, 12],
          ["Calibrate", 5, "ecologist", 1, 3],
          ["Lay", 4, "skipper", 2],
          ["Watch", 10, "ecologist"],
        ],
        closes: "Samples flow",
      },
      handover(),
    ],
  },
];

/** Projects that go their own way beside the dozen: one closed short of its scope, one in another currency. */
export const ASIDE: readonly DemoProject[] = [
  {
    code: "LG-01",
    name: "Toll house roof",
    programme: PROGRAMMES[0],
    manager: "Wanjiru Castell",
    start: "2026-02-09",
    story: "ordinary",
    promiseDays: 8,
    closedAfter: 3,
    phases: [
      design(["roof"], 6),
      {
        name: "Roof",
        units: ["north slope", "south slope", "lantern"],
        steps: [
          ["Scaffold", 4, "mason", 1, 6],
          ["Strip", 5, "mason", 2],
          ["Slate", 11, "mason", 2, 18],
          ["Lead", 6, "fitter", 1, 9],
        ],
        closes: "Roof tight",
      },
      handover(),
    ],
  },
  {
    code: "FS-08",
    name: "Survey launch, built abroad",
    programme: PROGRAMMES[1],
    manager: "Radu Fennimore",
    start: "2026-08-03",
    story: "ordinary",
    promiseDays: 12,
    money: { currency: "ISK", minorDigits: 0, perEuro: 145 },
    phases: [
      design(["hull", "sonar"], 8),
      {
        name: "Building",
        units: ["hull", "wheelhouse", "engine", "sonar mast"],
        steps: [
          ["Lay down", 6, "welder", 1, 14],
          ["Build", 15, "welder", 2, 40],
          ["Fit out", 9, "fitter", 2, 22],
          ["Prove", 4, "engineer"],
        ],
        closes: "Launch afloat",
      },
      handover(),
    ],
  },
];
