import { emptyDates, forwardPass, NodeOutsideHorizon, type EarlyDates } from "../network/forwardPass.ts";
import { longestPath } from "../network/longestPath.ts";
import type { Network } from "../network/laid/network.ts";
import { PlanProblems } from "../plan/problem.ts";
import { writable, type Prepared } from "./prepare.ts";
import { normalBelow, normalOf, randomOf, triangularAt } from "./random.ts";

/** Runs that are computed together; sums are added block by block, so that the answer is the same whoever computes which. */
export const BLOCK_RUNS = 250;

/** What a block of runs came to. */
export interface Block {
  /** Finish of each run as an instant, and cost in minor units. */
  readonly finish: Float64Array;
  readonly cost: Float64Array;
  /** Runs in which each deadline was kept, and in which each varying node lay on the longest path. */
  readonly kept: Int32Array;
  readonly critical: Int32Array;
  /** Of each varying node: sums of its factor, its square, and its product with the finish; of the finish: sum and sum of squares. */
  readonly x: Float64Array;
  readonly xx: Float64Array;
  readonly xy: Float64Array;
  readonly y: number;
  readonly yy: number;
}

/** What a run draws, written over by the next one. */
interface Drawn {
  /** By node: the length as a factor of what it is, and minutes that risks add. */
  readonly factor: Float64Array;
  readonly added: Float64Array;
  /** What risks cost. */
  cost: number;
}

/** Draws lengths, which move together through one common normal factor (Gaussian copula). */
function drawLengths({ nodes, points, correlation }: Prepared, random: () => number, { factor }: Drawn): void {
  const [together, alone] = [Math.sqrt(correlation), Math.sqrt(1 - correlation)];
  const common = correlation > 0 ? normalOf(random) : 0;
  for (let i = 0; i < nodes.length; i++) {
    const share = correlation > 0 ? normalBelow(together * common + alone * normalOf(random)) : random();
    factor[nodes[i]!] = triangularAt(points[i]!, share);
  }
}

/** Draws which risks come about. Their effects are drawn whether they do or not: what comes after is then the same either way. */
function drawRisks({ risks }: Prepared, random: () => number, drawn: Drawn): void {
  drawn.added.fill(0);
  drawn.cost = 0;
  for (const { probability, effects, cost } of risks) {
    const happens = random() < probability ? 1 : 0;
    for (const { node, minutes } of effects) drawn.added[node]! += happens * triangularAt(minutes, random());
    if (cost !== null) drawn.cost += happens * triangularAt(cost, random());
  }
}

/**
 * One block of a simulation (Monte Carlo): lengths are drawn from triangular distributions, risks come about or not, and
 * the network is passed forward each time.
 * @param block its number, from 0
 * @throws {PlanProblems} where a run leaves the horizon
 */
export function simulateBlock(prepared: Prepared, seed: number, block: number, runs = BLOCK_RUNS): Block {
  const { nodes, risks, schedule, calendar, costByNode, costFixed, deadlineNodes, deadlineCloses } = prepared;
  const { network, write } = writable(prepared.network);
  const column = (): Float64Array => new Float64Array(nodes.length);
  const found = {
    finish: new Float64Array(runs),
    cost: new Float64Array(runs),
    kept: new Int32Array(deadlineNodes.length),
    critical: new Int32Array(nodes.length),
    x: column(),
    xx: column(),
    xy: column(),
    y: 0,
    yy: 0,
  };
  const drawn: Drawn = {
    factor: new Float64Array(network.count).fill(1),
    added: new Float64Array(network.count),
    cost: 0,
  };
  const varying = [...new Set([...nodes, ...risks.flatMap(({ effects }) => effects.map(({ node }) => node))])];
  const origin = calendar.indexAt(schedule.finish!);
  const early = emptyDates(network.count);
  for (let run = 0; run < runs; run++) {
    const random = randomOf(seed, block * BLOCK_RUNS + run);
    drawLengths(prepared, random, drawn);
    drawRisks(prepared, random, drawn);
    for (const node of varying) write(node, drawn.factor[node]!, drawn.added[node]!);
    passForward(prepared, network, early);
    const onPath = longestPath(network, early);
    const y = calendar.indexAt(early.latestFinish) - origin;
    found.y += y;
    found.yy += y * y;
    for (let i = 0; i < nodes.length; i++) {
      const x = drawn.factor[nodes[i]!]! - 1;
      found.x[i]! += x;
      found.xx[i]! += x * x;
      found.xy[i]! += x * y;
      found.critical[i]! += onPath[nodes[i]!]!;
    }
    for (let i = 0; i < deadlineNodes.length; i++)
      if (early.finishAt[deadlineNodes[i]!]! <= deadlineCloses[i]!) found.kept[i]!++;
    let cost = costFixed + drawn.cost;
    for (let node = 0; node < network.count; node++) cost += costByNode[node]! * drawn.factor[node]!;
    found.finish[run] = early.latestFinish;
    found.cost[run] = cost;
  }
  return found;
}

function passForward({ plan, schedule }: Prepared, network: Network, early: EarlyDates): void {
  try {
    forwardPass(network, early);
  } catch (error) {
    if (!(error instanceof NodeOutsideHorizon)) throw error;
    const activity = plan.activities[schedule.network.activityOf[error.node]!]!;
    throw new PlanProblems([
      {
        table: "activities",
        row: activity.id,
        field: "",
        message: "in some runs its dates leave 1990 to 2099; look at its range, the risks on it and its duration",
      },
    ]);
  }
}
