import type { LifeCycle, LifeCycles, WriteLifeCycle } from "@chronometra/contract";
import { useQueryClient } from "@tanstack/react-query";
import { undoToast } from "../../shared/dialogs/undoToast.ts";
import { call, CallFailed } from "../../shared/session/api.ts";
import { takenBack } from "../../shared/session/takenBack.ts";
import { lifeCyclesQuery } from "../queries.ts";

/** Writes a life cycle as a whole, beside what its writer saw; gives why it cannot be, or nothing. */
export type WriteCycle = (id: string, written: WriteLifeCycle, words: string) => Promise<string | null>;

export function useLifeCycles(): WriteCycle {
  const client = useQueryClient();
  const put = async (cycle: string, body: WriteLifeCycle): Promise<void> => {
    const view = await call("PUT /api/life-cycles/:cycle", { params: { cycle }, body });
    client.setQueryData(lifeCyclesQuery.queryKey, view);
    for (const key of ["gates", "portfolio", "project"]) void client.invalidateQueries({ queryKey: [key] });
  };
  return async (id, written, words) => {
    try {
      await put(id, written);
    } catch (error) {
      if (error instanceof CallFailed && error.status === 409)
        void client.invalidateQueries({ queryKey: lifeCyclesQuery.queryKey });
      return error instanceof Error ? error.message : String(error);
    }
    undoToast(client, { revisions: [], words, also: () => put(id, takenBack(written)) });
    return null;
  };
}

const newId = (): string => crypto.randomUUID().slice(0, 13);

/** A stage to begin with. */
export const newStage = (name: string, gate: string): LifeCycle["stages"][number] => ({
  id: newId(),
  name,
  gate,
  conditions: [],
});

/** A life cycle to begin with, to be changed: most projects are thought up, planned, made and handed over. Common practice, no source. */
export const newCycle = (kind: string): LifeCycle => ({
  kind,
  stages: [
    {
      ...newStage("Proposal", "Go ahead"),
      conditions: [{ id: newId(), kind: "confirmed", text: "Purpose and benefits are written down" }],
    },
    {
      ...newStage("Planning", "Plan approved"),
      conditions: [
        { id: newId(), kind: "baseline" },
        { id: newId(), kind: "plan", fitness: "mend" },
      ],
    },
    {
      ...newStage("Works", "Works complete"),
      conditions: [
        { id: newId(), kind: "deliverables" },
        { id: newId(), kind: "cost", percent: 10 },
      ],
    },
    {
      ...newStage("Handing over", "Closed"),
      conditions: [{ id: newId(), kind: "confirmed", text: "Whoever runs it has taken it over" }],
    },
  ],
});

/** What may be added to a gate, with what it begins with. */
export const NEW_CONDITIONS: readonly (readonly [
  name: string,
  made: (severities: LifeCycles["severities"]) => LifeCycle["stages"][number]["conditions"][number],
])[] = [
  ["something that a person confirms", () => ({ id: newId(), kind: "confirmed", text: "To be said what" })],
  ["a baseline is approved", () => ({ id: newId(), kind: "baseline" })],
  ["the plan is fit", () => ({ id: newId(), kind: "plan", fitness: "mend" })],
  ["no deadline is broken", () => ({ id: newId(), kind: "deadlines" })],
  ["cost within a limit", () => ({ id: newId(), kind: "cost", percent: 10 })],
  ["finish within a limit", () => ({ id: newId(), kind: "drift", days: 10 })],
  ["deliverables accepted", () => ({ id: newId(), kind: "deliverables" })],
  ["no work is blocked", () => ({ id: newId(), kind: "unblocked" })],
  ["no severe issue is open", (scale) => ({ id: newId(), kind: "issues", severity: scale.at(-2)!.id })],
  ["the period is issued", () => ({ id: newId(), kind: "issued" })],
];
