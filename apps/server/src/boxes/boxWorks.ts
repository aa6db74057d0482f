import type { Box, BoxedRow, Boxes, BoxLookBack } from "@chronometra/contract";
import {
  boxedWork,
  boxesInOrder,
  boxSums,
  burntDown,
  finishDayOf,
  formatDate,
  lookBack,
  planTree,
  standingIn,
  type Activity,
  type BoxedWork,
  type BoxMove,
} from "@chronometra/core";
import type { HeldPlan } from "../plan/held/heldPlan.ts";

/** What rows of a plan with timeboxes are made of. */
class Told {
  readonly works: ReadonlyMap<string, BoxedWork>;
  private readonly people: ReadonlyMap<string, string>;

  constructor(private readonly held: HeldPlan) {
    const { plan, whole } = held;
    this.works = boxedWork(plan, whole.bundle, whole.computed.schedule);
    this.people = new Map([...plan.people.values()].map(({ id, name }) => [id, name]));
  }

  branchesOf({ parent }: Activity): Activity[] {
    const { activities } = this.held.plan;
    const found: Activity[] = [];
    for (let at = activities.get(parent ?? ""); at !== undefined; at = activities.get(at.parent ?? ""))
      found.unshift(at);
    return found;
  }

  row(activity: Activity): BoxedRow {
    const { people, ...work } = this.works.get(activity.id)!;
    const branches = this.branchesOf(activity);
    return {
      ...work,
      name: activity.name,
      path: branches.map(({ name }) => name).join(" / "),
      branches: branches.map(({ id }) => id),
      milestone: activity.kind === "milestone",
      people: people.map((id) => this.people.get(id) ?? id),
      blockedBy: this.held.plan.blocks.get(activity.id)?.by ?? null,
    };
  }

  rows(box: string | null): BoxedRow[] {
    return standingIn(this.held.plan, box).map((activity) => this.row(activity));
  }
}

/** The timeboxes of a plan with what stands in them, and what waits, as of a day. */
function boxes(held: HeldPlan, today: string): Pick<Boxes, "boxes" | "waiting" | "branches"> {
  const { plan, whole } = held;
  const { bundle, computed } = whole;
  const told = new Told(held);
  const branchName = (id: string): string => plan.activities.get(id)?.name ?? id;
  return {
    boxes: boxesInOrder(plan).map((box): Box => {
      const rows = told.rows(box.id);
      const works = rows.map(({ id }) => told.works.get(id)!);
      const sums = boxSums(bundle, computed.schedule, box, works, today);
      const live = new Set(works.flatMap(({ id, parked }) => (parked ? [] : [id])));
      const { id, name, first, last, branch } = box;
      return {
        ...{ id, name, first, last, works: rows },
        branch: branch === undefined ? null : { id: branch, name: branchName(branch) },
        ...sums,
        burnt: burntDown(bundle, box, live, sums.leftMinutes, today),
      };
    }),
    waiting: told.rows(null).filter(({ state, parked }) => state !== "complete" && !parked),
    branches: [...plan.activities.values()].flatMap(({ id, kind, name }) => (kind === "summary" ? [{ id, name }] : [])),
  };
}

/** What was meant for a timebox, and what became of it. */
function boxLookBack(
  { plan, whole: { bundle, computed } }: HeldPlan,
  { box, moves }: { readonly box: string; readonly moves: readonly BoxMove[] },
): BoxLookBack | null {
  const found = plan.timeboxes.get(box);
  if (found === undefined) return null;
  const { indexOf } = planTree(bundle.activities);
  const works = boxedWork(plan, bundle, computed.schedule);
  const finishedOn = (id: string): string | null => {
    const row = computed.schedule.rows[indexOf.get(id) ?? -1] ?? null;
    return row === null || row.state !== "complete" ? null : formatDate(finishDayOf(row.finish));
  };
  // What nobody ever moved has stood where it stands for as long as anyone knows.
  const moved = new Set(moves.map(({ activity }) => activity));
  const always = [...plan.boxed].flatMap(([activity, { box: at = null }]): BoxMove[] =>
    moved.has(activity) ? [] : [{ activity, on: null, box: at }],
  );
  return {
    lines: lookBack(found, [...always, ...moves], finishedOn).map(({ to, ...line }) => ({
      ...line,
      name: plan.activities.get(line.activity)?.name ?? null,
      plannedMinutes: works.get(line.activity)?.plannedMinutes ?? 0,
      to: to === null ? null : (plan.timeboxes.get(to)?.name ?? null),
    })),
  };
}

/** What is worked out over a plan for work by timeboxes. */
export const BOX_WORKS = { boxes, boxLookBack };
