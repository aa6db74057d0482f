import type { Announcement } from "@chronometra/contract";
import { queryOptions, useQuery, useQueryClient } from "@tanstack/react-query";
import { Megaphone } from "lucide-react";
import { undoToast } from "../../shared/dialogs/undoToast.ts";
import { telling } from "../../shared/messages/telling.ts";
import { call } from "../../shared/session/api.ts";
import { keepPreference, preference } from "../../shared/session/preferences.ts";
import { dateWords } from "../../shared/words/words.ts";
import { useState } from "react";
import { Said } from "../Said.tsx";

const AGAIN_MILLISECONDS = 5 * 60_000;

/** What is announced to one just now. */
export const announcementsQuery = queryOptions({
  queryKey: ["announcements"],
  queryFn: () => call("GET /api/announcements"),
  refetchInterval: AGAIN_MILLISECONDS,
});

/** Ends an announcement for all, or lets it stand again. */
function useEnd() {
  const client = useQueryClient();
  const put = async (announcement: string, ended: boolean): Promise<void> => {
    const now = await call("PUT /api/announcements/:announcement", { params: { announcement }, body: { ended } });
    client.setQueryData(announcementsQuery.queryKey, now);
  };
  return telling(async (id: string) => {
    try {
      await put(id, true);
      undoToast(client, { revisions: [], words: "It is ended for all.", also: () => put(id, false) });
      return null;
    } catch (error) {
      return error instanceof Error ? error.message : String(error);
    }
  });
}

function Line({ announcement, onRead }: { announcement: Announcement; onRead: (() => void) | null }) {
  const { id, of, text, by, until, mayEnd } = announcement;
  const end = useEnd();
  return (
    <li className="flex items-start gap-3 border-l-4 border-accent bg-base-200 px-3 py-1.5 text-sm">
      <Megaphone size={15} className="mt-0.5 shrink-0 text-accent" aria-hidden="true" />
      <div className="min-w-0 grow">
        <Said text={text} named={[]} />
        <p className="muted text-xs">
          For all of {of}; {by}, until {dateWords(until)}
        </p>
      </div>
      <span className="flex shrink-0 gap-2 [&_button]:min-h-[24px]">
        {onRead !== null && (
          <button type="button" className="link-quiet cursor-pointer" onClick={onRead}>
            Seen
          </button>
        )}
        {mayEnd && (
          <button type="button" className="link-quiet cursor-pointer" onClick={() => end(id)}>
            End for all
          </button>
        )}
      </span>
    </li>
  );
}

interface Props {
  /** Only what is for this project, or this group; without either, all of it. */
  readonly project?: string;
  readonly group?: string;
  /** Also what one has seen. */
  readonly whole?: boolean;
}

/** Under what it is kept which of them somebody has seen. */
const SEEN = "announcementsSeen";

/** What is announced: stands on the page until it was seen, or its time is over. */
export function Announcements({ project, group, whole = false }: Props) {
  const { data = [] } = useQuery(announcementsQuery);
  const [seen, setSeen] = useState<readonly string[]>(() => (preference(SEEN) ?? "").split(","));
  const shown = data.filter(
    (each) =>
      (project === undefined || each.project === project) &&
      (group === undefined || each.group === group) &&
      (whole || !seen.includes(each.id)),
  );
  if (shown.length === 0) return null;
  const read = (id: string): void => {
    // Of those that are over nothing is kept.
    const next = [...seen.filter((each) => data.some((one) => one.id === each)), id];
    keepPreference(SEEN, next.join(","));
    setSeen(next);
  };
  return (
    <ul aria-label="Announcements" className="flex flex-col gap-1 py-2">
      {shown.map((each) => (
        <Line key={each.id} announcement={each} onRead={whole ? null : () => read(each.id)} />
      ))}
    </ul>
  );
}
