import type { Portfolio, ProjectLine, SummedIn } from "@chronometra/contract";
import {
  addSums,
  commonMoney,
  figuresOf,
  NO_SUMS,
  type CommonMoney,
  type Figures,
  type Sums,
  minorUnits,
  type MinorUnits,
} from "@chronometra/core";
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
  if (measured.length === 0 || common.money === null) return null;
  const sums = measured.reduce<Sums>((all, line) => {
    const { bac, pv, ev, ac, eacBottomUp } = line.summary.figures!;
    const own = moneyOf(line);
    const inCommon = (minor: MinorUnits): MinorUnits => minorUnits(common.convert(minor, own));
    return addSums(all, {
      bac: inCommon(bac),
      pv: inCommon(pv),
      ev: inCommon(ev),
      ac: inCommon(ac),
      eacBottomUp: inCommon(eacBottomUp),
    });
  }, NO_SUMS);
  return { figures: figuresOf(sums), summedIn: toSummedIn(common, rates.on) };
}
