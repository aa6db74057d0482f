import { RemoveButton } from "../shared/fields/RemoveButton.tsx";
import type { Person } from "@chronometra/core";
import { AMOUNT_FAULT, amountText, readAmount } from "../shared/words/amounts.ts";
import { CommitField } from "../shared/fields/CommitField.tsx";
import { todayHere } from "../shared/words/today.ts";
import { dateWords, NOT_A_DATE, readDate } from "../shared/words/words.ts";

export type Rate = NonNullable<Person["rates"]>[number];

export const RATE_HINT = "64.50 from 1 Jan 2027";

/** A rate as it is typed, `64.50 from 1 Jan 2027`; the first of a person needs no day. `null` where it is none. */
export function readPersonRate(text: string, minorDigits: number, isFirst: boolean, year: string): Rate | null {
  const match = /^(\S+)(?:\s+from\s+(.+))?$/i.exec(text.trim());
  const minor = match === null ? null : readAmount(match[1]!, minorDigits);
  const from = match?.[2] === undefined ? (isFirst ? "2000-01-01" : null) : readDate(match[2], year);
  return minor === null || from === null ? null : { from, perHourMinor: minor };
}

/** What an hour of someone costs, from which day on. */
export function Rates({
  rates,
  onChange,
  minorDigits,
  currency,
  disabled,
}: {
  rates: readonly Rate[];
  onChange: (rates: Rate[]) => void;
  minorDigits: number;
  currency: string;
  disabled: boolean;
}) {
  const sorted = (next: Rate[]): null => {
    onChange(next.sort((a, b) => (a.from < b.from ? -1 : 1)));
    return null;
  };
  const from =
    (i: number) =>
    (text: string): string | null => {
      const date = readDate(text, rates[i]!.from.slice(0, 4));
      if (date === null) return NOT_A_DATE;
      if (rates.some((rate, n) => n !== i && rate.from === date)) return "There is a rate from that day already.";
      return sorted(rates.map((rate, n) => (n === i ? { ...rate, from: date } : rate)));
    };
  const amount =
    (i: number) =>
    (text: string): string | null => {
      const minor = readAmount(text, minorDigits);
      return minor === null
        ? AMOUNT_FAULT
        : sorted(rates.map((rate, n) => (n === i ? { ...rate, perHourMinor: minor } : rate)));
    };
  const add = (text: string): string | null => {
    const read = readPersonRate(text, minorDigits, rates.length === 0, todayHere().slice(0, 4));
    if (read === null) return `Write ${RATE_HINT}.`;
    if (rates.some((rate) => rate.from === read.from)) return "There is a rate from that day already.";
    return sorted([...rates, read]);
  };
  return (
    <table className="ledger panel-table" aria-label="Rates">
      <thead>
        <tr>
          <th>From</th>
          <th className="num">{currency} an hour</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {rates.map((rate, i) => (
          <tr key={rate.from}>
            <td>
              <CommitField
                label={`Rate ${i + 1} from`}
                date={rate.from}
                value={dateWords(rate.from)}
                width="w-28"
                disabled={disabled}
                onCommit={from(i)}
              />
            </td>
            <td className="num">
              <CommitField
                label={`Rate from ${dateWords(rate.from)}`}
                value={amountText(rate.perHourMinor, minorDigits)}
                width="w-24"
                numeric
                disabled={disabled}
                onCommit={amount(i)}
              />
            </td>
            <td>
              {!disabled && (
                <RemoveButton
                  what={`the rate from ${dateWords(rate.from)}`}
                  onRemove={() => onChange(rates.filter((_rate, n) => n !== i))}
                />
              )}
            </td>
          </tr>
        ))}
        {!disabled && (
          <tr>
            <td colSpan={3}>
              <CommitField label="Add a rate" value="" adds width="w-56" placeholder={RATE_HINT} onCommit={add} />
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}
