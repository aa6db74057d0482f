import type { LifeCycle, Me, WriteGates } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { askGate, decideGate } from "../gates/deciding.ts";
import { writeMatter } from "../matters/writeMatters.ts";
import { writeLifeCycle } from "../gates/lifeCycles.ts";
import { viewGates, writeGates } from "../gates/projectGates.ts";
import { UNTOLD } from "./world.ts";

const RENEWAL: LifeCycle = {
  kind: "Renewal of works that stand",
  stages: [
    {
      id: "case",
      name: "Case for it",
      gate: "Worth doing",
      conditions: [
        { id: "purpose", kind: "confirmed", text: "Purpose and benefits are written down" },
        { id: "survey", kind: "confirmed", text: "The survey of what stands is not older than a year" },
      ],
    },
    {
      id: "planning",
      name: "Planning",
      gate: "Plan approved",
      conditions: [
        { id: "frozen", kind: "baseline" },
        { id: "sound", kind: "plan", fitness: "mend" },
      ],
    },
    {
      id: "works",
      name: "Works",
      gate: "Works complete",
      conditions: [
        { id: "made", kind: "deliverables" },
        { id: "cost", kind: "cost", percent: 10 },
        { id: "promises", kind: "deadlines" },
        { id: "free", kind: "unblocked" },
      ],
    },
    {
      id: "handing",
      name: "Handing over",
      gate: "Taken over",
      conditions: [
        { id: "told", kind: "issued" },
        { id: "taken", kind: "confirmed", text: "The harbour office runs it by itself" },
      ],
    },
  ],
};
const NEW: LifeCycle = {
  kind: "New installation",
  stages: [
    {
      id: "idea",
      name: "Proposal",
      gate: "Worth planning",
      conditions: [
        { id: "why", kind: "confirmed", text: "Purpose is written down" },
        { id: "where", kind: "confirmed", text: "The sites are agreed with the pilots" },
      ],
    },
    { id: "trial", name: "Trial", gate: "Worth building", conditions: [{ id: "limit", kind: "cost", percent: 15 }] },
    {
      id: "build",
      name: "Building",
      gate: "In service",
      conditions: [
        { id: "done", kind: "deliverables" },
        { id: "late", kind: "drift", days: 20 },
      ],
    },
  ],
};

/** A demo project, to whoever manages it. */
interface Managed {
  readonly id: string;
  readonly manager: Me;
}

interface Told {
  readonly database: DataSource;
  readonly controller: Me;
  readonly approver: Me;
  readonly project: (code: string) => Managed;
}

const RENEWAL_ID = "renewal";
const NEW_ID = "installation";
async function confirmed(
  { database }: Told,
  { id, manager }: Managed,
  stage: string,
  condition: string,
): Promise<void> {
  await writeGates(database, manager, id, { field: "confirmed", stage, condition, was: false, value: true });
}

/** The life cycles there are, and the first gates of the lock's renewal, before its works began. */
export async function gatesInDemo(told: Told): Promise<void> {
  const { database, controller, approver } = told;
  for (const [id, value] of [
    [RENEWAL_ID, RENEWAL],
    [NEW_ID, NEW],
  ] as const)
    await writeLifeCycle(database, controller, id, { was: null, value });
  const lock = told.project("LG-02");
  const write = (written: WriteGates): Promise<unknown> => writeGates(database, lock.manager, lock.id, written);
  await write({ field: "lifeCycle", was: null, value: RENEWAL_ID });
  await write({ field: "decider", stage: "works", was: null, value: approver.id });
  const plan = await viewGates(database, controller, lock.id);
  const opening = plan.milestones.find(({ name }) => name === "Open to traffic");
  if (opening !== undefined) await write({ field: "due", stage: "works", was: null, value: { activity: opening.id } });
  await confirmed(told, lock, "case", "purpose");
  const pass = async (stage: string, word: string, days: readonly [string, string], rest: object): Promise<void> => {
    const [askedOn, decidedOn] = days.map((day) => new Date(`${day}T10:00:00Z`));
    const { asked } = await askGate(database, lock.manager, UNTOLD, lock.id, { stage, word }, askedOn);
    const decision = { decision: "passed" as const, word: "Go on.", actions: [], ...rest };
    await decideGate(database, approver, UNTOLD, lock.id, { stage, asked: asked!.id, ...decision }, decidedOn);
  };
  await pass("case", "The divers survey the sill as soon as the ice is gone.", ["2026-01-12", "2026-01-14"], {
    decision: "conditional",
    word: "The gates cannot wait, and the sill can.",
    actions: [
      {
        what: "Survey the sill, and show what it says to the harbour office",
        owner: "Tomas Lindqvist",
        due: "2026-03-31",
      },
      { what: "Ask the nursery when nights must be quiet", owner: "Harbour master", due: "2026-02-15" },
    ],
  });
  const nights = (await viewGates(database, lock.manager, lock.id)).events[0]!.actions[1]!;
  await writeMatter(database, lock.manager, UNTOLD, nights.id, {
    writes: [{ field: "state", was: "open", value: "settled" }],
  });
  await pass("planning", "", ["2026-01-26", "2026-01-28"], {});
}

/** What waits now: the buoys ask whether they are worth planning. */
export async function askedInDemo(told: Told, post: Parameters<typeof askGate>[2]): Promise<void> {
  const { database } = told;
  const buoys = told.project("SW-05");
  await writeGates(database, buoys.manager, buoys.id, { field: "lifeCycle", was: null, value: NEW_ID });
  await writeGates(database, buoys.manager, buoys.id, {
    field: "due",
    stage: "idea",
    was: null,
    value: { date: "2026-12-11" },
  });
  await confirmed(told, buoys, "idea", "why");
  const word = "The pilots meet on the 9th; their word comes after.";
  await askGate(database, buoys.manager, post, buoys.id, { stage: "idea", word });
}
