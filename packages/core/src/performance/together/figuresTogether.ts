import type { CommonMoney, Money } from "../../budget/exchange.ts";
import { minorUnits, type MinorUnits } from "../../budget/money.ts";
import { addSums, figuresOf, NO_SUMS, type Figures, type Sums } from "../figures.ts";

/** Figures of a project, with what they are in. */
export interface MeasuredIn extends Money {
  readonly figures: Sums;
}

/**
 * The figures of several projects, formed from their sums, each measure of each project converted by itself
 * (calculations.md section 8); `null` where none is measured, or a rate is missing.
 */
export function figuresTogether(measured: readonly MeasuredIn[], common: CommonMoney): Figures | null {
  if (measured.length === 0 || common.money === null) return null;
  const sums = measured.reduce<Sums>((all, { figures: { bac, pv, ev, ac, eacBottomUp }, ...own }) => {
    const inCommon = (minor: MinorUnits): MinorUnits => minorUnits(common.convert(minor, own));
    return addSums(all, {
      bac: inCommon(bac),
      pv: inCommon(pv),
      ev: inCommon(ev),
      ac: inCommon(ac),
      eacBottomUp: inCommon(eacBottomUp),
    });
  }, NO_SUMS);
  return figuresOf(sums);
}
