import { useEffect, useId, useRef, useState } from "react";
import { toast } from "../messages/toast.ts";
import { DatePick } from "./DatePick.tsx";
import { dateWords } from "../words/words.ts";

interface Props {
  readonly label: string;
  readonly value: string;
  /** Takes what was typed; gives why it cannot be, or nothing. */
  readonly onCommit: (text: string) => Promise<string | null> | string | null;
  readonly width?: string;
  readonly numeric?: boolean;
  readonly placeholder?: string;
  /** What is offered while typing. */
  readonly offers?: readonly string[];
  /** Empties itself once what was typed is taken. */
  readonly adds?: boolean;
  readonly disabled?: boolean;
  /** Of a field that takes a date: the date it holds, `YYYY-MM-DD` or empty. A calendar is offered beside it. */
  readonly date?: string;
}

/**
 * A field that is taken with Enter or on leaving it; what cannot be stays as typed, with why below it. Escape puts back
 * what was.
 */
export function CommitField({
  label,
  value,
  onCommit,
  width = "w-32",
  numeric = false,
  placeholder,
  offers,
  adds = false,
  disabled = false,
  date,
}: Props) {
  const [text, setText] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const list = useId();
  /** What is being taken now. */
  const taking = useRef<string | null>(null);
  const latest = useRef({ text, value, label });
  latest.current = { text, value, label };
  // Taken off the page while something was typed, as when someone else removes what it belongs to: the text stays in
  // sight.
  useEffect(
    () => () => {
      const { text: typed, value: was, label: of } = latest.current;
      if (typed === null || typed.trim() === "" || typed === was || taking.current !== null) return;
      toast.error(`Not stored: “${typed}” in ${of}. What it belongs to is gone.`, {
        duration: Infinity,
        closeButton: true,
        action: { label: "Copy it", onClick: () => void navigator.clipboard.writeText(typed) },
      });
    },
    [],
  );
  const commit = async (typed: string): Promise<void> => {
    // Enter that goes on to another field leaves this one as well: it is taken once.
    if (taking.current === typed) return;
    taking.current = typed;
    try {
      const answer = await onCommit(typed);
      setFault(answer);
      if (answer === null) setText(null);
    } finally {
      taking.current = null;
    }
  };
  const take = async (): Promise<void> => {
    if (text === null || (text === value && !adds)) return setText(null);
    if (adds && text.trim() === "") return setText(null);
    await commit(text);
  };
  const pick = (chosen: string): void => {
    setText(dateWords(chosen));
    void commit(dateWords(chosen));
  };
  return (
    <span className={`relative inline-flex ${date === undefined ? "flex-col" : "items-center"}`}>
      <input
        aria-label={label}
        aria-invalid={fault !== null}
        disabled={disabled}
        className={`input input-sm h-6 px-1.5 ${width} ${numeric ? "text-right" : ""} ${fault === null ? "" : "input-error"}`}
        placeholder={placeholder}
        list={offers === undefined ? undefined : list}
        value={text ?? value}
        onChange={(event) => {
          setText(event.target.value);
          setFault(null);
        }}
        onBlur={() => void take()}
        onKeyDown={(event) => {
          if (event.key === "Enter") void take();
          else if (event.key === "Escape" && text !== null) {
            setText(null);
            setFault(null);
            event.stopPropagation();
          }
        }}
      />
      {date !== undefined && <DatePick value={date} disabled={disabled} onDate={pick} />}
      {offers !== undefined && (
        <datalist id={list}>
          {offers.map((offer) => (
            <option key={offer} value={offer} />
          ))}
        </datalist>
      )}
      {fault !== null && (
        <span
          role="alert"
          className={`absolute top-full ${numeric ? "right-0" : "left-0"} z-20 w-64 bg-error px-2 py-1 text-left whitespace-normal text-error-content`}
        >
          {fault}
        </span>
      )}
    </span>
  );
}
