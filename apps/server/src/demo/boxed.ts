import {
  boxesInOrder,
  boxSeries,
  carriedOver,
  applyChanges,
  formatDate,
  placedIn,
  schedulePlan,
  standingIn,
  toBundle,
  type Change,
  type Plan,
  type Timebox,
} from "@chronometra/core";
import { at, change, planOf, type LiveProject, type World } from "./world.ts";

/** The launch is refitted by fortnights since the dark months: the yard takes as much as it has hands for. */
const BY_FORTNIGHTS = "FS-04";
const SERIES = {
  ...{ name: "Fortnight", number: 1, first: "2026-10-05", count: 9, branch: null },
  length: { count: 2, unit: "weeks" as const },
};
const IN_ONE = 4;

/** What of the plan would be worked in a box and stands in none, as many as fit, the earliest first. */
function dueIn(plan: Plan, { first, last }: Timebox, room: number): string[] {
  const bundle = toBundle(plan);
  const { rows } = schedulePlan(bundle);
  const due = bundle.activities.flatMap(({ id, kind = "work" }, i) => {
    const row = rows[i];
    if (row == null || kind !== "work" || row.state === "complete" || plan.boxed.has(id)) return [];
    return formatDate(row.startDay) <= last && formatDate(row.finishDay) >= first ? [{ id, start: row.start }] : [];
  });
  return due
    .sort((a, b) => a.start - b.start)
    .slice(0, Math.max(0, room))
    .map(({ id }) => id);
}

/** Moves what was not done in the boxes that are over into the next, and fills boxes up to one that begins by then. */
function filledUntil(plan: Plan, day: string, boxes: number): Change[] {
  const all: Change[] = [];
  let known = plan;
  const take = (changes: readonly Change[]): void => {
    all.push(...changes);
    known = applyChanges(known, changes).plan;
  };
  const order = boxesInOrder(plan);
  const next = order.findIndex(({ last }) => last >= day);
  for (const box of order.slice(0, next)) take(carriedOver(known, box.id, order[next]!.id));
  for (const box of order.slice(next, next + boxes)) {
    const room = IN_ONE - standingIn(known, box.id).length;
    const due = dueIn(known, box, room);
    if (due.length > 0) take(placedIn(known, due, box.id, null));
  }
  return all;
}

/** What a project that is worked by timeboxes does as a period begins. */
export async function fillBoxes(world: World, { demo, id, manager }: LiveProject, day: string): Promise<void> {
  if (demo.code !== BY_FORTNIGHTS || day < "2026-09") return;
  const plan = await planOf(world.database, id);
  if (plan.timeboxes.size === 0) {
    let made = 0;
    const series = boxSeries(plan, SERIES, () => `fortnight-${++made}`);
    await change(world, id, manager, series, "Worked by fortnights until the spring", at(day, "09:00"));
  }
  const filled = filledUntil(await planOf(world.database, id), day, 2);
  await change(world, id, manager, filled, "Fortnights filled", at(day, "10:00"));
}

/** A deliverable of many parts: what the launch needs before it is on station. */
export async function gatheredInDemo(world: World, { demo, id, manager }: LiveProject): Promise<void> {
  if (demo.code !== BY_FORTNIGHTS) return;
  const plan = await planOf(world.database, id);
  const [onStation] = [...plan.activities.values()].filter(({ name }) => name === "Launch on station");
  const refit = [...plan.activities.values()].find(({ name, kind }) => name === "Refit" && kind === "summary");
  const isBelow = (parent: string | undefined): boolean =>
    parent !== undefined && (parent === refit!.id || isBelow(plan.activities.get(parent)?.parent));
  const parts = [...plan.activities.values()].filter(({ kind = "work", parent }) => kind === "work" && isBelow(parent));
  const changes = parts.map(({ id: key }): Change => {
    return { type: "addRow", table: "gathered", key, row: { milestone: onStation!.id } };
  });
  await change(world, id, manager, changes, "What the launch needs, gathered", at("2026-11-20", "12:00"));
}
