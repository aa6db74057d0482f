import { finishDayOf, formatDate, localMinute } from "../time/instant.ts";
import type { Prepared } from "./prepare.ts";
import { BLOCK_RUNS, simulateBlock, type Block } from "./simulate.ts";

/** A date or cost by how likely it is to be kept. */
export interface Percentiles<T> {
  readonly p10: T;
  readonly p50: T;
  readonly p80: T;
  readonly p90: T;
}

/** How likely dates and costs are, from many runs. Dates `YYYY-MM-DD`, costs in minor units. */
export interface Chances {
  readonly runs: number;
  /** What the plan says without chance: its finish, its cost, and how likely each is kept. */
  readonly finish: { readonly planned: string; readonly chance: number } & Percentiles<string>;
  readonly cost: { readonly planned: number; readonly chance: number } & Percentiles<number>;
  /** How likely the planned finish and the planned cost are both kept, and how far they move together (Pearson). */
  readonly both: { readonly chance: number; readonly correlation: number | null };
  /** How many runs finish on each day, and cost up to each bound. */
  readonly finishes: readonly { readonly date: string; readonly runs: number }[];
  readonly costs: readonly { readonly from: number; readonly to: number; readonly runs: number }[];
  /** Finish and cost of some runs, to be drawn. */
  readonly sample: readonly { readonly date: string; readonly cost: number }[];
  readonly deadlines: readonly { readonly id: string; readonly chance: number }[];
  /** Of activities that vary: in which share of runs they lie on the longest path, and how their length moves the finish (Pearson). */
  readonly activities: readonly {
    readonly id: string;
    readonly criticality: number;
    readonly sensitivity: number | null;
  }[];
}

const COST_BINS = 24;
const SAMPLE = 300;

/** The value that a share of all does not exceed (nearest rank). */
const at = (sorted: Float64Array, share: number): number =>
  sorted[Math.max(0, Math.ceil(share * sorted.length - 1e-9) - 1)]!;

const dateOf = (instant: number): string => formatDate(finishDayOf(localMinute(instant)));

/** Correlation from sums; `null` where either does not vary. */
function pearson(
  n: number,
  { x, xx, xy, y, yy }: { x: number; xx: number; xy: number; y: number; yy: number },
): number | null {
  const spread = (xx - (x * x) / n) * (yy - (y * y) / n);
  return spread > 1e-9 ? (xy - (x * y) / n) / Math.sqrt(spread) : null;
}

/** How many blocks so many runs are. */
export const blocksOf = (runs: number): number => Math.ceil(runs / BLOCK_RUNS);

/** The blocks of a simulation one after another; `onBlock` is told of each. Blocks may as well be computed elsewhere, in any order. */
export function simulate(
  prepared: Prepared,
  seed: number,
  runs: number,
  onBlock: (done: number) => void = () => undefined,
): Block[] {
  return Array.from({ length: blocksOf(runs) }, (_, block) => {
    const made = simulateBlock(prepared, seed, block, Math.min(BLOCK_RUNS, runs - block * BLOCK_RUNS));
    onBlock(block + 1);
    return made;
  });
}

const joined = (parts: readonly Float64Array[]): Float64Array => {
  const all = new Float64Array(parts.reduce((sum, { length }) => sum + length, 0));
  let offset = 0;
  for (const part of parts) {
    all.set(part, offset);
    offset += part.length;
  }
  return all;
};

function costBins(sorted: Float64Array): Chances["costs"] {
  const [least, most] = [sorted[0]!, sorted.at(-1)!];
  if (least === most) return [{ from: Math.round(least), to: Math.round(most), runs: sorted.length }];
  const width = (most - least) / COST_BINS;
  const runs = new Int32Array(COST_BINS);
  for (const cost of sorted) runs[Math.min(COST_BINS - 1, Math.floor((cost - least) / width))]!++;
  return Array.from(runs, (count, i) => ({
    from: Math.round(least + i * width),
    to: Math.round(least + (i + 1) * width),
    runs: count,
  }));
}

/** What the blocks of a simulation come to together, in the order of their numbers. */
export function chancesOf(prepared: Prepared, blocks: readonly Block[]): Chances {
  const { schedule, plan, network, nodes, deadlineNodes, costByNode, costFixed } = prepared;
  const finish = joined(blocks.map((block) => block.finish));
  const cost = joined(blocks.map((block) => block.cost));
  const runs = finish.length;
  const [finishes, costs] = [finish.slice().sort(), cost.slice().sort()];
  const planned = { finish: schedule.finish!, cost: costByNode.reduce((sum, each) => sum + each, costFixed) };
  const within = (i: number): [boolean, boolean] => [finish[i]! <= planned.finish, cost[i]! <= planned.cost + 0.5];
  let [inTime, inCost, both] = [0, 0, 0];
  const byDay = new Map<string, number>();
  const sums = { x: 0, xx: 0, xy: 0, y: 0, yy: 0 };
  for (let i = 0; i < runs; i++) {
    const [time, money] = within(i);
    if (time) inTime++;
    if (money) inCost++;
    if (time && money) both++;
    const date = dateOf(finish[i]!);
    byDay.set(date, (byDay.get(date) ?? 0) + 1);
    const [x, y] = [finish[i]! - planned.finish, cost[i]! - planned.cost];
    sums.x += x;
    sums.xx += x * x;
    sums.xy += x * y;
    sums.y += y;
    sums.yy += y * y;
  }
  const total = (pick: (block: Block) => ArrayLike<number>, i: number): number =>
    blocks.reduce((sum, block) => sum + pick(block)[i]!, 0);
  const [y, yy] = [blocks.reduce((sum, block) => sum + block.y, 0), blocks.reduce((sum, block) => sum + block.yy, 0)];
  const idOf = (node: number): string => plan.activities[network.activityOf[node]!]!.id;
  const percentiles = <T>(sorted: Float64Array, say: (value: number) => T): Percentiles<T> => ({
    p10: say(at(sorted, 0.1)),
    p50: say(at(sorted, 0.5)),
    p80: say(at(sorted, 0.8)),
    p90: say(at(sorted, 0.9)),
  });
  return {
    runs,
    finish: { planned: dateOf(planned.finish), chance: inTime / runs, ...percentiles(finishes, dateOf) },
    cost: { planned: Math.round(planned.cost), chance: inCost / runs, ...percentiles(costs, Math.round) },
    both: { chance: both / runs, correlation: pearson(runs, sums) },
    finishes: [...byDay].sort(([a], [b]) => (a < b ? -1 : 1)).map(([date, count]) => ({ date, runs: count })),
    costs: costBins(costs),
    sample: Array.from({ length: Math.min(SAMPLE, runs) }, (_, i) => ({
      date: dateOf(finish[i]!),
      cost: Math.round(cost[i]!),
    })),
    deadlines: Array.from(deadlineNodes, (node, i) => ({
      id: idOf(node),
      chance: total(({ kept }) => kept, i) / runs,
    })),
    activities: Array.from(nodes, (node, i) => ({
      id: idOf(node),
      criticality: total(({ critical }) => critical, i) / runs,
      sensitivity: pearson(runs, {
        x: total(({ x }) => x, i),
        xx: total(({ xx }) => xx, i),
        xy: total(({ xy }) => xy, i),
        y,
        yy,
      }),
    })),
  };
}
