import type { Me, NewMatter, Tie } from "@chronometra/contract";
import { listMatters } from "../matters/listMatters.ts";
import { raiseMatter } from "../matters/raise/raiseMatters.ts";
import { writeMatter } from "../matters/writeMatters.ts";
import { UNTOLD, planOf, type LiveProject, type World } from "./world.ts";

/** How severe risks were taken to be in the beginning, by project and name. */
const FIRST_SEEN: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  "LG-02": {
    "The harbour office moves the traffic window": "serious",
    "The sill is worse than surveyed": "noticed",
    "Spring floods over the cofferdam": "grave",
  },
  "FS-01": { "Storms close the outer works": "serious", "The divers are called to the lock": "noticed" },
  "FS-03": { "Old anchors lie in the cut": "noticed" },
};

/** What is said of a risk later on; the activity is one that is tied to it, by its name. */
interface LaterSaid {
  readonly severity?: string;
  readonly chance?: number;
  readonly strategy?: "avoid" | "reduce" | "transfer" | "accept";
  readonly response?: string;
  readonly residual?: { readonly chance: number; readonly severity: string };
  readonly proximity?: string;
  readonly due?: string;
  readonly tiedTo?: string;
}

const LATER: Readonly<Record<string, Readonly<Record<string, LaterSaid>>>> = {
  "LG-02": {
    "The sill is worse than surveyed": {
      severity: "grave",
      strategy: "reduce",
      response:
        "Divers look at the south sill before the cofferdam is set. If it is worse, the winter stand-by plant comes, so that the works go on through January.",
      residual: { chance: 0.2, severity: "serious" },
      proximity: "2026-12-18",
      due: "2026-12-11",
      tiedTo: "Winter stand-by plant",
    },
    "Spring floods over the cofferdam": { strategy: "transfer", response: "Insured against, from 1 February on." },
  },
  "FS-01": {
    "Storms close the outer works": {
      chance: 0.75,
      strategy: "accept",
      response: "Work moves to the sheltered side while a gale is forecast.",
    },
  },
  "FS-03": { "Old anchors lie in the cut": { chance: 0.2, residual: { chance: 0.05, severity: "noticed" } } },
};

/** What was raised, by project; the house's under no code. */
interface Raised extends Omit<NewMatter, "project" | "group" | "ties" | "owner"> {
  readonly by?: string;
  readonly tiedTo?: string;
  readonly response?: string;
  readonly isSettled?: true;
}

const RAISED: Readonly<Record<string, readonly Raised[]>> = {
  "LG-02": [
    {
      kind: "action",
      title: "Order the spare limit switches",
      text: "The maker needs five weeks; without them nobody can seal the drives.",
      due: "2026-11-20",
      severity: "serious",
      by: "Amadou Keller",
      tiedTo: "Align drives, north chamber",
    },
    {
      kind: "issue",
      title: "The barge of the yard is laid up until the new year",
      text: "Its winch failed on 19 November. Another barge is asked for at the harbour office.",
      severity: "grave",
      due: "2026-12-09",
      tiedTo: "Hang leaves, middle wall",
    },
    {
      kind: "decision",
      title: "The leaves are hung in two tides instead of one",
      response:
        "One tide leaves twenty minutes to pin a leaf, and the trial took thirty. Two tides cost a week, which the baseline of July has in it.",
      isSettled: true,
    },
    { kind: "assumption", title: "The yard keeps two berths free", due: "2027-01-15" },
    {
      kind: "lesson",
      title: "Ask the nursery about quiet nights before the shifts are planned",
      response: "Put it among what must be true at the gate “Worth doing”.",
    },
  ],
  "FS-01": [
    {
      kind: "issue",
      title: "Armour stone of section D is smaller than asked for",
      severity: "serious",
      due: "2026-12-04",
      response: "The quarry sorts it again; a third was taken back.",
    },
    { kind: "action", title: "Agree storm days with the fishery office", due: "2026-12-15" },
  ],
  "": [
    {
      kind: "decision",
      title: "Which works rest over the holidays",
      text: "Cold, tides and leave come together; the authority says by mid-December which sites stand still.",
      due: "2026-12-14",
    },
  ],
};

const tieTo = async ({ database }: World, id: string, name: string | undefined): Promise<Tie[]> => {
  const found = [...(await planOf(database, id)).activities.values()].find((activity) => activity.name === name);
  return found === undefined ? [] : [{ about: "activity", id: found.id }];
};

/** Writes what is said of risks as they stand in the register. */
async function sayOfRisks(
  world: World,
  projects: readonly LiveProject[],
  said: Readonly<Record<string, Readonly<Record<string, LaterSaid>>>>,
): Promise<void> {
  for (const { demo, id, manager } of projects) {
    const { matters } = await listMatters(world.database, manager, { project: id, kind: "risk", all: "1" });
    for (const risk of matters) {
      const later = said[demo.code]?.[risk.title];
      if (later === undefined) continue;
      const { tiedTo, ...fields } = later;
      const writes = Object.entries(fields).map(([field, value]) => ({
        field,
        was: risk[field as keyof typeof fields],
        value,
      }));
      const ties = await tieTo(world, id, tiedTo);
      await writeMatter(world.database, manager, UNTOLD, risk.id, {
        writes: [...writes, { field: "ties", was: [], value: ties }] as never,
      });
    }
  }
}

/** What the demo knew of its risks before the first period. */
export const risksInDemo = (world: World, projects: readonly LiveProject[]): Promise<void> =>
  sayOfRisks(
    world,
    projects,
    Object.fromEntries(
      Object.entries(FIRST_SEEN).map(([code, risks]) => [
        code,
        Object.fromEntries(Object.entries(risks).map(([name, severity]) => [name, { severity }])),
      ]),
    ),
  );

async function raise(world: World, me: Me, project: LiveProject | null, raised: Raised): Promise<void> {
  const { by, tiedTo, response, isSettled, ...asked } = raised;
  const { database, accounts } = world;
  const owner = [...accounts.values()].find(({ name }) => name === by)?.id ?? me.id;
  const ties = project === null ? [] : await tieTo(world, project.id, tiedTo);
  const { matter } = await raiseMatter(database, me, UNTOLD, {
    ...asked,
    project: project?.id ?? null,
    group: null,
    owner,
    ties,
  });
  if (response !== undefined)
    await writeMatter(database, me, UNTOLD, matter.id, { writes: [{ field: "response", was: "", value: response }] });
  if (isSettled === true)
    await writeMatter(database, me, UNTOLD, matter.id, { writes: [{ field: "state", was: "open", value: "settled" }] });
}

/** What stands in the demo's registers by now: a risk about to strike with parked work behind it, and what else came. */
export async function registersInDemo(world: World, projects: readonly LiveProject[]): Promise<void> {
  await sayOfRisks(world, projects, LATER);
  for (const [code, all] of Object.entries(RAISED)) {
    const project = projects.find(({ demo }) => demo.code === code) ?? null;
    for (const each of all) await raise(world, project?.manager ?? world.controller, project, each);
  }
}
