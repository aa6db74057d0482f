import { TALK_PLACES, talkAddress, type TalkPlace, type TalkThread } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { useProject } from "../project/useProject.ts";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { useAddress } from "../shared/page/useAddress.ts";
import { countWords, momentWords } from "../shared/words/words.ts";
import { mayLook, useMe } from "../shared/session/session.ts";
import { FollowButtons } from "./FollowButtons.tsx";
import { followedQuery, talkQuery, threadsQuery } from "./queries.ts";
import { Thread } from "./Thread.tsx";
import { Announcements } from "./announce/Announcements.tsx";
import { AnnounceButton } from "./announce/AnnounceButton.tsx";

function ThreadLine({ thread: { place, name, count, unread, last } }: { thread: TalkThread }) {
  return (
    <li className="grid grid-cols-[8.5rem_1fr_auto] gap-x-4 border-b rule py-2">
      <p className="text-sm">
        <span className="block break-words">{last.by}</span>
        <span className="muted block text-xs">{momentWords(last.at)}</span>
      </p>
      <div className="min-w-0">
        <Link className={`link-quiet break-words ${unread > 0 ? "font-semibold" : ""}`} to={talkAddress(place)}>
          {name}
        </Link>
        <p className="muted truncate text-sm">{last.text === "" ? "removed" : last.text}</p>
      </div>
      <p className="muted text-right text-sm">
        {countWords(count, "message", "messages")}
        {unread > 0 && <span className="undecided block">{unread} not read</span>}
      </p>
    </li>
  );
}

function Threads({ threads, more }: { threads: readonly TalkThread[]; more: boolean }) {
  const [find, setFind] = useState("");
  if (threads.length === 0)
    return (
      <p className="muted mt-2">
        Nothing yet. What is said where you are called, where you write and where you work is listed here; begin with
        “Talk” beside an activity, a gate, a report or something in a register.
      </p>
    );
  const wanted = find.trim().toLocaleLowerCase();
  const found = threads.filter(({ name, last }) =>
    `${name}\n${last.by}\n${last.text}`.toLocaleLowerCase().includes(wanted),
  );
  return (
    <>
      <input
        type="search"
        className="input input-sm mt-2 w-64"
        placeholder="Find"
        aria-label="Find in talk"
        value={find}
        onChange={({ target }) => setFind(target.value)}
      />
      {found.length === 0 ? (
        <p className="muted mt-2">
          None of {countWords(threads.length, "talk", "talks")} has “{find.trim()}” in it.
        </p>
      ) : (
        <ul aria-label="Talk">
          {found.map((thread) => (
            <ThreadLine key={talkAddress(thread.place)} thread={thread} />
          ))}
        </ul>
      )}
      {more && <p className="muted pt-2 text-sm">Older talk is not listed; it stands beside what it is about.</p>}
    </>
  );
}

function OneTalk({ place }: { place: TalkPlace }) {
  const { data } = useQuery(talkQuery(place));
  return (
    <div className="page max-w-4xl">
      <p className="text-sm">
        <Link className="link-quiet" to="/talk">
          Talk
        </Link>
      </p>
      <h1 className="pb-2 text-xl break-words">
        {data?.link == null ? (
          (data?.name ?? "Talk")
        ) : (
          <Link className="link-quiet" to={data.link}>
            {data.name}
          </Link>
        )}
      </h1>
      <Thread place={place} />
    </div>
  );
}

/** What was said about a project as such, and about what is in it. */
export function ProjectTalkPage() {
  const { id, name, mayEdit, closed } = useProject();
  const query = useQuery(threadsQuery(id));
  return (
    <div className="page max-w-4xl">
      <section aria-label={`About ${name} as such`}>
        <div className="flex items-baseline gap-3">
          <h2 className="pb-1 text-base">About the project as such</h2>
          <FollowButtons place={{ about: "project", project: id, aboutId: "" }} of={name} />
          {mayEdit && !closed && (
            <span className="ml-auto">
              <AnnounceButton project={id} group={null} of={name} />
            </span>
          )}
        </div>
        <Announcements project={id} whole />
        <Thread place={{ about: "project", project: id, aboutId: "" }} />
      </section>
      <section className="pt-6" aria-label="About what is in it">
        <h2 className="text-base">About what is in it</h2>
        <Loaded query={query}>
          {({ threads, more }) => (
            <Threads threads={threads.filter(({ place }) => place.about !== "project")} more={more} />
          )}
        </Loaded>
      </section>
    </div>
  );
}

/** What one follows, and what one keeps at hand. */
function FollowedPart() {
  const query = useQuery(followedQuery);
  const me = useMe();
  return (
    <section className="pt-6" aria-label="What you follow">
      <h2 className="text-base">What you follow</h2>
      <Loaded query={query}>
        {(followed) =>
          followed.length === 0 ? (
            <p className="muted text-sm">
              Nothing yet. “Follow” beside an activity, a project or something in a register has you told what becomes
              of it; “Pin” keeps it at hand.
            </p>
          ) : (
            <>
              <ul aria-label="What you follow">
                {followed.map(({ place, name, link }) => (
                  <li key={talkAddress(place)} className="flex flex-wrap items-baseline gap-x-3 border-b rule py-1">
                    <Link className="link-quiet min-w-0 grow break-words" to={link}>
                      {name}
                    </Link>
                    <FollowButtons place={place} of={name} />
                  </li>
                ))}
              </ul>
              {mayLook(me) && (
                <p className="pt-1 text-sm">
                  <Link className="underline" to="/watch/followed">
                    Activities among them, with their dates
                  </Link>
                </p>
              )}
            </>
          )
        }
      </Loaded>
    </section>
  );
}

function AllTalk() {
  const query = useQuery(threadsQuery(null));
  return (
    <div className="page max-w-4xl">
      <h1 className="text-xl">Talk</h1>
      <Announcements whole />
      <Loaded query={query}>{(all) => <Threads {...all} />}</Loaded>
      <FollowedPart />
    </div>
  );
}

/** Where one takes part, or what was said about one thing. */
export function TalkPage() {
  const [params] = useAddress();
  const about = TALK_PLACES.find((each) => each === params.get("about"));
  if (about === undefined) return <AllTalk />;
  return <OneTalk place={{ about, project: params.get("project") ?? "", aboutId: params.get("id") ?? "" }} />;
}
