import type { TalkMessage } from "@chronometra/contract";
import { useState } from "react";
import { telling } from "../shared/messages/telling.ts";
import { countWords, momentWords } from "../shared/words/words.ts";
import { Composer } from "./Composer.tsx";
import type { Talker } from "./queries.ts";
import { Said } from "./Said.tsx";
import { TalkFiles } from "./TalkFiles.tsx";

interface Props {
  readonly message: TalkMessage;
  readonly people: readonly string[];
  readonly mayWrite: boolean;
  readonly talker: Talker;
}

/** Tries something; gives why it cannot be. */
const tried = async (act: () => Promise<void>): Promise<string | null> => {
  try {
    await act();
    return null;
  } catch (error) {
    return error instanceof Error ? error.message : String(error);
  }
};

/** What a message said before it was changed. */
function Was({ was, named }: Pick<TalkMessage, "was" | "named">) {
  if (was.length === 0) return null;
  return (
    <details className="text-xs">
      <summary className="muted min-h-[24px] cursor-pointer">
        changed, {countWords(was.length, "time", "times")}
      </summary>
      <ol className="border-l rule pl-3">
        {was.map(({ text, until }) => (
          <li key={until} className="muted pb-1">
            until {momentWords(until)}: <Said text={text} named={named} />
          </li>
        ))}
      </ol>
    </details>
  );
}

interface RewriteProps extends Pick<Props, "message" | "people" | "talker"> {
  readonly onClose: () => void;
}

function Rewrite({ message: { id, text }, people, talker, onClose }: RewriteProps) {
  const [now, setNow] = useState(text);
  const [fault, setFault] = useState<string | null>(null);
  const save = async (): Promise<void> => {
    if (now.trim() === "") return setFault("Say something, or remove the message.");
    const answer = await tried(() => talker.rewrite(id, text, now.trim()));
    setFault(answer);
    if (answer === null) onClose();
  };
  return (
    <div className="max-w-2xl">
      <Composer
        name="What it says now"
        people={people}
        value={now}
        onChange={setNow}
        onSend={() => void save()}
        onGiveUp={onClose}
        autoFocus
      />
      {fault !== null && (
        <p role="alert" className="adverse text-sm">
          {fault}
        </p>
      )}
      <p className="flex gap-2 pt-1">
        <button type="button" className="btn btn-xs btn-primary" onClick={() => void save()}>
          Save
        </button>
        <button type="button" className="btn btn-xs" onClick={onClose}>
          Cancel
        </button>
      </p>
    </div>
  );
}

interface ActsProps extends Pick<Props, "message" | "talker"> {
  readonly onRewrite: () => void;
}

/** What may be done with a message. */
function Acts({ message: { id, own, removedBy, mayRemove }, talker, onRewrite }: ActsProps) {
  const act = (doing: () => Promise<void>) => telling(() => tried(doing));
  return (
    <>
      {removedBy === null && own && (
        <button type="button" className="link-quiet cursor-pointer" onClick={() => onRewrite()}>
          Change
        </button>
      )}
      {removedBy === null && mayRemove && (
        <button type="button" className="link-quiet cursor-pointer" onClick={act(() => talker.remove(id))}>
          Remove
        </button>
      )}
      {removedBy !== null && mayRemove && (
        <button type="button" className="link-quiet cursor-pointer" onClick={act(() => talker.restore(id))}>
          Restore
        </button>
      )}
    </>
  );
}

/** A line of the log: when, who, what; changed by whoever wrote it, removed by them or the project’s manager. */
export function MessageLine({ message, people, mayWrite, talker }: Props) {
  const { by, own, at, text, byMail, named, files, was, removedBy, mayRemove } = message;
  const [rewriting, setRewriting] = useState(false);
  return (
    <li className="grid grid-cols-[8.5rem_1fr] gap-x-4 border-b rule py-2 max-sm:grid-cols-1">
      <p className="text-sm">
        <span className="block font-semibold break-words">{by}</span>
        <span className="muted block text-xs">
          {momentWords(at)}
          {byMail && ", by mail"}
        </span>
      </p>
      <div className="min-w-0">
        {removedBy !== null && <p className="muted italic">Removed by {removedBy}.</p>}
        {removedBy === null && rewriting && (
          <Rewrite message={message} people={people} talker={talker} onClose={() => setRewriting(false)} />
        )}
        {removedBy === null && !rewriting && text !== "" && <Said text={text} named={named} />}
        {removedBy === null && <TalkFiles name={`Files of ${by}`} files={files} />}
        {!rewriting && <Was was={was} named={named} />}
        {(own || mayRemove) && mayWrite && !rewriting && (
          <p className="flex gap-2 pt-1 text-xs [&_button]:min-h-[24px]">
            <Acts message={message} talker={talker} onRewrite={() => setRewriting(true)} />
          </p>
        )}
      </div>
    </li>
  );
}
