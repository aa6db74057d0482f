import { AsyncLocalStorage } from "node:async_hooks";
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

/** What a plan will be called between this thread and those for plans that is not made yet. */
export const newTag = (): number => ++lastTag;

/**
 * What a plan is called between this thread and those for plans.
 * @param made what it was to be called before it was made
 */
export function tagOf(plan: Plan, made?: number): number {
  const tag = tags.get(plan) ?? made ?? newTag();
  tags.set(plan, tag);
  return tag;
}

type Asked<W extends PlanWork> = Parameters<W> extends [unknown, infer A] ? [asked: A] : [];

/** A plan, and the project whose thread works on it. */
export interface PlanOf {
  readonly id: string;
  readonly plan: Plan;
}

type Answers = Map<string, Promise<PlanAnswer>>;
const ofThisAct = new AsyncLocalStorage<Answers>();

/**
 * Does something in which the same is asked of the same plan once: what was worked out before projects are locked is
 * found again under the lock.
 */
export const askingOnce = <T>(act: () => Promise<T>): Promise<T> => ofThisAct.run(new Map(), act);

/** A text that two things asked share exactly where they say the same. */
const textOf = (asked: unknown): string =>
  JSON.stringify(asked, (_key, value: unknown) => (value instanceof Map ? { entries: [...value] } : value));

/** An answer of this act, or a new one; one that failed is asked for again. */
function answered(project: string, job: PlanJob, plan: Plan): Promise<PlanAnswer> {
  const answers = ofThisAct.getStore();
  if (answers === undefined) return askSending(project, job, plan);
  const key = `${job.tag} ${job.work} ${textOf(job.asked)}`;
  let answer = answers.get(key);
  if (answer === undefined) {
    answer = askSending(project, job, plan);
    answers.set(key, answer);
    answer.catch(() => answers.delete(key));
  }
  return answer;
}

/** Asks, and sends the plan where the thread does not hold it. */
async function askSending(project: string, job: PlanJob, plan: Plan): Promise<PlanAnswer> {
  const answer = await ask(project, job);
  return answer.is === "missing" ? ask(project, { ...job, plan }) : answer;
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
    const answer = await answered(id, { tag: tagOf(plan), work, asked }, plan);
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
