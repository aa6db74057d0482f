import { talkAddress, type Talk, type TalkPlace } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useEffectEvent, useState } from "react";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { Composer } from "./Composer.tsx";
import { MessageLine } from "./MessageLine.tsx";
import { talkQuery, useTalker, type Talker } from "./queries.ts";

/** What is typed and not sent yet, kept while the browser's tab is open, wherever one goes meanwhile. */
function useDraft(key: string): [string, (text: string) => void] {
  const name = `draft ${key}`;
  const [text, setText] = useState(() => sessionStorage.getItem(name) ?? "");
  return [
    text,
    (next) => {
      setText(next);
      if (next === "") sessionStorage.removeItem(name);
      else sessionStorage.setItem(name, next);
    },
  ];
}

function Write({ talk, talker }: { talk: Talk; talker: Talker }) {
  const [text, setText] = useDraft(talkAddress(talk.place));
  const [fault, setFault] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const send = async (): Promise<void> => {
    if (text.trim() === "" || isBusy) return;
    setBusy(true);
    setFault(null);
    try {
      await talker.say(text.trim());
      setText("");
    } catch (error) {
      setFault(`Not sent: ${error instanceof Error ? error.message : String(error)}`);
    }
    setBusy(false);
  };
  return (
    <form
      className="max-w-2xl pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <Composer name="What you say" people={talk.people} value={text} onChange={setText} onSend={() => void send()} />
      {fault !== null && (
        <p role="alert" className="adverse text-sm">
          {fault}
        </p>
      )}
      <p className="flex items-center gap-3 pt-1 text-sm">
        <button type="submit" className="btn btn-sm" disabled={text.trim() === "" || isBusy}>
          Send
        </button>
        <span className="muted text-xs">or Ctrl+Enter; whoever you call with @ is told</span>
      </p>
    </form>
  );
}

function Messages({ talk, onWhole }: { talk: Talk; onWhole: () => void }) {
  const talker = useTalker(talk.place);
  const last = talk.messages.at(-1)?.id;
  const noteRead = useEffectEvent(() => {
    // What cannot be noted now is noted the next time; nobody asked for it.
    void talker.read().catch(() => undefined);
  });
  useEffect(() => {
    if (last !== undefined) noteRead();
  }, [last]);
  return (
    <>
      {talk.earlier > 0 && (
        <button type="button" className="btn btn-xs" onClick={onWhole}>
          Show the {talk.earlier} before
        </button>
      )}
      {talk.messages.length === 0 ? (
        <p className="muted text-sm">Nothing was said yet.</p>
      ) : (
        <ol aria-label="What was said">
          {talk.messages.map((message) => (
            <MessageLine
              key={message.id}
              message={message}
              people={talk.people}
              mayWrite={talk.mayWrite}
              talker={talker}
            />
          ))}
        </ol>
      )}
      {talk.mayWrite ? (
        <Write key={talkAddress(talk.place)} talk={talk} talker={talker} />
      ) : (
        <p className="muted pt-2 text-sm">The project is closed; nothing more is said here.</p>
      )}
    </>
  );
}

/** What was said about something, the oldest first, and where to say more. */
export function Thread({ place }: { place: TalkPlace }) {
  const [isWhole, setWhole] = useState(false);
  const query = useQuery(talkQuery(place, isWhole));
  return <Loaded query={query}>{(talk) => <Messages talk={talk} onWhole={() => setWhole(true)} />}</Loaded>;
}
