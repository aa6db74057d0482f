import type { Portfolio, ProjectLine, SummedIn } from "@chronometra/contract";
import { commonMoney, figuresTogether as together, type CommonMoney, type Figures } from "@chronometra/core";
import { toSummedIn } from "../shared/table/SummedNote.tsx";

/** By what amounts of several currencies come together, and on which day. */
export type Rates = Pick<Portfolio, "exchange" | "on">;

const moneyOf = ({ summary: { currency, minorDigits } }: ProjectLine) => ({ currency, minorDigits });

/** What amounts of projects come together in. */
export const commonOf = (lines: readonly ProjectLine[], { exchange, on }: Rates): CommonMoney =>
  commonMoney(lines.map(moneyOf), exchange, on);

/**
 * The figures of several projects, formed from their sums, each measure of each project converted by itself
 * (calculations.md, section on money); `null` where none is measured, or a rate is missing.
 * @param among whose currencies decide what the sums are in: the same for a whole table
 */
export function figuresTogether(
  lines: readonly ProjectLine[],
  rates: Rates,
  among: readonly ProjectLine[] = lines,
): { figures: Figures; summedIn: SummedIn } | null {
  const measured = lines.filter(({ summary }) => summary.figures !== null);
  const whole = commonOf(
    among.filter(({ summary }) => summary.figures !== null),
    rates,
  );
  // Where the table has no sum, a part of it that is of one currency has one all the same.
  const common = whole.money === null ? commonOf(measured, rates) : whole;
  const figures = together(
    measured.map((line) => ({ ...moneyOf(line), figures: line.summary.figures! })),
    common,
  );
  return figures === null ? null : { figures, summedIn: toSummedIn(common, rates.on) };
}
