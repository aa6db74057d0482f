import type { DecideGate, ProjectGates, WriteGates } from "@chronometra/contract";
import { queryOptions, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { undoToast } from "../shared/dialogs/undoToast.ts";
import { toast } from "../shared/messages/toast.ts";
import { call, CallFailed } from "../shared/session/api.ts";
import { takenBack } from "../shared/session/takenBack.ts";

const AGAIN_MILLISECONDS = 30_000;

/** A project's stages and gates; asked for again while they are open, as others decide. */
export const gatesQuery = (project: string) =>
  queryOptions({
    queryKey: ["gates", project],
    queryFn: () => call("GET /api/projects/:project/gates", { params: { project } }),
    refetchInterval: AGAIN_MILLISECONDS,
  });

/** Gates that are asked for, in all projects. */
export const askedGatesQuery = queryOptions({
  queryKey: ["gates", "asked"],
  queryFn: () => call("GET /api/gates", {}),
  refetchInterval: AGAIN_MILLISECONDS,
});

/** The life cycles there are. */
export const lifeCyclesQuery = queryOptions({
  queryKey: ["lifeCycles"],
  queryFn: () => call("GET /api/life-cycles", {}),
});

/** Tells why something cannot be, where there is no place beside it. */
async function told(act: Promise<string | null>): Promise<void> {
  const fault = await act;
  if (fault !== null) toast.error(fault);
}

/** Says in the register of actions that one is done, or is not. */
async function sayDone(client: QueryClient, project: string, matter: string, done: boolean): Promise<ProjectGates> {
  const [was, value] = done ? (["open", "settled"] as const) : (["settled", "open"] as const);
  await call("PUT /api/matters/:matter", { params: { matter }, body: { writes: [{ field: "state", was, value }] } });
  void client.invalidateQueries({ queryKey: ["matters"] });
  return call("GET /api/projects/:project/gates", { params: { project } });
}

/** What is done at a project's gates; each gives why it cannot be, or nothing. */
export function useGates(project: string) {
  const client = useQueryClient();
  const { queryKey } = gatesQuery(project);
  const taken = (view: ProjectGates): void => {
    client.setQueryData(queryKey, view);
    // The stage stands in the project's head and on the portfolio's page, what is asked on the page of approvals.
    for (const key of [["project", project], ["portfolio"], askedGatesQuery.queryKey, ["charter", project]])
      void client.invalidateQueries({ queryKey: key });
  };
  const tried = async (act: () => Promise<ProjectGates>, form?: "form"): Promise<string | null> => {
    try {
      taken(await act());
      return null;
    } catch (error) {
      const words = error instanceof Error ? error.message : String(error);
      if (error instanceof CallFailed && error.status === 409) {
        // Someone else's word is shown in the place of the form in which this one was said: it is told besides.
        if (form !== undefined) toast.error(words);
        void client.invalidateQueries({ queryKey });
      }
      return words;
    }
  };
  const put = (body: WriteGates) => call("PUT /api/projects/:project/gates", { params: { project }, body });
  const write = async (written: WriteGates, words: string): Promise<string | null> => {
    const fault = await tried(() => put(written));
    if (fault === null)
      undoToast(client, { revisions: [], words, also: async () => taken(await put(takenBack(written))) });
    return fault;
  };
  return {
    write,
    /** Writes what has no field of its own to say at what is wrong. */
    writeOrTell: (written: WriteGates, words: string) => told(write(written, words)),
    told,
    ask: (stage: string, word: string) =>
      tried(
        () => call("POST /api/projects/:project/gates/:stage", { params: { project, stage }, body: { word } }),
        "form",
      ),
    withdraw: (stage: string) =>
      tried(() => call("DELETE /api/projects/:project/gates/:stage", { params: { project, stage } })),
    decide: (stage: string, body: DecideGate) =>
      tried(
        () => call("POST /api/projects/:project/gates/:stage/decision", { params: { project, stage }, body }),
        "form",
      ),
    done: (matter: string, done: boolean) => tried(() => sayDone(client, project, matter, done)),
  };
}

export type GateKeeper = ReturnType<typeof useGates>;
