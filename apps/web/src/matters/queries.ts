import type { Matter, MatterWrite, NewMatter } from "@chronometra/contract";
import { keepPreviousData, queryOptions, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { undoToast } from "../shared/dialogs/undoToast.ts";
import { call } from "../shared/session/api.ts";
import { takenBack } from "../shared/session/takenBack.ts";
import { countWords } from "../shared/words/words.ts";

/** What of the registers is asked for, as it stands in the address. */
export type Asked = Readonly<Partial<Record<"kind" | "group" | "tie" | "all" | "overdue" | "mine", string>>>;

/** What stands in the registers of a project, or of all. */
export const mattersQuery = (project: string | null, asked: Asked) =>
  queryOptions({
    queryKey: ["matters", "list", project, asked],
    queryFn: () =>
      project === null
        ? call("GET /api/matters", { query: asked as Record<string, string> })
        : call("GET /api/projects/:project/matters", { params: { project }, query: asked as Record<string, string> }),
    placeholderData: keepPreviousData,
  });

/** A matter with its history. */
export const matterQuery = (matter: string) =>
  queryOptions({
    queryKey: ["matters", "one", matter],
    queryFn: () => call("GET /api/matters/:matter", { params: { matter } }),
  });

/** What of a project can be tied to. */
export const tiesQuery = (project: string) =>
  queryOptions({
    queryKey: ["matters", "ties", project],
    queryFn: () => call("GET /api/projects/:project/ties", { params: { project } }),
  });

/** How many are overdue, and one's own. */
export const matterCountsQuery = queryOptions({
  queryKey: ["matters", "counts"],
  queryFn: () => call("GET /api/matters/counts", {}),
});

/** After something was written: lists, gates that rest on it, and the plan of a risk are looked at anew. */
export function mattersChanged(client: QueryClient): void {
  for (const queryKey of [["matters"], ["gates"], ["chances"]]) void client.invalidateQueries({ queryKey });
}

const faultOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

/** What is done in registers; each gives why it cannot be, or nothing. */
export function useMatters() {
  const client = useQueryClient();
  const put = async (matter: string, writes: MatterWrite[]): Promise<void> => {
    const view = await call("PUT /api/matters/:matter", { params: { matter }, body: { writes } });
    if (view !== null) client.setQueryData(matterQuery(matter).queryKey, view);
    mattersChanged(client);
  };
  return {
    write: async ({ id }: Pick<Matter, "id">, writes: MatterWrite[], words: string): Promise<string | null> => {
      try {
        await put(id, writes);
      } catch (error) {
        mattersChanged(client);
        return faultOf(error);
      }
      const back = writes.map(takenBack).toReversed() as MatterWrite[];
      undoToast(client, { revisions: [], words, also: () => put(id, back) });
      return null;
    },
    add: async (body: NewMatter): Promise<{ id: string } | { fault: string }> => {
      try {
        const { matter } = await call("POST /api/matters", { body });
        mattersChanged(client);
        return { id: matter.id };
      } catch (error) {
        return { fault: faultOf(error) };
      }
    },
    /** Adds a list, all or nothing. */
    addList: async (matters: NewMatter[]): Promise<string | null> => {
      try {
        const { ids, revisions } = await call("POST /api/matters/list", { body: { matters } });
        undoToast(client, {
          revisions,
          words: `${countWords(ids.length, "line is", "lines are")} added.`,
          also: () => call("DELETE /api/matters/list", { body: { ids } }),
        });
      } catch (error) {
        return faultOf(error);
      } finally {
        mattersChanged(client);
      }
      return null;
    },
  };
}
export type MatterKeeper = ReturnType<typeof useMatters>;
/** Writes one thing of a matter; gives why it cannot be, or nothing. */
export type WriteOne = (write: MatterWrite, words: string) => Promise<string | null>;
