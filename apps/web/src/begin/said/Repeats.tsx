import type { BegunEffect } from "@chronometra/contract";
import { useState } from "react";

/** How often branches of a part stand, by the id of their row. */
export type Times = Readonly<Record<string, number>>;

const MOST = 100;
const countTyped = (text: string): number | null => {
  const count = Number(text);
  return Number.isInteger(count) && count >= 1 && count <= MOST ? count : null;
};

/** A count of 1 or more; what is no count yet is kept as it is typed, and changes nothing. */
function CountField({ value, onCount }: { readonly value: number; readonly onCount: (count: number) => void }) {
  const [text, setText] = useState<string | null>(null);
  const shown = text ?? String(value);
  return (
    <input
      className="input input-sm w-20"
      inputMode="numeric"
      aria-invalid={countTyped(shown) === null}
      title={`a number from 1 to ${MOST}`}
      value={shown}
      onChange={(event) => {
        setText(event.target.value);
        const count = countTyped(event.target.value);
        if (count !== null) onCount(count);
      }}
      onBlur={() => setText(null)}
    />
  );
}

interface Props {
  readonly effect: BegunEffect;
  readonly times: readonly Times[];
  readonly onTimes: (part: number, activity: string, count: number) => void;
}

/** How often branches stand, as the templates ask. */
export const Repeats = ({ effect, times, onTimes }: Props) => (
  <>
    {effect.repeats.map(({ part, activity, name, ask }) => (
      <label key={`${part} ${activity}`} className="flex items-center gap-2 pt-2 text-sm">
        {ask}
        <CountField value={times[part]?.[activity] ?? 1} onCount={(count) => onTimes(part, activity, count)} />
        <span className="muted">“{name}” stands so many times</span>
      </label>
    ))}
  </>
);
