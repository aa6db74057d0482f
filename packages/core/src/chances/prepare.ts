import { copyOf } from "../time/columns.ts";
import { chosenBaseline } from "../analyse.ts";
import { COMPLETE, FIXED, WORK, type EffortPart, type Network } from "../network/laid/network.ts";
import { schedulePlan, type Schedule } from "../network/schedule.ts";
import { bottomUpByActivity } from "../performance/performance.ts";
import type { ActivityRange, Risk } from "../plan/ownTables.ts";
import type { PlanBundle } from "../plan/schema.ts";
import type { WorkCalendar } from "../time/workCalendar.ts";
import { closeOf, parseDate, workMinutes } from "../time/instant.ts";
import type { ThreePoints } from "./random.ts";

/** Ranges for activities that have none of their own, in percent of what is left. Common practice, no source. */
export const RANGE_CLASSES = {
  exact: { low: 100, likely: 100, high: 100 },
  narrow: { low: 95, likely: 100, high: 115 },
  usual: { low: 90, likely: 100, high: 135 },
  wide: { low: 80, likely: 100, high: 200 },
} as const satisfies Record<string, ActivityRange>;
export type RangeClass = keyof typeof RANGE_CLASSES;

/** What a simulation runs over. */
export interface Uncertain {
  readonly plan: PlanBundle;
  /** By activity. */
  readonly ranges: ReadonlyMap<string, ActivityRange>;
  readonly risks: readonly Risk[];
  /** For activities without a range of their own. */
  readonly otherwise: RangeClass;
  /** How far lengths move together, 0 to 1: by chance each alone, or all as one. */
  readonly correlation: number;
}

/** A risk on the nodes that it bears on. */
interface PlacedRisk {
  readonly probability: number;
  readonly effects: readonly { readonly node: number; readonly minutes: ThreePoints }[];
  readonly cost: ThreePoints | null;
}

/** A plan laid out for many runs: what varies, and what each run is held against. Its calendar is the project's. */
export interface Prepared {
  readonly plan: PlanBundle;
  readonly schedule: Schedule;
  readonly network: Network;
  readonly calendar: WorkCalendar;
  /** Nodes whose length varies, and its three points as a factor. */
  readonly nodes: Int32Array;
  readonly points: readonly ThreePoints[];
  readonly risks: readonly PlacedRisk[];
  /** Cost to come that grows with a node's length, by node; and what is spent or fixed. */
  readonly costByNode: Float64Array;
  readonly costFixed: number;
  /** Nodes with a deadline, and its close. */
  readonly deadlineNodes: Int32Array;
  readonly deadlineCloses: Float64Array;
  readonly correlation: number;
}

/**
 * Lays a plan out for simulation.
 * @throws {PlanProblems} where the plan cannot be scheduled
 */
export function prepare({ plan, ranges, risks, otherwise, correlation }: Uncertain): Prepared {
  const schedule = schedulePlan(plan);
  const { network } = schedule;
  const nodes: number[] = [];
  const points: ThreePoints[] = [];
  for (let node = 0; node < network.count; node++) {
    if (network.kind[node] !== WORK || network.state[node] === COMPLETE) continue;
    const { low, likely, high } =
      ranges.get(plan.activities[network.activityOf[node]!]!.id) ?? RANGE_CLASSES[otherwise];
    if (low === 100 && high === 100) continue;
    nodes.push(node);
    points.push({ low: low / 100, likely: likely / 100, high: high / 100 });
  }
  const nodeAt = (id: string): number => network.nodeOf[schedule.tree.indexOf.get(id) ?? -1] ?? -1;
  const isOpen = (node: number): boolean =>
    node >= 0 && network.kind[node] === WORK && network.state[node] !== COMPLETE;
  const deadlines = plan.activities.flatMap(({ id, deadline }) => {
    const node = deadline === undefined ? -1 : nodeAt(id);
    return node < 0 ? [] : [{ node, close: closeOf(parseDate(deadline!)!) }];
  });
  return {
    plan,
    schedule,
    network,
    calendar: schedule.calendars.get(plan.project.calendar),
    nodes: Int32Array.from(nodes),
    points,
    risks: risks.map(({ probability, effects, costMinor }) => ({
      probability,
      effects: effects.flatMap(({ activity, minutes }) =>
        isOpen(nodeAt(activity)) ? [{ node: nodeAt(activity), minutes }] : [],
      ),
      cost: costMinor ?? null,
    })),
    ...costsOf(plan, schedule),
    deadlineNodes: Int32Array.from(deadlines, ({ node }) => node),
    deadlineCloses: Float64Array.from(deadlines, ({ close }) => close),
    correlation,
  };
}

/** The cost at completion, split into people's work, which grows with an activity's length, and the rest with what is spent. */
function costsOf(plan: PlanBundle, schedule: Schedule): Pick<Prepared, "costByNode" | "costFixed"> {
  const costByNode = new Float64Array(schedule.network.count);
  let costFixed = 0;
  bottomUpByActivity(
    plan,
    schedule,
    chosenBaseline(plan, undefined)?.content ?? null,
    plan.project.dataDate ?? plan.project.start,
  ).forEach((cost, at) => {
    if (cost === null) return;
    const node = schedule.network.nodeOf[at]!;
    if (node >= 0) costByNode[node] = cost.people;
    costFixed += cost.rest + (node >= 0 ? 0 : cost.people);
  });
  return { costByNode, costFixed };
}

/** A copy of the network whose lengths may be written to, node by node. */
export interface Writable {
  readonly network: Network;
  /** Writes the length of a node as a factor of what it is, and minutes added. */
  readonly write: (node: number, factor: number, added: number) => void;
}

export function writable(network: Network): Writable {
  const duration = copyOf(network.duration);
  const parts = new Map<number, { -readonly [K in keyof EffortPart]: EffortPart[K] }[]>();
  for (const [node, own] of network.parts)
    parts.set(
      node,
      own.map((part) => ({ ...part })),
    );
  const write = (node: number, factor: number, added: number): void => {
    const base = network.duration[node]!;
    duration[node] = workMinutes(base === 0 && added === 0 ? 0 : Math.max(1, Math.round(base * factor + added)));
    if (network.finishBy[node] === FIXED) return;
    const own = parts.get(node)!;
    const was = network.parts.get(node)!;
    for (let i = 0; i < own.length; i++)
      own[i]!.minutes = workMinutes(
        was[i]!.minutes === 0 ? 0 : Math.max(1, Math.round(was[i]!.minutes * factor + added)),
      );
  };
  return { network: { ...network, duration, parts }, write };
}
