import { NOTICE_KINDS, NOTICE_WORDS, type Notice, type NoticeKind } from "@chronometra/contract";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { undoToast } from "../shared/dialogs/undoToast.ts";
import { toast } from "../shared/messages/toast.ts";
import { useAddress } from "../shared/page/useAddress.ts";
import { call } from "../shared/session/api.ts";
import { countWords, momentWords } from "../shared/words/words.ts";
import { inboxQuery } from "./queries.ts";

type MarkSeen = (ids: readonly string[], seen?: boolean) => Promise<boolean>;

/** Notes what was seen, or put aside; told where that cannot be stored. */
function useMarkSeen(): MarkSeen {
  const client = useQueryClient();
  return async (ids, seen = true) => {
    try {
      for (let at = 0; at < ids.length; at += 1000)
        await call("PUT /api/inbox/seen", { body: { ids: ids.slice(at, at + 1000), seen } });
      return true;
    } catch (error) {
      toast.error(`Not stored: ${error instanceof Error ? error.message : String(error)}`);
      return false;
    } finally {
      void client.invalidateQueries({ queryKey: ["inbox"] });
    }
  };
}

const isOpen = ({ seen, settledAt }: Notice): boolean => !seen && settledAt === null;

function Line({ notice, onSeen }: { notice: Notice; onSeen: MarkSeen }) {
  const { id, kind, subject, body, at, from, link, act, waits, seen, settledAt } = notice;
  const open = isOpen(notice);
  const client = useQueryClient();
  const putAside = async (): Promise<void> => {
    if (await onSeen([id]))
      undoToast(client, { revisions: [], words: `“${subject}” is put aside.`, also: () => onSeen([id], false) });
  };
  return (
    <li className="grid grid-cols-[9rem_1fr_auto] gap-x-4 border-b rule py-2" aria-label={subject}>
      <div className={`text-sm ${open ? "" : "muted"}`}>
        {NOTICE_WORDS[kind][0]}
        <span className="muted block text-xs">{momentWords(at)}</span>
      </div>
      <div className="min-w-0">
        <h3 className={`font-sans text-[15px] break-words ${open ? "font-semibold" : "muted"}`}>{subject}</h3>
        <p className="muted max-w-2xl text-sm break-words whitespace-pre-line">{body}</p>
        {from !== null && <p className="muted text-xs">{from}</p>}
      </div>
      <div className="flex flex-col items-end gap-1 text-sm">
        {link !== null && (
          <Link
            className={waits ? "btn btn-sm btn-primary" : "btn btn-sm"}
            to={link}
            onClick={() => void (open && kind !== "asked" && onSeen([id]))}
          >
            {settledAt === null ? act : "Open"}
          </Link>
        )}
        {settledAt !== null && <span className="muted">✓ done</span>}
        {waits && (
          <button type="button" className="btn btn-xs btn-ghost" onClick={() => void putAside()}>
            Put aside
          </button>
        )}
        {open && !waits && (
          <button type="button" className="btn btn-xs btn-ghost" onClick={() => void onSeen([id])}>
            Seen
          </button>
        )}
        {seen && settledAt === null && (
          <button type="button" className="btn btn-xs btn-ghost" onClick={() => void onSeen([id], false)}>
            {kind === "asked" ? "Restore" : "Not seen"}
          </button>
        )}
      </div>
    </li>
  );
}

function Lines({ name, notices, onSeen }: { name: string; notices: readonly Notice[]; onSeen: MarkSeen }) {
  if (notices.length === 0) return null;
  return (
    <section className="mt-4" aria-label={name}>
      <h2 className="text-base">
        {name} <span className="figure muted text-sm">{notices.length}</span>
      </h2>
      <ul>
        {notices.map((notice) => (
          <Line key={notice.id} notice={notice} onSeen={onSeen} />
        ))}
      </ul>
    </section>
  );
}

/** What was told and is neither asked nor seen; then the rest, day by day. */
function Told({ notices, onSeen }: { notices: readonly Notice[]; onSeen: MarkSeen }) {
  const waits = notices.filter((notice) => notice.waits);
  const news = notices.filter((notice) => isOpen(notice) && !notice.waits);
  const old = notices.filter((notice) => !isOpen(notice));
  const days = new Map<string, Notice[]>();
  for (const notice of old) {
    // As the moments beside them are told: the day of whoever reads.
    const [day] = momentWords(notice.at).split(",") as [string];
    days.set(day, [...(days.get(day) ?? []), notice]);
  }
  return (
    <>
      <Lines name="Waits for you" notices={waits} onSeen={onSeen} />
      <Lines name="New" notices={news} onSeen={onSeen} />
      {[...days].map(([day, own]) => (
        <Lines key={day} name={day} notices={own} onSeen={onSeen} />
      ))}
    </>
  );
}

function Found({ notices, find, onSeen }: { notices: readonly Notice[]; find: string; onSeen: MarkSeen }) {
  const [params, put] = useAddress();
  const kind = NOTICE_KINDS.find((each) => each === params.get("kind"));
  const wanted = find.trim().toLocaleLowerCase();
  const found = notices.filter(
    (notice) =>
      (kind === undefined || notice.kind === kind) &&
      `${notice.subject}\n${notice.body}\n${notice.from ?? ""}`.toLocaleLowerCase().includes(wanted),
  );
  const counts = new Map<NoticeKind, number>();
  for (const notice of notices) counts.set(notice.kind, (counts.get(notice.kind) ?? 0) + (isOpen(notice) ? 1 : 0));
  return (
    <>
      <select
        className="select select-sm w-52"
        aria-label="What it is"
        value={kind ?? ""}
        onChange={(event) => put({ kind: event.target.value })}
      >
        <option value="">everything</option>
        {NOTICE_KINDS.filter((each) => counts.has(each) || each === kind).map((each) => (
          <option key={each} value={each}>
            {NOTICE_WORDS[each][0]}
            {(counts.get(each) ?? 0) > 0 && ` (${counts.get(each)})`}
          </option>
        ))}
      </select>
      <div className="w-full">
        {found.length === 0 ? (
          <p className="muted mt-4">Nothing of {countWords(notices.length, "thing", "things")} is like that.</p>
        ) : (
          <Told notices={found} onSeen={onSeen} />
        )}
      </div>
    </>
  );
}

/** All that someone was told: what waits for them first, what is new, then what was. */
export function InboxPage() {
  const query = useQuery(inboxQuery);
  const onSeen = useMarkSeen();
  const client = useQueryClient();
  const [find, setFind] = useState("");
  const news = (query.data?.notices ?? []).filter((notice) => isOpen(notice) && !notice.waits).map(({ id }) => id);
  const seeAll = async (): Promise<void> => {
    if (await onSeen(news))
      undoToast(client, {
        revisions: [],
        words: `${countWords(news.length, "thing", "things")} noted as seen. What waits for you stays.`,
        also: () => onSeen(news, false),
      });
  };
  return (
    <div className="page max-w-5xl">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-xl">Inbox</h1>
        <Link className="link-quiet ml-auto text-sm" to="/settings#told">
          How you are told
        </Link>
        {news.length > 0 && (
          <button type="button" className="btn btn-sm" onClick={() => void seeAll()}>
            All new is seen
          </button>
        )}
      </div>
      <Loaded query={query}>
        {({ notices }) =>
          notices.length === 0 ? (
            <p className="muted mt-2">
              Nothing yet. What is asked of you, what was decided for you, and what moves in your work arrives here.
            </p>
          ) : (
            <div className="mt-2 flex flex-wrap items-center gap-3">
              <input
                type="search"
                className="input input-sm w-64"
                placeholder="Find"
                aria-label="Find in the inbox"
                value={find}
                onChange={(event) => setFind(event.target.value)}
              />
              <Found notices={notices} find={find} onSeen={onSeen} />
            </div>
          )
        }
      </Loaded>
    </div>
  );
}
