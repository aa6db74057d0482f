import { talkAddress, type Talk, type TalkFile, type TalkPlace } from "@chronometra/contract";
import { queryOptions, useQueryClient } from "@tanstack/react-query";
import { undoToast } from "../shared/dialogs/undoToast.ts";
import { call } from "../shared/session/api.ts";

const AGAIN_MILLISECONDS = 20_000;

const queryOf = ({ about, project, aboutId }: TalkPlace): Record<string, string> => ({ about, project, id: aboutId });

/** What was said about something; asked for again while it is open, as others answer. */
export const talkQuery = (place: TalkPlace, isWhole = false) =>
  queryOptions({
    queryKey: ["talk", talkAddress(place), isWhole],
    queryFn: () => call("GET /api/talk", { query: { ...queryOf(place), all: isWhole ? "1" : "" } }),
    refetchInterval: AGAIN_MILLISECONDS,
  });

/** Where something was said, the newest first: in a project, or where one takes part. */
export const threadsQuery = (project: string | null) =>
  queryOptions({
    queryKey: ["talks", project],
    queryFn: () => call("GET /api/talks", { query: { project: project ?? "" } }),
    refetchInterval: 3 * AGAIN_MILLISECONDS,
  });

/** How much was said in a project, thing by thing. */
export const talkCountsQuery = (project: string) =>
  queryOptions({
    queryKey: ["talks", "counts", project],
    queryFn: () => call("GET /api/projects/:project/talk-counts", { params: { project } }),
    refetchInterval: 3 * AGAIN_MILLISECONDS,
  });

/** What one follows or keeps at hand. */
export const followedQuery = queryOptions({ queryKey: ["following"], queryFn: () => call("GET /api/following") });

/** What can be done where something is said; what cannot be is thrown, in the server's words. */
export function useTalker(place: TalkPlace) {
  const client = useQueryClient();
  const show = (talk: Talk): void => {
    client.setQueryData(talkQuery(place).queryKey, talk);
    for (const queryKey of [["talk", talkAddress(place), true], ["talks"], ["inbox"], ["mail"]])
      void client.invalidateQueries({ queryKey });
  };
  const put = async (message: string, body: { text?: { was: string; value: string }; removed?: boolean }) =>
    show(await call("PUT /api/talk/:message", { params: { message }, body }));
  return {
    say: async (text: string, files: readonly TalkFile[]): Promise<void> =>
      show(await call("POST /api/talk", { body: { place, text, files: files.map(({ id }) => id) } })),
    sendFile: (to: TalkPlace, file: File, signal: AbortSignal): Promise<TalkFile> =>
      call("POST /api/talk-files", { query: queryOf(to), files: [file], signal }),
    rewrite: (message: string, was: string, value: string): Promise<void> => put(message, { text: { was, value } }),
    remove: async (message: string): Promise<void> => {
      await put(message, { removed: true });
      undoToast(client, { revisions: [], words: "It is removed.", also: () => put(message, { removed: false }) });
    },
    restore: (message: string): Promise<void> => put(message, { removed: false }),
    read: async (): Promise<void> => {
      await call("PUT /api/talk-read", { body: place });
      for (const queryKey of [["talks"], ["inbox"]]) void client.invalidateQueries({ queryKey });
    },
  };
}
export type Talker = ReturnType<typeof useTalker>;
