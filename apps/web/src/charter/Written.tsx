import type { CharterField, CharterView } from "@chronometra/contract";
import { useEffect, useId, useRef, useState, type ReactNode } from "react";
import { CommitField } from "../shared/fields/CommitField.tsx";
import { useSeen, type Charterer } from "./useCharter.ts";

interface Props {
  readonly view: CharterView;
  readonly charterer: Charterer;
  readonly field: Exclude<CharterField, "state">;
  readonly name: string;
}

/** A label beside what it names. */
export const Named = ({ name, children }: { name: string; children: ReactNode }) => (
  <div className="flex items-baseline gap-3 py-1">
    <span className="muted w-36 shrink-0 text-sm">{name}</span>
    <span className="min-w-0">{children}</span>
  </div>
);

/** A short text of the charter. */
export function ShortText({ view, charterer, field, name }: Props) {
  const value = view.charter[field];
  const seen = useSeen(value);
  if (!view.mayEdit) return <Named name={name}>{value === "" ? <span className="muted">–</span> : value}</Named>;
  return (
    <Named name={name}>
      <span onInput={seen.begin}>
        <CommitField
          label={name}
          width="w-80"
          value={value}
          onCommit={async (text) => {
            const answer = await charterer.write({ field, was: seen.was(), value: text.trim() }, `${name} is written.`);
            seen.end();
            return answer;
          }}
        />
      </span>
    </Named>
  );
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

/** A long text of the charter: taken on leaving it or with Ctrl+Enter, given up with Escape. */
export function LongText({ view, charterer, field, name, ask }: Props & { ask: string }) {
  const value = view.charter[field];
  const id = useId();
  const seen = useSeen(value);
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
      seen.end();
      return setText(null);
    }
    const answer = await charterer.write({ field, was: seen.was(), value: text.trim() }, `${name} is written.`);
    seen.end();
    setFault(answer);
    if (answer === null) setText(null);
  };
  if (!view.mayEdit)
    return (
      <section className="py-2">
        <h3 className="muted font-sans text-sm">{name}</h3>
        <p className="max-w-prose whitespace-pre-wrap">{value === "" ? "–" : value}</p>
      </section>
    );
  return (
    <div className="flex max-w-3xl flex-col py-1.5">
      <label className="muted text-sm" htmlFor={id}>
        {name}
      </label>
      <textarea
        id={id}
        className={`textarea min-h-0 w-full px-2 py-1 leading-snug ${fault === null ? "" : "textarea-error"}`}
        rows={rowsFor(text ?? value)}
        maxLength={8000}
        placeholder={ask}
        value={text ?? value}
        onChange={(event) => {
          seen.begin();
          setText(event.target.value);
          setFault(null);
        }}
        onBlur={() => void take()}
        onKeyDown={(event) => {
          if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) void take();
          else if (event.key === "Escape" && text !== null) {
            seen.end();
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
