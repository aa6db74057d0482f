import { PlanProblems, type Plan, type Problem } from "@chronometra/core";
import { assemble, type Assembled, type Wanted } from "./assemble.ts";
import { outlineOf } from "./outline.ts";

/** What came of it: the plan and how it is looked at, or why there is none. */
export type Put =
  { readonly plan: Plan; readonly outline: ReturnType<typeof outlineOf> } | Exclude<Assembled, { readonly plan: Plan }>;

/** Puts a plan together away from the thread that answers calls. */
export default function run(wanted: Wanted): Put {
  const assembled = assemble(wanted);
  if (!("plan" in assembled)) return assembled;
  try {
    return { ...assembled, outline: outlineOf(assembled.plan) };
  } catch (error) {
    if (error instanceof PlanProblems) return { problems: error.problems satisfies readonly Problem[] };
    throw error;
  }
}
