import { RemoveButton } from "../../shared/fields/RemoveButton.tsx";
import type { Calendar } from "@chronometra/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "../../shared/messages/toast.ts";
import { call } from "../../shared/session/api.ts";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { countWords, dateWords, NOT_A_DATE, readDate } from "../../shared/words/words.ts";
import { withHolidays } from "./holidays.ts";
import { countriesQuery } from "../stored/queries.ts";
import { readShifts, shiftText } from "./shiftText.ts";

type Exception = NonNullable<Calendar["exceptions"]>[number];

interface Props {
  readonly exceptions: readonly Exception[];
  readonly onChange: (exceptions: Exception[]) => void;
  readonly year: number;
  /** What the rows are: exceptions, or someone's leave, which is always closed. */
  readonly leave?: boolean;
  readonly disabled?: boolean;
}

export const LEAVE_HINT = "4 May to 8 May 2026: leave";
export const EXCEPTION_HINT = "24 Dec 2026 to 3 Jan 2027: shutdown";
/** Reads one day or a range: `4 May`, `4 May to 8 May 2026`, with a label behind a colon. */
export function readException(text: string, year: string): Exception | { readonly fault: string } {
  const [span = "", label = ""] = text.split(/:(.*)/);
  const [first = "", last] = span.split(/\s+(?:to|until|–|-)\s+/);
  const to = readDate(last ?? first, year);
  // The year written with the last day holds for the first one too.
  const from = readDate(first, to === null ? year : to.slice(0, 4));
  if (from === null || to === null)
    return { fault: "Write a day or a range: 4 May 2026, or 4 May to 8 May 2026: what for." };
  if (to < from) return { fault: `${dateWords(to)} lies before ${dateWords(from)}.` };
  return { from, to, shifts: [], ...(label.trim() === "" ? {} : { label: label.trim() }) };
}

interface LineProps {
  readonly exception: Exception;
  readonly at: number;
  readonly leave: boolean;
  readonly disabled: boolean;
  /** Puts another in its place, or takes it out. */
  readonly onPut: (next: Exception | null) => void;
}

/** One exception, each part changed where it stands. */
function ExceptionLine({ exception, at, leave, disabled, onPut }: LineProps) {
  const put = (change: Partial<Exception>): null => {
    onPut({ ...exception, ...change });
    return null;
  };
  const date =
    (field: "from" | "to") =>
    (text: string): string | null => {
      const read = readDate(text, exception.from.slice(0, 4));
      return read === null ? NOT_A_DATE : put({ [field]: read });
    };
  const shifts = (text: string): string | null => {
    const read = readShifts(text);
    return "fault" in read ? read.fault : put({ shifts: read });
  };
  const label = (text: string): null => {
    const { label: _was, ...rest } = exception;
    onPut({ ...rest, ...(text.trim() === "" ? {} : { label: text.trim() }) });
    return null;
  };
  return (
    <tr>
      {(["from", "to"] as const).map((field) => (
        <td key={field}>
          <CommitField
            label={`${field === "from" ? "From" : "To"}, row ${at + 1}`}
            date={exception[field]}
            value={dateWords(exception[field])}
            width="w-28"
            disabled={disabled}
            onCommit={date(field)}
          />
        </td>
      ))}
      {!leave && (
        <td>
          <CommitField
            label={`Worked, row ${at + 1}`}
            value={shiftText(exception.shifts)}
            width="w-full min-w-24"
            disabled={disabled}
            onCommit={shifts}
          />
        </td>
      )}
      <td>
        <CommitField
          label={`What for, row ${at + 1}`}
          value={exception.label ?? ""}
          width="w-full min-w-24"
          disabled={disabled}
          onCommit={label}
        />
      </td>
      <td>
        {!disabled && <RemoveButton what={exception.label ?? dateWords(exception.from)} onRemove={() => onPut(null)} />}
      </td>
    </tr>
  );
}

/** Days that differ from the week: closed, or worked at other hours. */
export function Exceptions({ exceptions, onChange, year, leave = false, disabled = false }: Props) {
  const add = (text: string): string | null => {
    const read = readException(text, String(year));
    if ("fault" in read) return read.fault;
    onChange([...exceptions, read]);
    return null;
  };
  return (
    <table className="ledger panel-table w-full" aria-label={leave ? "Leave" : "Exceptions"}>
      <thead>
        <tr>
          <th>From</th>
          <th>To</th>
          {!leave && <th>Worked</th>}
          <th>What for</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {exceptions.map((exception, i) => (
          <ExceptionLine
            key={`${i} ${exception.from}`}
            exception={exception}
            at={i}
            leave={leave}
            disabled={disabled}
            onPut={(next) =>
              onChange(exceptions.flatMap((each, n) => (n !== i ? [each] : next === null ? [] : [next])))
            }
          />
        ))}
        {!disabled && (
          <tr>
            <td colSpan={5}>
              <CommitField
                label={leave ? "Add leave" : "Add an exception"}
                value=""
                adds
                width="w-96 max-w-full"
                placeholder={leave ? LEAVE_HINT : EXCEPTION_HINT}
                onCommit={add}
              />
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

/** Public holidays of a country or region, added as exceptions that can be amended. */
export function HolidayChooser({ exceptions, onChange, year }: Pick<Props, "exceptions" | "onChange" | "year">) {
  const { data: countries } = useQuery(countriesQuery);
  const [country, setCountry] = useState("");
  const [region, setRegion] = useState("");
  const [years, setYears] = useState({ from: year, to: year + 2 });
  const regions = countries?.find(({ code }) => code === country)?.regions ?? [];
  const fetchThem = async (): Promise<void> => {
    try {
      const place = region === "" ? country : `${country}-${region}`;
      const days = await call("GET /api/holidays/:place/:from/:to", {
        params: { place, from: String(years.from), to: String(years.to) },
      });
      const { exceptions: all, added, kept } = withHolidays(exceptions, days);
      onChange(all);
      const stays =
        kept.length === 0
          ? ""
          : ` Worked as you said it stays: ${kept.map(({ from, name }) => `${dateWords(from)} (${name})`).join(", ")}.`;
      toast(
        added === 0
          ? "All of them are closed already."
          : `${countWords(added, "holiday", "holidays")} added; look at them, and remove what does not hold for you.${stays}`,
      );
    } catch (error) {
      toast.error((error as Error).message);
    }
  };
  return (
    <div className="mt-1 flex flex-wrap items-center gap-2">
      <span className="muted">Public holidays of</span>
      <select
        className="select select-xs w-44"
        aria-label="Country"
        value={country}
        onChange={(event) => {
          setCountry(event.target.value);
          setRegion("");
        }}
      >
        <option value="">select a country</option>
        {countries?.map(({ code, name }) => (
          <option key={code} value={code}>
            {name}
          </option>
        ))}
      </select>
      {regions.length > 0 && (
        <select
          className="select select-xs w-44"
          aria-label="Region"
          value={region}
          onChange={(event) => setRegion(event.target.value)}
        >
          <option value="">the whole country</option>
          {regions.map(({ code, name }) => (
            <option key={code} value={code}>
              {name}
            </option>
          ))}
        </select>
      )}
      <input
        type="number"
        className="input input-sm h-6 w-20"
        aria-label="First year"
        value={years.from}
        min={1990}
        max={2099}
        onChange={(event) => setYears({ ...years, from: Number(event.target.value) })}
      />
      to
      <input
        type="number"
        className="input input-sm h-6 w-20"
        aria-label="Last year"
        value={years.to}
        min={1990}
        max={2099}
        onChange={(event) => setYears({ ...years, to: Number(event.target.value) })}
      />
      <button type="button" className="btn btn-xs" disabled={country === ""} onClick={() => void fetchThem()}>
        Add them
      </button>
    </div>
  );
}
