import type { Box, Boxes, BoxLookBack, GatheredView } from "@chronometra/contract";
import {
  addSums,
  boxedWork,
  boxesInOrder,
  boxSums,
  burntDown,
  finishDayOf,
  formatDate,
  gatheredBy,
  gatheredSums,
  gatheredTrend,
  lookBack,
  NO_SUMS,
  planTree,
  ratio,
  type BoxMove,
} from "@chronometra/core";
import type { HeldPlan } from "../plan/held/heldPlan.ts";
import { summarise } from "../writers/summarise.ts";
import { Told } from "./told.ts";

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
  // What nobody ever moved stood there from the beginning.
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

/** A milestone with what it gathers, as of a day. */
function gathered(
  held: HeldPlan,
  { milestone: id, today }: { readonly milestone: string; readonly today: string },
): Omit<GatheredView, "revision" | "mayEdit"> | null {
  const { plan, whole } = held;
  const found = summarise(whole).milestones.find((each) => each.id === id);
  const milestone = plan.activities.get(id);
  if (milestone?.kind !== "milestone") return null;
  const told = new Told(held);
  const { performance } = whole.computed;
  const position = new Map(whole.bundle.activities.map((activity, i) => [activity.id, i]));
  const works = gatheredBy(plan, id).map((part) => told.works.get(part)!);
  const linked = new Set([...plan.links.values()].flatMap(({ from, to }) => (to === id ? [from] : [])));
  const { bac, ev } = works
    .filter(({ parked }) => !parked)
    .reduce((sum, work) => addSums(sum, performance?.activities[position.get(work.id)!] ?? NO_SUMS), NO_SUMS);
  return {
    ...{ id, name: milestone.name, now: found?.forecast ?? null, baseline: found?.baseline ?? null },
    ...{ deadline: milestone.deadline ?? null, drift: found?.drift ?? null, reached: found?.reached ?? false },
    ...gatheredSums(works),
    blocked: works.filter((work) => !work.parked && plan.blocks.has(work.id)).length,
    percentComplete: bac === 0 ? null : ratio(ev, bac),
    works: works.map((work) => ({ ...told.row(plan.activities.get(work.id)!), linked: linked.has(work.id) })),
    trend: gatheredTrend(whole.bundle, works, today),
  };
}

/** What is worked out over a plan for work by timeboxes, and for milestones that gather. */
export const BOX_WORKS = { boxes, boxLookBack, gathered };
