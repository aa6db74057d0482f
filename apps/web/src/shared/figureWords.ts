import type { Figures } from "@chronometra/core";
import { money, numberWords, percentWords, ratioWords } from "./words.ts";

export type FigureId = Exclude<keyof Figures, "etc" | "eacCpiSpi" | "percentSpent">;

/** What an abbreviation stands for, and how it comes about. */
interface Meaning {
  readonly means: string;
  /** How it is computed, in the abbreviations of what it is computed from. */
  readonly by?: string;
  /** The same with this row's numbers. */
  readonly here?: (figures: Figures, amount: (minor: number) => string) => string;
  readonly ratio?: true;
}

const MEANINGS: Readonly<Record<FigureId, Meaning>> = {
  bac: { means: "Budget at completion: what was approved for all of it" },
  pv: { means: "Planned value: what was to be done by the data date, at its budget" },
  ev: { means: "Earned value: what has been done, at its budget" },
  ac: { means: "Actual cost: what has been spent by the data date" },
  percentComplete: { means: "Earned of the budget", by: "EV / BAC", here: ({ ev, bac }, amount) => `${amount(ev)} / ${amount(bac)}` },
  sv: { means: "Schedule variance", by: "EV − PV", here: ({ ev, pv }, amount) => `${amount(ev)} − ${amount(pv)}` },
  cv: { means: "Cost variance", by: "EV − AC", here: ({ ev, ac }, amount) => `${amount(ev)} − ${amount(ac)}` },
  spi: { means: "Schedule performance index: below 1 less was done than planned", by: "EV / PV", here: ({ ev, pv }, amount) => `${amount(ev)} / ${amount(pv)}`, ratio: true },
  cpi: { means: "Cost performance index: below 1 the work done cost more than its budget", by: "EV / AC", here: ({ ev, ac }, amount) => `${amount(ev)} / ${amount(ac)}`, ratio: true },
  eac: { means: "Estimate at completion: what it will cost at the rate so far", by: "BAC / CPI", here: ({ bac, cpi }, amount) => `${amount(bac)} / ${cpi === null ? "–" : numberWords(cpi, 4)}` },
  vac: { means: "Variance at completion", by: "BAC − EAC", here: ({ bac, eac }, amount) => `${amount(bac)} − ${eac === null ? "–" : amount(eac)}` },
  tcpiBac: { means: "To-complete performance index: what the rest must earn for its cost to keep the budget", by: "(BAC − EV) / (BAC − AC)", here: ({ bac, ev, ac }, amount) => `(${amount(bac)} − ${amount(ev)}) / (${amount(bac)} − ${amount(ac)})`, ratio: true },
  tcpiEac: { means: "To-complete performance index: what the rest must earn for its cost to keep the estimate", by: "(BAC − EV) / (EAC − AC)", here: ({ bac, ev, eac, ac }, amount) => `(${amount(bac)} − ${amount(ev)}) / (${eac === null ? "–" : amount(eac)} − ${amount(ac)})`, ratio: true },
  eacRemaining: { means: "Estimate at completion where what remains costs what was planned", by: "AC + BAC − EV", here: ({ ac, bac, ev }, amount) => `${amount(ac)} + ${amount(bac)} − ${amount(ev)}` },
  eacBottomUp: { means: "Estimate at completion from what remains", by: "AC and the remaining work at its rates" },
};

/** What a figure means and how it is computed, without numbers; for the head of a column. */
export function figureMeaning(id: FigureId): string {
  const { means, by } = MEANINGS[id];
  return by === undefined ? means : `${means}; ${by}`;
}

/** The same with a row's own numbers: "Cost variance; EV − AC: 1 200 − 1 500 = -300". */
export function figureExplained(id: FigureId, figures: Figures, minorDigits: number): string {
  const { here, ratio } = MEANINGS[id];
  const value = figures[id];
  if (here === undefined) return `${figureMeaning(id)}: ${money(value, minorDigits)}`;
  const comes = value === null ? "not defined" : id === "percentComplete" ? percentWords(value) : ratio === true ? ratioWords(value) : money(value, minorDigits);
  return `${figureMeaning(id)}: ${here(figures, (minor) => money(minor, minorDigits))} = ${comes}`;
}
