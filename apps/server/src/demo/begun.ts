import type { BeginAsked, Me } from "@chronometra/contract";
import type { Change } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { begin } from "../begin/beginService.ts";
import { makeTemplate } from "../begin/templates.ts";
import { ProgrammeEntity } from "../project/projectEntity.ts";
import { PROGRAMMES } from "./invented/projects.ts";
import { approve, at, change, planOf, type LiveProject, type World } from "./world.ts";

const ALL = { people: "people", costs: true, risks: true, deadlines: true, charter: true, documents: false } as const;

/**
 * A template of the lock's renewal, for the locks that come next: roles for people, a chamber as often as there are.
 */
async function templateInDemo(database: DataSource, manager: Me, project: string, branch: string): Promise<void> {
  await makeTemplate(database, manager, {
    name: "Renewal of lock gates",
    description:
      "Design, making and fitting of gates as they were done at the north lock, with the lags that were learnt there. " +
      "A chamber has two leaves and a drive.",
    repeats: [{ activity: branch, ask: "How many chambers are fitted?", inTurn: true }],
    project,
    branch: null,
    along: { ...ALL, people: "roles" },
  });
}

/** The move of the harbour office, which nobody plans in steps: months with a budget, and a day to be out by. */
const MOVE: Omit<BeginAsked, "programme"> = {
  code: "LG-09",
  name: "Harbour office moves",
  parts: [
    {
      source: {
        currency: "EUR",
        stages: [
          { name: "Packing, November", from: "2026-11-02", to: "2026-11-30", budgetMinor: 1_200_000 },
          { name: "Carrying, December", from: "2026-12-01", to: "2026-12-18", budgetMinor: 2_600_000 },
          { name: "Settling in, January", from: "2027-01-04", to: "2027-01-29", budgetMinor: 900_000 },
        ],
        milestones: [{ name: "Old office handed back", date: "2027-01-29" }],
      },
      times: {},
    },
  ],
  along: ALL,
  date: { asIs: true },
  roles: {},
  purpose: "The lease of the old office ends in January.",
  deliverables: ["Old office swept and handed back"],
};
/** The stage that is under way, and how far it is said to be by hand. */
const MOVE_UNDER_WAY = { activity: "stage-1", actualStart: "2026-11-02", percent: 85 } as const;

/**
 * What is begun with others, and without a plan.
 * @param dataDate that of the open period
 */
export async function begunInDemo(world: World, projects: readonly LiveProject[], dataDate: string): Promise<void> {
  const { database } = world;
  const lock = projects.find(({ demo }) => demo.code === "LG-02")!;
  const branch = [...(await planOf(database, lock.id)).activities.values()].find(
    ({ name, kind }) => kind === "summary" && /chamber/i.test(name),
  );
  await templateInDemo(database, lock.manager, lock.id, branch!.id);
  const manager = world.accounts.get("Wanjiru Castell")!;
  const programme = await database.getRepository(ProgrammeEntity).findOneByOrFail({ name: PROGRAMMES[0] });
  const { project: id } = await begin(database, manager, { ...MOVE, programme: programme.id });
  await approve(world, id, manager, "Months and budget as agreed with the board.", "Agreed.", "2026-10-28");
  const { activity, ...progress } = MOVE_UNDER_WAY;
  const said: Change[] = [
    { type: "setDataDate", date: dataDate },
    { type: "reportProgress", activity, ...progress },
  ];
  await change(world, id, manager, said, "Percent said by hand", at(dataDate, "12:00"));
}
