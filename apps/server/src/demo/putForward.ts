import type { Change } from "@chronometra/core";
import { putForward } from "../approve/mergeWhatIf.ts";
import { enterReserve } from "../approve/reserves.ts";
import { beginWhatIf, changeWhatIf } from "../approve/whatIfService.ts";
import { writeProject } from "../plan/writeProjects.ts";
import { POST, at, planOf, type LiveProject, type World } from "./world.ts";

/** Reserves in two projects, a change request that waits for the approver, and something only tried. */
export async function putForwardInDemo(world: World, projects: readonly LiveProject[]): Promise<void> {
  const { database } = world;
  const of = (code: string): LiveProject => projects.find(({ demo }) => demo.code === code)!;
  for (const [code, kind, amountMinor] of [
    ["LG-02", "contingency", 6_000_000],
    ["LG-02", "management", 9_000_000],
    ["FS-01", "contingency", 4_000_000],
  ] as const) {
    await writeProject(database, world.controller, of(code).id, ({ manager }, { id }) =>
      enterReserve(
        manager,
        world.controller,
        id,
        { kind, amountMinor, reason: "Set aside with the first baseline" },
        at("2026-02-05"),
      ),
    );
  }
  const tried = async (code: string, name: string, days: number): Promise<string> => {
    const { id, manager } = of(code);
    const plan = await planOf(database, id);
    const next = [...plan.activities.values()]
      .filter(
        ({ kind, parked, actualStart, durationMinutes }) =>
          kind === undefined &&
          parked !== true &&
          actualStart === undefined &&
          (durationMinutes ?? 0) > (days + 1) * 480,
      )
      .slice(0, 3);
    const whatIf = await beginWhatIf(database, manager, id, name);
    await changeWhatIf(
      database,
      manager,
      whatIf.id,
      0,
      [
        ...next.map(({ id: activity, durationMinutes }): Change => ({
          type: "setDuration",
          activity,
          minutes: durationMinutes! - days * 480,
        })),
        {
          type: "addRow",
          table: "costs",
          key: "second-crew",
          row: { id: "second-crew", activity: next[0]!.id, category: "subcontract", plannedMinor: 1_800_000 },
        },
      ],
      "A second crew",
    );
    return whatIf.id;
  };
  await putForward(
    database,
    POST,
    of("LG-02").manager,
    await tried("LG-02", "Second fitting crew for the south chamber", 3),
    "The traffic window in February is lost otherwise",
    { kind: "contingency", amountMinor: 1_800_000 },
  );
  await tried("SW-04", "Night work on the pools", 2);
}
