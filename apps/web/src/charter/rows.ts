import type { Benefit, CharterView, Deliverable } from "@chronometra/contract";
import { amountText, readAmount } from "../shared/words/amounts.ts";

/** A row of a charter with its key, in the order in which they were added. */
export const rowsOf = <T>(rows: Readonly<Record<string, T>>): { id: string; row: T }[] =>
  Object.entries(rows).map(([id, row]) => ({ id, row }));

export const NO_BENEFIT: Benefit = { what: "", measure: "", target: "", by: null, money: [], measured: [] };
export const NO_DELIVERABLE: Deliverable = { name: "", owner: "", makes: [], accepted: null };

const LINE = /^\s*(\d{4})(?:-(\d{1,2}))?\s*[:=\s]\s*(\S.*)$/;

/**
 * Money by month or year as it is typed, a line each: `2027: 12 000`, `2027-03: 1500.50`.
 * @returns what it says, or what is wrong with which line
 */
export function readMoneyLines(text: string, digits: number): Benefit["money"] | string {
  const money: Benefit["money"] = [];
  for (const line of text.split("\n").filter((each) => each.trim() !== "")) {
    const [, year, month, amount = ""] = LINE.exec(line) ?? [];
    const amountMinor = readAmount(amount, digits);
    const isMonth = month === undefined || (Number(month) >= 1 && Number(month) <= 12);
    if (year === undefined || amountMinor === null || !isMonth)
      return `“${line.trim()}”: write a year or a month and an amount, as 2027: 12 000 or 2027-03: 1 500.`;
    money.push({ period: month === undefined ? year : `${year}-${month.padStart(2, "0")}`, amountMinor });
  }
  return money;
}

/** The same, as it is typed. */
export const moneyLines = (money: Benefit["money"], digits: number): string =>
  money.map(({ period, amountMinor }) => `${period}: ${amountText(amountMinor, digits)}`).join("\n");

/** What a benefit comes to in money; `null` where it is none. */
export const sumOf = (money: Benefit["money"]): number | null =>
  money.length === 0 ? null : money.reduce((sum, { amountMinor }) => sum + amountMinor, 0);

/** The last day of a month or year. */
function lastDayOf(period: string): string {
  const [year, month = "12"] = period.split("-");
  return new Date(Date.UTC(Number(year), Number(month), 0)).toISOString().slice(0, 10);
}

/** What was measured of a benefit in money, against what was expected by then. */
export interface Came {
  /** The day on which money was measured last. */
  readonly on: string;
  /** All that came up to it, and what was expected of the months and years that are over by then; minor units. */
  readonly cameMinor: number;
  readonly expectedMinor: number;
}

/** What came of a benefit; `null` where no money was measured. */
export function cameOf({ money, measured }: Pick<Benefit, "money" | "measured">): Came | null {
  const amounts = measured.flatMap(({ on, amountMinor }) => (amountMinor === null ? [] : [{ on, amountMinor }]));
  const on = amounts
    .map((each) => each.on)
    .sort()
    .at(-1);
  if (on === undefined) return null;
  const sum = (all: readonly { readonly amountMinor: number }[]): number =>
    all.reduce((so, { amountMinor }) => so + amountMinor, 0);
  return {
    on,
    cameMinor: sum(amounts),
    expectedMinor: sum(money.filter(({ period }) => lastDayOf(period) <= on)),
  };
}

/** Names of the activities that make a deliverable; those that left the plan are told as such. */
export function makersOf({ activities }: CharterView, { makes }: Deliverable): string[] {
  const names = new Map(activities.map(({ id, name }) => [id, name]));
  return makes.map((id) => names.get(id) ?? `${id} (left the plan)`);
}
