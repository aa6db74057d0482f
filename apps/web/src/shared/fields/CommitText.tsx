import { useEffect, useId, useRef, useState } from "react";

interface Props {
  readonly name: string;
  readonly value: string;
  /** What is asked for, where nothing stands yet. */
  readonly ask: string;
  readonly most?: number;
  readonly disabled?: boolean;
  /** Typing began; it ended without anything to take. */
  readonly onBegin?: () => void;
  readonly onGiveUp?: () => void;
  /** Takes what was typed; gives why it cannot be, or nothing. */
  readonly onCommit: (text: string) => Promise<string | null> | string | null;
}

/** Letters in a line, about. */
const WIDE = 110;
const LEAST_ROWS = 2;
const MOST_ROWS = 16;

/** How many lines a text takes, and one to go on in. */
const rowsFor = (text: string): number => {
  const lines = text.split("\n").reduce((sum, line) => sum + Math.max(1, Math.ceil(line.length / WIDE)), 0);
  return Math.max(LEAST_ROWS, Math.min(MOST_ROWS, lines + (text.length > WIDE ? 1 : 0)));
};

const nothing = (): void => undefined;

/**
 * A long text: taken on leaving it or with Ctrl+Enter, given up with Escape; what cannot be taken stays as typed, with
 * why below it and what stands there now.
 */
export function CommitText(props: Props) {
  const { name, value, ask, most = 8000, disabled = false, onBegin = nothing, onGiveUp = nothing, onCommit } = props;
  const id = useId();
  const [text, setText] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const latest = useRef(text);
  latest.current = text;
  // What is typed and not taken yet is not lost by closing the window.
  useEffect(() => {
    const stay = (event: BeforeUnloadEvent): void => {
      if (latest.current !== null && latest.current !== value) event.preventDefault();
    };
    window.addEventListener("beforeunload", stay);
    return () => window.removeEventListener("beforeunload", stay);
  }, [value]);
  const take = async (): Promise<void> => {
    if (text === null) return;
    if (text.trim() === value) {
      onGiveUp();
      return setText(null);
    }
    const answer = await onCommit(text.trim());
    setFault(answer);
    if (answer === null) setText(null);
  };
  return (
    <div className="flex max-w-3xl flex-col py-1.5">
      <label className="muted text-sm" htmlFor={id}>
        {name}
      </label>
      <textarea
        id={id}
        className={`textarea min-h-0 w-full px-2 py-1 leading-snug ${fault === null ? "" : "textarea-error"}`}
        rows={rowsFor(text ?? value)}
        maxLength={most}
        placeholder={ask}
        disabled={disabled}
        value={text ?? value}
        onChange={(event) => {
          onBegin();
          setText(event.target.value);
          setFault(null);
        }}
        onBlur={() => void take()}
        onKeyDown={(event) => {
          if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) void take();
          else if (event.key === "Escape" && text !== null) {
            onGiveUp();
            setText(null);
            setFault(null);
            event.stopPropagation();
          }
        }}
      />
      {fault !== null && (
        <p role="alert" className="adverse text-sm">
          {fault} {text !== null && value !== "" && <>It says now: “{value.slice(0, 300)}”.</>}
        </p>
      )}
    </div>
  );
}
