import { MOST_TALK_FILES, talkAddress, type Talk, type TalkFile, type TalkPlace } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useEffectEvent, useRef, useState } from "react";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { Composer } from "./Composer.tsx";
import { MessageLine } from "./MessageLine.tsx";
import { talkQuery, useTalker, type Talker } from "./queries.ts";
import { AddFiles, TalkFiles } from "./TalkFiles.tsx";
import { useSending } from "../documents/useSending.ts";

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

/** The files that go with what one writes, sent as they are added. */
function useFiles(place: TalkPlace, talker: Talker) {
  const [draft, setDraft] = useDraft(`files ${talkAddress(place)}`);
  const now = useRef(draft);
  const set = (next: readonly TalkFile[]): void => {
    now.current = next.length === 0 ? "" : JSON.stringify(next);
    setDraft(now.current);
  };
  const listed = (text: string): readonly TalkFile[] => (text === "" ? [] : (JSON.parse(text) as TalkFile[]));
  const sending = useSending(async (to: TalkPlace, file, signal) => {
    if (listed(now.current).length >= MOST_TALK_FILES)
      throw new Error(`“${file.name}” was not added: ${MOST_TALK_FILES} files go with a message.`);
    const sent = await talker.sendFile(to, file, signal);
    set([...listed(now.current), sent]);
  });
  const remove = ({ id }: TalkFile): void => set(listed(now.current).filter((file) => file.id !== id));
  return {
    ...{ files: listed(draft), remove, clear: () => set([]), sending: sending.sending, faults: sending.faults },
    ...{ cancel: sending.cancel, add: (files: readonly File[]) => void sending.send(place, files) },
  };
}

const filesOf = (data: DataTransfer): File[] => [...data.files];

function Write({ talk, talker }: { talk: Talk; talker: Talker }) {
  const [text, setText] = useDraft(talkAddress(talk.place));
  const { files, remove, clear, add, sending, faults, cancel } = useFiles(talk.place, talker);
  const [fault, setFault] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const isNothing = (text.trim() === "" && files.length === 0) || sending !== null;
  const send = async (): Promise<void> => {
    if (isNothing || isBusy) return;
    setBusy(true);
    setFault(null);
    try {
      await talker.say(text.trim(), files);
      setText("");
      clear();
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
      onDragOver={(event) => event.dataTransfer.types.includes("Files") && event.preventDefault()}
      onDrop={(event) => {
        if (event.dataTransfer.files.length === 0) return;
        event.preventDefault();
        add(filesOf(event.dataTransfer));
      }}
      onPaste={(event) => {
        // A cell copied from a spreadsheet bears a picture of itself: its words are meant.
        if (event.clipboardData.files.length === 0 || event.clipboardData.types.includes("text/plain")) return;
        event.preventDefault();
        add(filesOf(event.clipboardData));
      }}
    >
      <Composer name="What you say" people={talk.people} value={text} onChange={setText} onSend={() => void send()} />
      <TalkFiles name="Files to go with it" files={files} onRemove={remove} />
      {[...faults, ...(fault === null ? [] : [fault])].map((words) => (
        <p key={words} role="alert" className="adverse text-sm">
          {words}
        </p>
      ))}
      {sending !== null && (
        <p role="status" className="text-sm">
          {sending} is sent …{" "}
          <button type="button" className="link-quiet min-h-[24px] cursor-pointer" onClick={cancel}>
            Cancel
          </button>
        </p>
      )}
      <p className="flex items-center gap-3 pt-1 text-sm">
        <button type="submit" className="btn btn-sm" disabled={isNothing || isBusy}>
          Send
        </button>
        <AddFiles onFiles={add} />
        <span className="muted text-xs">
          Ctrl+Enter sends; files may be dropped or pasted here; whoever you call with @ is told
        </span>
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
