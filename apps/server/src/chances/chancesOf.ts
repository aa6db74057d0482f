import { availableParallelism } from "node:os";
import { MessageChannel } from "node:worker_threads";
import type { ChancesRequest, ChancesView } from "@chronometra/contract";
import {
  activityNames,
  blocksOf,
  openRisks,
  toBundle,
  type PlanBundle,
  type SimulatedBlock,
  type Uncertain,
} from "@chronometra/core";
import type { DataSource } from "typeorm";
import { loadPlan } from "../plan/stored/planStore.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { Failure } from "../shared/failure.ts";
import { inWorker } from "../shared/workers.ts";
import type { Drawn } from "./drawnWorker.ts";

const THREADS = Math.min(2, availableParallelism());

/** What a simulation needs of a plan: its past is in its progress, and what was spent in one sum. */
const forWorkers = (bundle: PlanBundle): PlanBundle => ({ ...bundle, baselines: [] });

/** All blocks, shared out among the worker threads and put in their order again. */
async function simulated(
  uncertain: Uncertain,
  { seed, runs }: ChancesRequest,
  onShare: (share: number) => void,
  signal: AbortSignal,
): Promise<SimulatedBlock[]> {
  const count = blocksOf(runs);
  let done = 0;
  const made = await Promise.all(
    Array.from({ length: Math.min(THREADS, count) }, async (_, thread) => {
      const blocks = Array.from({ length: count }, (_each, block) => block).filter(
        (block) => block % THREADS === thread,
      );
      const { port1, port2 } = new MessageChannel();
      port1.on("message", () => onShare(++done / count));
      const found = await inWorker<SimulatedBlock[] | { fault: string }>(
        "chances/chancesWorker",
        { uncertain, seed, runs, blocks, port: port2 },
        { transferList: [port2], signal },
      ).finally(() => port1.close());
      if ("fault" in found) throw new Failure("invalid", found.fault);
      return found.map((block, i) => ({ block, number: blocks[i]! }));
    }),
  );
  return made
    .flat()
    .sort((a, b) => a.number - b.number)
    .map(({ block }) => block);
}

/**
 * How likely a project's dates and costs are.
 * @param onShare told the share that is done, 0 to 1
 * @param signal ends the work
 */
export async function chancesOfProject(
  database: DataSource,
  project: ProjectEntity,
  asked: ChancesRequest,
  onShare: (share: number) => void,
  signal: AbortSignal,
): Promise<ChancesView> {
  const plan = await loadPlan(database.manager, project);
  const bundle = forWorkers(toBundle(plan));
  const uncertain: Uncertain = {
    plan: bundle,
    ranges: new Map(plan.ranges),
    risks: openRisks(plan.risks),
    otherwise: asked.otherwise,
    correlation: asked.correlation,
  };
  const blocks = await simulated(uncertain, asked, onShare, signal);
  const drawn = await inWorker<Drawn>("chances/drawnWorker", { uncertain, blocks }, { signal });
  const names = activityNames(plan.activities.values());
  const nameOf = (id: string): string => plan.activities.get(id)!.name;
  const { deadlines, activities, open, ...chances } = drawn;
  return {
    asked,
    revision: project.revision,
    currency: plan.project.currency,
    minorDigits: plan.project.minorDigits ?? 2,
    ...chances,
    deadlines: deadlines.map(({ id, chance }) => ({
      id,
      name: nameOf(id),
      deadline: plan.activities.get(id)!.deadline!,
      chance,
    })),
    activities: activities.map((each) => ({ ...each, name: nameOf(each.id), range: plan.ranges.get(each.id) ?? null })),
    open: open.map((id) => ({ id, name: names.of(id) })),
    risks: openRisks(plan.risks),
    bornOn: [...new Set(openRisks(plan.risks).flatMap(({ effects }) => effects.map(({ activity }) => activity)))].map(
      (id) => ({ id, name: nameOf(id) }),
    ),
  };
}
