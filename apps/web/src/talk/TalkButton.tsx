import type { TalkPlace } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { MessageSquareText } from "lucide-react";
import { useState } from "react";
import { Dialog } from "../shared/dialogs/Dialog.tsx";
import { countWords } from "../shared/words/words.ts";
import { talkCountsQuery } from "./queries.ts";
import { Thread } from "./Thread.tsx";

interface Props {
  readonly place: TalkPlace;
  /** What it is about, by its name. */
  readonly of: string;
}

/** How much was said about something, and how much of it is not read yet. */
export function useTalkCount({ project, about, aboutId }: TalkPlace): { count: number; unread: number } {
  const { data } = useQuery({ ...talkCountsQuery(project), enabled: project !== "" });
  const own = data?.find((each) => each.about === about && each.aboutId === aboutId);
  return { count: own?.count ?? 0, unread: own?.unread ?? 0 };
}

/** Opens what was said about something; says how much that is. */
export function TalkButton({ place, of }: Props) {
  const [open, setOpen] = useState(false);
  const { count, unread } = useTalkCount(place);
  const words = count === 0 ? `Talk about ${of}` : `${countWords(count, "message", "messages")} about ${of}`;
  return (
    <>
      <button
        type="button"
        className="btn btn-ghost btn-xs min-h-[26px] min-w-[26px] px-1"
        title={words}
        aria-label={unread === 0 ? words : `${words}, ${unread} not read`}
        onClick={() => setOpen(true)}
      >
        <MessageSquareText size={13} aria-hidden="true" /> {count === 0 ? <span className="sr-only">Talk</span> : count}
        {unread > 0 && <span className="undecided font-semibold">{unread} new</span>}
      </button>
      {open && (
        <Dialog title={`About ${of}`} onClose={() => setOpen(false)} wide>
          <Thread place={place} />
        </Dialog>
      )}
    </>
  );
}
