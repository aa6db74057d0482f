import { useState } from "react";
import { DatePick } from "./DatePick.tsx";
import { dateWords, NOT_A_DATE, readDate } from "../words/words.ts";
import { todayHere } from "../words/today.ts";

interface Props {
  readonly label: string;
  /** `YYYY-MM-DD`, or empty. */
  readonly value: string;
  readonly onDate: (date: string) => void;
  readonly small?: boolean;
  /** The last day that may be given. */
  readonly max?: string;
}

const shown = (date: string): string => (date === "" ? "" : dateWords(date));

/** A date typed, or chosen from a calendar: typed as "24 Nov 2026" or 2026-11-24; arrow keys go a day on or back. */
export function DateField({ label, value, onDate, small = false, max }: Props) {
  const [text, setText] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const take = (): void => {
    if (text === null) return;
    const date = readDate(text, (value === "" ? todayHere() : value).slice(0, 4));
    if (date === null) return setFault(NOT_A_DATE);
    if (max !== undefined && date > max) return setFault(`It can be ${dateWords(max)} at the latest.`);
    setText(null);
    setFault(null);
    onDate(date);
  };
  const step = (days: number): void => {
    if (value === "") return;
    const next = new Date(`${value}T00:00:00Z`);
    next.setUTCDate(next.getUTCDate() + days);
    const date = next.toISOString().slice(0, 10);
    if (max === undefined || date <= max) onDate(date);
  };
  return (
    <span className="relative inline-flex flex-col">
      <span className="inline-flex items-center">
        <input
          aria-label={label}
          aria-invalid={fault !== null}
          className={`input ${small ? "input-sm w-28" : "w-full"}`}
          placeholder="a date"
          value={text ?? shown(value)}
          onChange={(event) => {
            setText(event.target.value);
            setFault(null);
          }}
          onBlur={take}
          onKeyDown={(event) => {
            if (event.key === "Enter") take();
            else if (event.key === "ArrowUp") step(1);
            else if (event.key === "ArrowDown") step(-1);
            else return;
            if (event.key !== "Enter") event.preventDefault();
          }}
        />
        <DatePick
          value={value}
          max={max}
          onDate={(date) => {
            setText(null);
            setFault(null);
            onDate(date);
          }}
        />
      </span>
      {fault !== null && (
        <span role="alert" className="adverse text-sm">
          {fault}
        </span>
      )}
    </span>
  );
}
