import { PlanProblems, type Plan } from "@chronometra/core";
import { Failure } from "../../shared/failure.ts";
import { onThread } from "../../shared/workers.ts";
import type { PlanWork, PlanWorks } from "./heldPlan.ts";
import type { PlanAnswer, PlanJob } from "./planThread.ts";

let threadFile: string | undefined;

/** Says where the file is that answers for plans on threads of their own, with all that rooms above have them do. */
export const computePlansIn = (file: string): void => void (threadFile = file);

const tags = new WeakMap<Plan, number>();
let lastTag = 0;

/** What a plan is called between this thread and those for plans. */
export function tagOf(plan: Plan): number {
  const tag = tags.get(plan) ?? ++lastTag;
  tags.set(plan, tag);
  return tag;
}

type Asked<W extends PlanWork> = Parameters<W> extends [unknown, infer A] ? [asked: A] : [];

/** A plan, and the project whose thread works on it. */
export interface PlanOf {
  readonly id: string;
  readonly plan: Plan;
}

/**
 * Has work done over a plan, away from the thread that answers calls: what is asked of one project comes to the same
 * thread, which holds its plan and is sent only what changes.
 * @template W what a room has these threads do
 * @throws {PlanProblems} and {Failure} as the work throws them
 */
export const overPlans =
  <W extends PlanWorks>() =>
  async <K extends keyof W & string>(
    work: K,
    { id, plan }: PlanOf,
    ...[asked]: Asked<W[K]>
  ): Promise<ReturnType<W[K]>> => {
    const job: PlanJob = { tag: tagOf(plan), work, asked };
    let answer = await ask(id, job);
    if (answer.is === "missing") answer = await ask(id, { ...job, plan });
    switch (answer.is) {
      case "result":
        return answer.result as ReturnType<W[K]>;
      case "problems":
        throw new PlanProblems(answer.problems);
      case "failure":
        throw new Failure(answer.failure.code, answer.failure.message, answer.failure.details);
      case "missing":
        throw new Error(`a thread holds no plan that was sent with the work "${work}"`);
    }
  };

function ask(project: string, job: PlanJob): Promise<PlanAnswer> {
  if (threadFile === undefined) throw new Error("the file that computes plans is not set");
  return onThread<PlanAnswer>(project, threadFile, job);
}
