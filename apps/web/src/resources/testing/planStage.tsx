import { applyChanges, checkWholePlan, fromBundle, PlanProblems, type PlanBundle } from "@chronometra/core";
import { act } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { screen } from "@testing-library/react";
import { useState, type ReactNode } from "react";
import { viewOf } from "../../plan/testing/plans.ts";
import { show } from "../../testing/fakePage.tsx";
import type { PartProps } from "../stored/partProps.ts";

/**
 * Shows a part of a plan's resources that changes the plan as the server would: checked whole, and refused in the words
 * of what stands against it.
 */
export function stagePlan(
  bundle: PlanBundle,
  part: (props: PartProps) => ReactNode,
  { mayEdit = true }: { readonly mayEdit?: boolean } = {},
) {
  let plan = fromBundle(bundle);
  const said: string[] = [];
  const view = { ...viewOf(bundle), mayEdit };
  function Stage() {
    const [now, setNow] = useState(plan);
    const change: PartProps["change"] = async (changes, words) => {
      try {
        const next = applyChanges(plan, changes).plan;
        const [problem] = checkWholePlan(next);
        if (problem !== undefined) return problem.message;
        plan = next;
        said.push(words);
        act(() => setNow(next));
        return null;
      } catch (error) {
        if (error instanceof PlanProblems) return error.problems[0]!.message;
        throw error;
      }
    };
    return part({ view, plan: now, use: undefined, change });
  }
  show(<Stage />);
  return {
    /** The plan as it is by now. */
    get plan() {
      return plan;
    },
    said,
  };
}

/** Types into a field over what stands there, and takes it with Enter. */
export async function put(label: string | RegExp, text: string): Promise<void> {
  const field = screen.getByLabelText(label);
  await userEvent.clear(field);
  await userEvent.type(field, `${text}{Enter}`);
}
